/** The senders of a workspace, and what their domains publish. */
import { isFreeMailbox } from '#core/people/address'
import { dkimRecord, dmarcRecord, mailDomainOf, remarksOn, signs, type MailDomain } from '#core/senders/mailDomain'
import type { DomainLine, SendersView } from '#core/views/senders'
import { waitingForSenders } from '#data/outbox'
import { allSenders, defaultSenderId, findMailDomain, marksOfSender } from '#data/senders'
import type { WorkspaceContext } from '../context'

export function sendersView({ db }: WorkspaceContext): SendersView {
  const defaultId = defaultSenderId(db)
  const senders = allSenders(db).filter(({ address }) => address !== '')
    .map(({ code: _, codeTries: __, ...sender }) => ({
      ...sender, isDefault: sender.id === defaultId, domain: mailDomainOf(sender.address),
      listIds: marksOfSender(db, 'lists', sender.id), tagIds: marksOfSender(db, 'tags', sender.id),
    }))
  return {
    senders: senders.sort((a, b) => Number(b.isDefault) - Number(a.isDefault)),
    domains: [...new Set(senders.map(({ domain }) => domain))].map(domain => domainLine(findMailDomain(db, domain))),
    waiting: waitingForSenders(db),
  }
}

export function domainLine(domain: MailDomain): DomainLine {
  const { key, published } = domain
  const isFree = isFreeMailbox(`x@${domain.domain}`)
  return {
    ...domain, isSigned: signs(domain), remarks: remarksOn(domain, isFree),
    records: isFree ? [] : [
      ...key ? [{ ...dkimRecord({ domain: domain.domain, key }), what: 'The key that signs your emails (DKIM)', isThere: signs(domain) }] : [],
      ...published !== null && published.dmarc === null
        ? [{ ...dmarcRecord(domain.domain), what: 'What receivers do with mail that is not yours (DMARC)', isThere: false }]
        : [],
    ],
  }
}
