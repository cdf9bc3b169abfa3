/** Saltmarsh Bindery: sender, lists, tags, two pages and a running course. */
import type { PageContent } from '#core/page/content'
import { newPage } from '#core/page/content'
import { nameSource } from '#usecases/arrive/sources'
import { createPage, publishPage, savePage } from '#usecases/arrive/pages'
import { startCourse } from '#usecases/courses/publish'
import { createCourse, saveCourse } from '#usecases/courses/save'
import type { TagInput } from '#core/people/tag'
import { NOTHING_FOLLOWS } from '#core/rules/rule'
import type { House } from '#usecases/house'
import { saveList, saveTag } from '#usecases/know/listsAndTags'
import { saveSettings } from '#usecases/settings/workspace'
import { foldSewCover } from './course'
import { bullets, paragraph } from './write'
import { fields, segments } from './fair'

export const BINDERY = { name: 'Saltmarsh Bindery', zone: 'Europe/Lisbon' }

/** Addresses of the two pages. */
export const PAGES = { kit: 'sheet-kit', course: 'fold-sew-cover' } as const

export interface Marks {
  lettersId: number
  copticId: number
  longStitchId: number
  marblingId: number
  fieldIds: ReturnType<typeof fields>
}

export async function furnish(house: House): Promise<Marks> {
  saveSettings(house, {
    ...BINDERY, senderName: 'Ines of Saltmarsh Bindery', senderAddress: 'ines@saltmarsh.example.com',
    postalAddress: 'Saltmarsh Bindery\nRua das Salinas 14\n2890-000 Alcochete, Portugal', smtpUrl: null,
  }, () => null)
  const lettersId = saveList(house, null, { name: 'bench letters', publicName: 'Letters from the bench', description: 'A letter when something is worth telling: a technique, a mended book, a new class. Twice a month at most.' })
  const listId = saveList(house, null, { name: 'free course', publicName: 'Fold, Sew, Cover', description: 'The free course by email: five letters, from a folded sheet to a finished book.' })
  const tag = (name: string, note: string, group: string, more: Partial<TagInput> = {}) => saveTag(house, null, { name, note, group, colour: null, expiry: { kind: 'never' }, follows: NOTHING_FOLLOWS, ...more })
  const kitTagId = tag('took: sheet kit', 'Asked for the printable sheet kit.', 'came for')
  const courseTagId = tag('wants: free course', 'Came for the course itself.', 'came for')
  const undecidedId = tag('undecided', 'Had three days and pressed nothing. Worth asking once more, then no longer.', 'interest', { expiry: { kind: 'after', days: 30 } })
  // Who likes something is undecided no more.
  const likes = { ...NOTHING_FOLLOWS, takes: [undecidedId] }
  const marks = {
    listId, kitTagId, courseTagId, undecidedId,
    copticId: tag('likes: coptic', 'Pressed it in “Which book first?”.', 'interest', { colour: '#20506b', follows: likes }),
    longStitchId: tag('likes: long-stitch', 'Pressed it in “Which book first?”.', 'interest', { colour: '#8a6a12', follows: likes }),
    marblingId: tag('likes: marbling', 'Pressed it in “Which book first?”.', 'interest', { colour: '#7a4a86', follows: likes }),
  }
  const whenId = tag('joined [month]', 'Says when they came, by itself.', 'when')
  const fieldIds = fields(house)
  const courseId = createCourse(house, 'Fold, Sew, Cover', 'kit')
  saveCourse(house, courseId, 'Fold, Sew, Cover', foldSewCover(marks))
  await startCourse(house, courseId, 'none')
  await publish(house, 'Sheet kit', PAGES.kit, {
    ...newPage(),
    headline: 'Twelve sheets that want to be a book',
    text: { type: 'doc', content: [
      paragraph('Print them, fold them, and by the weekend you hold a small book that you have made from the first fold to the last stitch. The **sheet kit** is free and comes at once.'),
      bullets('Twelve sheets to print at home, with folding marks that vanish inside', 'A list of six tools, four of which you own', 'Five short letters that show each step, spread over a week'),
    ] },
    buttonLabel: 'Send me the sheet kit',
    consentWording: 'You get the kit, the five letters of the free course and our letters from the bench. One press ends them, at any time.',
    listIds: [listId, lettersId],
    tagIds: [kitTagId, whenId],
    thanksHeadline: 'It is on its way',
    thanksText: { type: 'doc', content: [paragraph('Look for a letter from Ines of Saltmarsh Bindery. If it is not there in five minutes, look where your mail program puts what it does not trust, and tell it that bookbinders are harmless.')] },
  })
  await publish(house, 'Course page', PAGES.course, {
    ...newPage(),
    headline: 'Fold, Sew, Cover',
    text: { type: 'doc', content: [
      paragraph('A free course by email for people who have never bound anything. Five letters in a week; each asks for half an hour, a table and good light.'),
      paragraph('It begins the moment you press the button and ends with a book in your hand.'),
    ] },
    firstNameRequired: true,
    buttonLabel: 'Begin today',
    consentWording: 'You get the five letters of this course and nothing else. You can leave in every one of them.',
    listIds: [listId],
    tagIds: [courseTagId, whenId],
    thanksHeadline: 'Your first letter has left',
    thanksText: { type: 'doc', content: [paragraph('It holds the sheets to print. Clear a table for tomorrow.')] },
  })
  for (const name of ['workshop flyer', 'paper podcast']) nameSource(house, name)
  const made = { ...marks, lettersId, fieldIds }
  segments(house, { ...made, courseId })
  return made
}

async function publish(house: House, name: string, slug: string, draft: PageContent): Promise<void> {
  const id = createPage(house, name)
  savePage(house, id, { name, slug, draft })
  await publishPage(house, id)
}
