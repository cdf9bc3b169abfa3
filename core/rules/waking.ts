/** Which rules an event wakes, whether each may act, and how far what comes of one event may spread. */
import type { EventKind } from '#core/events'
import type { FieldValue } from '#core/people/field'
import { isOfSend, type SendOf } from '#core/sending/kinds'
import { DAY, HOUR, type Instant } from '#core/time/zone'
import type { Rule, Trigger } from './rule'
import { TRIGGERS } from './rule'

/** An event about a person, with what a rule can ask of it. What does not apply is null. */
export interface RuleEvent {
  kind: EventKind
  pageId: number | null
  listId: number | null
  /** The tag, and the one with blanks that it was filled in from. */
  tagIds: number[]
  courseId: number | null
  stepId: string | null
  /** The email that was handed over, opened or clicked in; null of events about none, and of one that nobody was sent. */
  send: SendOf | null
  linkId: number | null
  fieldId: number | null
  /** Of a changed field. */
  from: FieldValue | null
  to: FieldValue | null
  offerId: number | null
  segmentId: number | null
  hookId: number | null
  /** What the event says besides: a judgement, a reason, a number of days. */
  detail: string | null
  /** Of a to-do: what it says. */
  text: string | null
}

/** Rules by the kind of event that wakes them, in their order. */
export type RuleIndex = ReadonlyMap<EventKind, readonly Rule[]>

export function indexRules(rules: readonly Rule[]): RuleIndex {
  const index = new Map<EventKind, Rule[]>()
  for (const rule of rules) index.set(rule.when.kind, [...index.get(rule.when.kind) ?? [], rule])
  return index
}

/** The rules that a happening wakes, in their order; whom they apply to is asked after. */
export function wokenBy(index: RuleIndex, happening: RuleEvent): Rule[] {
  return (index.get(happening.kind) ?? []).filter(({ when }) => matches(when, happening))
}

export function matches(when: Trigger, happening: RuleEvent): boolean {
  if (when.kind !== happening.kind || !isAboutIt(when, happening)) return false
  switch (when.kind) {
    // Machines open and follow things, too: only readers wake a rule.
    case 'clicked':
    case 'visited-page':
      return happening.detail === 'reader' && (!when.stepId || when.stepId === happening.stepId)
    case 'opened':
      return happening.detail === 'reader' && isOfIt(when, happening)
    case 'sent':
      return isOfIt(when, happening)
    case 'lost-tag':
      return !when.expired || happening.detail === 'expired'
    case 'field-changed':
      return isSaid(when.from, happening.from) && isSaid(when.to, happening.to)
    case 'became-silent':
      return happening.detail === String(when.days)
    case 'date-arrived':
      return happening.detail === dateDetail(when)
    case 'reached-score':
      return happening.detail === String(when.points)
    case 'todo-done':
      return !when.text || when.text === happening.text
    default:
      return true
  }
}

/** How the event of a date says which of a field's dates it is. */
export const dateDetail = ({ days = 0, yearly = false }: Pick<Trigger, 'days' | 'yearly'>): string => `${days}${yearly ? ' yearly' : ''}`

const isOfIt = ({ which }: Trigger, { send }: RuleEvent): boolean => !which || (send !== null && isOfSend(which, send))

const isSaid = (wanted: FieldValue | null | undefined, said: FieldValue | null) =>
  wanted === null || wanted === undefined || (said !== null && String(wanted) === String(said))

function isAboutIt({ kind, thingId }: Trigger, happening: RuleEvent): boolean {
  if (thingId === null) return true
  switch (TRIGGERS[kind].thing) {
    case 'page': return happening.pageId === thingId
    case 'list': return happening.listId === thingId
    case 'tag': return happening.tagIds.includes(thingId)
    case 'field': return happening.fieldId === thingId
    case 'link': return happening.linkId === thingId
    case 'course': return happening.courseId === thingId
    case 'offer': return happening.offerId === thingId
    case 'segment': return happening.segmentId === thingId
    case 'part':
    case 'broadcast': return false
    case 'hookIn': return happening.hookId === thingId
    // Nothing that happens is about an address we call, or a rule.
    case 'hookOut':
    case 'rule': return false
    case null: return true
  }
}

/* How often, and how far */

/** A chain of rules goes so deep and no deeper. */
export const DEEPEST_CHAIN = 20

export interface Before {
  /** How many rules lie between the root event and this one. */
  depth: number
  /** It has acted on this person already, of the same root event. */
  sameRoot: boolean
  /** When it last acted on this person; null for never. */
  lastAt: Instant | null
}

export type Permission = 'acts' | 'circle' | 'too-deep' | 'acted-once' | 'too-soon'

/** From one root event each rule acts at most once per person. `at`: of the event that wakes it. */
export function mayAct({ often }: Pick<Rule, 'often'>, { depth, sameRoot, lastAt }: Before, at: Instant): Permission {
  if (sameRoot) return 'circle'
  if (often.kind === 'once' && lastAt !== null) return 'acted-once'
  if (often.kind === 'every' && lastAt !== null && at - lastAt < often.days * DAY) return 'too-soon'
  return depth >= DEEPEST_CHAIN ? 'too-deep' : 'acts'
}

/** What somebody does, and what time or the outside brings, begins a story of its own. */
const BEGINS: ReadonlySet<EventKind> = new Set<EventKind>([
  'opted-in', 'confirmed', 'not-confirmed', 'file-fetched', 'opened', 'clicked', 'replied', 'unsubscribed', 'bounced', 'changed-choices',
  'paused', 'pause-ended', 'took-back', 'asked-other-address', 'address-changed',
  'checkout-started', 'checkout-abandoned', 'bought', 'renewed', 'payment-refused', 'refunded', 'disputed', 'purchase-ended', 'imported',
  'hook-called', 'todo-done', 'todo-reopened', 'not-clicked', 'became-silent', 'task-begun',
  'waits-for-offer', 'opening-told',
])

/** What an event is to its cause, for telling one story from the next. */
export interface Link { kind: EventKind, at: Instant, detail: string | null }

/** True if an event belongs to the same story as its cause: it came of it at once, by nobody's doing. */
export function goesOn(event: Link, cause: Link): boolean {
  if (BEGINS.has(event.kind)) return false
  if (event.kind === 'lost-tag') return event.detail !== 'expired'
  // An email of a course comes in the course's own time; one that a rule sends comes of the rule.
  if (event.kind === 'sent') return event.detail === 'by-rule'
  if (event.kind === 'finished-course' || event.kind === 'skipped-step' || event.kind === 'did-step') return event.at - cause.at < HOUR
  return true
}

/** Money is told of late: rules act when we learn of it. Everything else counts from when it happened, as after an outage. */
export function actsAt({ kind, at }: Pick<Link, 'kind' | 'at'>, now: Instant): Instant {
  return kind === 'bought' || kind === 'renewed' || kind === 'refunded' ? now : at
}
