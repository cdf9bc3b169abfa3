/** Why someone got an email, or did not: in words, from what stands in the books. */
import { sayHeldBack, type HeldBackReason } from '#core/sending/reasons'
import type { Instant } from '#core/time/zone'

export interface WhyFacts {
  /** The list that the course belongs to; null while it has none. */
  listName: string | null
  courseName: string
  emailTitle: string
  /** What became of the email for them, the latest first; empty if it was never decided. */
  emails: { status: string, plannedAt: Instant, handedOverAt: Instant | null, reason: string | null }[]
  /** Their journeys through the course, the latest first. */
  journeys: {
    status: 'open' | 'finished' | 'left', joinedAt: Instant, endedAt: Instant | null, standsBefore: string | null, dueAt: Instant | null,
    standsStill: boolean, isAhead: boolean,
  }[]
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

/** What became of an email that was decided for somebody, whatever it comes of. */
export type Decided = WhyFacts['emails'][number]

/** Of one that is not of a course: it was decided, or it was not. `notDecided` says why it was not. */
export function whyOfOne(
  facts: Pick<WhyFacts, 'emails' | 'listName' | 'waitsBecause' | 'heldBackNow'> & { notDecided: string }, say: (at: Instant) => string,
): string[] {
  const [email] = facts.emails
  return email ? became(email, facts, say) : [facts.notDecided, ...thenHeldBack(facts)]
}

const thenHeldBack = ({ heldBackNow, listName }: Pick<WhyFacts, 'heldBackNow' | 'listName'>): string[] =>
  heldBackNow ? [`Right now it would be held back then:  ${sayHeldBack(heldBackNow, listName)}.`] : []

/** `since`: what it came of, where there is something to tell; `history`: what ended or moved it. */
function became(
  email: Decided, facts: Pick<WhyFacts, 'listName' | 'waitsBecause' | 'heldBackNow'>, say: (at: Instant) => string, since: string[] = [],
  history: string[] = [],
): string[] {
  switch (email.status) {
    case 'handed over':
    case 'may have arrived': return [`It was sent ${say(email.handedOverAt!)}.`, ...since]
    case 'held back': return [`It was held back: ${sayHeldBack(email.reason, facts.listName)}.`, ...since, ...history]
    case 'withdrawn': return [`It was withdrawn before sending: ${sayHeldBack(email.reason, facts.listName)}.`, ...since, ...history]
    case 'failed': return [`It could not be sent: ${email.reason ?? 'the mail server refused it'}.`, ...since]
    default: return [
      facts.waitsBecause ? `It waits: ${facts.waitsBecause}.` : `It is scheduled for ${say(email.plannedAt)}.`, ...since,
      ...thenHeldBack(facts),
    ]
  }
}

/** The first sentence answers; the others say what it rests on. `say` puts an instant into words. */
export function whyOrWhyNot(facts: WhyFacts, say: (at: Instant) => string): string[] {
  const { courseName, emailTitle, emails: [email], journeys: [journey], told } = facts
  const asThingsStand = thenHeldBack(facts)
  const history = told.map(one => `${say(one.at)}: ${one.words}.`)
  if (email) {
    const joined = journey ? [`They joined ${courseName} ${say(journey.joinedAt)}, and it was planned for ${say(email.plannedAt)}.`] : []
    const answer = became(email, facts, say, joined, history)
    const isSent = email.handedOverAt !== null
    return isSent && facts.emails.length > 1
      ? [
        ...answer, `In all it was decided ${facts.emails.length} times: once in each journey, and each time it was to be sent again.`,
      ] : answer
  }
  if (!facts.courseRuns) return [`Nobody got it: ${courseName} was not started yet.`]
  if (!facts.emailRuns) return [`Nobody gets it now: ${emailTitle} is not in what runs of ${courseName}.`]
  if (!journey) {
    return [
      `They are not in ${courseName} and never were.`,
      facts.waysIn.length > 0
        ? `It starts with the tag ${facts.waysIn.join(' or ')}, which they have not got since it was started.`
        : 'It has no way in. People join only by hand.',
      ...history,
    ]
  }
  if (journey.status === 'open') {
    return journey.isAhead
      ? [
          `Not yet: they are waiting for ${journey.standsBefore}, ${whenDue(journey, say)}.`,
          ...journey.standsStill ? [`The course continues from there later: ${facts.waitsBecause ?? 'you paused them in it'}.`] : [],
          ...journey.standsBefore === emailTitle ? [] : [`${emailTitle} comes after it.`], ...asThingsStand,
        ]
      : [
        `They were past it when it was added, or its time had passed: they are already waiting for ${journey.standsBefore}.`,
        ...history,
      ]
  }
  return journey.status === 'left'
    ? [`They left ${courseName} ${say(journey.endedAt!)}, before it was due.`, ...history]
    : [`They had finished ${courseName} ${say(journey.endedAt!)}, before it was added, or its time had passed.`, ...history]
}

function whenDue(
  { standsStill, dueAt }: Pick<WhyFacts['journeys'][number], 'standsStill' | 'dueAt'>, say: (at: Instant) => string,
): string {
  return standsStill ? 'and nothing happens for now' : dueAt === null ? 'which is still empty' : `due ${say(dueAt)}`
}
