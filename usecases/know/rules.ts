/** Making, switching and ending house rules, and letting one act on people whose moment has come already. */
import { badLinkIn, sayBadLink } from '#core/message/webAddress'
import { EVERYBODY } from '#core/audience/condition'
import { silentFor } from '#core/audience/segment'
import { isWritten } from '#core/message/blocks'
import { fitsField } from '#core/people/field'
import { circleThrough } from '#core/rules/circles'
import { asksNothing, thingsIn, TRIGGERS, type Action, type RuleInput } from '#core/rules/rule'
import { sayCircle, sayRule } from '#core/rules/say'
import type { Instant } from '#core/time/zone'
import type { SavedRule } from '#core/views/rules'
import { deleteArchived } from '#data/archive'
import type { Database } from '#data/connection'
import { findField } from '#data/fields'
import { allRules, endRule, findRule, insertRule, updateRule } from '#data/rules'
import { endSegment, insertWatchSegment, watchedSegments, type Watch } from '#data/segments'
import { isThere } from '#data/things'
import { sayUnread, unreadIn } from '#core/message/unread'
import type { MessageContent } from '#core/message/content'
import { forgetEarlier } from '#data/earlierEmails'
import type { WorkspaceContext } from '../context'
import { keepAllBefore } from './earlierEmails'
import { clearAway } from '../inner/clearing'
import { beginTask } from '../inner/beginTask'
import { ruleNamesOf } from '../inner/names'
import { reachOf } from '../inner/reach'
import { transact } from '../inner/reactor/transaction'
import { refuseIfNeeded } from '../inner/uses'
import { keepWording, makeWordings, type Wording } from '../inner/wordings'
import { missingOf } from '../inner/rulesAtWork'
import { problemInEmail } from './writtenEmail'
import type { FieldProblem } from '../problem'
import { InputProblem, NotNow, NotThere } from '../problem'
import { checkCondition } from './segments'

const MOST_ACTIONS = 12

export async function saveRule(context: WorkspaceContext, id: number | null, input: RuleInput, evenInCircle = false): Promise<SavedRule> {
  const { db } = context
  const rule = tidied(input)
  const problems = problemsOf(db, rule)
  if (problems.length > 0) throw new InputProblem(problems)
  const wordings = rule.then.map((action): Wording | null =>
    action.kind === 'email' ? { of: { kind: 'rule', ownerId: 0, itemId: 'email' }, content: action.content } : null)
  const made = await makeWordings(context, wordings.filter(wording => wording !== null))
  const saved = transact(context, (): SavedRule => {
    const at = context.clock.now()
    const before = id === null ? undefined : findRule(db, id)
    if (id !== null && !before) throw new NotThere('This house rule no longer exists.')
    const again = problemsOf(db, rule)
    if (again.length > 0) throw new InputProblem(again)
    const then = rule.then.map((action, n): Action =>
      action.kind === 'email' ? { ...action, messageId: keepWording(context, wordings[n]!, made, at) } : action)
    const whole = { ...rule, then }
    const circle = rule.on ? circleThrough({ ...whole, id: id ?? 0 }, allRules(db), reachOf(db)) : null
    if (circle && !evenInCircle) return { saved: false, circle: sayCircle(circle, ruleNamesOf(db)) }
    const ruleId = id ?? insertRule(db, whole, at)
    if (before) {
      keepAllBefore(context, ruleId, { rule: emailIn(before) }, { rule: emailIn(whole) })
      updateRule(db, ruleId, whole, at)
    }
    if (rule.on) deleteArchived(db, { kind: 'rule', id: ruleId })
    keepWatches(db, at)
    return { saved: true, id: ruleId }
  })
  context.wake()
  return saved
}

/** A rule sends one email at most. */
const emailIn = ({ then }: RuleInput): MessageContent | undefined =>
  then.flatMap(action => action.kind === 'email' ? [action.content] : [])[0]

/** Keeps one that is switched off, in the caller's transaction: its emails are made as it is switched on. Returns its number. */
export function keepRuleForLater({ db, clock }: WorkspaceContext, input: RuleInput): number {
  const rule = tidied(input)
  const problems = problemsOf(db, rule)
  if (problems.length > 0) throw new InputProblem(problems)
  const then = rule.then.map((action): Action => action.kind === 'email' ? { ...action, messageId: null } : action)
  return insertRule(db, { ...rule, then, on: false }, clock.now())
}

function tidied(input: RuleInput): RuleInput {
  const line = (text: string) => text.replace(/\s+/g, ' ').trim()
  return {
    ...input,
    who: asksNothing(input.who) ? EVERYBODY : input.who,
    note: line(input.note),
    then: input.then.map(action => action.kind === 'notice'
      ? { ...action, text: line(action.text) }
      : action.kind === 'todo' ? { ...action, text: line(action.text), helper: line(action.helper) } : action),
  }
}

/** What is wrong with a rule, each at its part: `when`, `who`, `then.2`. */
export function problemsOf(db: Database, rule: RuleInput): FieldProblem[] {
  const { when, who, then } = rule
  const problems: FieldProblem[] = []
  const say = (field: string, problem: string | null) => {
    if (problem !== null) problems.push({ field, problem })
  }
  const { thing, any } = TRIGGERS[when.kind]
  if (thing !== null && !any && when.thingId === null) say('when', `Choose which ${WORDS[thing] ?? thing}.`)
  if (thing !== null && when.thingId !== null && !isThere(db, thing, when.thingId)) {
    say('when', `This ${WORDS[thing] ?? thing} no longer exists. Choose another.`)
  }
  if (when.which && thingsIn({ when, who: EVERYBODY, then: [] }).some(({ kind, id }) => !isThere(db, kind, id))) {
    say('when', 'Where this email belonged no longer exists. Choose another.')
  }
  if (when.kind === 'date-arrived' && when.thingId !== null && findField(db, when.thingId)?.kind !== 'date') {
    say('when', 'Only a date field reaches a day.')
  }
  say('who', checkCondition(db, who, null))
  if (then.length === 0) say('then', 'Choose at least one action.')
  if (then.length > MOST_ACTIONS) say('then', `At most ${MOST_ACTIONS} actions fit into one rule. Make a second one.`)
  then.forEach((action, n) => say(`then.${n}`, problemOfAction(db, rule, action)))
  return problems
}

const WORDS: Partial<Record<string, string>> = { hookIn: 'incoming webhook', hookOut: 'outgoing webhook' }

function problemOfAction(db: Database, rule: RuleInput, action: Action): string | null {
  const gone = thingsIn({ ...rule, when: { kind: 'imported', thingId: null }, who: EVERYBODY, then: [action] }).find(({ kind, id }) =>
    !isThere(db, kind, id))
  if (gone) return `This ${WORDS[gone.kind] ?? gone.kind} no longer exists. Choose another.`
  const { when } = rule
  switch (action.kind) {
    case 'give-tag':
    case 'take-tag':
      return (when.kind === 'got-tag' || when.kind === 'lost-tag') && when.thingId === action.tagId
        ? 'A tag cannot follow from itself. Choose another.'
        : null
    case 'set-field': {
      const field = findField(db, action.fieldId)!
      if (action.today) return field.kind === 'date' ? null : 'Only a date field can be set to that day.'
      return action.value === null || fitsField(field, action.value) ? null : `This does not fit ${field.name}.`
    }
    case 'score':
      return action.points === 0 ? 'Enter a number of points other than 0.' : null
    case 'notice':
    case 'todo':
      return action.text === '' ? 'Type a few words.' : null
    case 'email':
      if (!isWritten(action.content)) return 'The email needs a subject and some text.'
      if (unreadIn(action.content) !== null) return sayUnread(unreadIn(action.content)!)
      return badLinkIn(action.content) === null ? problemInEmail(db, action.content) : sayBadLink(badLinkIn(action.content)!)
    default:
      return null
  }
}

/** Switching on checks it like saving, but for circles, of which its owner was told. */
export async function switchRule(context: WorkspaceContext, id: number, on: boolean): Promise<void> {
  const rule = findRule(context.db, id)
  if (!rule) throw new NotThere('This house rule no longer exists.')
  if (on && missingOf(context.db, rule).length > 0) throw new NotNow('Something it names no longer exists. Change the rule first.')
  if (on) await saveRule(context, id, { ...rule, on }, true)
  else {
    transact(context, () => {
      const at = context.clock.now()
      updateRule(context.db, id, { ...rule, on }, at)
      keepWatches(context.db, at)
    })
  }
}

/** What it did stays, and stands in the histories. */
export function removeRule(context: WorkspaceContext, id: number): void {
  const { db } = context
  transact(context, () => {
    if (!findRule(db, id)) throw new NotThere('This house rule no longer exists.')
    refuseIfNeeded(db, { kind: 'rule', id })
    const at = context.clock.now()
    endRule(db, id, at)
    forgetEarlier(db, { kind: 'rule', ownerId: id })
    keepWatches(db, at)
  })
}

/**
 * Keeps a watch for every silence and every date that a rule waits for, and for no other. Who is silent already, or whose day it is, is not
 * news.
 */
export function keepWatches(db: Database, at: Instant): void {
  const wanted = new Map(allRules(db).filter(({ on }) => on).flatMap(({ when }): Watch[] => {
    if (when.kind === 'became-silent') return [{ kind: 'became-silent', days: when.days ?? 1 }]
    return when.kind === 'date-arrived' && when.thingId !== null
      ? [{ kind: 'date-arrived', fieldId: when.thingId, days: when.days ?? 0, yearly: when.yearly ?? false }]
      : []
  }).map(watch => [JSON.stringify(watch), watch]))
  for (const { id, watch } of watchedSegments(db)) {
    if (watch === null) continue
    if (wanted.delete(JSON.stringify(watch))) continue
    endSegment(db, id)
    clearAway(db, { what: 'segment', thingId: id, eventId: null }, at)
  }
  for (const watch of wanted.values()) {
    insertWatchSegment(db, watch, watch.kind === 'became-silent'
      ? silentFor(watch.days)
      : { kind: 'field', fieldId: watch.fieldId, test: { is: 'day', days: watch.days, yearly: watch.yearly } }, at)
  }
}

/* For people who fit already */

/** `said` is the number that was shown; another by now asks once more. Returns the task. */
export function runRule(context: WorkspaceContext, id: number, said: number): number {
  const { db } = context
  const task = transact(context, () => {
    const rule = findRule(db, id)
    if (!rule) throw new NotThere('This house rule no longer exists.')
    if (missingOf(db, rule).length > 0) throw new NotNow('Something it names no longer exists. Change the rule first.')
    const at = context.clock.now()
    return beginTask(db, {
      title: `do what the house rule says: ${sayRule(rule, ruleNamesOf(db))}`, spec: { kind: 'rule', ruleId: id },
      whom: { kind: 'fit-rule', ruleId: id }, said, ruleId: id, at,
    })
  })
  context.wake()
  return task
}
