/** A course as a folder: `course.yaml` says how it goes, each email is a Markdown file with front matter (YAML 1.2). */
import { parse, stringify } from 'yaml'
import { emptyMessage, nameOfMessage, type MessageContent } from '#core/message/content'
import { emailsOf, mapSteps, type CourseDraft, type DraftStep } from '#core/sequence/draft'
import type { PortableCourse } from './course'
import { fromMarkdown, lineToText, textToLine, toMarkdown } from './markdown'

/** Names of files and what is in them. */
export type Folder = Record<string, string>

export const COURSE_FILE = 'course.yaml'

/** Something in a folder does not fit, in a sentence. */
export class FolderProblem extends Error {}

export function toFolder(course: PortableCourse): Folder {
  const folder: Folder = {}
  const files = new Map<string, string>()
  for (const [n, { id, content }] of emailsOf(course.draft).entries()) {
    const file = `emails/${String(n + 1).padStart(2, '0')}-${slug(nameOfMessage(content) || id)}.md`
    files.set(id, file)
    const head = {
      title: content.workingTitle, subject: lineToText(content.subject), preview: lineToText(content.preview),
      ...content.sellsNothing && { sells_nothing: true }, ...content.isLetter && { letter: true },
      ...content.callToAction && { call_to_action: content.callToAction },
    }
    folder[file] = `---\n${stringify(head)}---\n\n${toMarkdown(content.body)}`
  }
  const steps = mapSteps(course.draft.steps, step =>
    step.kind === 'email' ? { ...step, content: files.get(step.id)! as unknown as MessageContent } : step)
  return { [COURSE_FILE]: stringify({ ...course, draft: { ...course.draft, steps } }), ...folder }
}

const slug = (text: string) =>
  text.normalize('NFKD').toLowerCase().replace(/[^a-z0-9]+/g, '-').replace(/^-+|-+$/g, '').slice(0, 40) || 'email'

/** What it holds has still to be checked like anything that comes in. Throws a {@link FolderProblem}. */
export function fromFolder(folder: Folder): unknown {
  const whole = folder[COURSE_FILE]
  if (whole === undefined) throw new FolderProblem(`There is no ${COURSE_FILE} in it.`)
  let course: { draft?: CourseDraft }
  try {
    course = parse(whole) as typeof course
  }
  catch (error) {
    throw new FolderProblem(`${COURSE_FILE} cannot be read: ${(error as Error).message.split('\n')[0]}`)
  }
  if (typeof course !== 'object' || course === null || !Array.isArray(course.draft?.steps)) {
    throw new FolderProblem(`${COURSE_FILE} holds no course.`)
  }
  return { ...course, draft: { ...course.draft, steps: mapSteps(course.draft.steps, step => withWords(step, folder)) } }
}

function withWords(step: DraftStep, folder: Folder): DraftStep {
  if (step.kind !== 'email' || typeof step.content !== 'string') return step
  const file = step.content as string
  const text = folder[file]
  if (text === undefined) throw new FolderProblem(`The email ${file} is listed in ${COURSE_FILE} but is not there.`)
  return { ...step, content: readEmail(file, text) }
}

function readEmail(file: string, text: string): MessageContent {
  const [, head, body] = /^\uFEFF?---\r?\n([\s\S]*?)\r?\n?---\r?\n?([\s\S]*)$/.exec(text) ?? []
  if (head === undefined) throw new FolderProblem(`${file} must begin with its title and subject between two lines of three hyphens.`)
  let said: Record<string, unknown>
  try {
    said = (parse(head) ?? {}) as Record<string, unknown>
  }
  catch (error) {
    throw new FolderProblem(`The beginning of ${file} cannot be read: ${(error as Error).message.split('\n')[0]}`)
  }
  const words = (name: string) => said[name] === undefined || said[name] === null ? '' : String(said[name])
  return {
    ...emptyMessage(), workingTitle: words('title').slice(0, 120), subject: textToLine(words('subject')),
    preview: textToLine(words('preview')), body: fromMarkdown(body!),
    ...said.sells_nothing === true && { sellsNothing: true }, ...said.letter === true && { isLetter: true as const },
    ...words('call_to_action') !== '' && { callToAction: words('call_to_action').slice(0, 80) },
  }
}
