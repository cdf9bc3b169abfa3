/** What Saltmarsh Bindery sells, and the course that buyers of a class come into. */
import { newOffer, type OfferContent } from '#core/offers/offer'
import { newWaiting } from '#core/offers/waiting'
import { points, sections, words } from '#core/page/templates/words'
import { newEmail } from '#core/sequence/draft'
import { addDays, DAY, instantOf, localOf, type Instant } from '#core/time/zone'
import { bringFile } from '#usecases/arrive/files'
import { bringPicture } from '#usecases/arrive/pictures'
import { startCourse } from '#usecases/courses/publish'
import { createCourse, saveCourse } from '#usecases/courses/save'
import type { WorkspaceContext } from '#usecases/context'
import { saveField } from '#usecases/know/fields'
import { saveList } from '#usecases/know/listsAndTags'
import { saveCoupon } from '#usecases/offers/coupons'
import { createOffer, publishOffer, saveOffer } from '#usecases/offers/save'
import { saveSelling } from '#usecases/settings/selling'
import { JOURNAL_PICTURE, sheetKitPdf } from './kit'
import { email, ownButton } from '#core/sequence/templates/write'

/** The ends of their addresses. */
export const OFFERS = {
  sampler: 'paper-sampler', journals: 'long-stitch-journals', leather: 'leather-and-board', club: 'bench-club',
} as const

interface Given { zone: string, begin: Instant, end: Instant, lettersId: number, freeCourseId: number, longStitchId: number, tag(
  name: string, note: string,
): number }

export async function offers(context: WorkspaceContext, given: Given): Promise<void> {
  const { zone, begin, end, lettersId, freeCourseId, longStitchId, tag } = given
  saveSelling(context, {
    seller: 'Ines Salgado, Saltmarsh Bindery\nRua das Salinas 14, 2890-000 Alcochete', taxLine: 'Including 23 % IVA', clickDays: 7,
    paymentsUrl: null, paymentsSecret: '',
  }, () => null)
  const classListId = saveList(context, null, {
    name: 'classes', publicName: 'Your classes', description: 'The lessons of a class you have bought, its receipt, and nothing else.',
  })
  const [samplerTagId, journalsTagId, clubTagId, waitsTagId] = [
    tag('has: paper sampler', 'Bought the Paper Sampler.'), tag('has: journals class', 'Bought Long-Stitch Journals.'),
    tag('bench club', 'Member of the Bench Club.'), tag('waits: leather', 'Wants to hear when Leather and Board opens.'),
  ]
  const clubFieldId = saveField(context, null, { name: 'club until', label: 'Member of the Bench Club until', kind: 'date', choices: [] })
  const lessonsId = await lessons(context, classListId)
  /** An evening of the bindery's, so many days from an instant. */
  const evening = (from: Instant, days: number) => instantOf(addDays(localOf(from, zone).date, days), '20:00', zone)
  const picture = await bringPicture(context, 'journals.svg', await context.pictures.draw(JOURNAL_PICTURE))
  const file = bringFile(context, 'Paper sampler.pdf', 'application/pdf', sheetKitPdf())
  const base = newOffer()
  const gives = (more: Partial<OfferContent['gives']>): OfferContent['gives'] => ({ ...base.gives, listIds: [classListId], ...more })
  const receipt = email('Receipt', 'It is yours, {name|and thank you}', 'Your receipt, and the door to your own page.',
    'Hello {name|there},', 'thank you for putting your hands on it. Everything you have bought at this bench stands on a page of your own; keep this letter, its button opens it.', ownButton('Open my page'), 'Ines')

  const samplerId = await publish(context, 'Paper Sampler', OFFERS.sampler, {
    ...base, receipt,
    theme: { type: 'clear', colour: 'meadow', width: 'narrow', picture: 'inside' },
    sections: sections(
      ['headline', { text: 'Sixteen papers, and what each is for', under: 'A booklet to print and keep by the bench.' }],
      ['points', { title: 'In it', list: points(
        'The **grain** of each, drawn where you will feel it', 'Which glue it forgives', 'What it becomes after ten years in a pocket',
      ) }],
      ['form', { title: '' }],
    ),
    price: { currency: 'EUR', amount: 2900, paying: 'once', parts: 1 },
    form: { ...base.form, buttonLabel: 'To the till' },
    gives: gives({ tagIds: [samplerTagId], fileId: file.id }),
    thanks: {
      headline: 'The papers are yours', text: words('Your receipt has left. Its button opens your page, and there the sampler waits.'),
      onward: [],
    },
    meta: { title: '', description: 'Sixteen papers for people who bind, with grain, glue and age.', pictureId: null },
  })
  const journalsId = await publish(context, 'Long-Stitch Journals', OFFERS.journals, {
    ...base, receipt,
    theme: { type: 'mixed', colour: 'harbour', width: 'usual', picture: 'right' },
    sections: sections(
      ['headline', {
        text: 'Three journals, one needle, six evenings',
        under: 'A class by email and by hand: you sew along, and every stitch is looked at by somebody who has made it badly before.',
      }],
      [
        'picture',
        { pictureId: picture.id, alt: 'Three soft leather journals with long red stitches on their spines', decorates: false, caption: '' },
      ],
      ['points', { title: 'You will have', list: points(
        'A **pocket book**, an **album** and a **daily journal**, all sewn without a press',
        'Six lessons, each a morning apart or as slow as you are', 'Two afternoons on which I look at your spine',
      ) }],
      ['form', { title: 'Twenty-four chairs' }],
      ['quote', { text: 'Mine leans to the left, like its owner. It goes everywhere with me.', who: 'Bram, autumn class' }],
    ),
    price: { currency: 'EUR', amount: 18_000, paying: 'parts', parts: 3 },
    form: { firstName: 'must', buttonLabel: 'Take a chair', consentWording: 'You get your receipts and the six lessons by email.' },
    gives: gives({ tagIds: [journalsTagId, longStitchId], courseId: lessonsId, endsCourseIds: [freeCourseId] }),
    closesAt: evening(end, 9), opensAgainAt: evening(end, 100), places: 24,
    waiting: {
      ...newWaiting(), words: 'Leave your address: as soon as a chair is free, the next on this list hears of it.', listIds: [lettersId],
      tagIds: [longStitchId],
    },
    thanks: {
      headline: 'There is a chair with your name',
      text: words('The first lesson comes tomorrow morning. Until then, find a scrap of soft leather.'), onward: [],
    },
    meta: {
      title: '', description: 'A class in long-stitch binding: three journals in six evenings, for twenty-four people.', pictureId: null,
    },
  })
  await publish(context, 'Leather and Board', OFFERS.leather, {
    ...base, receipt,
    theme: { type: 'bookish', colour: 'sand', width: 'narrow', picture: 'inside' },
    sections: sections(
      [
        'headline',
        { text: 'Leather and Board', under: 'A winter class for people who have sewn a book or two and want it to outlive them.' },
      ],
      [
        'text',
        { text: words('Paring, lacing in, raised bands that are really there. It opens once a year, for the length of a weekend.') },
      ],
      ['form', { title: '' }],
    ),
    price: { currency: 'EUR', amount: 24_000, paying: 'once', parts: 1 },
    gives: gives({}), opensAt: evening(end, 4), closesAt: evening(end, 7), places: 12,
    waiting: {
      ...newWaiting(), words: 'Twelve stools. Leave your address and hear of it in the order in which you came.', listIds: [lettersId],
      tagIds: [waitsTagId], turnHours: 24,
      confirm: email('Leather: was it you?', 'Shall I keep your place in the line?', 'One click, and you hear about the winter class.',
        'Hello,', 'someone added this address to the waiting list for Leather and Board. If that was you, click below, and I will write to you on the evening it opens.', ownButton('Yes, write to me'), 'Ines'),
      opening: email(
        'Leather: it is open', 'Leather and Board is open, and it is your turn',
        'Twelve stools, and one of them may be yours until tomorrow.',
        'Hello {name|there},', 'you waited for the winter class. The door is open: for a day I tell nobody after you before you have had a look.', ownButton('Have a look'), 'Ines'),
    },
    meta: { title: '', description: 'Leather over boards, in winter, for twelve people.', pictureId: null },
  })
  await publish(context, 'Bench Club', OFFERS.club, {
    ...base, receipt,
    theme: { type: 'clear', colour: 'brickwork', width: 'narrow', picture: 'inside' },
    sections: sections(
      ['headline', { text: 'Pull up a stool', under: 'A year at the bench: one project a month, and somebody to ask.' }],
      ['form', { title: '' }],
    ),
    price: { currency: 'EUR', amount: 9000, paying: 'yearly', parts: 1 },
    gives: gives({ tagIds: [clubTagId], renewalFieldId: clubFieldId }),
    thanks: { headline: 'The stool is yours', text: words('For a year, and then for as long as you like.'), onward: [] },
    meta: { title: '', description: 'A yearly club for people who bind books.', pictureId: null },
  })
  saveCoupon(context, samplerId, null, {
    code: 'WELCOME', cut: { kind: 'percent', hundredths: 2000 }, fromAt: null, untilAt: null, uses: null, lasts: 'every',
  })
  saveCoupon(context, journalsId, null, {
    code: 'EARLY', cut: { kind: 'percent', hundredths: 3000 }, fromAt: null, untilAt: begin + 45 * DAY, uses: 8, lasts: 'every',
  })
  saveCoupon(context, journalsId, null, {
    code: 'GUILD', cut: { kind: 'amount', amount: 2000 }, fromAt: null, untilAt: evening(end, 9), uses: null, lasts: 'every',
  })
}

async function lessons(context: WorkspaceContext, listId: number): Promise<number> {
  const lesson = (id: string, day: number, title: string, subject: string, ...blocks: string[]) => ({
    ...newEmail(id, { kind: 'calendar-day', day, time: '07:30', from: 'joining' } as const),
    content: email(title, subject, 'A needle and ten minutes of daylight.', ...blocks),
  })
  const courseId = createCourse(context, 'Long-stitch, lesson by lesson', 'cover')
  saveCourse(context, courseId, 'Long-stitch, lesson by lesson', {
    listId, wayInTagIds: [], again: 'once',
    steps: [
      lesson(
        'cover', 1, 'The soft cover', 'Cut it larger than you dare', 'Good morning {name|to you},',
        'leather shrinks around thread. Give it four millimetres on every side, and more at the flap.',
      ),
      lesson(
        'holes', 4, 'Holes that stay round', 'Twenty holes before breakfast',
        'A hole that is punched stays; a hole that is pushed closes. Work from the inside, on cork.',
      ),
      lesson(
        'stitch', 8, 'The long stitch', 'Up, over, and along the spine',
        'Now the part that everybody will see. Leave the first row loose, and let the second one tighten it.',
      ),
      lesson(
        'flap', 12, 'A flap and its tie', 'How to close what you have opened',
        'One strip, two slits, and a knot that sailors use for what they want to open again.',
      ),
    ],
  })
  await startCourse(context, courseId)
  return courseId
}

async function publish(context: WorkspaceContext, name: string, slug: string, draft: OfferContent): Promise<number> {
  const id = createOffer(context, name)
  saveOffer(context, id, { name, slug, draft })
  await publishOffer(context, id)
  return id
}
