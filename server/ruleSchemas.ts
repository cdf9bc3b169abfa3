/** What may come in about house rules, links and what comes of them, described once. */
import type { PartialSchemaMap } from 'joi'
import Joi from './joi'
import { SCOPES, type Scope } from '#core/views/keys'
import { ACTION_KINDS, LINK_ACTIONS, TRIGGER_KINDS, type Action, type ActionKind, type RuleInput, type Trigger } from '#core/rules/rule'
import { SCORED_KINDS, type ScoreRule } from '#core/score/score'
import { MOST_LETTERS } from '#core/people/field'
import type { LinkInput } from '#core/views/links'
import type { HookInInput, HookOutInput } from '#core/views/hooks'
import type { TodoInput } from '#core/views/desk'
import type { Trying } from '#core/views/rules'
import { condition, whichSend } from './peopleSchemas'
import { messageContent } from './messageSchemas'
import { address, id, text } from './schemas'
import { sayNumber } from '#core/stats/say'

const whole = (least: number, most: number) => Joi.number().integer().min(least).max(most)
  .messages({ '*': `A whole number from ${sayNumber(least)} to ${sayNumber(most)}.` })
const value = Joi.alternatives(Joi.number().strict(), Joi.string().max(MOST_LETTERS)).allow(null)

/** What can happen to somebody, as rules wake on it and holds wait for it. */
export const occasion = Joi.object<Trigger>({
  kind: Joi.valid(...TRIGGER_KINDS).required(),
  thingId: id.allow(null).required(),
  which: Joi.when('kind', { is: Joi.valid('opened', 'sent'), then: whichSend, otherwise: Joi.forbidden() }),
  stepId: Joi.string().max(40).allow(null),
  expired: Joi.boolean(),
  from: value, to: value,
  days: Joi.when('kind', { is: 'became-silent', then: whole(1, 3650).required(), otherwise: whole(-366, 366) }),
  yearly: Joi.boolean(),
  points: Joi.when('kind', { is: 'reached-score', then: whole(1, 10_000).required(), otherwise: whole(1, 10_000) }),
  text: text(200),
})

const ACTIONS: Record<ActionKind, PartialSchemaMap> = {
  'give-tag': { tagId: id.required() }, 'take-tag': { tagId: id.required() },
  'join-list': { listId: id.required() }, 'leave-list': { listId: id.required() },
  'set-field': { fieldId: id.required(), value: value.required(), today: Joi.boolean() },
  'score': { points: whole(-1000, 1000).required() },
  'status': { to: Joi.valid('resting', 'active', 'unsubscribed').required() },
  'enrol': { courseId: id.required() }, 'leave-course': { courseId: id.required() },
  'no-more': { offerId: id.required() }, 'wait': { offerId: id.required() },
  'notice': { text: text(200).required(), email: Joi.valid('no', 'at-once', 'daily').required() },
  'todo': { text: text(200).required(), days: whole(0, 365).required(), helper: text(60).required() },
  'email': { listId: id.required(), content: messageContent.required(), messageId: id.allow(null).required() },
  'webhook': { hookId: id.required() },
}
export const actionsOf = (kinds: readonly ActionKind[]) =>
  Joi.array<Action[]>().items(Joi.alternatives(...kinds.map(kind => Joi.object({ kind: Joi.valid(kind).required(), ...ACTIONS[kind] }))))

const ruleParts = {
  when: occasion.required(), who: condition.required(), then: actionsOf(ACTION_KINDS).max(20).required(),
  often: Joi.alternatives(
    Joi.object({ kind: Joi.valid('each', 'once').required() }),
    Joi.object({ kind: Joi.valid('every').required(), days: whole(1, 3650).required() }),
  ).required(),
  on: Joi.boolean().required(), note: text(300).required(),
}

export const ruleInput = Joi.object<RuleInput & { evenInCircle: boolean }>({ ...ruleParts, evenInCircle: Joi.boolean().default(false) })
export const switchInput = Joi.object<{ on: boolean }>({ on: Joi.boolean().required() })
export const runInput = Joi.object<{ people: number }>({ people: Joi.number().integer().min(0).required() })
export const tryInput = Joi.object<Trying>({
  personId: id.required(), when: occasion.required(),
  draft: Joi.object({ id: id.allow(null).required(), rule: Joi.object<RuleInput>(ruleParts).required() }).allow(null).required(),
})
export const firingQuery = Joi.object<{ firing: number }>({ firing: id.required() })

export const todoInput = Joi.object<TodoInput>({
  personId: id.required(), text: text(200).required(), days: whole(0, 365).required(), helper: text(60).default(''),
})
export const seenInput = Joi.object<{ upTo: number }>({ upTo: id.required() })

export const scoreInput = Joi.object<ScoreRule>({
  halfLifeDays: whole(1, 3650).required(),
  points: Joi.object(Object.fromEntries(SCORED_KINDS.map(kind => [kind, whole(-100, 100)]))).required(),
  thresholds: Joi.array().items(whole(1, 10_000)).max(10).required(),
})

export const linkInput = Joi.object<LinkInput>({
  name: text(80).required(), url: address('web').required(), note: text(300).default(''),
  does: actionsOf([...LINK_ACTIONS]).max(8).required(), asks: Joi.boolean().required(),
})
export const linkQuery = Joi.object<{ days: number }>({ days: whole(1, 365).default(14) })

export const hookOutInput = Joi.object<HookOutInput>({ name: text(80).required(), url: address('web').required() })
export const hookInInput = Joi.object<HookInInput>({
  name: text(80).required(),
  reading: Joi.object({
    proof: Joi.valid('signed', 'bearer').required(), emailAt: text(120).required(), nameAt: text(120).required(),
    event: Joi.valid('hook-called', 'replied').required(), unknown: Joi.valid('leave', 'bring').required(),
  }).required(),
})
export const insideInput = Joi.object<{ allows: boolean }>({ allows: Joi.boolean().required() })
export const keyInput = Joi.object<{ name: string, scopes: Scope[] }>({
  name: text(80).required(), scopes: Joi.array().items(Joi.valid(...SCOPES)).unique().required(),
})
