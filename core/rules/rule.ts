/** House rules: when something happens to someone, to whom it applies, what is done at once. */
import { kindOf, type WhichSend } from '#core/sending/kinds'
import type { Condition } from '#core/audience/condition'
import { EVERYBODY, leavesOf, type Leaf } from '#core/audience/condition'
import type { EventKind } from '#core/events'
import type { MessageContent } from '#core/message/content'
import type { FieldValue } from '#core/people/field'
import type { Thing, ThingKind } from '#core/things'

/** What a rule can wake on: kinds of events, each about one kind of thing or about none. */
export const TRIGGER_KINDS = [
  'opted-in', 'confirmed', 'imported', 'joined-list', 'came-back', 'hook-called',
  'got-tag', 'lost-tag', 'clicked', 'opened', 'sent', 'visited-page', 'replied', 'field-changed', 'date-arrived', 'enrolled',
  'finished-course', 'entered-segment', 'left-segment', 'reached-score', 'todo-done',
  'bought', 'renewed', 'refunded', 'checkout-abandoned',
  'became-silent', 'left-list', 'left-course', 'bounced',
] as const satisfies readonly EventKind[]
export type TriggerKind = typeof TRIGGER_KINDS[number]

/** The moments of a life with us, in their order: under which of them a rule is listed. */
export const MOMENTS = ['arrives', 'picks', 'buys', 'goes-quiet'] as const
export type MomentName = typeof MOMENTS[number]

/** `any`: it may be left open which thing. `ofSend`: it is about an email, and may ask which. */
export const TRIGGERS: Record<TriggerKind, { moment: MomentName, thing: ThingKind | null, any: boolean, ofSend?: true }> = {
  'opted-in': { moment: 'arrives', thing: 'page', any: true },
  'confirmed': { moment: 'arrives', thing: 'page', any: true },
  'imported': { moment: 'arrives', thing: null, any: true },
  'joined-list': { moment: 'arrives', thing: 'list', any: true },
  'came-back': { moment: 'arrives', thing: null, any: true },
  'hook-called': { moment: 'arrives', thing: 'hookIn', any: false },
  'got-tag': { moment: 'picks', thing: 'tag', any: false },
  'lost-tag': { moment: 'picks', thing: 'tag', any: false },
  'clicked': { moment: 'picks', thing: 'link', any: true },
  'opened': { moment: 'picks', thing: null, any: true, ofSend: true },
  'sent': { moment: 'picks', thing: null, any: true, ofSend: true },
  'visited-page': { moment: 'picks', thing: 'page', any: true },
  'replied': { moment: 'picks', thing: null, any: true },
  'field-changed': { moment: 'picks', thing: 'field', any: false },
  'date-arrived': { moment: 'picks', thing: 'field', any: false },
  'enrolled': { moment: 'picks', thing: 'course', any: true },
  'finished-course': { moment: 'picks', thing: 'course', any: true },
  'entered-segment': { moment: 'picks', thing: 'segment', any: false },
  'left-segment': { moment: 'picks', thing: 'segment', any: false },
  'reached-score': { moment: 'picks', thing: null, any: true },
  'todo-done': { moment: 'picks', thing: null, any: true },
  'bought': { moment: 'buys', thing: 'offer', any: true },
  'renewed': { moment: 'buys', thing: 'offer', any: true },
  'refunded': { moment: 'buys', thing: 'offer', any: true },
  'checkout-abandoned': { moment: 'buys', thing: 'offer', any: true },
  'became-silent': { moment: 'goes-quiet', thing: null, any: true },
  'left-list': { moment: 'goes-quiet', thing: 'list', any: true },
  'left-course': { moment: 'goes-quiet', thing: 'course', any: true },
  'bounced': { moment: 'goes-quiet', thing: null, any: true },
}

export interface Trigger {
  kind: TriggerKind
  /** Number of the page, list, tag ... concerned; null for any, and for kinds about no thing. */
  thingId: number | null
  /** Of *opened* and *sent*: only this email, or those of this owner; left out or null for any. */
  which?: WhichSend | null
  /** Of *clicked*, where a course waits for it: only in this email of its own; left out or null for any. */
  stepId?: string | null
  /** Of *lost a tag*: only because its time was over. */
  expired?: boolean
  /** Of a changed field: what it said before and says now; left out or null for whatever. */
  from?: FieldValue | null
  to?: FieldValue | null
  /** Of silence: so many days (24 hours), 1 to 3,650. Of a date: so many calendar days after it, before it if negative; -366 to 366. */
  days?: number
  /** Of a date: every year. */
  yearly?: boolean
  /** Of a score: at least so many points. */
  points?: number
  /** Of a to-do: only one that says this; left out or empty for any. */
  text?: string
}

export type Action =
  | { kind: 'give-tag' | 'take-tag', tagId: number }
  | { kind: 'join-list' | 'leave-list', listId: number }
  /** Null forgets what was known; `today`: the calendar day it happens on, in the workspace's zone. */
  | { kind: 'set-field', fieldId: number, value: FieldValue | null, today?: boolean }
  /** Points, -1,000 to 1,000. */
  | { kind: 'score', points: number }
  /** Along the written table: nobody who left, bounced or complained is brought back by it. */
  | { kind: 'status', to: 'resting' | 'active' | 'unsubscribed' }
  | { kind: 'enrol' | 'leave-course', courseId: number }
  | { kind: 'no-more', offerId: number }
  /** Onto the waiting list of an offer: their own act, so only a link does it. */
  | { kind: 'wait', offerId: number }
  /** Tells the owner, here and perhaps by email: each by itself, or gathered once a day. */
  | { kind: 'notice', text: string, email: 'no' | 'at-once' | 'daily' }
  /** Due in so many days, 0 to 365; `helper` empty for the owner. */
  | { kind: 'todo', text: string, days: number, helper: string }
  /** One email, once for each event that wakes the rule. `messageId`: its wording as stored; null until the rule is saved. */
  | { kind: 'email', listId: number, content: MessageContent, messageId: number | null }
  | { kind: 'webhook', hookId: number }
export type ActionKind = Action['kind']
/** What a house rule or a course can do. */
export const ACTION_KINDS = [
  'give-tag', 'take-tag', 'join-list', 'leave-list', 'set-field', 'score', 'status', 'enrol', 'leave-course', 'no-more', 'email', 'todo',
  'notice', 'webhook',
] as const satisfies readonly ActionKind[]

/** What a tracked link can do by itself; everything else is a house rule that wakes on it. */
export const LINK_ACTIONS: readonly ActionKind[] = [
  'give-tag', 'take-tag', 'join-list', 'leave-list', 'set-field', 'score', 'enrol', 'leave-course', 'no-more', 'wait',
]

export type Often =
  | { kind: 'each' }
  | { kind: 'once' }
  /** At most every so many days (24 hours), 1 to 3,650. */
  | { kind: 'every', days: number }

export interface RuleInput {
  when: Trigger
  who: Condition
  /** In order, at least one. */
  then: Action[]
  often: Often
  on: boolean
  /** Why it is there, for the owner's own memory. */
  note: string
}

export interface Rule extends RuleInput { id: number }

export const newRule = (when: Trigger, then: Action[] = []): RuleInput => ({
  when, who: EVERYBODY, then, often: { kind: 'each' }, on: true, note: '',
})

/** True if a condition asks nothing. The two-part form of the screen is such a one, too, while both parts are empty. */
export const asksNothing = (who: Condition): boolean =>
  (who.kind === 'all' && who.of.every(asksNothing)) || (who.kind === 'none' && who.of.length === 0)

export const momentOfRule = ({ when }: Pick<RuleInput, 'when'>): MomentName => TRIGGERS[when.kind].moment

/* What a rule is about */

/** Everything a rule names, each once: what wakes it, whom it asks for, what it does. */
export function thingsIn({ when, who, then }: Pick<RuleInput, 'when' | 'who' | 'then'>): Thing[] {
  const { thing } = TRIGGERS[when.kind]
  const all = [
    ...thing !== null && when.thingId !== null ? [{ kind: thing, id: when.thingId }] : [], ...thingsOfSend(when.which ?? null),
    ...leavesOf(who).flatMap(thingsOfLeaf),
    ...then.flatMap(thingsOfAction),
  ]
  return all.filter((one, n) => all.findIndex(other => other.kind === one.kind && other.id === one.id) === n)
}

export function thingsOfAction(action: Action): Thing[] {
  switch (action.kind) {
    case 'give-tag':
    case 'take-tag': return [{ kind: 'tag', id: action.tagId }]
    case 'join-list':
    case 'leave-list':
    case 'email': return [{ kind: 'list', id: action.listId }]
    case 'set-field': return [{ kind: 'field', id: action.fieldId }]
    case 'enrol':
    case 'leave-course': return [{ kind: 'course', id: action.courseId }]
    case 'no-more':
    case 'wait': return [{ kind: 'offer', id: action.offerId }]
    case 'webhook': return [{ kind: 'hookOut', id: action.hookId }]
    default: return []
  }
}

function thingsOfSend(which: WhichSend | null): Thing[] {
  const owner = which && kindOf(which.kind).owner
  return which === null || owner === null ? [] : [{ kind: owner, id: which.ownerId }]
}

/** What a leaf of a condition is about. */
export function thingsOfLeaf(leaf: Leaf): Thing[] {
  switch (leaf.kind) {
    case 'list': return leaf.listId === null ? [] : [{ kind: 'list', id: leaf.listId }]
    case 'tag': return [{ kind: 'tag', id: leaf.tagId }]
    case 'field': return [{ kind: 'field', id: leaf.fieldId }]
    case 'opted-in': return [{ kind: 'page', id: leaf.pageId }]
    case 'course': return [{ kind: 'course', id: leaf.courseId }]
    case 'email': return thingsOfSend(leaf.which)
    case 'segment': return [{ kind: 'segment', id: leaf.segmentId }]
    case 'rule-acted': return [{ kind: 'rule', id: leaf.ruleId }]
    case 'followed': return [{ kind: 'link', id: leaf.linkId }]
    case 'purchase':
    case 'spent': return leaf.offerId === null ? [] : [{ kind: 'offer', id: leaf.offerId }]
    case 'waits':
    case 'no-more': return [{ kind: 'offer', id: leaf.offerId }]
    default: return []
  }
}
