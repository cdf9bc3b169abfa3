/** What is made ready for one email to one reader: the addresses in it that are theirs, and what they bought. */
import { fileOfKey } from '#core/message/blocks/file'
import { linkKey, type Personal } from '#core/message/template'
import { receiptHtml, receiptText } from '#core/offers/receipt'
import { kindOf, type EmailKind } from '#core/sending/kinds'
import { linksOfMessage, type MessageRow } from '#data/messages'
import type { OutboxRow } from '#data/outbox'
import { findPayment } from '#data/purchases'
import type { WorkspaceContext } from '../context'
import { buyerUrl, receiptOf } from './receipts'

/** Whoever reads what was asked at another address may be a stranger: their way out must not lead into somebody else's choices. */
const choicesUrlOf = (context: WorkspaceContext, row: OutboxRow): string => kindOf(row.kind).toStranger
  ? ownUrl(context, row)
  : `${context.baseUrl}/m/${context.signer.sign('choices', String(row.id))}`

export function readyFor(context: WorkspaceContext, row: OutboxRow, message: Pick<MessageRow, 'id' | 'ready'>): Personal['ready'] {
  const { db, signer, baseUrl } = context
  const files = [...message.ready].flatMap((name) => {
    const fileId = fileOfKey(name)
    return fileId === null ? [] : [[name, `${baseUrl}/e/${signer.sign('sent-file', `${row.id}.${fileId}`)}`]]
  })
  return {
    ...Object.fromEntries(linksOfMessage(db, message.id)
      .map(({ n }) => [linkKey(n), `${baseUrl}/l/${signer.sign('link', `${row.id}.${n}`)}`])),
    ...Object.fromEntries(files) as Record<string, string>,
    pixel_url: `${baseUrl}/o/${signer.sign('open', String(row.id))}`,
    base_url: baseUrl,
    choices_url: choicesUrlOf(context, row),
    own_url: ownUrl(context, row),
    ...message.ready.has('view_url') && { view_url: `${baseUrl}/v/${signer.sign('view', String(row.id))}` },
    ...kindOf(row.kind).because === 'bought' && receiptIn(context, row),
  }
}

/**
 * What stands for it where nobody in particular reads: links lead straight to where they point, and what is made per email does nothing.
 */
export function readyForNobody(
  { baseUrl }: Pick<WorkspaceContext, 'baseUrl'>, links: readonly { n: number, url: string, answers: unknown }[],
  needed: ReadonlySet<string>,
): Personal['ready'] {
  return {
    ...Object.fromEntries([...needed].filter(name => fileOfKey(name) !== null).map(name => [name, '#'])),
    ...Object.fromEntries(links.map(({ n, url, answers }) => [linkKey(n), answers ? '#' : url])),
    base_url: baseUrl, pixel_url: '', choices_url: '#', own_url: '#', view_url: '#',
  }
}

/** Where the email's own button leads, of the kinds that have one. */
const OWN_URLS: Partial<Record<EmailKind, (context: WorkspaceContext, row: OutboxRow) => string>> = {
  confirmation: ({ baseUrl, signer }, { occasionId }) => `${baseUrl}/c/${signer.sign('confirm', String(occasionId))}`,
  address: ({ baseUrl, signer }, { occasionId }) => `${baseUrl}/a/${signer.sign('address', String(occasionId))}`,
  waiting: ({ baseUrl, signer }, { occasionId }) => `${baseUrl}/w/${signer.sign('wait', String(occasionId))}`,
  file: ({ baseUrl, signer }, { id }) => `${baseUrl}/f/${signer.sign('file', String(id))}`,
  receipt: (context, { occasionId }) => buyerUrl(context, findPayment(context.db, occasionId)!.purchaseId),
}

const ownUrl = (context: WorkspaceContext, row: OutboxRow): string => OWN_URLS[row.kind]?.(context, row) ?? ''

/** What was paid, for an email that goes for a payment. */
function receiptIn({ db }: WorkspaceContext, row: OutboxRow): { receipt_html: string, receipt_text: string } {
  const receipt = receiptOf(db, row.occasionId)
  return { receipt_html: receiptHtml(receipt, 'email').source, receipt_text: receiptText(receipt) }
}
