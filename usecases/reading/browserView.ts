/** An email read in a browser, by the link in the email itself. */
import { fillMessage } from '#core/message/fill'
import { contentOfFile, findFile } from '#data/files'
import { findFilled, messageOf } from '#data/messages'
import { findEmail } from '#data/outbox'
import type { FileView } from '#core/views/pages'
import type { WorkspaceContext } from '../context'
import { readyFor } from '../inner/ready'
import { NotThere } from '../problem'

/** The smallest picture there is: looking here is told apart from fetching the one of the email. */
const NO_PICTURE = 'data:image/gif;base64,R0lGODlhAQABAIAAAAAAAP///yH5BAEAAAAALAAAAAABAAEAAAIBRAA7'

/** As its reader got it, with their links. Throws {@link NotThere} once it is not kept any more: when they were erased. */
export function emailInBrowser(context: WorkspaceContext, outboxId: number): { html: string } {
  const { db } = context
  const row = findEmail(db, outboxId)
  const filled = row && findFilled(db, outboxId)
  if (!row || !filled) throw new NotThere('This email is no longer kept here.')
  const message = messageOf(db, row.messageId)
  const { html } = fillMessage(message, { ...filled, ready: { ...readyFor(context, row, message), pixel_url: NO_PICTURE } })
  return { html }
}

/** A file that stands in an email, for its reader. Fetching it is not counted. */
export function sentFile({ db }: WorkspaceContext, outboxId: number, fileId: number): FileView & { content: Uint8Array } {
  const file = findEmail(db, outboxId) && findFile(db, fileId)
  if (!file) throw new NotThere('This file no longer exists.')
  return { ...file, content: contentOfFile(db, file.id) }
}
