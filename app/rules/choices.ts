/** What a rule can wake on and do, to choose from, and what a new one of each begins as. */
import { EVERYBODY, type Condition } from '#core/audience/condition'
import { emptyMessage } from '#core/message/content'
import {
  MOMENTS, TRIGGERS, TRIGGER_KINDS, type Action, type ActionKind, type MomentName, type RuleInput, type Trigger, type TriggerKind,
} from '#core/rules/rule'
import type { ThingKind } from '#core/things'
import type { RuleNames } from '#core/rules/say'
import type { RuleParts } from '#core/views/rules'
import type { ZoneName } from '#core/time/zone'
import { namesFrom } from '~/audience/leaves'

export const MOMENT_NAMES: Record<MomentName, string> = {
  'arrives': 'Arrives', 'picks': 'Picks', 'buys': 'Buys', 'goes-quiet': 'Goes quiet',
}

export const WHEN_WORDS: Record<TriggerKind, string> = {
  'opted-in': 'opts in', 'confirmed': 'confirms the opt-in', 'imported': 'is added or updated by an import', 'joined-list': 'joins a list',
  'came-back': 'comes back after leaving', 'hook-called': 'is named in a webhook call',
  'got-tag': 'gets a tag', 'lost-tag': 'loses a tag', 'clicked': 'clicks a link', 'opened': 'opens an email', 'sent': 'is sent an email',
  'visited-page': 'visits a page from an email', 'replied': 'replies',
  'field-changed': 'has a field change', 'date-arrived': 'reaches a date', 'enrolled': 'starts a course',
  'finished-course': 'finishes a course', 'entered-segment': 'enters a segment', 'left-segment': 'leaves a segment',
  'reached-score': 'reaches a score', 'todo-done': 'has a to-do completed', 'bought': 'buys', 'renewed': 'pays again',
  'refunded': 'gets a refund', 'checkout-abandoned': 'goes to pay and does not',
  'became-silent': 'has not opened or clicked for a while', 'left-list': 'leaves a list', 'left-course': 'leaves a course',
  'bounced': 'can no longer be reached',
}
/** What can happen with what there is: without an incoming webhook nothing is told of by one. */
export const whenOptions = (parts: RuleParts) => MOMENTS.map(moment => ({
  name: MOMENT_NAMES[moment],
  items: TRIGGER_KINDS.filter(kind => TRIGGERS[kind].moment === moment && canHappen(kind, parts))
    .map(value => ({ value, name: WHEN_WORDS[value] })),
}))

function canHappen(kind: TriggerKind, parts: RuleParts): boolean {
  const { thing } = TRIGGERS[kind]
  if (kind === 'date-arrived') return parts.fields.some(field => field.kind === 'date')
  return thing === null || thingsOf(thing, parts).length > 0
}

const ACTION_WORDS: Record<ActionKind, string> = {
  'give-tag': 'add the tag', 'take-tag': 'remove the tag', 'join-list': 'add to the list', 'leave-list': 'remove from the list',
  'set-field': 'set the field', 'score': 'change the score by', 'status': 'change the status',
  'enrol': 'start the course', 'leave-course': 'remove from the course', 'no-more': 'send nothing more about',
  'wait': 'add to the waiting list of',
  'email': 'send one email', 'todo': 'add a to-do', 'notice': 'notify me', 'webhook': 'call a webhook',
}

/** The things of a kind, by their names. */
export function thingsOf(kind: ThingKind, parts: RuleParts): { id: number, name: string }[] {
  switch (kind) {
    case 'page': return parts.pages
    case 'list': return parts.lists
    case 'tag': return parts.tags
    case 'field': return parts.fields
    case 'link': return parts.links
    case 'course': return parts.courses
    case 'offer': return parts.offers
    case 'segment': return parts.segments
    case 'hookIn': return parts.hooksIn
    case 'hookOut': return parts.hooksOut
    case 'rule': return parts.rules
    case 'part': return []
    case 'broadcast': return parts.broadcasts
  }
}

/** The subscribers on whom a rule acted in the last 30 days. */
export const peopleOfRule = (ruleId: number) => ({
  path: '/subscribers',
  query: { where: JSON.stringify(
    { kind: 'all', of: [{ kind: 'rule-acted', ruleId, within: { kind: 'last-days', days: 30 } }] } satisfies Condition,
  ) },
})

export const THING_WORDS: Record<ThingKind, { one: string, any: string }> = {
  page: { one: 'page', any: 'any page' }, list: { one: 'list', any: 'any list' }, tag: { one: 'tag', any: 'any tag' },
  field: { one: 'field', any: 'any field' }, link: { one: 'link', any: 'any link' }, course: { one: 'course', any: 'any course' },
  offer: { one: 'offer', any: 'anything' }, segment: { one: 'segment', any: 'any segment' },
  hookIn: { one: 'incoming webhook', any: 'any webhook' }, hookOut: { one: 'address', any: 'any address' },
  rule: { one: 'house rule', any: 'any house rule' }, part: { one: 'email part', any: 'any email part' },
  broadcast: { one: 'broadcast', any: 'any broadcast' },
}

/** Of the kind, about the first thing there is if it cannot be about any. */
export function newWhen(kind: TriggerKind, parts: RuleParts): Trigger {
  const { thing, any } = TRIGGERS[kind]
  const things = thing === null
    ? []
    : kind === 'date-arrived' ? parts.fields.filter(field => field.kind === 'date') : thingsOf(thing, parts)
  return {
    kind, thingId: any ? null : things[0]?.id ?? null,
    ...TRIGGERS[kind].ofSend && { which: null },
    ...kind === 'became-silent' && { days: 60 }, ...kind === 'date-arrived' && { days: 0, yearly: false },
    ...kind === 'reached-score' && { points: parts.thresholds[0] ?? 20 },
  }
}

/** What can be done with what there is: without an offer nothing can be said no more of. */
export function actionChoices(parts: RuleParts): { value: ActionKind, name: string, make(): Action }[] {
  const [tag, list, field, course, offer, hook] = [
    parts.tags[0], parts.lists[0], parts.fields[0], parts.courses[0], parts.offers[0], parts.hooksOut[0],
  ]
  const choice = (value: ActionKind, make: (() => Action) | null) => make ? [{ value, name: ACTION_WORDS[value], make }] : []
  return [
    ...choice('give-tag', tag ? () => ({ kind: 'give-tag', tagId: tag.id }) : null),
    ...choice('take-tag', tag ? () => ({ kind: 'take-tag', tagId: tag.id }) : null),
    ...choice('join-list', list ? () => ({ kind: 'join-list', listId: list.id }) : null),
    ...choice('leave-list', list ? () => ({ kind: 'leave-list', listId: list.id }) : null),
    ...choice('set-field', field ? () => ({ kind: 'set-field', fieldId: field.id, value: null }) : null),
    ...choice('score', () => ({ kind: 'score', points: 5 })), ...choice('status', () => ({ kind: 'status', to: 'resting' })),
    ...choice('enrol', course ? () => ({ kind: 'enrol', courseId: course.id }) : null),
    ...choice('leave-course', course ? () => ({ kind: 'leave-course', courseId: course.id }) : null),
    ...choice('no-more', offer ? () => ({ kind: 'no-more', offerId: offer.id }) : null),
    ...choice('wait', offer ? () => ({ kind: 'wait', offerId: offer.id }) : null),
    ...choice('email', list ? () => ({ kind: 'email', listId: list.id, content: emptyMessage(), messageId: null }) : null),
    ...choice('todo', () => ({ kind: 'todo', text: '', days: 1, helper: '' })),
    ...choice('notice', () => ({ kind: 'notice', text: '', email: 'no' })),
    ...choice('webhook', hook ? () => ({ kind: 'webhook', hookId: hook.id }) : null),
  ]
}

export function ruleNamesFrom(parts: RuleParts, zone: ZoneName): RuleNames {
  const named = (rows: { id: number, name: string }[]) => new Map(rows.map(({ id, name }) => [id, name]))
  return { ...namesFrom(parts, zone), hooksIn: named(parts.hooksIn), hooksOut: named(parts.hooksOut) }
}

/** A new rule for a moment that was chosen elsewhere: `?when=got-tag&thing=3`. */
export function ruleFrom(query: Record<string, unknown>, parts: RuleParts): RuleInput {
  const kind = TRIGGER_KINDS.find(one => one === query.when) ?? 'opted-in'
  const { thing } = TRIGGERS[kind]
  const wanted = Number(query.thing)
  const id = thing !== null && thingsOf(thing, parts).some(one => one.id === wanted) ? wanted : null
  const when = newWhen(kind, parts)
  return { when: { ...when, thingId: id ?? when.thingId }, who: EVERYBODY, then: [], often: { kind: 'each' }, on: true, note: '' }
}
