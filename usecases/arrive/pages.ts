/** Making opt-in pages. Saving is private; publishing is an explicit step. */
import { emailsOfPage, fieldsOf, giftsOf, givenBy, picturesOf, type PageContent } from '#core/page/content'
import { PAGE_TEMPLATES } from '#core/page/templates/pages'
import { pageFrom } from '#core/page/stored'
import { stepOfFile } from '#core/page/promise'
import { missingForPublishing, newPage } from '#core/page/content'
import { isWritten } from '#core/message/blocks'
import { hasOwnButton, withSubject, type MessageContent } from '#core/message/content'
import { newConfirming } from '#core/page/confirm'
import { mailOfThanks, STEP_OF_KNOWN } from '#core/page/known'
import { fitsField } from '#core/people/field'
import { slugOf } from '#core/message/headers'
import type { PageInput, PageBeginning } from '#core/views/pages'
import { deleteArchived } from '#data/archive'
import { kindsThat } from '#core/sending/kinds'
import type { Database } from '#data/connection'
import { appendEvent } from '#data/events'
import { moveLinks } from '#data/links'
import { findCourse } from '#data/courses'
import { findField } from '#data/fields'
import { findFile } from '#data/files'
import { picturesByIds } from '#data/pictures'
import {
  endPage, findPage, findPageBySlug, findPageVersionByNumber, insertPage, insertPageVersion, publishedVersions, setPageMessages, showPage,
  unpublish, updatePage,
  type PageMessages, type PageRow,
} from '#data/pages'
import { findList, findTag } from '#data/marks'
import { workspaceOf } from '#data/workspace'
import { forgetEarlier } from '#data/earlierEmails'
import type { WorkspaceContext } from '../context'
import { keepAllBefore } from '../know/earlierEmails'
import { transact } from '../inner/reactor/transaction'
import { refuseIfNeeded } from '../inner/uses'
import { InputProblem, NotNow, NotThere, type FieldProblem } from '../problem'
import { CHANGED_SINCE, mustBe, type ShownChange } from '../inner/revision'
import { keepWording, makeWordings, type Made, type Wording } from '../inner/wordings'
import { problemInEmail } from '../know/writtenEmail'

export function createPage(context: WorkspaceContext, name: string, beginning: PageBeginning = null): number {
  const title = name.replace(/\s+/g, ' ').trim()
  if (title === '') throw new InputProblem([{ field: 'name', problem: 'Give the page a name; visitors do not see it.' }])
  return transact(context, () => {
    return insertPage(context.db, {
      name: title, slug: freeSlug(context.db, slugOf(title)), draft: draftFrom(context.db, title, beginning), at: context.clock.now(),
    })
  })
}

function draftFrom(db: Database, title: string, beginning: PageBeginning): PageContent {
  if (beginning === null) return newPage(title)
  if (typeof beginning === 'number') return pageOf(db, beginning).draft
  const template = PAGE_TEMPLATES.find(({ key }) => key === beginning)
  if (!template) throw new NotThere('This template does not exist.')
  return template.make()
}

function freeSlug(db: Database, wanted: string): string {
  let slug = wanted
  for (let n = 2; findPageBySlug(db, slug); n++) slug = `${wanted}-${n}`
  return slug
}

/** `seen`: the revision that was edited; see {@link mustBe}. */
export function savePage(context: WorkspaceContext, id: number, input: PageInput, seen: string | null = null): void {
  const { db } = context
  transact(context, () => {
    mustBe(context, seen, pageOf(db, id), { name: input.name.trim(), slug: input.slug, draft: pageFrom(input.draft) })
    const problems: FieldProblem[] = []
    if (input.name.trim() === '') problems.push({ field: 'name', problem: 'Give the page a name; visitors do not see it.' })
    if (!/^[a-z0-9]+(-[a-z0-9]+)*$/.test(input.slug)) {
      problems.push({ field: 'slug', problem: `Small letters, digits and single hyphens, like ${slugOf(input.slug || input.name)}.` })
    }
    const other = findPageBySlug(db, input.slug)
    if (other && other.id !== id) problems.push({ field: 'slug', problem: `The page “${other.name}” has this address already.` })
    problems.push(...problemsOf(db, input.draft))
    if (problems.length > 0) throw new InputProblem(problems)
    const at = context.clock.now()
    const { slug, draft } = pageOf(db, id)
    keepAllBefore(context, id, emailsOfPage(draft), emailsOfPage(input.draft))
    // The address counts at once, and emails that are out there lead to it.
    if (slug !== input.slug) moveLinks(db, `${context.baseUrl}/p/${slug}`, `${context.baseUrl}/p/${input.slug}`, at)
    updatePage(db, id, { name: input.name.trim(), slug: input.slug, draft: input.draft, at })
  })
}

/** What it refers to and is no longer there, or does not fit. */
function problemsOf(db: Database, draft: PageContent): FieldProblem[] {
  const problems: FieldProblem[] = []
  const { listIds, tagIds } = givenBy(draft)
  if (listIds.some(listId => !findList(db, listId))) {
    problems.push({ field: 'listIds', problem: 'One of these lists no longer exists.' })
  }
  if (tagIds.some(tagId => !findTag(db, tagId))) problems.push({ field: 'tagIds', problem: 'One of these tags no longer exists.' })
  if (draft.courseId !== null && !findCourse(db, draft.courseId)) {
    problems.push({ field: 'courseId', problem: 'This course no longer exists.' })
  }
  if (fieldsOf(draft).some(fieldId =>
    !findField(db, fieldId))) problems.push({ field: 'form', problem: 'A field that the page asks for or sets no longer exists.' })
  else if (giftsOf(draft).some(({ fieldId, value }) => !fitsField(findField(db, fieldId)!, value))) problems.push({
    field: 'form', problem: 'A value that the page sets does not fit its field.',
  })
  if (picturesByIds(db, picturesOf(draft)).length < new Set(picturesOf(draft)).size) {
    problems.push({ field: 'pictures', problem: 'One of the pictures no longer exists.' })
  }
  const mails = { promised: draft.promised?.mail, confirming: draft.confirming.mail }
  for (const [field, mail] of Object.entries(mails)) {
    const problem = mail && problemInEmail(db, mail)
    if (problem) problems.push({ field, problem })
  }
  if (draft.promised?.fileId && !findFile(db, draft.promised.fileId)) {
    problems.push({ field: 'promised', problem: 'This file no longer exists.' })
  }
  return problems
}

/** What keeps the draft from being published: in the page itself, and in who its mail is from. */
export function missingOf(db: Database, draft: PageContent): { field: string, problem: string }[] {
  const { senderAddress, postalAddress } = workspaceOf(db)
  const noSender = senderAddress === '' || postalAddress.trim() === ''
  return [
    ...missingForPublishing(draft),
    ...noSender ? [{
      field: 'sender', problem: 'Fill in the sender and the postal address in Settings: this page sends emails, and each must carry them.',
    }] : [],
  ]
}

/**
 * `seen`: the revision that is to be shown. Shows the draft to the public as a new version, with its emails made; consents refer to it from
 * now on. If the draft is changed meanwhile, it begins again with the newer one.
 */
export async function publishPage(context: WorkspaceContext, id: number, seen: string | null = null): Promise<{ number: number }> {
  const { db } = context
  for (;;) {
    const page = pageOf(db, id)
    mustBe(context, seen, page)
    const { draft } = page
    const missing = missingOf(db, draft)
    if (missing.length > 0) throw new InputProblem(missing)
    const wordings = wordingsOf(id, draft)
    const made = await makeWordings(context, Object.values(wordings))
    const published = transact(context, () => {
      if (JSON.stringify(pageOf(db, id).draft) !== JSON.stringify(draft)) return null
      const at = context.clock.now()
      appendEvent(db, 'page-published', at, { pageId: id })
      deleteArchived(db, { kind: 'page', id })
      return insertPageVersion(db, id, draft, keepAll(context, wordings, made), at)
    })
    if (published) return published
  }
}

/**
 * Versions published before a page had all the emails it has now, such as the one that asks people who left, get what they lack.
 * Slow, before the transactions that store it. Returns how many versions got some.
 */
export async function completePages(context: Pick<WorkspaceContext, 'db' | 'baseUrl' | 'clock' | 'composer'>): Promise<number> {
  const { db } = context
  const lacking = publishedVersions(db).flatMap(({ id, versionId, content, messages }) => {
    const wordings = Object.entries(wordingsOf(id, content)).filter(([what]) => !(what in messages))
    return wordings.length > 0 ? [{ versionId, messages, wordings: Object.fromEntries(wordings) }] : []
  })
  for (const { versionId, messages, wordings } of lacking) {
    const made = await makeWordings(context, Object.values(wordings))
    transact(context, () => setPageMessages(db, versionId, { ...messages, ...keepAll(context, wordings, made) }))
  }
  return lacking.length
}

type PageWordings = Partial<Record<keyof PageMessages, Wording>>

function keepAll(context: Pick<WorkspaceContext, 'db' | 'baseUrl' | 'clock'>, wordings: PageWordings, made: Made): PageMessages {
  const at = context.clock.now()
  return Object.fromEntries(Object.entries(wordings).map(([what, wording]) => [what, keepWording(context, wording, made, at)]))
}

function wordingsOf(pageId: number, { confirming, promised, forKnown }: PageContent): PageWordings {
  const { who, reminder } = confirming
  // Where nobody is asked, people who left are all the same: a press of the button alone does not bring them back.
  const mail = who !== 'nobody' || hasOwnButton(confirming.mail) && isWritten(confirming.mail) ? confirming.mail : newConfirming().mail
  const asking = (stepId: string, content: MessageContent): Wording => ({
    of: { kind: 'confirmation', ownerId: pageId, itemId: stepId }, content,
  })
  return {
    confirm: asking('asking', mail),
    ...who !== 'nobody' && reminder
      && { reminder: asking('reminder', { ...withSubject(mail, reminder.subject), workingTitle: `${mail.workingTitle}, reminder` }) },
    ...who === 'nobody' && forKnown && { known: {
      of: { kind: 'file', ownerId: pageId, itemId: STEP_OF_KNOWN }, content: mailOfThanks(forKnown.thanks),
    } },
    ...promised?.fileId && { file: { of: { kind: 'file', ownerId: pageId, itemId: stepOfFile(promised.fileId) }, content: promised.mail } },
  }
}

function pageOf(db: Database, id: number): PageRow {
  const page = findPage(db, id)
  if (!page) throw new NotThere('This page no longer exists.')
  return page
}

export function takePageDown(context: WorkspaceContext, id: number): void {
  transact(context, () => {
    pageOf(context.db, id)
    unpublish(context.db, id)
  })
}

/**
 * Undoes publishing or taking down: visitors see the version numbered `to` again, or nothing where it is null. Throws a {@link NotNow}
 * where they no longer see `from`, or where something that version gives no longer exists.
 */
export function showPageVersion(context: WorkspaceContext, id: number, { from, to }: ShownChange): void {
  const { db } = context
  transact(context, () => {
    if (pageOf(db, id).versionNumber !== from) throw new NotNow(CHANGED_SINCE)
    if (to === null) return unpublish(db, id)
    const version = findPageVersionByNumber(db, id, to)
    if (!version) throw new NotThere('This version no longer exists.')
    const [problem] = problemsOf(db, version.content)
    if (problem) throw new NotNow(`${problem.problem} So nothing was undone.`)
    appendEvent(db, 'page-published', context.clock.now(), { pageId: id })
    showPage(db, id, version.versionId)
  })
}

/** Off the web, and nothing finds it any more. Who opted in on it stays who they are; a yes that was asked for still counts. */
export function removePage(context: WorkspaceContext, id: number): void {
  const { db } = context
  transact(context, () => {
    pageOf(db, id)
    refuseIfNeeded(db, { kind: 'page', id })
    endPage(db, id, context.clock.now())
    for (const kind of kindsThat(({ owner }) => owner === 'page')) forgetEarlier(db, { kind, ownerId: id })
  })
}
