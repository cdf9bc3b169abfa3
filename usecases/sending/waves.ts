/** Several refusals alike are not about the people refused: sending stops, to all or to one domain, and nobody is blamed. */
import { domainOf } from '#core/message/headers'
import { waveOf } from '#core/sending/wave'
import type { Instant } from '#core/time/zone'
import { answersFor, isStopped, markAnswersUndone, refusedIn, resumeDomain, stopDomain, waveRule } from '#data/carrier'
import { appendEvent } from '#data/events'
import { findEmail, type OutboxRow } from '#data/outbox'
import { releaseDomain, setRefusedAside } from '#data/outboxAside'
import { findPerson } from '#data/people'
import { stopCarrier, workspaceOf } from '#data/workspace'
import type { EngineContext, WorkspaceContext } from '../context'
import { setAsBefore } from '../inner/actions/asBefore'
import { transact } from '../inner/reactor/transaction'
import { NotThere } from '../problem'

/** Looks whether the last refusal makes a wave; if so, stops and takes back what the wave did. In the caller's transaction. */
export function findWave(context: EngineContext, row: OutboxRow, at: Instant): void {
  const { db } = context
  const domain = domainOf(findPerson(db, row.personId)!.address)
  const rule = waveRule(db)
  const wave = waveOf(answersFor(db, domain, at, rule), rule)
  if (!wave) return
  const refused = refusedIn(db, wave.ids)
  const said = findEmail(db, row.id)!.reason
  const words = `${refused.length} emails in a row were refused for the same reason, last with: ${said}`
  const causeId = wave.kind === 'carrier' ? stopAll(context, row, words, at) : stopOne(context, row, wave.domain, words, at)
  for (const { personId, before } of refused) {
    // Refused meanwhile by a choice of their own, or merged: they stay as they are.
    if (before && personId !== null && findPerson(db, personId)?.status === 'bounced') {
      setAsBefore(db, personId, before, { at, causeId: appendEvent(db, 'bounce-undone', at, { personId, causeId }) })
    }
  }
  markAnswersUndone(db, wave.ids)
  setRefusedAside(db, refused.map(({ outboxId }) => outboxId), wave.kind === 'carrier' ? 'carrier stopped' : 'domain stopped')
}

function stopAll({ db }: EngineContext, row: OutboxRow, words: string, at: Instant): number {
  if (workspaceOf(db).carrierState === 'ready') stopCarrier(db, words, at)
  return appendEvent(db, 'carrier-stopped', at, { outboxId: row.id, detail: 'wave' })
}

function stopOne({ db }: EngineContext, row: OutboxRow, domain: string, words: string, at: Instant): number {
  if (!isStopped(db, domain)) stopDomain(db, { domain, reason: words, sinceAt: at })
  return appendEvent(db, 'domain-stopped', at, { outboxId: row.id })
}

/** What waits for that domain goes again. */
export function resumeDomainSending(context: WorkspaceContext, domain: string): void {
  transact(context, () => {
    if (!resumeDomain(context.db, domain)) throw new NotThere('Nothing is stopped for this domain.')
    const at = context.clock.now()
    releaseDomain(context.db, domain, at)
    appendEvent(context.db, 'domain-resumed', at)
  })
  context.wake()
}
