/** What may come in about people: conditions, segments, fields and searches. */
import { kindsThat, type EmailKind, type WhichSend } from '#core/sending/kinds'
import type { AnySchema, ObjectSchema, SchemaMap } from 'joi'
import Joi from './joi'
import type { Condition, Leaf } from '#core/audience/condition'
import { STANDING_REASONS } from '#core/audience/heldBack'
import { DEEPEST, EMAIL_FATES, isGroup, OPT_IN_FATES, PURCHASE_FATES } from '#core/audience/condition'
import type { SegmentInput } from '#core/audience/segment'
import { isCurrency, MOST_AMOUNT } from '#core/money/money'
import { SOURCE_KINDS, type SourceKey } from '#core/page/touch'
import type { ConsentRule } from '#core/people/country'
import { isCountry } from '#core/people/country'
import { STATUSES } from '#core/people/status'
import type { FieldInput } from '#core/people/field'
import { FIELD_KINDS, MOST_LETTERS } from '#core/people/field'
import { isDate } from '#core/time/zone'
import type { SourceCostsInput } from '#core/views/sources'
import { PEOPLE_ORDERS, type PersonInput, type PeopleSearch } from '#core/views/people'
import type { AudienceQuery } from '#core/views/audience'
import type { Doing, TaskInput } from '#core/views/tasks'
import { text } from './schemas'

const id = Joi.number().integer().positive()
const days = Joi.number().integer().min(0).max(3650).required().messages({ '*': 'From 0 to 3,650 days.' })
const country = Joi.string().custom((code: string, helpers) => isCountry(code) ? code : helpers.error('any.invalid'))
  .messages({ 'any.invalid': 'A country is a code of two letters, like PT.' })
const date = Joi.string().custom((day: string, helpers) => isDate(day) ? day : helpers.error('any.invalid'))
  .messages({ 'any.invalid': 'Choose a date, like 2026-11-24.' })
const status = Joi.valid(...STATUSES)

/* Conditions */

const stretch = Joi.alternatives(
  Joi.object({ kind: Joi.valid('last-days').required(), days }),
  Joi.object({ kind: Joi.valid('before', 'since').required(), at: Joi.number().integer().required() }),
)
const maybeStretch = Joi.alternatives(stretch, Joi.valid(null)).required()
const is = (...words: string[]) => Joi.valid(...words).required()
const step = Joi.string().max(40).allow(null).required()
/** Which email; null for any. */
export const whichSend = Joi.object<WhichSend>({
  kind: is(...kindsThat(kind => kind.to === 'subscriber')), ownerId: id.required(), itemId: step,
}).allow(null)
export const fieldTest = Joi.alternatives(
  Joi.object({ is: is('known') }),
  Joi.object({ is: is('equal', 'contains', 'begins'), text: text(MOST_LETTERS).required() }),
  Joi.object({ is: is('number'), sign: is('<', '<=', '=', '>=', '>'), number: Joi.number().required() }),
  Joi.object({ is: is('yes'), yes: Joi.boolean().required() }),
  Joi.object({ is: is('one-of'), values: Joi.array().items(text(MOST_LETTERS)).max(300).required() }),
  Joi.object({ is: is('on', 'before', 'after'), date: date.required() }),
  Joi.object({ is: is('last-days', 'next-days'), days }),
  Joi.object({
    is: is('day'), days: Joi.number().integer().min(-366).max(366).required().messages({ '*': 'From 366 days before to 366 days after.' }),
    yearly: Joi.boolean().required(),
  }),
)
export const sourceKey = Joi.object<SourceKey>({ kind: is(...SOURCE_KINDS), word: Joi.string().allow('').max(80).required() })

export const sourcesQuery = Joi.object<{ months: number }>({
  months: Joi.number().integer().min(1).max(60).default(3).messages({ '*': 'From 1 to 60 months.' }),
})

export const sourceCostsInput = Joi.object<SourceCostsInput>({
  source: sourceKey.required(),
  months: Joi.array().items(Joi.object({ month: Joi.string().max(10).required(), typed: text(40).required() })).unique('month').max(120)
    .required(),
})

const LEAVES: Record<Leaf['kind'], SchemaMap> = {
  'status': { is: Joi.array().items(status).required() },
  'may-be-mailed': {},
  'list': { listId: id.allow(null).required(), is: is('joined', 'left', 'never-joined') },
  'tag': { tagId: id.required(), since: maybeStretch },
  'field': { fieldId: id.required(), test: fieldTest.required() },
  'country': { is: Joi.array().items(country).max(300).required(), unknown: Joi.boolean().required() },
  'zone': { is: Joi.array().items(Joi.string().max(64)).max(600).required() },
  'consent': { is: is('on-record', 'missing') },
  'source': { is: text(200).required() },
  'arrived': { when: stretch.required() },
  'brought': { by: is('first', 'latest'), source: sourceKey.required() },
  'opted-in': {
    pageId: id.required(), within: maybeStretch, touchId: id.allow(null).default(null),
    did: is(...OPT_IN_FATES).optional().default('pressed'), resultId: Joi.string().pattern(/^(r\d{1,6}|none)$/).allow(null).default(null),
  },
  'email': {
    fate: is(...EMAIL_FATES), which: whichSend.required(), within: maybeStretch,
    times: Joi.number().integer().min(1).max(1000).required().messages({ '*': 'From 1 to 1,000 emails.' }),
    url: Joi.string().max(2000).allow(null).required(),
  },
  'last-read': { by: is('reader', 'uncertain'), within: stretch.required() },
  'course': { courseId: id.required(), is: is('inside', 'finished', 'left', 'ever', 'never'), stepId: step },
  'purchase': {
    fate: is(...PURCHASE_FATES), offerId: id.allow(null).required(), within: maybeStretch,
    times: Joi.number().integer().min(1).max(1000).required().messages({ '*': 'From 1 to 1,000 purchases.' }),
  },
  'spent': {
    currency: Joi.string().custom((code: string, helpers) => isCurrency(code) ? code : helpers.error('any.invalid')).required(),
    atLeast: Joi.number().integer().min(0).max(MOST_AMOUNT).required(), offerId: id.allow(null).required(),
  },
  'no-more': { offerId: id.required() },
  'waits': { offerId: id.required() },
  'followed': {
    linkId: id.required(), within: maybeStretch,
    times: Joi.number().integer().min(1).max(1000).required().messages({ '*': 'From 1 to 1,000 times.' }),
  },
  'rule-acted': { ruleId: id.required(), within: maybeStretch },
  'score': { atLeast: Joi.number().integer().min(1).max(10_000).required().messages({ '*': 'From 1 to 10,000 points.' }) },
  'segment': { segmentId: id.required() },
  'sample': { hundredths: Joi.number().integer().min(0).max(10_000).required(), salt: Joi.number().integer().min(0).max(9999).required() },
}
const GROUP = Joi.object({ kind: is('all', 'any', 'none'), of: Joi.array().max(60).required() })
const SHAPES = new Map<unknown, ObjectSchema>([
  ...['all', 'any', 'none'].map(kind => [kind, GROUP] as const),
  ...Object.entries(LEAVES).map(([kind, keys]) => [kind, Joi.object({ ...keys, kind: Joi.valid(kind).required() })] as const),
])

/** Of every kind of part. */
export const conditionShapes = [...SHAPES.values()]

/** A tree, checked part by part, each by the shape of its kind, so that a fault is told about the kind that was meant. */
function readCondition(raw: unknown, depth = 0): Condition {
  const shape = SHAPES.get((raw as { kind?: unknown } | null)?.kind)
  if (!shape || depth > DEEPEST) {
    throw new Error(shape ? 'The groups of this condition are nested too deeply.' : 'This kind of condition is not known here.')
  }
  const part = Joi.attempt(raw, shape, { stripUnknown: true, errors: { wrap: { label: '“”', array: false } } }) as Condition
  return isGroup(part) ? { ...part, of: part.of.map(inner => readCondition(inner, depth + 1)) } : part
}

export const condition = Joi.any().custom((raw: unknown, helpers) => {
  try {
    const read = readCondition(raw)
    return isGroup(read) ? read : helpers.message({ custom: 'A condition begins with a group.' })
  }
  catch (error) {
    return helpers.message({ custom: (error as Error).message })
  }
}) as AnySchema<Condition>

/** The same from an address, where it stands as text. */
const conditionText = Joi.string().max(20_000).custom((text: string, helpers) => {
  try {
    return Joi.attempt(JSON.parse(text), condition) as Condition
  }
  catch {
    return helpers.message({ custom: 'The condition in this address cannot be read.' })
  }
})

export const audienceQuery = Joi.object<AudienceQuery>({ condition: condition.required(), segmentId: id.allow(null).default(null) })
export const segmentInput = Joi.object<SegmentInput>({
  name: text(80).required(), note: text(300).default(''), condition: condition.required(),
})

/* People */

export const fieldInput = Joi.object<FieldInput>({
  name: text(80).required(), label: text(80).default(''), kind: Joi.valid(...FIELD_KINDS).required(),
  choices: Joi.array().items(text(80)).max(200).default([]),
})
export const personInput = Joi.object<PersonInput>({
  firstName: text(400).required(), zone: Joi.string().max(64).empty('').allow(null).default(null),
  country: country.empty('').allow(null).default(null),
  fields: Joi.object().pattern(/^\d+$/, Joi.string().allow('').max(MOST_LETTERS * 2)).default({}),
})
export const addressInput = Joi.object<{ address: string }>({ address: text(400).required() })
export const mergeInput = Joi.object<{ otherId: number, address: string }>({
  otherId: id.required().messages({ '*': 'Choose the other record.' }), address: text(400).required(),
})
export const whyQuery = Joi.object<{ kind: EmailKind, owner: number, item: string }>({
  kind: Joi.valid(...kindsThat(kind => kind.to === 'subscriber')).required(), owner: Joi.number().integer().min(0).required(),
  item: Joi.string().max(40).required(),
})
export const consentRuleInput = Joi.object<ConsentRule>({
  countries: Joi.array().items(country).unique().max(300).required(), unknownNeeds: Joi.boolean().required(),
})
export const knownInput = Joi.object<{ known: number }>({ known: Joi.number().integer().min(0).required() })

const searchKeys = {
  search: Joi.string().allow('').max(200).default(''),
  sort: Joi.valid(...PEOPLE_ORDERS).default('newest'),
  where: conditionText.empty('').default(null),
  status: status.default(null),
  tag: id.default(null),
  list: id.default(null),
  segment: id.default(null),
  optin: id.default(null),
  is: Joi.valid('inside', 'started', 'finished', 'left').default(null),
  course: id.default(null),
  step: Joi.string().max(40).default(null),
  number: Joi.valid('waiting', 'sent', 'heldBack', 'opened', 'clicked', 'unsubscribed').default(null),
  trouble: Joi.valid('givenUp', 'heldBack', 'waitingAgain', 'repeated').default(null),
  held: Joi.valid(...STANDING_REASONS, 'nothing').default(null),
  broadcast: id.default(null), who: Joi.string().pattern(/^[a-z0-9-]{1,40}$/).default(null),
  page: Joi.number().integer().min(0).max(100_000).default(0),
}

export const peopleSearch = Joi.object<PeopleSearch>(searchKeys)

const listOf = (pattern: RegExp) => Joi.string().allow('').max(100_000).pattern(pattern)
export const exportQuery = Joi.object<PeopleSearch & { columns: string, ids: string }>({
  ...searchKeys, columns: listOf(/^[A-Za-z0-9,-]*$/).default(''), ids: listOf(/^[0-9,]*$/).default(''),
})

/* What is done to many */

const doing = Joi.object<Doing>({ kind: Joi.string().required() })
  .when('.kind', {
    switch: [
      { is: Joi.valid('give-tag', 'take-tag'), then: Joi.object({ tagId: id.required() }) },
      { is: Joi.valid('put-on-list', 'take-off-list'), then: Joi.object({ listId: id.required() }) },
      { is: 'set-field', then: Joi.object({ fieldId: id.required(), typed: text(MOST_LETTERS).required() }) },
      { is: 'enrol', then: Joi.object({ courseId: id.required() }) },
      { is: 'erase', then: Joi.object({}) },
    ],
    otherwise: Joi.forbidden(),
  })

export const taskInput = Joi.object<TaskInput>({
  whom: Joi.alternatives(
    Joi.object({ kind: Joi.valid('all').required(), query: Joi.object(searchKeys).required() }),
    Joi.object({ kind: Joi.valid('picked').required(), ids: Joi.array().items(id).unique().min(1).max(10_000).required() }),
  ).required(),
  doing: doing.required(),
  said: Joi.number().integer().min(1).required(),
})
