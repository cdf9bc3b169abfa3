/** Files that pages promise: brought in by the owner, fetched by readers. */
import { STEP_OF_KNOWN } from '#core/page/known'
import { fileOfStep, MOST_FILE_BYTES } from '#core/page/promise'
import { judgeOpen } from '#core/reading/judge'
import type { FileView } from '#core/views/pages'
import { appendEvent } from '#data/events'
import { contentOfFile, findFile, insertFetch, insertFile, markFetched } from '#data/files'
import { findEmail, type OutboxRow } from '#data/outbox'
import { insertOpen } from '#data/reading'
import type { WorkspaceContext } from '../context'
import { transact } from '../inner/reactor/transaction'
import { InputProblem, NotThere } from '../problem'
import type { Visit } from '../reading/open'

/** Keeps a file. Throws an {@link InputProblem} for an empty or too large one. */
export function bringFile(context: WorkspaceContext, name: string, type: string, content: Uint8Array): FileView {
  const title = tidyFileName(name)
  if (content.length === 0) throw new InputProblem([{ field: 'file', problem: 'This file is empty.' }])
  if (content.length > MOST_FILE_BYTES) {
    throw new InputProblem([{ field: 'file', problem: `This file is larger than ${MOST_FILE_BYTES / 1_000_000} MB.` }])
  }
  return transact(context, () => findFile(context.db, insertFile(context.db, {
    name: title, type: /^[\w.+-]+\/[\w.+-]+$/.test(type) ? type : 'application/octet-stream', content, at: context.clock.now(),
  }))!)
}

/** The last part of a path, without what a header or a file system could take for something else. */
function tidyFileName(name: string): string {
  const last = name.split(/[/\\]/).at(-1)!.replace(/[\p{C}"<>:|?*]+/gu, '').trim()
  return [...last].slice(-120).join('').replace(/^\.+/, '') || 'file'
}

/** The email that a signed address stands for. */
export function readFileToken(context: WorkspaceContext, token: string): number {
  const what = context.signer.read('file', token)
  if (what === null) {
    throw new NotThere('This link is not complete. Please use the button in the email itself.')
  }
  return Number(what)
}

const bringer = (context: WorkspaceContext, outboxId: number): OutboxRow | undefined => {
  const email = findEmail(context.db, outboxId)
  return email?.kind === 'file' && email.itemId !== STEP_OF_KNOWN ? email : undefined
}

/** What an email's own button fetches. Looking for it changes nothing. */
export function promisedFile(context: WorkspaceContext, outboxId: number): FileView & { content: Uint8Array } {
  const { db } = context
  const email = bringer(context, outboxId)
  const file = email && findFile(db, fileOfStep(email.itemId))
  if (!file) throw new NotThere('This file no longer exists.')
  return { ...file, content: contentOfFile(db, file.id) }
}

/** Counts a fetch, judged like an open. */
export function recordFetch(context: WorkspaceContext, outboxId: number, visit: Visit): void {
  const { db } = context
  transact(context, () => {
    const email = bringer(context, outboxId)
    if (!email?.handedOverAt) return
    const at = context.clock.now()
    const { personId, ownerId: pageId } = email
    const judged = visit.certain ? 'reader' : judgeOpen({ agent: visit.agent, robot: visit.robot, at, sentAt: email.handedOverAt })
    const eventId = appendEvent(db, 'file-fetched', at, {
      personId, outboxId, pageId, causeId: email.sentEventId ?? email.causeId, detail: judged,
    })
    insertFetch(db, { outboxId, fileId: fileOfStep(email.itemId), at, judged, eventId })
    if (judged !== 'reader') return
    markFetched(db, { pageId, personId, eventId: email.occasionId }, at)
    // Who fetched has read it, also where pictures are switched off.
    if (email.openedAt === null) insertOpen(db, { outboxId, personId, at, judged, eventId })
  })
}
