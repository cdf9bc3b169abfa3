/** What may come in about courses, described once. */
import { randomUUID } from 'node:crypto'
import type { ObjectSchema } from 'joi'
import Joi from './joi'
import { ACTION_KINDS } from '#core/rules/rule'
import type { Limits } from '#core/sending/quota'
import { AGAIN, type CourseDraft } from '#core/sequence/draft'
import { MOST_OUTLINED } from '#core/sequence/outline'
import { REACTS_ON } from '#core/sequence/program'
import type { SummaryRule } from '#core/summary/rule'
import type { WeekHours } from '#core/time/hours'
import { isDate, isLocalTime } from '#core/time/zone'
import { condition } from './peopleSchemas'
import { actionsOf, occasion } from './ruleSchemas'
import type { WhoAsked } from '#core/views/courseNumbers'
import type { CourseBeginning, Include, Mender } from '#core/views/course'
import { line, messageContent } from './messageSchemas'
import { id, text } from './schemas'

export const newStepId = () => randomUUID().slice(0, 8)

export const localTime = Joi.string().custom((value: string, helpers) => isLocalTime(value) ? value : helpers.error('any.invalid'))
  .messages({ 'any.invalid': 'A time looks like 08:00.' })
export const localDate = Joi.string().custom((value: string, helpers) => isDate(value) ? value : helpers.error('any.invalid'))
  .messages({ 'any.invalid': 'Choose a date.' })
const weekHours = Joi.string().pattern(/^[01]{336}$/)
const from = Joi.valid('previous', 'joining').required()
/** How a date comes round; that the date itself does not count can only be said of one that does. */
const returning = {
  everyMonths: Joi.number().integer().min(0).max(120).required(),
  fromFirst: Joi.when('everyMonths', { is: 0, then: Joi.forbidden(), otherwise: Joi.valid(true) }),
}
const away = { days: Joi.number().integer().min(-3650).max(3650).required(), months: Joi.number().integer().min(-120).max(120) }
const when = Joi.alternatives(
  Joi.object({ kind: Joi.valid('at-once').required() }),
  Joi.object({
    kind: Joi.valid('elapsed').required(), count: Joi.number().integer().min(1).max(10_000).required(),
    unit: Joi.valid('minutes', 'hours', 'days', 'weeks').required(), from,
  }),
  Joi.object({
    kind: Joi.valid('calendar-day').required(), day: Joi.number().integer().min(0).max(3650).required(), time: localTime.required(), from,
  }),
  Joi.object({
    kind: Joi.valid('months').required(), count: Joi.number().integer().min(1).max(120).required(), time: localTime.required(), from,
  }),
  Joi.object({ kind: Joi.valid('next-time').required(), time: localTime.required() }),
  Joi.object({
    kind: Joi.valid('next-weekday').required(), weekday: Joi.number().integer().min(1).max(7).required(), time: localTime.required(),
  }),
  Joi.object({ kind: Joi.valid('date').required(), date: localDate.required(), time: localTime.required() }),
  Joi.object({ kind: Joi.valid('date-field').required(), fieldId: id.required(), ...away, time: localTime.required(), ...returning }),
)

const base = {
  id: Joi.string().pattern(/^[a-z0-9-]{1,40}$/).required(),
  when: when.required(),
  ifPast: Joi.valid('at-once', 'skip').required(),
  zone: Joi.valid('workspace', 'subscriber').required(),
  paused: Joi.valid(true),
}
const row = Joi.array().items(Joi.link('#step')).max(200).required()
const kind = (name: string) => ({ kind: Joi.valid(name).required() })
export const span = Joi.object({
  count: Joi.number().integer().min(1).max(10_000).required().messages({ '*': 'From 1 to 10,000.' }),
  unit: Joi.valid('minutes', 'hours', 'days', 'weeks').required(),
})
/** An email is a step of its own; the one action of rules that a course does not need. */
const COURSE_ACTIONS = ACTION_KINDS.filter(one => one !== 'email')

export const stepId = Joi.string().pattern(/^[a-z0-9-]{1,40}$/)
const absent = Joi.when('on', { is: Joi.valid('not-opened', 'not-clicked'), then: span.required(), otherwise: Joi.forbidden() })
const reaction = Joi.object({
  id: stepId.required(), on: Joi.valid(...REACTS_ON).required(), within: absent, then: actionsOf(COURSE_ACTIONS).max(10).required(),
  skipToId: stepId,
  url: Joi.when('on', { is: Joi.valid('clicked', 'not-clicked'), then: Joi.string().max(2000), otherwise: Joi.forbidden() }),
  again: Joi.when('on', {
    is: 'not-opened', then: Joi.object({ subject: line.required(), messageId: Joi.valid(null).required() }), otherwise: Joi.forbidden(),
  }),
})

const KINDS: Record<string, ObjectSchema> = {
  email: Joi.object({
    ...base, ...kind('email'), ignoresHours: Joi.boolean(), uselessAfter: span, notIfReadId: stepId, content: messageContent.required(),
    reactions: Joi.array().items(reaction).max(10).unique('id'),
  }),
  hold: Joi.object({
    ...base, ...kind('hold'), did: row, didNot: row,
    atMost: span.required(),
    until: Joi.alternatives(
      Joi.object({ ...kind('event'), when: occasion.required() }), Joi.object({ ...kind('condition'), who: condition.required() }),
    ).required(),
  }),
  fork: Joi.object({ ...base, ...kind('fork'), otherwise: row, ways: Joi.array().items(Joi.object({
    id: Joi.string().pattern(/^[a-z0-9-]{1,40}$/).invalid('otherwise', 'did', 'did-not').required(), who: condition.required(), steps: row,
  })).max(10).required() }),
  do: Joi.object({ ...base, ...kind('do'), then: actionsOf(COURSE_ACTIONS).max(20).required() }),
  jump: Joi.object({ ...base, ...kind('jump'), toId: Joi.string().max(40).allow('').required() }),
  end: Joi.object({ ...base, ...kind('end') }),
}
export const courseStep = Joi.alternatives()
  .conditional('.kind', { switch: Object.entries(KINDS).map(([is, then]) => ({ is, then })), otherwise: Joi.forbidden() }).id('step')

export const courseDraft = Joi.object<CourseDraft>({
  listId: id.allow(null).required(),
  publicName: text(80),
  wayInTagIds: Joi.array().items(id).unique().required(),
  wayInListIds: Joi.array().items(id).unique(),
  joinsList: Joi.boolean(),
  again: Joi.valid(...AGAIN).required(),
  entry: condition,
  waysOut: Joi.array().items(Joi.object({ id: stepId.required(), when: occasion.required(), fromStepId: stepId.allow(null).required() }))
    .max(20),
  onFinish: actionsOf(COURSE_ACTIONS).max(10),
  dates: Joi.object({ fieldId: id.required(), ...returning }),
  hours: weekHours.allow(null),
  steps: Joi.array().items(Joi.link('#step')).max(200).required(),
}).shared(courseStep)

export const ontoListInput = Joi.object<{ kind: Mender, id: number }>({
  kind: Joi.valid('page', 'offer', 'waiting-list', 'course').required(), id: id.required(),
})

export const courseInput = Joi.object<{ name: string, draft: CourseDraft }>({
  name: text(120).required(),
  draft: courseDraft.required(),
})

export const summaryInput = Joi.object<SummaryRule>({
  on: Joi.boolean().required(), weekday: Joi.number().integer().min(1).max(7).required(), time: localTime.required(),
})

export const sendingHoursInput = Joi.object<{ hours: WeekHours }>({ hours: weekHours.required() })

const most = (n: number) =>
  Joi.number().integer().min(1).max(n).allow(null).required().messages({ '*': `From 1 to ${n}, or nothing for no limit.` })
export const sendingLimitsInput = Joi.object<Limits>({
  gapMinutes: Joi.number().integer().min(0).max(10_080).required().messages({ '*': 'From 0 minutes to a week.' }), aDay: most(50),
  aWeek: most(200), tooMany: Joi.valid('wait', 'drop').required(),
})

/** `people`: the number that was seen, where anybody is taken in. */
export const startInput = Joi.object<{ include: Include, people: number | null }>({
  people: Joi.number().integer().min(0)
    .when('include.kind', { is: 'none', then: Joi.number().allow(null).default(null), otherwise: Joi.required() }),
  include: Joi.alternatives(
    Joi.object({ kind: Joi.valid('none', 'now', 'by-joining').required() }),
    Joi.object({
      kind: Joi.valid('spread').required(), days: Joi.number().integer().min(1).max(90).required().messages({ '*': 'From 1 to 90 days.' }),
    }),
  ).required(),
})
export const personInput = Joi.object<{ personId: number }>({ personId: id.required() })
export const moveInput = Joi.object<{ toId: string }>({ toId: stepId.required() })
export const standingQuery = Joi.object<{ stepId: string | null, from: number }>({
  stepId: stepId.allow(null).default(null), from: Joi.number().integer().min(0).default(0),
})
export const exportAsQuery = Joi.object<{ as: 'json' | 'folder' }>({ as: Joi.valid('json', 'folder').default('json') })
export const againInput = Joi.object<{ outboxId: number | null }>({ outboxId: id.allow(null).required() })
const instant = Joi.number().integer().required()
const wayId = Joi.string().max(40).required()
export const whoInput = Joi.object<{ asked: WhoAsked, from: number }>({
  from: Joi.number().integer().min(0).default(0),
  asked: Joi.alternatives(
    Joi.object({ way: Joi.object({ stepId: stepId.required(), wayId }).required() }),
    Joi.object({
      week: Joi.object({ from: instant, to: instant }).required(),
      is: Joi.valid('joined', 'inside', 'finished', 'left', 'bought').required(),
    }),
    Joi.object({ after: stepId.allow(null).required(), end: Joi.valid('inside', 'finished', 'left').required() }),
    Joi.object({ bought: stepId.required(), clickMs: Joi.number().integer().min(1).max(8e9).required() }),
  ).required(),
})
export const publishInput = Joi.object<{ goesOn: boolean }>({ goesOn: Joi.boolean().default(false) })

export const courseBeginning = Joi.alternatives<CourseBeginning>(
  Joi.object({ kind: Joi.valid('empty').required() }),
  Joi.object({ kind: Joi.valid('template').required(), key: Joi.string().pattern(/^[a-z-]{1,40}$/).required() }),
  Joi.object({ kind: Joi.valid('outline').required(), outline: Joi.object({
    lines: Joi.array().items(Joi.object({
      subject: text(200).required(), day: Joi.number().integer().min(0).max(9999).allow(null).required(),
    })).min(1).max(MOST_OUTLINED).required().messages({ 'array.max': `At most ${MOST_OUTLINED} emails at once.` }),
    everyDays: Joi.number().integer().min(1).max(365).required(), time: localTime.required(),
  }).required() }),
)
export const newCourseInput = Joi.object<{ name: string, beginning: CourseBeginning }>({
  name: text(120).required(), beginning: courseBeginning.default({ kind: 'empty' }),
})
