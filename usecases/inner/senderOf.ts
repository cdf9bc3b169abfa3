/** Who an email is from. */
import type { Mail } from '#core/ports'
import { isFreeMailbox } from '#core/people/address'
import { mailDomainOf, remarksOn, type Remark } from '#core/senders/mailDomain'
import { defaultSenderId, findMailDomain, findSender, senderByTags, senderOfList, type SenderRow } from '#data/senders'
import type { Database } from '#data/connection'
import { workspaceOf, type WorkspaceRow } from '#data/workspace'
import type { WorkspaceContext } from '../context'
import { NotThere } from '../problem'

/** `senderId`: what the email itself says; null for nobody in particular. `personId` null for a stranger. */
export interface SenderAsked { senderId: number | null, listId: number | null, personId: number | null }

/** The email's own, else that of one of the reader's tags, else of the list, else the workspace's. Undefined before one was named. */
export function senderOf(db: Database, { senderId, listId, personId }: SenderAsked): SenderRow | undefined {
  for (const pick of [
    () => senderId, () => personId === null ? null : senderByTags(db, personId), () => listId === null ? null : senderOfList(db, listId),
    () => defaultSenderId(db),
  ]) {
    const id = pick()
    const sender = id === null ? undefined : findSender(db, id)
    if (sender) return sender
  }
  return undefined
}

/** Throws a {@link NotThere} for one that is gone. */
export function theSender(db: Database, id: number): SenderRow {
  const sender = findSender(db, id)
  if (!sender) throw new NotThere('This sender no longer exists.')
  return sender
}

/** As it stands in an email. */
export function fromOf(db: Database, sender: SenderRow | undefined): Pick<Mail, 'from' | 'service' | 'replyTo'> {
  const { name, senderName, senderAddress } = workspaceOf(db)
  return {
    from: { name: sender?.name || senderName || name, address: sender?.address ?? senderAddress },
    service: sender?.serviceUrl ? { senderId: sender.id, url: sender.serviceUrl } : null,
    replyTo: sender?.replyTo || undefined,
  }
}

/** What is to be said of mail from this address. */
export function remarksOnAddress({ db }: Pick<WorkspaceContext, 'db'>, address: string): Remark[] {
  return address === '' ? [] : remarksOn(findMailDomain(db, mailDomainOf(address)), isFreeMailbox(address))
}

/** What every email says of who sends it. */
export const factsOfSender = (
  { name, senderName, postalAddress }: Pick<WorkspaceRow, 'name' | 'senderName' | 'postalAddress'>, sender?: Pick<SenderRow, 'name'>,
) => ({
  sender_name: sender?.name || senderName || name,
  postal_address: postalAddress.split(/\s*\n\s*/).filter(Boolean).join(', '),
})
