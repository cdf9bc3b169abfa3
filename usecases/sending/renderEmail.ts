/** From an outbox row to the email that leaves: the person's words filled in, addresses signed, headers set. */
import { fillSubject, type Filled } from '#core/message/fill'
import { fill, type Personal } from '#core/message/template'
import type { Mail } from '#core/ports'
import { mailDomainOf, signs } from '#core/senders/mailDomain'
import { domainOf, listHeaders, messageIdOf } from '#core/message/headers'
import { kindOf } from '#core/sending/kinds'
import { findAddressChange } from '#data/choices'
import { findEnrolment } from '#data/enrolments'
import { attachedFiles } from '#data/files'
import { readKeeping, type Database } from '#data/connection'
import type { MessageRow } from '#data/messages'
import type { OutboxRow } from '#data/outbox'
import { findPerson, nameInMail } from '#data/people'
import { standsFor } from '#data/markEnds'
import { findList } from '#data/marks'
import { findMailDomain, signingKeyOf } from '#data/senders'
import { workspaceOf } from '#data/workspace'
import type { WorkspaceContext } from '../context'
import { chooseFor, factsOfReader } from '../inner/readerFacts'
import { readyFor } from '../inner/ready'
import { fromOf, senderOf, type SenderAsked } from '../inner/senderOf'
import { currentMessage } from './currentMessage'

/**
 * `filled`: what stands in the places of the email; `messageId`: of its wording as it is made now; `senderId`: null before anybody was
 * named.
 */
export interface Letter { mail: Mail, source: Uint8Array, filled: Filled, messageId: number, senderId: number | null }

export async function renderEmail(context: WorkspaceContext, row: OutboxRow): Promise<Letter> {
  const message = await currentMessage(context, row.messageId)
  const { mail, personal, key, ...rest } = readKeeping(context.db, () => letterFor(context, row, message))
  const source = await signed(context, key, await context.composer.compose(mail, { message, personal }))
  return { mail, source, messageId: message.id, ...rest }
}

interface Unwritten extends Pick<Letter, 'mail' | 'filled' | 'senderId'> { personal: Personal, key: SigningKey | null }

function letterFor(context: WorkspaceContext, row: OutboxRow, message: MessageRow): Unwritten {
  const { db } = context
  const workspace = workspaceOf(db)
  const person = findPerson(db, row.personId)!
  // Asked at an address that nobody has shown to be theirs: nothing that anybody typed goes there.
  const { toStranger } = kindOf(row.kind)
  const list = findList(db, standsFor(db, 'lists', row.listId)!)!
  const at = context.clock.now()
  const sender = senderOf(db, senderAsked(db, row, message))
  const from = fromOf(db, sender)
  const filled: Filled = {
    facts: factsOfReader(db, message.facts, {
      person: toStranger ? null : person, listName: list.publicName, at, sender,
      joinedAt: row.enrolmentId === null ? null : findEnrolment(db, row.enrolmentId)!.joinedAt,
    }),
    chosen: chooseFor(db, message.choices, person.id, at),
  }
  const personal: Personal = { ...filled, ready: readyFor(context, row, message) }
  const senderDomain = domainOf(workspace.senderAddress)
  const mail: Mail = {
    // The same on every try, also where the sender's domain has changed since the first.
    messageId: row.messageRef ?? messageIdOf(row, workspace.key, senderDomain),
    ...from,
    to: toStranger
      ? { name: '', address: findAddressChange(db, row.occasionId)!.address }
      : { name: nameInMail(db, person.id), address: person.address },
    subject: fillSubject(message, personal),
    // Filled only if a carrier asks: the email itself is composed piece by piece.
    get html() {
      return fill(message.html, 'html', personal)
    },
    get text() {
      return fill(message.text, 'text', personal)
    },
    headers: listHeaders({ oneClickUrl: personal.ready.choices_url!, listSlug: list.mailName, listName: list.publicName, senderDomain }),
    attached: attachedFiles(db, message.attached.map(({ fileId }) => fileId)),
    at,
  }
  return { mail, filled, personal, senderId: sender?.id ?? null, key: keyFor(db, mail.from.address) }
}

/** Of what its sender is decided. */
export const senderAsked = (
  db: Database, row: Pick<OutboxRow, 'kind' | 'listId' | 'personId'>, { senderId }: Pick<MessageRow, 'senderId'>,
): SenderAsked => ({ senderId, listId: standsFor(db, 'lists', row.listId), personId: kindOf(row.kind).toStranger ? null : row.personId })

export interface SigningKey { domain: string, selector: string, privateKey: string }

/** The key of the address's domain, if it is published: receivers treat a signature by any other key as forged. */
export function keyFor(db: Database, address: string): SigningKey | null {
  const domain = mailDomainOf(address)
  const key = signs(findMailDomain(db, domain)) ? signingKeyOf(db, domain) : null
  return key && { domain, ...key }
}

export async function signed(
  { emailSigner, trouble }: WorkspaceContext, key: SigningKey | null, source: Uint8Array,
): Promise<Uint8Array> {
  if (!key) return source
  try {
    return await emailSigner.sign(source, key)
  }
  catch (error) {
    // Unsigned it still arrives.
    trouble('an email could not be signed', error)
    return source
  }
}
