/** House rules as sentences. */
import type { Names } from '#core/audience/say'
import { isOneEmail, sayCondition, sayWhich } from '#core/audience/say'
import { nameOfMessage } from '#core/message/content'
import { sayField, type FieldKind } from '#core/people/field'
import type { Action, MomentName, Often, Rule, RuleInput, Trigger } from './rule'
import { asksNothing, TRIGGERS } from './rule'
import { saySome } from '#core/stats/say'

export interface RuleNames extends Names {
  /** Addresses that call us, and those that we call. */
  hooksIn: ReadonlyMap<number, string>
  hooksOut: ReadonlyMap<number, string>
}

export const MOMENT_WORDS: Record<MomentName, string> = {
  'arrives': 'When someone arrives', 'picks': 'When someone picks something', 'buys': 'When someone buys',
  'goes-quiet': 'When someone goes quiet',
}

const quoted = (name: string | undefined) => name === undefined ? 'something deleted' : `“${name}”`
const named = (names: ReadonlyMap<number, string>, id: number | null, any = '') => id === null ? any : quoted(names.get(id))

/** `someone opts in on “Sheet kit”` */
export function sayTrigger(when: Trigger, names: RuleNames): string {
  const { thingId } = when
  const page = named(names.pages, thingId, 'any page')
  const course = thingId === null ? 'any course' : `the course ${quoted(names.courses.get(thingId)?.name)}`
  const list = thingId === null ? 'any list' : `the list ${named(names.lists, thingId)}`
  const offer = named(names.offers, thingId, 'anything')
  const field = thingId === null ? 'a field' : quoted(names.fields.get(thingId)?.name)
  // A rule is known by what wakes it, so none can be named in it.
  const email = when.which
    ? `${isOneEmail(when.which) ? '' : 'an email '}${sayWhich(when.which, { ...names, rules: { get: () => 'a house rule' } })}`
    : 'any email'
  switch (when.kind) {
    case 'opted-in': return `someone opts in on ${page}`
    case 'confirmed': return `someone confirms the opt-in on ${page}`
    case 'imported': return 'someone is added or updated by an import'
    case 'joined-list': return `someone joins ${list}`
    case 'came-back': return 'someone comes back after leaving'
    case 'hook-called': return `${named(names.hooksIn, thingId, 'something outside')} calls about someone`
    case 'got-tag': return `someone gets the tag ${named(names.tags, thingId)}`
    case 'lost-tag': return when.expired
      ? `someone’s tag ${named(names.tags, thingId)} expires`
      : `someone loses the tag ${named(names.tags, thingId)}`
    case 'clicked': return `someone clicks ${thingId === null ? 'any link' : `the link ${named(names.links, thingId)}`}`
    case 'opened': return `someone opens ${email} (reader opens only)`
    case 'sent': return `someone is sent ${email}`
    case 'visited-page': return `someone visits ${page} from a link in an email`
    case 'replied': return 'someone replies'
    case 'field-changed': {
      const kind = thingId === null ? undefined : names.fields.get(thingId)?.kind
      return `someone’s ${field} changes${valueOf(when.from) === null ? '' : ` from “${sayValue(kind, when.from!)}”`}${valueOf(when.to) === null ? '' : ` to “${sayValue(kind, when.to!)}”`}`
    }
    case 'date-arrived': {
      const { days = 0, yearly } = when
      return `${days === 0 ? 'it is' : days > 0 ? `it is ${saySome(days, 'day', 'days')} after` : `it is ${saySome(-days, 'day', 'days')} before`} someone’s ${field}${yearly ? ', every year' : ''}`
    }
    case 'enrolled': return `someone starts ${course}`
    case 'finished-course': return `someone finishes ${course}`
    case 'entered-segment': return `someone enters the segment ${named(names.segments, thingId)}`
    case 'left-segment': return `someone leaves the segment ${named(names.segments, thingId)}`
    case 'reached-score': return `someone’s score reaches ${saySome(when.points ?? 0, 'point', 'points')}`
    case 'todo-done': return when.text ? `the to-do “${when.text}” about someone is done` : 'any to-do about someone is done'
    case 'bought': return `someone buys ${offer}`
    case 'renewed': return `someone pays again for ${offer}`
    case 'refunded': return `someone gets a refund for ${offer}`
    case 'checkout-abandoned': return `someone goes to pay for ${offer} and does not`
    case 'became-silent': return `someone has not opened or clicked anything for ${saySome(when.days ?? 0, 'day', 'days')}`
    case 'left-list': return `someone leaves ${list}`
    case 'left-course': return `someone leaves ${course} before its end`
    case 'bounced': return 'someone can no longer be reached'
  }
}

const valueOf = (value: string | number | null | undefined) => value ?? null
const sayValue = (kind: FieldKind | undefined, value: string | number) => kind ? sayField(kind, value) : String(value)

const STATUS_WORDS = {
  resting: 'let them rest (no emails)', active: 'end their rest', unsubscribed: 'unsubscribe them from everything',
} as const
const WHEN_TOLD = { 'no': '', 'daily': ', in one email a day', 'at-once': ', by email at once' } as const

/** `add the tag “likes: coptic”` */
export function sayAction(action: Action, names: RuleNames): string {
  switch (action.kind) {
    case 'give-tag': return `add the tag ${named(names.tags, action.tagId)}`
    case 'take-tag': return `remove the tag ${named(names.tags, action.tagId)}`
    case 'join-list': return `add them to the list ${named(names.lists, action.listId)}`
    case 'leave-list': return `remove them from the list ${named(names.lists, action.listId)}`
    case 'set-field': {
      const field = names.fields.get(action.fieldId)
      return action.today ? `set ${quoted(field?.name)} to that day` : action.value === null
        ? `clear ${quoted(field?.name)}`
        : `set ${quoted(field?.name)} to “${sayValue(field?.kind, action.value)}”`
    }
    case 'score': return action.points < 0
      ? `take ${saySome(-action.points, 'point', 'points')} off their score`
      : `add ${saySome(action.points, 'point', 'points')} to their score`
    case 'status': return STATUS_WORDS[action.to]
    case 'enrol': return `start the course ${quoted(names.courses.get(action.courseId)?.name)}`
    case 'leave-course': return `remove them from the course ${quoted(names.courses.get(action.courseId)?.name)}`
    case 'no-more': return `send them nothing more about ${named(names.offers, action.offerId)}`
    case 'wait': return `add them to the waiting list of ${named(names.offers, action.offerId)}`
    case 'notice': return `notify me “${action.text}”${WHEN_TOLD[action.email]}`
    case 'todo': {
      const due = action.days === 0 ? 'the same day' : `in ${saySome(action.days, 'day', 'days')}`
      return `add a to-do for ${action.helper || 'me'}, “${action.text}”, due ${due}`
    }
    case 'email': return `send them “${nameOfMessage(action.content) || 'an email without words'}”`
    case 'webhook': return `call ${named(names.hooksOut, action.hookId)}`
  }
}

export function sayOften(often: Often): string {
  return often.kind === 'each'
    ? 'each time'
    : often.kind === 'once' ? 'once per person' : `at most every ${saySome(often.days, 'day', 'days')} per person`
}

/** The parts of the sentence, for a screen that sets them apart. `who` is empty for everybody. */
export interface SaidRule { when: string, who: string, then: string[], often: string }

export function sayRuleParts({ when, who, then, often }: RuleInput, names: RuleNames): SaidRule {
  return {
    when: sayTrigger(when, names), who: asksNothing(who) ? '' : sayCondition(who, names),
    then: then.map(action => sayAction(action, names)), often: sayOften(often),
  }
}

/** `When someone opts in on “Sheet kit”, only for people tagged “a”: add the tag “b” and start the course “c”.` */
export function sayRule(rule: RuleInput, names: RuleNames): string {
  const { when, who, then, often } = sayRuleParts(rule, names)
  return `When ${when}${who === '' ? '' : `, only for people ${who}`}: ${listed(then)}${rule.often.kind === 'each' ? '' : `, ${often}`}.`
}

/** What a rule is known by elsewhere: its sentence without whom it asks for, `When someone opts in on “Sheet kit”: add the tag “b”`. */
export const nameOfRule = ({ when, then }: RuleInput, names: RuleNames): string =>
  `When ${sayTrigger(when, names)}: ${listed(then.map(action => sayAction(action, names)))}`

const listed = (parts: string[]) => parts.length < 2 ? parts.join('') : `${parts.slice(0, -1).join(', ')} and ${parts.at(-1)}`

/** `when someone gets the tag “a”: add the tag “b”; then, ...`: a circle, rule by rule. */
export function sayCircle(path: readonly Rule[], names: RuleNames): string {
  return path.slice(0, -1).map((rule, n) =>
    `${n > 0 ? 'then, as ' : 'when '}${sayTrigger(rule.when, names)}: ${listed(rule.then.map(action => sayAction(action, names)))}`)
    .join('; ') + '; and so on, from the beginning'
}

/** Which thing's screen a rule belongs beside. */
export const placeOf = ({
  when,
}: Pick<RuleInput, 'when'>): { kind: NonNullable<typeof TRIGGERS[Trigger['kind']]['thing']>, id: number } | null => {
  const { thing } = TRIGGERS[when.kind]
  return thing !== null && when.thingId !== null ? { kind: thing, id: when.thingId } : null
}
