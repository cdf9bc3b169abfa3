/** The owner's weekly summary: when it is wanted, and that it is due. */
import type { Mail } from '#core/ports'
import { domainOf } from '#core/message/headers'
import { occasionOf } from '#core/sending/occasion'
import { summaryEmail } from '#core/summary/email'
import { nextSummaryAt, type SummaryRule } from '#core/summary/rule'
import type { Instant } from '#core/time/zone'
import type { Database } from '#data/connection'
import { appendEvent } from '#data/events'
import { insertOwnerMail, type OwnerMail } from '#data/outbox'
import { nextSummary, setSummaryRule, summaryRule } from '#data/summary'
import { workspaceOf } from '#data/workspace'
import type { EngineContext, WorkspaceContext } from '../context'
import { transact } from '../inner/reactor/transaction'

export const summaryRuleOf = ({ db }: WorkspaceContext): SummaryRule => summaryRule(db)

export function saveSummaryRule(context: WorkspaceContext, rule: SummaryRule): void {
  transact(context, () => planSummary(context.db, context.clock.now(), rule))
  context.wake()
}

/** Sets when the next one is due: after the rule, or the clock it goes by, has changed. */
export function planSummary(db: Database, now: Instant, rule = summaryRule(db)): void {
  setSummaryRule(db, rule, nextSummaryAt(rule, now, workspaceOf(db).zone))
}

/** After an outage of weeks only the latest week is summed up. */
export function queueSummary(context: EngineContext, dueAt: Instant): void {
  const { db } = context
  transact(context, () => {
    const { zone, senderAddress } = workspaceOf(db)
    const rule = summaryRule(db)
    const now = Math.max(dueAt, context.clock.now())
    let until = nextSummary(db)
    if (until === null || until > dueAt) return
    const after = (at: Instant) => nextSummaryAt(rule, at, zone) ?? Number.POSITIVE_INFINITY
    while (after(until) <= now) until = after(until)
    planSummary(db, until, rule)
    // Without an address there is nobody to write to, and nothing to say in a rehearsal.
    if (senderAddress === '' || context.summaryOf === null) return
    insertOwnerMail(db, {
      kind: 'summary', toAddress: senderAddress, occasion: occasionOf(until), plannedAt: until,
      causeId: appendEvent(db, 'summary-written', context.clock.now()),
    })
  })
}

/** Written as it is handed over, of the week that ended when it was due. */
export function writeSummary(context: EngineContext, { id, toAddress, messageRef, occasion }: OwnerMail): Mail {
  const { senderAddress, name, key } = workspaceOf(context.db)
  const { subject, text, html } = summaryEmail(context.summaryOf!(Number(occasion)), new URL(context.baseUrl).origin)
  return {
    messageId: messageRef ?? `<summary.${id}.${key}@${domainOf(senderAddress)}>`,
    from: { name, address: senderAddress }, to: { name: '', address: toAddress }, subject, text, html,
    headers: { 'Auto-Submitted': 'auto-generated' }, at: context.clock.now(),
  }
}
