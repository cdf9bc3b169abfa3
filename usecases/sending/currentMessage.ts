/** The wording of an email as it is to be sent now. */
import { findMessageId, messageOf, wordingOfMessage, type MessageRow } from '#data/messages'
import type { WorkspaceContext } from '../context'
import { transact } from '../inner/reactor/transaction'
import { digestOf, keepWording, madeWith, makeWordings, withWhat } from '../inner/wordings'

/**
 * A wording as it is to be sent: made anew where the look of the workspace, or a part that stands in it, is another than when it was made.
 * What was sent stays as it was.
 */
export async function currentMessage(context: WorkspaceContext, messageId: number): Promise<MessageRow> {
  const { db, clock } = context
  const message = messageOf(db, messageId)
  if (madeWith(context, message) === message.madeWith) return message
  const wording = wordingOfMessage(db, messageId)
  const made = await makeWordings(context, [wording])
  return messageOf(db, made.size > 0
    ? transact(context, () => keepWording(context, wording, made, clock.now()))
    : findMessageId(db, wording.of, digestOf(wording, withWhat(context, wording.content)))!)
}
