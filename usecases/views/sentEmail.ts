/** An email as its reader got it, made again from what was kept of it. */
import { fillMessage, type Filled } from '#core/message/fill'
import { receiptHtml, receiptText } from '#core/offers/receipt'
import { kindOf } from '#core/sending/kinds'
import type { SentEmail } from '#core/views/email'
import { findFilled, linksOfMessage, messageOf } from '#data/messages'
import { findEmail } from '#data/outbox'
import { sayCase } from '../inner/readerFacts'
import { namesOf } from '../inner/names'
import { readyForNobody } from '../inner/ready'
import { receiptOf } from '../inner/receipts'
import type { WorkspaceContext } from '../context'
import { NotThere } from '../problem'

/** Links lead straight to where they point. Throws {@link NotThere} for what was not handed over. */
export function sentEmail({ db, baseUrl }: WorkspaceContext, id: number): SentEmail & { html: string } {
  const row = findEmail(db, id)
  if (!row || row.handedOverAt === null) throw new NotThere('This email was not sent.')
  const message = messageOf(db, row.messageId)
  const kept = findFilled(db, id)
  // Of what was sent before this was kept, the words are known and the person is not.
  const filled: Filled = kept ?? { facts: {}, chosen: Object.fromEntries(message.choices.map(({ key }) => [key, -1])) }
  const receipt = kindOf(row.kind).because === 'bought' ? receiptOf(db, row.occasionId) : null
  const { subject, html, text } = fillMessage(message, {
    ...filled,
    ready: {
      ...readyForNobody({ baseUrl }, linksOfMessage(db, row.messageId), message.ready),
      ...receipt && { receipt_html: receiptHtml(receipt, 'email').source, receipt_text: receiptText(receipt) },
    },
  })
  const names = namesOf(db)
  return {
    title: message.workingTitle, at: row.handedOverAt, subject, html, text, isKept: kept !== undefined,
    got: kept ? message.choices.map(({ who, key }) => sayCase(who, filled.chosen[key]!, names)) : [],
  }
}
