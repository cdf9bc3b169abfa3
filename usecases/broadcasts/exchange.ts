/** Broadcasts out of the workspace and into it: as a file, by a link, and as an email that any mail program opens. */
import { randomBytes } from 'node:crypto'
import type { BroadcastDraft } from '#core/broadcast/draft'
import { toPortable, withoutMissing, type PortableBroadcast, type PortableContents } from '#core/exchange/broadcast'
import { mapIds } from '#core/mentions'
import { inlineParts } from '#core/message/complete'
import type { FilledMessage } from '#core/message/fill'
import { domainOf } from '#core/message/headers'
import type { BroughtBroadcast } from '#core/views/broadcast'
import { broadcastOfCopyCode, copyCodeOf, setCopyCode } from '#data/broadcasts'
import type { Database } from '#data/connection'
import { findPart } from '#data/emailParts'
import { attachedFiles, contentOfFile, findFile } from '#data/files'
import { contentOfPicture, picturesByIds } from '#data/pictures'
import { workspaceOf } from '#data/workspace'
import { bringFile } from '../arrive/files'
import { bringPicture } from '../arrive/pictures'
import type { WorkspaceContext } from '../context'
import { fromOf, senderOf } from '../inner/senderOf'
import { transact } from '../inner/reactor/transaction'
import { bringNames, describer } from '../know/portableNames'
import { InputProblem, NotThere } from '../problem'
import { previewEmail } from '../sending/previewEmail'
import { insertDraft, theBroadcast } from './save'

/** As it was sent, or as it is written while it was not. */
const shownOf = (db: Database, id: number) => {
  const { name, draft, scheduled, state } = theBroadcast(db, id)
  return { name, draft: state === 'draft' || state === 'scheduled' ? draft : scheduled! }
}

/* As a file */

export function exportBroadcast({ db }: WorkspaceContext, id: number): PortableBroadcast {
  const { name, draft } = shownOf(db, id)
  const whole = inlineParts(draft, partId => findPart(db, partId)?.body)
  return toPortable({ name, draft: whole, contents: contentsOf(db, whole) }, describer(db))
}

function contentsOf(db: Database, draft: BroadcastDraft): PortableContents {
  const contents: PortableContents = { pictures: {}, files: {} }
  eachContent(draft, (kind, id) => {
    if (kind === 'picture') {
      const [picture] = picturesByIds(db, [id])
      if (picture) contents.pictures[id] = { name: picture.name, content: inBase64(contentOfPicture(db, id, picture.widths.at(-1)!)!) }
    }
    else {
      const file = findFile(db, id)
      if (file) contents.files[id] = { name: file.name, type: file.type, content: inBase64(contentOfFile(db, id)) }
    }
    return id
  })
  return contents
}

const inBase64 = (bytes: Uint8Array): string => Buffer.from(bytes).toString('base64')

/** The same with the numbers of its pictures and files replaced. */
function eachContent(draft: BroadcastDraft, map: (kind: 'picture' | 'file', id: number) => number | null): BroadcastDraft {
  return JSON.parse(JSON.stringify(draft, (key, value: unknown) => {
    if (typeof value !== 'number') return value
    return key === 'pictureId' ? map('picture', value) : key === 'fileId' ? map('file', value) : value
  })) as BroadcastDraft
}

/**
 * Makes a draft of a file. Lists, tags and fields that are not there are made, by name; what names something else that is not there is left
 * out, and said. Pictures are made anew of what came: nothing that was sent along is shown as it is.
 */
export async function bringBroadcast(context: WorkspaceContext, { names, draft, contents }: PortableBroadcast): Promise<BroughtBroadcast> {
  const pictures = new Map<number, number>()
  for (const [id, { name, content }] of Object.entries(contents.pictures)) {
    pictures.set(Number(id), (await bringPicture(context, name, Buffer.from(content, 'base64'))).id)
  }
  return transact(context, () => {
    const files = new Map(Object.entries(contents.files).map(([id, { name, type, content }]) => [
      Number(id), bringFile(context, name, type, Buffer.from(content, 'base64')).id,
    ]))
    const { made, lost, isHere, idOf } = bringNames(context, names)
    const mapped = mapIds(withoutMissing(draft, (kind, id) => !isHere(kind, id)), idOf)
    const { attached, ...content } = mapped.content
    // A file that did not come along cannot be attached.
    const whole = { ...mapped, content: { ...content, ...attached && { attached: attached.filter(({ fileId }) => files.has(fileId)) } } }
    const placed = eachContent(whole, (kind, id) => (kind === 'picture' ? pictures : files).get(id) ?? null)
    return { id: insertDraft(context, placed), made, lost }
  })
}

/* By a link */

/** Whoever has the link can take a copy; null takes it back, and the next one is another. */
export function setCopyLink(context: WorkspaceContext, id: number, on: boolean): void {
  const { db } = context
  transact(context, () => {
    theBroadcast(db, id)
    if (on === (copyCodeOf(db, id) !== null)) return
    setCopyCode(db, id, on ? randomBytes(18).toString('base64url') : null)
  })
}

export const copyUrlOf = (context: Pick<WorkspaceContext, 'baseUrl'>, code: string): string => `${context.baseUrl}/letters/copy/${code}`

/** Throws {@link NotThere} for a link that was taken back. */
export function copyOfCode(context: WorkspaceContext, code: string): PortableBroadcast {
  const id = broadcastOfCopyCode(context.db, code)
  if (id === null) throw new NotThere('This copy is no longer offered.')
  return exportBroadcast(context, id)
}

/** The code of a link that leads here; null for any other address. */
export function codeOfCopyUrl({ baseUrl }: Pick<WorkspaceContext, 'baseUrl'>, url: string): string | null {
  const begin = `${baseUrl}/letters/copy/`
  return url.startsWith(begin) ? url.slice(begin.length).replace(/[?#].*$/, '') : null
}

/* As an email */

const filled = (context: WorkspaceContext, id: number): Promise<FilledMessage> => {
  const { draft } = shownOf(context.db, id)
  return previewEmail(context, {
    content: draft.content, kind: 'broadcast', listId: draft.listId, ownerId: id, personId: null, firstName: '', chosen: null,
  })
}

/** As nobody in particular would read it. */
export const broadcastHtml = async (context: WorkspaceContext, id: number): Promise<string> => (await filled(context, id)).html

/** The same as a whole email, to its own sender: mail programs open it as one that is still to be sent. */
export async function broadcastEml(context: WorkspaceContext, id: number): Promise<Uint8Array> {
  const { db, composer, clock } = context
  const { draft } = shownOf(db, id)
  const sender = senderOf(db, { senderId: draft.content.senderId ?? null, listId: draft.listId, personId: null })
  const from = fromOf(db, sender)
  if (from.from.address === '') throw new InputProblem([{ field: 'sender', problem: 'Fill in the sender in Settings first.' }])
  return composer.compose({
    messageId: `<draft.${id}.${workspaceOf(db).key}@${domainOf(from.from.address)}>`, ...from, to: from.from,
    ...await filled(context, id), headers: { 'X-Unsent': '1' }, at: clock.now(),
    attached: attachedFiles(db, (draft.content.attached ?? []).map(({ fileId }) => fileId)),
  })
}
