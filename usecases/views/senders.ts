/** The senders of a workspace, and what their domains publish. */
import { isFreeMailbox } from '#core/people/address'
import { dkimRecord, dmarcRecord, mailDomainOf, remarksOn, signs, type MailDomain } from '#core/senders/mailDomain'
import { mostOn } from '#core/sending/warmUp'
import { addDays, dayNumber, localOf, type LocalDate } from '#core/time/zone'
import type { DomainLine, SendersView, WarmUpLine } from '#core/views/senders'
import type { Database } from '#data/connection'
import { waitingForSenders } from '#data/outboxAside'
import { allSenders, defaultSenderId, findMailDomain, marksOfSender } from '#data/senders'
import { sentByDay, waitingForPlans, warmUpOf } from '#data/warmUp'
import { workspaceOf } from '#data/workspace'
import type { WorkspaceContext } from '../context'

export function sendersView({ db, clock }: WorkspaceContext): SendersView {
  const { date: today } = localOf(clock.now(), workspaceOf(db).zone)
  const defaultId = defaultSenderId(db)
  const senders = allSenders(db).filter(({ address }) => address !== '')
    .map(({ code: _, codeTries: __, ...sender }) => ({
      ...sender, isDefault: sender.id === defaultId, domain: mailDomainOf(sender.address),
      listIds: marksOfSender(db, 'lists', sender.id), tagIds: marksOfSender(db, 'tags', sender.id),
      warmUp: warmUpLine(db, sender.id, today),
    }))
  return {
    senders: senders.sort((a, b) => Number(b.isDefault) - Number(a.isDefault)),
    domains: [...new Set(senders.map(({ domain }) => domain))].map(domain => domainLine(findMailDomain(db, domain))),
    waiting: waitingForSenders(db), waitingForPlans: waitingForPlans(db),
  }
}

/** Days on which nothing left are among them. */
function warmUpLine(db: Database, senderId: number, today: LocalDate): WarmUpLine | null {
  const plan = warmUpOf(db, senderId)
  if (!plan) return null
  const left = new Map(sentByDay(db, senderId, plan.startedOn).map(({ date, sent }) => [date, sent]))
  const days = dayNumber(today) - dayNumber(plan.startedOn) + 1
  const dates = Array.from({ length: Math.max(1, days) }, (_, n) => addDays(plan.startedOn, n))
  const sent = dates.map(date => ({ date, sent: left.get(date) ?? 0 }))
  return { ...plan, sent, most: mostOn(plan, sent, today) }
}

export function domainLine(domain: MailDomain): DomainLine {
  const { key, published } = domain
  const isFree = isFreeMailbox(`x@${domain.domain}`)
  return {
    ...domain, isSigned: signs(domain), remarks: remarksOn(domain, isFree),
    records: isFree ? [] : [
      ...key ? [
        { ...dkimRecord({ domain: domain.domain, key }), what: 'The key that signs your emails (DKIM)', isThere: signs(domain) },
      ] : [],
      ...published !== null && published.dmarc === null
        ? [{ ...dmarcRecord(domain.domain), what: 'What receivers do with mail that is not yours (DMARC)', isThere: false }]
        : [],
    ],
  }
}
