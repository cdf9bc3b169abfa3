/** What is done when something is due: one entry for each kind of data/due.ts, whose work stands beside its feature. */
import type { Instant } from '#core/time/zone'
import { nextDue, type DueKind } from '#data/due'
import { clicksToSettle } from '#data/reading'
import type { EngineContext } from '../context'
import { abandonDueCheckouts } from '../offers/checkout'
import { endDuePurchases } from '../offers/end'
import { tellWhoWaits } from '../offers/openings'
import { settleDueClick } from '../reading/click'
import { beginDueSends } from '../sending/audience'
import { handOverDue } from '../sending/handOver'
import { gatherNotices } from '../sending/ownerMail'
import { queueSummary } from '../sending/weeklySummary'
import { callOut } from './callOut'
import { checkDueDomains } from '../settings/mailDomains'
import { checkLinks } from './checkLinks'
import { sendDueConfirmationRequests } from './confirmationRequests'
import { doDueSteps, doDueTimeouts, expireTags } from './dueStep'
import { endDuePauses } from './pauses'
import { letReadersAct } from './readersAct'
import { letDueIn } from './scheduledEntries'
import { reevaluateByTime, reevaluatePeople } from './segmentQueue'

/** What the database alone decides: done at once, in the caller's transaction or one of its own. */
interface Within {
  does(context: EngineContext, at: Instant): unknown
  outside?: never
}

/** What needs the outside, which answers in its own time. False if nothing of it could be done now. */
interface Outside {
  does(context: EngineContext, at: Instant): Promise<boolean>
  outside: true
}

export type DueWork = (Within | Outside) & {
  /** As the engine room lists it; null for what is seldom and quick. */
  name: string | null
  /** Waits while a background job is under way: it would be done again after each bit of that. */
  afterJobs?: true
}

/** Emails claimed at a time in practice, where they leave one after another. */
const PRACTICE_CLAIM = 50

/** Whatever it came to, it was done. */
const always = (_: unknown): boolean => true

export const DUE_WORK: Record<DueKind, DueWork> = {
  payment: { name: null, outside: true, does: async (context, at) => always(await context.tellDuePayments?.(at)) },
  purchase: { name: null, does: endDuePurchases },
  checkout: { name: null, does: abandonDueCheckouts },
  opening: { name: null, does: tellWhoWaits },
  send: { name: null, does: beginDueSends },
  pause: { name: null, does: endDuePauses },
  entry: { name: 'People joining courses', does: letDueIn },
  step: { name: 'Course steps', does: doDueSteps },
  confirmation: { name: 'Confirmation requests', does: sendDueConfirmationRequests },
  click: {
    name: 'Clicks to judge', does(context, at) {
      for (const click of clicksToSettle(context.db, at, 200)) settleDueClick(context, click)
    },
  },
  timeout: { name: 'Follow-up deadlines', does: doDueTimeouts },
  expiry: { name: 'Expiring tags', does: expireTags },
  notice: { name: null, does: gatherNotices },
  summary: { name: null, does: queueSummary },
  email: {
    name: 'Emails to send', outside: true, does: async (context, at) =>
      await handOverDue(context, at, context.mode === 'practice' ? PRACTICE_CLAIM : context.carrier.width * 2) > 0
        || !isStillDue(context, 'email', at),
  },
  call: { name: 'Webhook calls', outside: true, does: async (context, at) => always(await callOut(context, at)) },
  reader: { name: 'Simulated readers', does: letReadersAct },
  domain: { name: null, outside: true, does: async (context, at) => always(await checkDueDomains(context, at)) },
  link: { name: null, outside: true, does: async (context, at) => always(await checkLinks(context, at)) },
  segment: { name: 'Segment updates', afterJobs: true, does: reevaluatePeople },
  reevaluation: { name: null, afterJobs: true, does: reevaluateByTime },
}

/** Whether that is what is due next, as it was before. */
function isStillDue(context: EngineContext, kind: DueKind, at: Instant): boolean {
  const due = nextDue(context.db, [kind])
  return due !== null && due.at <= at
}
