/** An email as one person would read it, before anything is stored or sent. */
import { compileMessage } from '#core/message/compile'
import { kindOf, type EmailKind } from '#core/sending/kinds'
import type { MessageContent } from '#core/message/content'
import type { CompiledMessage } from '#core/ports'
import { findList } from '#data/marks'
import { workspaceOf } from '#data/workspace'
import { receiptHtml, receiptText } from '#core/offers/receipt'
import { sellerOf } from '../inner/receipts'
import type { WorkspaceContext } from '../context'

/** Links lead straight to where they point; the addresses that are made per email do nothing. */
export async function previewEmail(
  context: WorkspaceContext, content: MessageContent, listId: number | null, firstName: string, kind: EmailKind,
): Promise<CompiledMessage> {
  const workspace = workspaceOf(context.db)
  const templates = compileMessage(content, kindOf(kind))
  return context.composer.fill(await context.composer.compile(templates), {
    first_name: firstName,
    links: templates.links.map(link => link.url),
    pixel_url: '',
    choices_url: '#',
    own_url: '#',
    ...kindOf(kind).because === 'bought' && sampleReceipt(context),
    list_name: (listId !== null && findList(context.db, listId)?.publicName) || 'the list of this course',
    sender_name: workspace.senderName || workspace.name,
    postal_address: workspace.postalAddress.split(/\s*\n\s*/).filter(Boolean).join(', '),
  })
}

/** As a receipt will stand in the email. */
function sampleReceipt({ db, clock }: WorkspaceContext): { receipt_html: string, receipt_text: string } {
  const { zone, currency } = workspaceOf(db)
  const receipt = {
    number: '2026-0001', at: clock.now(), zone, ...sellerOf(db), buyer: 'their name and address', currency,
    lines: [{ words: 'What they bought', amount: 4900 }], total: 4900, refunded: 0,
  }
  return { receipt_html: receiptHtml(receipt, 'email').source, receipt_text: receiptText(receipt) }
}
