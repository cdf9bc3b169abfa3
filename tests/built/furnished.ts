/** A list, a tag, a published page and a running course of three emails, made over HTTP. */
import { newPage } from '#core/page/content'
import type { DraftEmail } from '#core/sequence/draft'
import { emailsOf, newEmail } from '#core/sequence/draft'
import type { PageView } from '#core/views/pages'
import type { CourseView } from '#core/views/course'
import { cpSync, mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { Porch } from './porch'

export interface Furnished { listId: number, tagId: number, pageId: number, courseId: number }

export const SETTINGS = {
  name: 'Saltmarsh Bindery', zone: 'Europe/Lisbon', senderName: 'Ines', senderAddress: 'ines@saltmarsh.example.com',
  postalAddress: 'Rua do Cais 3\nLisboa', currency: 'EUR', smtpUrl: null,
}

/** Tells test processes which folder to copy. */
const FURNISHED = 'PORCH_TEST_FURNISHED'
interface Prepared { folder: string, made: Furnished }

/** Runs once before the tests: makes the data folder that each file starts on a copy of. Returns the clean-up. */
export default async function prepare(): Promise<() => void> {
  const porch = await (await Porch.start()).ready()
  await porch.signIn()
  const made = await furnish(porch)
  await porch.stop({ keepData: true })
  const { data: folder } = porch
  process.env[FURNISHED] = JSON.stringify({ folder, made } satisfies Prepared)
  return () => rmSync(folder, { recursive: true, force: true })
}

/** A copy of that folder. */
export function copyFurnished(): { data: string, made: Furnished } {
  const { folder, made } = JSON.parse(process.env[FURNISHED]!) as Prepared
  const data = mkdtempSync(join(tmpdir(), 'porch-built-'))
  cpSync(folder, data, { recursive: true })
  return { data, made }
}

/** An application on a copy of that folder, with its owner signed in. */
export async function startFurnished(env: Record<string, string> = {}): Promise<{ porch: Porch, made: Furnished }> {
  const { data, made } = copyFurnished()
  const porch = await (await Porch.start(env, data)).ready()
  await porch.signIn()
  return { porch, made }
}

export async function furnish(porch: Porch): Promise<Furnished> {
  await porch.do('PUT', 'settings', SETTINGS)
  const { id: listId } = await porch.do<{ id: number }>('POST', 'lists', {
    name: 'letters', publicName: 'Letters from the bench', description: 'A letter now and then.',
  })
  const { id: tagId } = await porch.do<{ id: number }>('POST', 'tags', { name: 'sheet kit', note: '' })
  const { id: pageId } = await porch.do<{ id: number }>('POST', 'pages', { name: 'Sheet kit' })
  const { id: courseId } = await porch.do<{ id: number }>('POST', 'courses', { name: 'Fold, Sew, Cover' })
  await fill(porch, { listId, tagId, pageId, courseId })
  await open(porch, { pageId, courseId })
  return { listId, tagId, pageId, courseId }
}

async function fill(porch: Porch, { listId, tagId, pageId, courseId }: Furnished): Promise<void> {
  const page = await porch.do<PageView>('GET', `pages/${pageId}`)
  await porch.do('PUT', `pages/${pageId}`, { name: 'Sheet kit', slug: 'sheet-kit', draft: {
    ...page.draft, sections: newPage('The sheet kit').sections, confirming: { ...page.draft.confirming, who: 'nobody' }, listIds: [listId],
    tagIds: [tagId],
  } })
  const { name, draft } = await porch.do<CourseView>('GET', `courses/${courseId}`)
  const [first] = emailsOf(draft)
  const written = (step: DraftEmail, title: string): DraftEmail => ({
    ...step,
    content: {
      workingTitle: title, preview: [],
      subject: [{ type: 'text', text: `${title}, ` }, { type: 'placeholder', attrs: { field: 'first_name', fallback: 'friend' } }],
      body: { type: 'doc', content: [
        { type: 'paragraph', content: [{
          type: 'text', text: 'Olá, a letter with ',
        }, { type: 'text', text: 'a link', marks: [{ type: 'link', attrs: { href: 'https://elsewhere.example.org/a?b=1&c=2' } }] }] },
        { type: 'button', attrs: { label: 'Press me', url: 'https://saltmarsh.example.com/pressed', tagId } },
      ] },
    },
  })
  await porch.do('PUT', `courses/${courseId}`, { name, draft: { ...draft, listId, wayInTagIds: [tagId], steps: [
    written(first!, 'One'), written(newEmail('two', { kind: 'elapsed', count: 1, unit: 'days', from: 'previous' }), 'Two'),
    written(newEmail('three', { kind: 'calendar-day', day: 3, time: '08:00', from: 'joining' }), 'Three'),
  ] } })
}

/** Publishes the page and starts the course: what going live leaves to be done again. */
export async function open(porch: Porch, { pageId, courseId }: Pick<Furnished, 'pageId' | 'courseId'>): Promise<void> {
  await porch.do('POST', `pages/${pageId}/publish`)
  await porch.do('POST', `courses/${courseId}/start`, { include: { kind: 'none' } })
}
