/** The broadcasts of Saltmarsh Bindery: ten that were sent, one that is to come, and one that is being written. */
import { ofParts } from '#core/audience/parts'
import type { Condition } from '#core/audience/condition'
import { newPlannedAgain } from '#core/broadcast/again'
import { newBroadcast, type BroadcastDraft } from '#core/broadcast/draft'
import { button, email } from '#core/sequence/templates/write'
import type { MessageContent } from '#core/message/content'
import { addDays, DAY, HOUR, localOf, type Instant } from '#core/time/zone'
import { createBroadcast, saveBroadcast } from '#usecases/broadcasts/save'
import { scheduleBroadcast } from '#usecases/broadcasts/schedule'
import type { WorkspaceContext } from '#usecases/context'
import { ruleParts } from '#usecases/views/rules'
import { line } from '#core/page/templates/words'
import type { Marks } from './marks'
import { OFFERS } from './offers'

interface Written {
  /** Days after the beginning, and the hour of the bindery’s clock. */
  day: number
  time: string
  content: MessageContent
  /** Who gets it, of those on the letters; all of them where nothing is said. */
  likes?: (keyof Pick<Marks, 'copticId' | 'longStitchId' | 'marblingId'>)[]
  topic: string
  newcomerDays?: number
  spreadHours?: number
  /** The subject of a second sending after three days, to those who have not opened it. */
  again?: string
}

const SITE = 'https://saltmarsh.example.com'
const TROUGH = 'If you have never seen a trough: it is a tray of thick water, and it forgives nothing.'

function past(baseUrl: string): Written[] {
  const shop = (slug: string) => `${baseUrl}/s/${slug}`
  return [
    { day: 7, time: '10:00', topic: 'bench notes', content: email(
      'A damp week', 'What a damp week does to paper', 'And what to do about it',
      'Hello {name|reader},', 'it has rained for six days and every sheet on my bench has grown by a millimetre. I weighed them down and waited.',
      'I wrote down what I measured, with pictures.', button('Read what I measured', `${SITE}/notes/damp-week`),
    ) },
    { day: 12, time: '08:00', topic: 'papers', newcomerDays: 3, content: email(
      'Paper Sampler is here', 'Twelve papers, one parcel', 'For whoever likes to touch before they choose',
      'Hello {name|reader},', 'I have cut twelve papers into parcels: four for text, four for endpapers, four for covers. Each says who made it.',
      button('See the twelve papers', shop(OFFERS.sampler)), 'There are not many parcels, and I cut on Saturdays.',
    ) },
    { day: 18, time: '18:30', topic: 'bench notes', likes: ['copticId'], content: email(
      'Flat on the table', 'Why your coptic book does not lie flat', 'Three knots, one of them wrong',
      'Hello {name|reader},', 'a reader sent me a book that closes by itself. It is the second knot, it almost always is.',
      button('Look at the three knots', `${SITE}/notes/three-knots`),
    ) },
    { day: 23, time: '10:00', topic: 'questions', content: email(
      'What do you want to mend?', 'One question, and I read every answer', 'It takes a minute',
      'Hello {name|reader},', 'I am choosing what to teach in spring. What lies on your table and waits to be mended?',
      button('Tell me what waits', `${SITE}/question`),
    ) },
    { day: 29, time: '08:00', topic: 'journals', newcomerDays: 7, again: 'Six evenings, and a journal', content: email(
      'Journals open', 'Long-Stitch Journals, the class', 'Sew along for six evenings',
      'Hello {name|reader},', 'the class opens today. Six evenings, a leather cover, and a journal that takes a beating.',
      button('See the class', shop(OFFERS.journals)), 'If it is nothing for you, the last line of this letter lets you say so.',
    ) },
    { day: 34, time: '09:00', topic: 'journals', newcomerDays: 7, likes: ['longStitchId'], content: email(
      'Journals, what you get', 'What is in the box', 'Thread, leather, and an awl you will keep',
      'Hello {name|reader},', 'somebody asked what comes in the post. I opened one box and laid it out on the floor.',
      button('See what is in the box', shop(OFFERS.journals)),
    ) },
    { day: 40, time: '19:00', topic: 'bench notes', content: email(
      'A week at the trough', 'Seven days of marbling, and one good sheet', 'The other sixty are also in it',
      'Hello {name|reader},', 'I spent the week at the marbling trough. One sheet came out as I meant it. I kept the others: they are better.',
      button('Look at the sheets', `${SITE}/notes/trough`), TROUGH,
    ), spreadHours: 3 },
    { day: 46, time: '10:00', topic: 'club', newcomerDays: 7, content: email(
      'Bench Club', 'A bench that stays open', 'For those who would rather not sew alone',
      'Hello {name|reader},', 'the Bench Club meets on the first Sunday. You bring what you are working on; I bring cake and an opinion.',
      button('See the Bench Club', shop(OFFERS.club)),
    ) },
    { day: 51, time: '08:00', topic: 'papers', newcomerDays: 3, again: 'Before the paper is gone',
      likes: ['marblingId', 'copticId'], content: email(
      'Papers, four days', 'The last parcels of the year', 'Four days, then I close the cutter',
      'Hello {name|reader},', 'I have twenty-one parcels left and no room on the shelf. Four days, then the cutter is covered until spring.',
      button('Take a parcel', shop(OFFERS.sampler)),
    ) },
    { day: 56, time: '18:00', topic: 'bench notes', content: email(
      'Winter light', 'How I light the bench in winter', 'Two lamps and a sheet of baking paper',
      'Hello {name|reader},', 'it is dark at five. I moved the bench, bought a second lamp, and stopped cutting after tea.',
      button('See the bench at night', `${SITE}/notes/winter-light`),
    ) },
  ]
}

/** What is to happen in the sixty days, each at its time: a broadcast is written the evening before, and scheduled. */
export function broadcastsBetween(context: WorkspaceContext, marks: Marks, begin: Instant): { at: Instant, happen: () => Promise<void> }[] {
  return past(context.baseUrl).map(written => ({
    at: begin + (written.day - 1) * DAY + 9 * HOUR,
    happen: async () => {
      const date = addDays(localOf(context.clock.now(), 'Europe/Lisbon').date, 1)
      const id = write(context, marks, written, { kind: 'at', date, time: written.time, zone: 'workspace' })
      await scheduleBroadcast(context, id)
    },
  }))
}

/** What lies before it: one scheduled by each reader’s own clock, and one that is being written. */
export async function broadcastsAhead(context: WorkspaceContext, marks: Marks): Promise<void> {
  const date = addDays(localOf(context.clock.now(), 'Europe/Lisbon').date, 3)
  const next = write(context, marks, {
    day: 0, time: '08:00', topic: 'papers', newcomerDays: 7, again: 'Before the paper is gone',
    likes: ['marblingId', 'copticId', 'longStitchId'], content: email(
      'Winter papers', 'Six new papers, one parcel', 'And the one I would not part with',
      'Hello {name|reader},', 'six papers have come in from Fabriano, and one of them is the colour of wet slate. I have put them into a small parcel.',
      button('See the winter papers', `${context.baseUrl}/s/${OFFERS.sampler}`),
    ),
  }, { kind: 'at', date, time: '08:00', zone: 'reader' })
  await scheduleBroadcast(context, next)
  write(context, marks, {
    day: 0, time: '10:00', topic: 'bench notes', content: email(
      'Glue', 'Wheat or methyl cellulose', 'I changed my mind about glue', 'Hello {name|reader},',
      'for eleven years I cooked wheat paste. Last month I stopped.',
    ),
  }, { kind: 'now' })
}

function write(
  context: WorkspaceContext, marks: Marks, { content, likes, topic, newcomerDays, spreadHours, again }: Written,
  when: BroadcastDraft['when']
): number {
  const parts = ruleParts(context)
  const courseId = parts.courses.find(({ name }) => name === 'Fold, Sew, Cover')!.id
  const tags = (likes ?? []).map((mark): Condition => ({ kind: 'tag', tagId: marks[mark], since: null }))
  const id = createBroadcast(context)
  saveBroadcast(context, id, {
    ...newBroadcast(marks.lettersId), content, when,
    who: ofParts({
      belongs: { kind: 'all', of: [
        { kind: 'list', listId: marks.lettersId, is: 'joined' }, ...tags.length > 0 ? [{ kind: 'any' as const, of: tags }] : [],
      ] },
      never: { kind: 'none', of: [] },
    }),
    guards: { newcomerDays: newcomerDays ?? null, insideCourseIds: newcomerDays ? [courseId] : [], owners: true },
    story: { offerId: null, topic }, spreadHours: spreadHours ?? 0,
    again: again === undefined ? null : { ...newPlannedAgain(line(again)), afterDays: 3 },
  })
  return id
}
