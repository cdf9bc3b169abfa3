/** Saltmarsh Bindery: sender, lists, tags, three pages and a running course. */
import { addMonths, localOf, monthOf, type Instant } from '#core/time/zone'
import { saveSourceCosts } from '#usecases/arrive/costs'
import { nameSource } from '#usecases/arrive/sources'
import { startCourse } from '#usecases/courses/publish'
import { bringCourse, courseTemplate } from '#usecases/courses/exchange'
import { savePart } from '#usecases/know/emailParts'
import { createCourse, saveCourse } from '#usecases/courses/save'
import type { TagInput } from '#core/people/tag'
import { NOTHING_FOLLOWS } from '#core/rules/shortForms'
import type { WorkspaceContext } from '#usecases/context'
import { saveList, saveTag } from '#usecases/know/listsAndTags'
import { makeMailKey, tellPracticeDns } from '#usecases/settings/mailDomains'
import { saveSender } from '#usecases/settings/senders'
import { saveSettings } from '#usecases/settings/workspace'
import { foldSewCover } from './course'
import { OFFERS, offers } from './offers'
import { pages } from './pages'
import { courseView } from '#usecases/views/course'
import { fields, segments } from './fair'
import type { Marks } from './marks'
import { rules } from './rules'

/** The finished course with a question: who joins the letters is asked it, and gets what fits the answer. */
async function whichBook(context: WorkspaceContext, lettersId: number): Promise<void> {
  const { id, name } = bringCourse(context, courseTemplate('which-book'))
  saveCourse(context, id, name, { ...courseView(context, id).draft, wayInListIds: [lettersId] })
  await startCourse(context, id)
}

export const BINDERY = { name: 'Saltmarsh Bindery', zone: 'Europe/Lisbon' }

/** Printing for a flyer, twice, and a host's fee. */
export function spendings(context: WorkspaceContext, begin: Instant): void {
  const first = monthOf(localOf(begin, BINDERY.zone).date)
  saveSourceCosts(context, {
    source: { kind: 'named', word: 'workshop-flyer' },
    months: [{ month: first, typed: '64' }, { month: addMonths(first, 1), typed: '38.50' }],
  })
  saveSourceCosts(context, { source: { kind: 'named', word: 'paper-podcast' }, months: [{ month: addMonths(first, 1), typed: '180' }] })
}

/** From `begin` to `end` the bindery is played; some of its offers close and open after that. */
export async function furnish(context: WorkspaceContext, begin: Instant, end: Instant): Promise<Marks> {
  saveSettings(context, {
    ...BINDERY, senderName: 'Ines of Saltmarsh Bindery', senderAddress: 'ines@saltmarsh.example.com',
    postalAddress: 'Saltmarsh Bindery\nRua das Salinas 14\n2890-000 Alcochete, Portugal', currency: 'EUR', smtpUrl: null,
  })
  saveSender(context, null, {
    name: 'Saltmarsh Bindery, orders', address: 'orders@saltmarsh.example.com', replyTo: 'ines@saltmarsh.example.com', serviceUrl: null,
    listIds: [], tagIds: [],
  })
  await makeMailKey(context, 'saltmarsh.example.com')
  await tellPracticeDns(context, 'saltmarsh.example.com', { dkim: true, dmarc: 'quarantine', spf: true })
  const lettersId = saveList(context, null, {
    name: 'bench letters', publicName: 'Letters from the bench',
    description: 'A letter when something is worth telling: a technique, a mended book, a new class. Twice a month at most.', offered: true,
  })
  const listId = saveList(context, null, {
    name: 'free course', publicName: 'Fold, Sew, Cover',
    description: 'The free course by email: five letters, from a folded sheet to a finished book.',
  })
  const tag = (name: string, note: string, group: string, more: Partial<TagInput> = {}) =>
    saveTag(context, null, { name, note, group, colour: null, expiry: { kind: 'never' }, follows: NOTHING_FOLLOWS, ...more })
  const kitTagId = tag('took: sheet kit', 'Asked for the printable sheet kit.', 'came for')
  const courseTagId = tag('wants: free course', 'Came for the course itself.', 'came for')
  const undecidedId = tag(
    'undecided', 'Had three days and clicked nothing. Worth asking once more, then no longer.', 'interest',
    { expiry: { kind: 'after', days: 30 } },
  )
  // Who likes something is undecided no more.
  const likes = { ...NOTHING_FOLLOWS, takes: [undecidedId] }
  const marks = {
    listId, kitTagId, courseTagId, undecidedId,
    copticId: tag('likes: coptic', 'Clicked it in “Which book first?”.', 'interest', {
      colour: '#20506b', publicName: 'Coptic bindings', follows: likes,
    }),
    longStitchId: tag('likes: long-stitch', 'Clicked it in “Which book first?”.', 'interest', {
      colour: '#8a6a12', publicName: 'Long-stitch and soft covers', follows: likes,
    }),
    marblingId: tag('likes: marbling', 'Clicked it in “Which book first?”.', 'interest', {
      colour: '#7a4a86', publicName: 'Marbled papers', follows: likes,
    }),
  }
  const whenId = tag('joined [month]', 'Shows when they came. Added automatically.', 'when')
  const fieldIds = fields(context)
  const courseId = createCourse(context, 'Fold, Sew, Cover', 'kit')
  const signatureId = savePart(context, null, { name: 'Signature', body: { type: 'doc', content: [{ type: 'paragraph', content: [
    { type: 'text', text: 'Until Thursday,' }, { type: 'hardBreak' },
    { type: 'placeholder', attrs: { field: 'sender_name', fallback: '' } },
  ] }] } })
  saveCourse(context, courseId, 'Fold, Sew, Cover', foldSewCover(marks, `${context.baseUrl}/s/${OFFERS.journals}`, signatureId))
  await startCourse(context, courseId)
  await whichBook(context, lettersId)
  await offers(context, {
    zone: BINDERY.zone, begin, end, lettersId, freeCourseId: courseId, longStitchId: marks.longStitchId,
    tag: (name, note) => tag(name, note, 'bought'),
  })
  await pages(context, { ...marks, lettersId, whenId, booksFieldId: fieldIds.books })
  for (const name of ['workshop flyer', 'paper podcast']) nameSource(context, name)
  const made = { ...marks, lettersId, fieldIds }
  segments(context, { ...made, courseId })
  await rules(context, {
    lettersId, freeCourseId: courseId, birthdayFieldId: fieldIds.birthday, tag: (name, note, group) => tag(name, note, group),
  })
  return made
}
