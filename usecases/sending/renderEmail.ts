/** From an outbox row to the email that leaves: the person's words filled in, addresses signed, headers set. */
import type { Mail } from '#core/ports'
import { domainOf, listHeaders, messageIdOf } from '#core/message/headers'
import { kindOf, type EmailKind } from '#core/sending/kinds'
import { findAddressChange } from '#data/choices'
import { linksOfMessage, messageOf } from '#data/messages'
import type { OutboxRow } from '#data/outbox'
import { findPerson, nameInMail } from '#data/people'
import { findPayment } from '#data/purchases'
import { standsFor } from '#data/markEnds'
import { findList } from '#data/marks'
import { workspaceOf } from '#data/workspace'
import { receiptHtml, receiptText } from '#core/offers/receipt'
import type { WorkspaceContext } from '../context'
import { buyerUrl, receiptOf } from '../inner/receipts'

export async function renderEmail(context: WorkspaceContext, row: OutboxRow): Promise<{ mail: Mail, source: Uint8Array }> {
  const { db, signer, baseUrl, composer } = context
  const workspace = workspaceOf(db)
  const person = findPerson(db, row.personId)!
  // Asked at an address that nobody has shown to be theirs: nothing that anybody typed goes there.
  const { toStranger, because } = kindOf(row.kind)
  const name = toStranger ? '' : nameInMail(db, person.id)
  const list = findList(db, standsFor(db, 'lists', row.listId)!)!
  const message = messageOf(db, row.messageId)
  // Whoever reads what was asked at another address may be a stranger: their way out must not lead into somebody else's choices.
  const choicesUrl = toStranger ? ownUrl(context, row) : `${baseUrl}/m/${signer.sign('choices', String(row.id))}`
  const filled = composer.fill(message, {
    first_name: name,
    links: linksOfMessage(db, row.messageId).map(({ n }) => `${baseUrl}/l/${signer.sign('link', `${row.id}.${n}`)}`),
    pixel_url: `${baseUrl}/o/${signer.sign('open', String(row.id))}`,
    choices_url: choicesUrl,
    own_url: ownUrl(context, row),
    ...because === 'bought' && receiptIn(context, row),
    list_name: list.publicName,
    sender_name: workspace.senderName || workspace.name,
    postal_address: workspace.postalAddress.split(/\s*\n\s*/).filter(Boolean).join(', '),
  })
  const senderDomain = domainOf(workspace.senderAddress)
  const mail: Mail = {
    // The same on every try, also where the sender's domain has changed since the first.
    messageId: row.messageRef ?? messageIdOf(row, workspace.key, senderDomain),
    from: { name: workspace.senderName || workspace.name, address: workspace.senderAddress },
    to: { name, address: toStranger ? findAddressChange(db, row.occasionId)!.address : person.address },
    ...filled,
    headers: listHeaders({ oneClickUrl: choicesUrl, listSlug: list.mailName, listName: list.publicName, senderDomain }),
    at: context.clock.now(),
  }
  return { mail, source: await composer.compose(mail) }
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
