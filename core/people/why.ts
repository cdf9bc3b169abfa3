/** Why someone got an email, or did not: in words, from what stands in the books. */
import { sayHeldBack, type HeldBackReason } from './heldback'
import type { Instant } from '#core/time/zone'

export interface WhyFacts {
  /** The list that the course belongs to; null while it has none. */
  listName: string | null
  courseName: string
  emailTitle: string
  /** What became of the email for them, the latest first; empty if it was never decided. */
  emails: { status: string, plannedAt: Instant, handedOverAt: Instant | null, reason: string | null }[]
  /** Their journeys through the course, the latest first. */
  journeys: { status: 'open' | 'finished' | 'left', joinedAt: Instant, endedAt: Instant | null, standsBefore: string | null, dueAt: Instant | null, standsStill: boolean, isAhead: boolean }[]
  /** Why nothing moves for them just now, in words; null where it does. */
  waitsBecause: string | null
  /** Why journeys ended and ways in did nothing, the latest first, in words. */
  told: { at: Instant, words: string }[]
  courseRuns: boolean
  /** False for an email that is not in what runs. */
  emailRuns: boolean
  waysIn: string[]
  /** Why it would be held back if it went now; null if it would not. */
  heldBackNow: HeldBackReason | null
}

/** The first sentence answers; the others say what it rests on. `say` puts an instant into words. */
export function whyOrWhyNot(facts: WhyFacts, say: (at: Instant) => string): string[] {
  const { courseName, emailTitle, emails: [email], journeys: [journey], told } = facts
  const asThingsStand = !facts.heldBackNow ? []
    : [`As things stand it would then be held back: ${sayHeldBack(facts.heldBackNow, facts.listName)}.`]
  const history = told.map(one => `${say(one.at)}: ${one.words}.`)
  if (email) {
    const joined = journey ? [`They joined ${courseName} ${say(journey.joinedAt)}, and it was planned for ${say(email.plannedAt)}.`] : []
    switch (email.status) {
      case 'handed over': return [`They were sent it ${say(email.handedOverAt!)}.`, ...joined, ...facts.emails.length > 1 ? [`In all it was decided ${facts.emails.length} times: once in each journey, and whenever it was to go once more.`] : []]
      case 'held back': return [`It was held back: ${sayHeldBack(email.reason, facts.listName)}.`, ...joined, ...history]
      case 'withdrawn': return [`It was withdrawn before it went: ${sayHeldBack(email.reason, facts.listName)}.`, ...joined, ...history]
      case 'failed': return [`It could not be handed over: ${email.reason ?? 'the mail server did not take it'}.`, ...joined]
      default: return [facts.waitsBecause ? `It waits: ${facts.waitsBecause}.` : `It waits to go ${say(email.plannedAt)}.`, ...joined, ...asThingsStand]
    }
  }
  if (!facts.courseRuns) return [`Nobody has got it: ${courseName} was not started yet.`]
  if (!facts.emailRuns) return [`Nobody gets it now: ${emailTitle} is not in what runs of ${courseName}.`]
  if (!journey) {
    return [
      `They are not in ${courseName} and never were.`,
      facts.waysIn.length > 0 ? `It begins with the tag ${facts.waysIn.join(' or ')}, which they have not got since it was started.` : 'Nothing begins it by itself: nobody comes in except by hand.',
      ...history,
    ]
  }
  if (journey.status === 'open') {
    return journey.isAhead
      ? [
          `Not yet: they stand before ${journey.standsBefore}, ${whenDue(journey, say)}.`,
          ...journey.standsStill ? [`The course continues from there later: ${facts.waitsBecause ?? 'you paused them in it'}.`] : [],
          ...journey.standsBefore === emailTitle ? [] : [`${emailTitle} comes after it.`], ...asThingsStand,
        ]
      : [`They were past it when it came into the course, or its moment was over: they stand before ${journey.standsBefore} already.`, ...history]
  }
  return journey.status === 'left'
    ? [`They left ${courseName} ${say(journey.endedAt!)}, before it was their turn.`, ...history]
    : [`They had come to the end of ${courseName} ${say(journey.endedAt!)}, before it was in it, or its moment was over.`, ...history]
}

function whenDue({ standsStill, dueAt }: Pick<WhyFacts['journeys'][number], 'standsStill' | 'dueAt'>, say: (at: Instant) => string): string {
  return standsStill ? 'and nothing moves for now' : dueAt === null ? 'which is still empty' : `due ${say(dueAt)}`
}
