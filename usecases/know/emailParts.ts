/** Parts of emails that are written once, and emails that others begin with. */
import type { MessageContent, RichText } from '#core/message/content'
import { problemsOfLook, type EmailLook } from '#core/message/look'
import type { EmailPartLine, EmailTemplateLine } from '#core/views/email'
import { EMAIL_TEMPLATES } from '#core/message/templates/index'
import {
  allOwnTemplates, allParts, deleteOwnTemplate, endPart, findPart, insertOwnTemplate, insertPart, updatePart,
} from '#data/emailParts'
import { emailLook, setEmailLook } from '#data/workspace'
import type { WorkspaceContext } from '../context'
import { transact } from '../inner/reactor/transaction'
import { readNamers, refuseIfNeeded, usesIn } from '../inner/uses'
import { InputProblem, NotThere } from '../problem'
import { problemInEmail } from './writtenEmail'

const tidy = (text: string) => text.replace(/\s+/g, ' ').trim()

/** Each with where it stands. */
export function emailPartsView({ db }: WorkspaceContext): EmailPartLine[] {
  const namers = readNamers(db)
  return allParts(db).map(({ changedAt: _, ...part }) => ({ ...part, uses: usesIn(namers, { kind: 'part', id: part.id }) }))
}

/** Emails that are not sent yet change with it; what was sent stays as it was. Throws an {@link InputProblem}. */
export function savePart(context: WorkspaceContext, id: number | null, { name, body }: { name: string, body: RichText }): number {
  const { db, clock } = context
  return transact(context, () => {
    if (id !== null && !findPart(db, id)) throw new NotThere('This part no longer exists.')
    const part = { name: tidy(name), body }
    if (part.name === '') throw new InputProblem([{ field: 'name', problem: 'Give the part a name.' }])
    const other = allParts(db).find(one => one.name.toLowerCase() === part.name.toLowerCase())
    if (other && other.id !== id) throw new InputProblem([{ field: 'name', problem: `There is already a part called “${other.name}”.` }])
    const problem = problemInEmail(db, { body })
    if (problem) throw new InputProblem([{ field: 'body', problem }])
    if (id === null) return insertPart(db, part, clock.now())
    updatePart(db, id, part, clock.now())
    return id
  })
}

/** Nothing stands in its place then. */
export function removePart(context: WorkspaceContext, id: number): void {
  const { db, clock } = context
  transact(context, () => {
    if (!findPart(db, id)) throw new NotThere('This part no longer exists.')
    refuseIfNeeded(db, { kind: 'part', id })
    endPart(db, id, clock.now())
  })
}

/* Templates */

export const emailTemplates = ({ db }: WorkspaceContext): EmailTemplateLine[] => [
  ...allOwnTemplates(db).map(({ id, name, content }) => ({ key: String(id), name, reason: '', isOwn: true, content })),
  ...EMAIL_TEMPLATES.map(({ key, name, reason, content }) => ({ key, name, reason, isOwn: false, content })),
]

export function keepTemplate(context: WorkspaceContext, name: string, content: MessageContent): number {
  const { db, clock } = context
  if (tidy(name) === '') throw new InputProblem([{ field: 'name', problem: 'Give the template a name.' }])
  return transact(context, () => insertOwnTemplate(db, { name: tidy(name), content }, clock.now()))
}

export function forgetTemplate(context: WorkspaceContext, id: number): void {
  transact(context, () => {
    if (!deleteOwnTemplate(context.db, id)) throw new NotThere('This template no longer exists.')
  })
}

/* The look */

export const emailLookOf = ({ db }: WorkspaceContext): EmailLook => emailLook(db)

/** Throws an {@link InputProblem} for what could not be read. */
export function saveEmailLook(context: WorkspaceContext, look: EmailLook): EmailLook {
  const problems = problemsOfLook(look)
  if (problems.length > 0) throw new InputProblem(problems)
  transact(context, () => setEmailLook(context.db, look))
  return look
}
