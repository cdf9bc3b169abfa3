/** Sending a broadcast a second time, to those who missed it and to nobody else. */
import type { Condition } from '#core/audience/condition'
import type { Line } from '#core/message/content'
import type { SendOf } from '#core/sending/kinds'
import { addDays, localOf, type Instant, type ZoneName } from '#core/time/zone'
import type { BroadcastWhen } from './when'

/** What those lack who get it again. */
export const AGAIN_WITHOUT = ['open', 'click', 'link', 'click-after-open', 'purchase'] as const
export type AgainWithout = typeof AGAIN_WITHOUT[number]

export interface AgainSpec {
  without: AgainWithout
  /** Of the link that was not followed; null for any other lack. */
  url: string | null
  subject: Line
  /** Also those whose mail program opens everything, so that nobody knows. */
  uncertainToo: boolean
}

/** Planned together with the first: so many calendar days after it, at the same time. */
export interface PlannedAgain extends AgainSpec { afterDays: number }

export const MOST_AFTER_DAYS = 30
export const newPlannedAgain = (subject: Line): PlannedAgain => ({ afterDays: 3, without: 'open', url: null, subject, uncertainToo: false })

export const AGAIN_WORDS: Record<AgainWithout, string> = {
  'open': 'have not opened it', 'click': 'have not clicked in it', 'link': 'have not clicked one link',
  'click-after-open': 'opened it and clicked nothing', 'purchase': 'clicked and did not buy',
}

/** Which of the second sendings of a broadcast: the planned one, or the n-th by hand. */
export const secondSendingOf = (broadcastId: number, itemId: string): SendOf & { kind: 'again' } =>
  ({ kind: 'again', ownerId: broadcastId, itemId })
export const PLANNED_ITEM = 'planned'

type EmailFateOf = Extract<Condition, { kind: 'email' }>['fate']

/** Somebody of its readers, by what they did with it. */
export const readerOf = (broadcastId: number, fate: EmailFateOf, url: string | null = null): Condition => ({
  kind: 'email', fate, which: { kind: 'broadcast', ownerId: broadcastId, itemId: null }, within: null, times: 1, url,
})

const none = (...of: Condition[]): Condition => ({ kind: 'none', of })

/**
 * Who gets it again: they were sent it, lack what is asked, and have been sent no other second one. Asked when it begins and again before
 * each email leaves. `sells`: the offers that the email sells, any purchase where it sells none; `sentAt`: when the first began.
 */
export function whoGetsAgain(
  broadcastId: number, { without, url, uncertainToo }: Omit<AgainSpec, 'subject'>,
  { sells, sentAt }: { sells: readonly number[], sentAt: Instant },
): Condition {
  const [opened, clicked] = [readerOf(broadcastId, 'opened'), readerOf(broadcastId, 'clicked')]
  const bought = (offerId: number | null): Condition =>
    ({ kind: 'purchase', fate: 'bought', offerId, within: { kind: 'since', at: sentAt }, times: 1 })
  const lacks: Record<AgainWithout, Condition[]> = {
    'open': [none(opened, clicked, ...uncertainToo ? [] : [readerOf(broadcastId, 'maybe-opened')])],
    'click': [none(clicked)],
    'link': [none(readerOf(broadcastId, 'clicked', url))],
    'click-after-open': [opened, none(clicked)],
    'purchase': [clicked, none(...sells.length === 0 ? [bought(null)] : sells.map(bought))],
  }
  const another: Condition = {
    kind: 'email', fate: 'sent', which: { kind: 'again', ownerId: broadcastId, itemId: null }, within: null, times: 1, url: null,
  }
  return { kind: 'all', of: [readerOf(broadcastId, 'sent'), ...lacks[without], none(another)] }
}

/** When a planned second one goes: so many days after, at the same time of the same clocks. */
export function whenAgain(
  when: BroadcastWhen, afterDays: number, firstAt: Instant, zone: ZoneName
): Extract<BroadcastWhen, { kind: 'at' }> {
  const at = when.kind === 'at' ? when : { ...localOf(firstAt, zone), zone: 'workspace' as const }
  return { kind: 'at', date: addDays(at.date, afterDays), time: at.time, zone: at.zone }
}

/* The four groups of a sent email */

export const GROUPS = ['opened', 'not-opened', 'clicked', 'not-clicked'] as const
export type Group = typeof GROUPS[number]
export const GROUP_WORDS: Record<Group, string> = {
  'opened': 'opened', 'not-opened': 'neither opened nor clicked', 'clicked': 'clicked', 'not-clicked': 'not clicked',
}

export function groupOf(broadcastId: number, group: Group): Condition {
  const of: Record<Group, Condition> = {
    'opened': readerOf(broadcastId, 'opened'), 'clicked': readerOf(broadcastId, 'clicked'),
    'not-opened': none(readerOf(broadcastId, 'opened'), readerOf(broadcastId, 'clicked')),
    'not-clicked': none(readerOf(broadcastId, 'clicked')),
  }
  return { kind: 'all', of: [readerOf(broadcastId, 'sent'), of[group]] }
}
