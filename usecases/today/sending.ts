/** What needs attention about sending: the engine, the mail server, and emails that did not go as they should. */
import { endDot, sayLength, sayMoment } from '#core/time/say'
import { DAY, SECOND, type Instant } from '#core/time/zone'
import type { Notice } from '#core/views/today'
import { slowedTo, stoppedDomains } from '#data/carrier'
import { pausingDomains } from '#data/domainPace'
import { openReplanning } from '#data/replannings'
import { troublesSince } from '#data/troubles'
import { outboxTroubles, type OutboxTrouble } from '#data/outbox'
import { waitingForSenders } from '#data/outboxAside'
import { allSenders } from '#data/senders'
import { waitingForPlans } from '#data/warmUp'
import { heartbeatOf, workspaceOf } from '#data/workspace'
import type { WorkspaceContext } from '../context'
import { lateness, TOO_LATE } from '../views/lateness'
import { sayNumber, saySome } from '#core/stats/say'

/** An engine beats every second. */
const SILENCE = 30 * SECOND

export function engineNotices(context: WorkspaceContext, now: Instant, systemNow: Instant | null): Notice[] {
  const { db, mode } = context
  const { zone } = workspaceOf(db)
  const list: Notice[] = []
  const beat = heartbeatOf(db, 'engine')
  if (systemNow !== null && (!beat || systemNow - beat.seenAt > SILENCE)) {
    list.push({
      tone: 'trouble', title: 'The engine is not running',
      text: `${beat ? `It was last seen ${sayMoment(beat.seenAt, zone)}` : 'It was never seen'}. Nothing is sent meanwhile, and nothing is lost. The log says why it stopped.`,
      to: '/engine', action: 'Open the engine room',
    })
  }
  const late = mode === 'live' ? lateness(db, now) : 0
  if (late > TOO_LATE) list.push({
    tone: 'trouble', title: 'The engine is behind',
    text: `What was due ${sayLength(late)} ago is not done yet. It works through it in order.`,
    to: '/engine', action: 'Open the engine room',
  })
  if (systemNow !== null) {
    for (const { said, at, overAt, times } of troublesSince(db, systemNow - DAY)) {
      list.push({
        tone: 'trouble', title: 'The engine could not work for a while',
        text: `${endDot(said)} ${times > 1 ? `${times} times since yesterday, the last` : 'It was'} ${sayMoment(at, zone)}${overAt === null ? '' : `, for ${sayLength(overAt - at)}`}.`,
        to: '/engine', action: 'Open the engine room',
      })
    }
  }
  const replanning = openReplanning(db)
  if (replanning) list.push({
    tone: 'plain', title: 'Unsent steps are being rescheduled',
    text: `${saySome(replanning.done, 'journey is', 'journeys are')} done of ${sayNumber(replanning.total)}, because the ${replanning.why === 'zone' ? 'time zone' : 'sending hours'} changed.`,
    to: '/engine', action: 'Open the engine room',
  })
  return list
}

export function carrierNotices({ db }: WorkspaceContext, now: Instant): Notice[] {
  const list: Notice[] = []
  const { carrierState, carrierReason, carrierPauseUntilAt } = workspaceOf(db)
  const slowed = slowedTo(db)
  if (carrierState === 'stopped') {
    list.push({
      tone: 'trouble', title: 'Sending has stopped',
      text: `The mail server refuses our emails: ${endDot(carrierReason)} Nothing is lost; it waits.`,
      to: '/settings', action: 'Check the mail server',
    })
  }
  else if (carrierPauseUntilAt !== null && carrierPauseUntilAt > now && !slowed) {
    list.push({
      tone: 'trouble', title: 'The mail server cannot be reached', text: `${endDot(carrierReason)} It is tried again automatically.`,
      to: '/settings', action: 'Check the mail server',
    })
  }
  if (slowed) {
    list.push({
      tone: 'plain', title: 'The mail server asked us to slow down',
      text: `“${slowed.said}”. ${slowed.to === 1 ? 'One email goes' : `${slowed.to} emails go`} at a time for now; more when it `
        + 'goes well.',
      to: '/settings', action: 'Check the mail server',
    })
  }
  for (const { domain, reason, waiting } of stoppedDomains(db)) {
    list.push({
      tone: 'trouble', title: `Sending to ${domain} has stopped`,
      text: `${endDot(reason)} ${saySome(waiting, 'email waits', 'emails wait')}.`, to: '/settings', action: 'Check the mail server',
    })
  }
  return list
}

/** Domains that put us off, and what waits for another day by the plan of a new sender. */
export function turnNotices({ db }: WorkspaceContext, now: Instant): Notice[] {
  const { zone } = workspaceOf(db)
  const waiting = waitingForPlans(db)
  return [
    ...pausingDomains(db, now).map(({ domain, untilAt, said, waiting }): Notice => ({
      tone: 'plain', title: `${domain} asks us to wait`,
      text: `“${endDot(said)}” We try again on ${sayMoment(untilAt, zone)}.${waiting > 0 ? ` ${saySome(waiting, 'email waits', 'emails wait')} for that.` : ''}`,
      to: '/settings', action: 'Check the mail server',
    })),
    ...waiting > 0 ? [{
      tone: 'plain', title: `${saySome(waiting, 'email waits', 'emails wait')} for another day`,
      text: 'The warm-up of their sender has no room left on the day they were planned for.', to: '/senders', action: 'See the warm-up',
    } satisfies Notice] : [],
  ]
}

export function senderNotices({ db }: WorkspaceContext): Notice[] {
  const waiting = waitingForSenders(db)
  const waits = waiting > 0 ? ` ${saySome(waiting, 'email waits', 'emails wait')} for that.` : ''
  return allSenders(db).flatMap(({ id, address, confirmedAt, stoppedReason }): Notice[] => {
    const to = `/senders?at=sender-${id}`
    if (address === '') return []
    if (confirmedAt === null) return [{
      tone: waiting > 0 ? 'trouble' : 'plain', title: `Confirm ${address}`,
      text: `A code was sent there. Nothing leaves from it before.${waits}`,
      to, action: 'Type the code',
    }]
    return stoppedReason === null ? [] : [{
      tone: 'trouble', title: `Sending from ${address} has stopped`,
      text: `Its mail service refuses our emails: ${endDot(stoppedReason)} Nothing is lost.${waits}`, to, action: 'Check the mail service',
    }]
  })
}

export function mailNotices({ db }: WorkspaceContext, now: Instant): Notice[] {
  const troubles = outboxTroubles(db, now - 7 * DAY)
  const about = (trouble: OutboxTrouble, tone: Notice['tone'], title: string, text: string): Notice[] => {
    const { emails, people } = troubles[trouble]
    const to = `/subscribers?trouble=${trouble}`
    return emails === 0 ? [] : [{ tone, title, text, to, action: 'See the people', people: { count: people, to } }]
  }
  const { givenUp, waitingAgain, repeated, heldBack } = troubles
  return [
    ...about(
      'givenUp', 'trouble', `${saySome(givenUp.emails, 'email', 'emails')} failed this week`, 'Refused for good, or tried for three days.',
    ),
    ...about(
      'waitingAgain', 'plain', `${saySome(waitingAgain.emails, 'email is', 'emails are')} waiting for another try`,
      'It could not be sent the first time and is tried again automatically.',
    ),
    ...about(
      'repeated', 'plain', `${saySome(repeated.people, 'person', 'people')} may have got an email twice`,
      'The connection broke while sending.',
    ),
    ...about(
      'heldBack', 'plain', `${saySome(heldBack.emails, 'email was', 'emails were')} held back this week`,
      'Each has its reason on the subscriber’s page.',
    ),
  ]
}
