/** What programs are answered, described once: for the document, and for the tests that hold every answer against it. */
import type { Schema } from 'joi'
import Joi from '../joi'
import { EVENT_KINDS } from '#core/events'
import { STATUSES } from '#core/people/status'

const id = Joi.number().integer().min(1)
const instant = Joi.string().isoDate().description('A time in UTC (RFC 3339).')
const whole = Joi.number().integer().min(0)
const words = Joi.string().allow('')
/** Every key is there, and no other. Joi's `fork` says the same, but copies all of it for every key, at each start. */
const exactly = (keys: Record<string, Schema>) =>
  Joi.object(Object.fromEntries(Object.entries(keys).map(([key, schema]) => [key, schema.required()])))
const listOf = (item: Schema) => Joi.array().items(item)
const orNone = (schema: Schema) => schema.allow(null)
const nextPage = orNone(id).description('Pass it as “after” to get the next ones; null at the end.')

export const person = exactly({
  id, email: words, firstName: words, status: Joi.string().valid(...STATUSES), zone: orNone(words), country: orNone(words), source: words,
  createdAt: instant, consentAt: orNone(instant), score: Joi.number(),
  tags: listOf(exactly({ id, name: words, since: instant })), lists: listOf(exactly({ id, name: words, joined: Joi.boolean() })),
  fields: Joi.object().pattern(/.*/, Joi.alternatives(Joi.string().allow(''), Joi.number())).description(
    'Field values, by field name.',
  ),
})
export const people = exactly({ people: listOf(person), next: nextPage })
const event = exactly({
  id, kind: Joi.string().valid(...EVENT_KINDS), at: instant, personId: orNone(id),
  causeId: orNone(id).description('The event that caused this one.'), says: words.description('The event in words.'),
})
export const eventsOfOne = exactly({ events: listOf(event) })
export const events = exactly({
  events: listOf(event), next: whole.description('Pass it as “after” to get what has happened since, now or later.'),
})
export const tags = exactly({ tags: listOf(exactly({ id, name: words, note: words, group: words, people: whole })) })
export const lists = exactly({ lists: listOf(exactly({ id, name: words, publicName: words, description: words, people: whole })) })
export const made = exactly({ id })
export const courses = exactly({ courses: listOf(exactly({ id, name: words, running: Joi.boolean(), listId: orNone(id) })) })
const state = Joi.string().valid('draft', 'at-work', 'off').description(
  'Draft, in use, or stopped or switched off.',
)
const line = { id, name: words, state, changed: Joi.boolean().description('Whether the draft differs from what is in use.') }
export const definitions = (area: string) => exactly({ [area]: listOf(exactly(line)) })
export const definition = (format: string, version: number) => exactly({
  ...line, revision: words.description('Send it with a change.'),
  definition: exactly({
    format: Joi.valid(format), version: Joi.valid(version), name: words, names: Joi.object().unknown(), draft: Joi.object().unknown(),
  })
    .keys({ reason: words }),
})
const brings = {
  made: listOf(words).description('What was created for it here.'),
  lost: listOf(words).description('What it names but does not exist here; it was left out.'),
}
export const brought = exactly({ id, ...brings })
const effect = Joi.object({ fromStepId: orNone(words), toStepId: orNone(words), people: whole, atOnce: whole }).unknown()
export const changes = exactly({
  inside: whole.description('People inside.'), steps: listOf(Joi.object().unknown()),
  effects: listOf(effect).description('How many people would move from where to where, and how many would get something at once.'),
  newEnd: orNone(Joi.object({ stepId: words, finished: whole })).description('Steps after the old end, and how many people reached it.'),
}).unknown()
export const changedDefinition = exactly(brings).keys({ changes })
export const published = exactly({ number: whole.description('Of the version.') })
export const started = exactly({ scheduledEntries: whole.description('People who are scheduled to join.') })
export const moved = exactly({ moved: whole, goOn: whole })
export const began = exactly({ outcome: Joi.string().valid('enrolled', 'stays-out') })
const purchase = exactly({
  id, order: words, personId: id, offer: exactly({ id, name: words, slug: words }), currency: words.description(
    'A code of ISO 4217. Amounts are whole numbers of its smallest unit.',
  ), boughtAt: instant, isOver: Joi.boolean(), paidUntilAt: orNone(instant), paid: whole, refunded: whole,
  payments: listOf(exactly({ payment: words, at: instant, amount: whole, refunded: whole, disputed: Joi.boolean() })),
})
export const purchasesOfOne = exactly({ purchases: listOf(purchase) })
export const purchases = exactly({ purchases: listOf(purchase), next: nextPage })
export const told = exactly({ outcome: Joi.string().valid('counted', 'known', 'waits') })
export const clock = exactly({ mode: Joi.string().valid('practice', 'live'), now: instant, zone: words })
export const moving = exactly({ movingTo: instant })
export const problem = Joi.object({
  problem: words.required().description('What is wrong, in words.'), fields: listOf(exactly({ field: words, problem: words })),
})
