/** From an outbox row to the email that leaves: the person's words filled in, addresses signed, headers set. */
import type { Mail } from '#core/ports'
import { domainOf, listHeaders, messageIdOf } from '#core/message/headers'
import { findAddressChange } from '#data/choices'
import { linksOfMessage, messageOf } from '#data/messages'
import type { OutboxRow } from '#data/outbox'
import { findPerson, nameInMail } from '#data/people'
import { findPayment } from '#data/purchases'
import { standsFor } from '#data/markEnds'
import { findList } from '#data/marks'
import { workspaceOf } from '#data/workspace'
import { receiptHtml, receiptText } from '#core/offers/receipt'
import type { House } from '../house'
import { buyerUrl, receiptOf } from '../inner/receipts'

export async function writeLetter(house: House, row: OutboxRow): Promise<{ mail: Mail, source: Uint8Array }> {
  const { db, signer, baseUrl, composer } = house
  const workspace = workspaceOf(db)
  const person = findPerson(db, row.personId)!
  // Asked at an address that nobody has shown to be theirs: nothing that anybody typed goes there.
  const name = row.kind === 'address' ? '' : nameInMail(db, person.id)
  const list = findList(db, standsFor(db, 'lists', row.listId)!)!
  const message = messageOf(db, row.messageId)
  // Whoever reads what was asked at another address may be a stranger: their way out must not lead into somebody else's choices.
  const choicesUrl = row.kind === 'address' ? ownUrl(house, row) : `${baseUrl}/m/${signer.sign('choices', String(row.id))}`
  const filled = composer.fill(message, {
    first_name: name,
    links: linksOfMessage(db, row.messageId).map(({ n }) => `${baseUrl}/l/${signer.sign('link', `${row.id}.${n}`)}`),
    pixel_url: `${baseUrl}/o/${signer.sign('open', String(row.id))}`,
    choices_url: choicesUrl,
    own_url: ownUrl(house, row),
    ...receiptIn(house, row),
    list_name: list.publicName,
    sender_name: workspace.senderName || workspace.name,
    postal_address: workspace.postalAddress.split(/\s*\n\s*/).filter(Boolean).join(', '),
  })
  const senderDomain = domainOf(workspace.senderAddress)
  const mail: Mail = {
    // The same on every try, also where the sender's domain has changed since the first.
    messageId: row.messageRef ?? messageIdOf(row, workspace.key, senderDomain),
    from: { name: workspace.senderName || workspace.name, address: workspace.senderAddress },
    to: { name, address: row.kind === 'address' ? findAddressChange(db, row.visit)!.address : person.address },
    ...filled,
    headers: listHeaders({ oneClickUrl: choicesUrl, listSlug: list.mailName, listName: list.publicName, senderDomain }),
    at: house.clock.now(),
  }
  return { mail, source: await composer.compose(mail) }
}

/** Where the email's own button leads. */
function ownUrl(house: House, row: OutboxRow): string {
  const { baseUrl, signer } = house
  switch (row.kind) {
    case 'course':
    case 'rule': return ''
    case 'confirmation': return `${baseUrl}/c/${signer.sign('confirm', String(row.visit))}`
    case 'address': return `${baseUrl}/a/${signer.sign('address', String(row.visit))}`
    case 'waiting': return `${baseUrl}/w/${signer.sign('wait', String(row.visit))}`
    case 'file': return `${baseUrl}/f/${signer.sign('file', String(row.id))}`
    case 'receipt': return buyerUrl(house, findPayment(house.db, row.visit)!.purchaseId)
  }
}

/** What was paid, for an email that goes for a payment. */
function receiptIn({ db }: House, row: OutboxRow): { receipt_html?: string, receipt_text?: string } {
  if (row.kind !== 'receipt') return {}
  const receipt = receiptOf(db, row.visit)
  return { receipt_html: receiptHtml(receipt, 'email').source, receipt_text: receiptText(receipt) }
}
