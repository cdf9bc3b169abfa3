/**
 * What programs can ask for. Each operation is described once: its path, what
 * may come in, what is answered, and an example of both. The handler checks by
 * it, and the OpenAPI document is made of it.
 */
import type { Schema } from 'joi'
import Joi from '../joi'
import { isCountry } from '#core/people/country'
import { isZone } from '#core/time/zone'
import {
  addPerson, beginCourse, changePerson, endCourse, eventsOfOne, eventsOut, peopleOut, personOut, type NewPerson,
} from '#usecases/api/people'
import { clockOut, coursesOut, listsOut, purchasesOfOne, purchasesOut, tagsOut, tellOfPayment } from '#usecases/api/things'
import { giveTagByHand, joinListByHand, leaveListByHand, takeTagByHand } from '#usecases/know/byHand'
import { erasePerson } from '#usecases/know/erase'
import { saveList, saveTag } from '#usecases/know/listsAndTags'
import { moveClock } from '#usecases/time/moveClock'
import type { TagInput } from '#core/people/tag'
import type { ListInput } from '#core/views/marks'
import type { ClockMove } from '#core/views/frame'
import { clockMove, listInput, tagInput, text } from '../schemas'
import * as answers from './answers'
import { DEFINITION_OPERATIONS } from './definitions'
import { EXAMPLES as example } from './examples'
import type { Call, Operation } from './operation'

const email = Joi.string().max(254)
const zone = Joi.string().max(64).custom((name: string, helpers) => isZone(name) ? name : helpers.error('any.invalid'))
  .messages({ 'any.invalid': 'A time zone looks like Europe/Lisbon.' }).allow(null)
const country = Joi.string().length(2).custom((code: string, helpers) => isCountry(code) ? code : helpers.error('any.invalid'))
  .messages({ 'any.invalid': 'A country is a code of two letters, like PT.' }).allow(null)
const ids = Joi.array().items(Joi.number().integer().min(1)).unique().max(100).default([])
const value = Joi.alternatives(Joi.string().max(2000).allow(''), Joi.number())
const fields = (item: Schema) =>
  Joi.object().pattern(/.*/, item).description('Values by field name: a text, a number, a date like 2026-11-26, yes or no.')
const consent = Joi.object({
  origin: Joi.string().max(200).required().description('Where they agreed, like “the sign-up sheet at the spring fair”.'),
  wording: Joi.string().max(1000).required().description('The words they agreed to.'),
})
const after = Joi.number().integer().min(0).default(0)
const limit = Joi.number().integer().min(1).max(200).default(50)
const page = Joi.object({ after, limit })

const key = Joi.string().pattern(/^[\w.:-]{1,120}$/)
const payment = Joi.object({
  type: Joi.string().valid('payment.made', 'payment.refused', 'payment.refunded', 'payment.disputed', 'order.ended').required(),
  timestamp: Joi.string().isoDate().raw().required(),
  data: Joi.object({
    order: key.required().description('The shop’s own name for the order.'),
    payment: key.description('The shop’s own name for the payment.'),
    refund: key,
    amount: Joi.number().integer().min(0).description('In the smallest unit of the currency: 4900 for €49.00.'),
    currency: Joi.string().length(3),
    offer: Joi.string().max(80).description('The end of the offer’s address.'), email, first_name: Joi.string().max(80),
    coupon: Joi.string().max(60),
  }).required(),
})

interface Paging { after: number, limit: number }
const of = ({ numbers }: Call) => numbers.id!

const OWN: readonly Operation[] = [
  {
    method: 'GET', path: '/people', scope: 'people:read', summary: 'Subscribers, by number',
    description: 'You can also ask for one address, current or former.', status: 200,
    query: Joi.object({ email: email.allow(null).default(null), after, limit }), answer: answers.people,
    example: { answer: example.people },
    run: ({ context, query }) => peopleOut(context, query as Paging & { email: string | null }),
  },
  {
    method: 'POST', path: '/people', scope: 'people:write', summary: 'Adds a subscriber', makes: true, status: 201,
    description: 'They are active at once, so only add people who have agreed. '
      + 'A known or erased address is refused. Programs cannot bring people back.',
    besides: { tagIds: 'tags:write', listIds: 'lists:write' },
    body: Joi.object({
      email: email.required(), firstName: Joi.string().max(80).allow('').default(''), zone: zone.default(null),
      country: country.default(null), fields: fields(value).default({}), tagIds: ids, listIds: ids,
      consent: consent.allow(null).default(null),
    }),
    answer: answers.made, example: { body: example.newPerson, answer: { id: 42 } },
    run: ({ context, body }) => addPerson(context, body as NewPerson),
  },
  {
    method: 'GET', path: '/people/{id}', scope: 'people:read', summary: 'One subscriber', status: 200, answer: answers.person,
    example: { answer: example.person }, run: call => personOut(call.context, of(call)),
  },
  {
    method: 'PATCH', path: '/people/{id}', scope: 'people:write', summary: 'Changes a subscriber’s details',
    description: 'What you do not name stays. A field set to null is cleared. A new time zone reschedules their unsent emails.',
    status: 200,
    body: Joi.object({ firstName: Joi.string().max(80).allow(''), zone, country, fields: fields(value.allow(null)) }).min(1),
    answer: answers.person, example: { body: { firstName: 'Ada', fields: { 'Favourite binding': null } }, answer: example.person },
    run: call => changePerson(call.context, of(call), call.body as Parameters<typeof changePerson>[2]),
  },
  {
    method: 'DELETE', path: '/people/{id}', scope: 'people:write', summary: 'Erases a subscriber',
    description: 'For good: all personal data is deleted. Only a digest of the address is kept, so that it is not mailed again.',
    status: 204, example: {}, run: call => erasePerson(call.context, of(call)),
  },
  {
    method: 'PUT', path: '/people/{id}/tags/{tagId}', scope: 'tags:write', summary: 'Adds a tag',
    description: 'It starts the courses and house rules that use it.', status: 204, example: {},
    run: call => giveTagByHand(call.context, of(call), call.numbers.tagId!, 'program'),
  },
  {
    method: 'DELETE', path: '/people/{id}/tags/{tagId}', scope: 'tags:write', summary: 'Removes a tag', status: 204, example: {},
    run: call => takeTagByHand(call.context, of(call), call.numbers.tagId!, 'program'),
  },
  {
    method: 'PUT', path: '/people/{id}/lists/{listId}', scope: 'lists:write', summary: 'Adds a person to a list',
    description: 'Not possible for a list they left themselves.', status: 204, example: {},
    run: call => joinListByHand(call.context, of(call), call.numbers.listId!, 'program'),
  },
  {
    method: 'DELETE', path: '/people/{id}/lists/{listId}', scope: 'lists:write', summary: 'Removes a person from a list',
    description: 'Its courses end for them.', status: 204, example: {},
    run: call => leaveListByHand(call.context, of(call), call.numbers.listId!, 'program'),
  },
  {
    method: 'PUT', path: '/people/{id}/courses/{courseId}', scope: 'courses:write', summary: 'Starts a course for a person',
    description: 'People already inside, finished with a course that can be taken once, or unsubscribed are left out. The answer says so.',
    status: 200, answer: answers.began, example: { answer: { outcome: 'enrolled' } },
    run: call => beginCourse(call.context, of(call), call.numbers.courseId!),
  },
  {
    method: 'DELETE', path: '/people/{id}/courses/{courseId}', scope: 'courses:write', summary: 'Ends a course for a person',
    description: 'Emails not sent yet are withdrawn.', status: 204, example: {},
    run: call => endCourse(call.context, of(call), call.numbers.courseId!),
  },
  {
    method: 'GET', path: '/people/{id}/events', scope: 'events:read', summary: 'The history of a subscriber',
    description: 'The latest first.', status: 200, answer: answers.eventsOfOne, example: { answer: { events: [example.event] } },
    run: call => eventsOfOne(call.context, of(call)),
  },
  {
    method: 'GET', path: '/people/{id}/purchases', scope: 'purchases:read', summary: 'What a subscriber bought',
    description: 'The latest first.', status: 200, answer: answers.purchasesOfOne, example: { answer: { purchases: [example.purchase] } },
    run: call => purchasesOfOne(call.context, of(call)),
  },
  {
    method: 'GET', path: '/events', scope: 'events:read', summary: 'Everything that happened, in order',
    description: 'Keep “next” and ask again later. You miss nothing and get nothing twice.', status: 200, query: page,
    answer: answers.events, example: { answer: { events: [example.event], next: example.event.id } },
    run: ({ context, query }) => eventsOut(context, query as Paging),
  },
  {
    method: 'GET', path: '/tags', scope: 'tags:read', summary: 'All tags', status: 200, answer: answers.tags,
    example: { answer: example.tags }, run: ({ context }) => tagsOut(context),
  },
  {
    method: 'POST', path: '/tags', scope: 'tags:write', summary: 'Makes a tag', makes: true, status: 201,
    body: Joi.object({ name: text(80).required(), note: text(300).default(''), group: text(40).default('') }), answer: answers.made,
    example: { body: { name: 'likes: coptic', note: 'Clicked a link about coptic binding.' }, answer: { id: 7 } },
    run: ({ context, body }) => ({ id: saveTag(context, null, Joi.attempt(body, tagInput) as TagInput) }),
  },
  {
    method: 'GET', path: '/lists', scope: 'lists:read', summary: 'All lists', status: 200, answer: answers.lists,
    example: { answer: example.lists }, run: ({ context }) => listsOut(context),
  },
  {
    method: 'POST', path: '/lists', scope: 'lists:write', summary: 'Makes a list', makes: true, status: 201, body: Joi.object({
      name: text(80).required(), publicName: text(80).required(), description: text(300).default(''),
    }), answer: answers.made,
    example: { body: { name: 'letters', publicName: 'Letters from the workshop' }, answer: { id: 3 } },
    run: ({ context, body }) => ({ id: saveList(context, null, Joi.attempt(body, listInput) as ListInput) }),
  },
  {
    method: 'GET', path: '/courses', scope: 'courses:read', summary: 'All courses', status: 200, answer: answers.courses,
    example: { answer: example.courses }, run: ({ context }) => coursesOut(context),
  },
  {
    method: 'GET', path: '/purchases', scope: 'purchases:read', summary: 'All purchases, by number', status: 200, query: page,
    answer: answers.purchases, example: { answer: { purchases: [example.purchase], next: null } },
    run: ({ context, query }) => purchasesOut(context, query as Paging),
  },
  {
    method: 'POST', path: '/purchases', scope: 'purchases:write', summary: 'Reports a payment',
    description: 'As a payment service does by webhook: payments, refunds and endings, in any order. A payment reported twice counts once.', makes: true, status: 200,
    body: payment, answer: answers.told, example: { body: example.payment, answer: { outcome: 'counted' } },
    run: ({ context, body, callId }) => tellOfPayment(context, callId, body),
  },
  {
    method: 'GET', path: '/clock', scope: 'clock:read', summary: 'What time it is in this workspace', status: 200, answer: answers.clock,
    example: { answer: { mode: 'practice', now: '2026-11-26T08:00:00.000Z', zone: 'Europe/Lisbon' } },
    run: ({ context }) => clockOut(context),
  },
  {
    method: 'POST', path: '/clock', scope: 'clock:write', summary: 'Moves the practice clock',
    description: 'Everything due until then happens. “at” is in milliseconds since 1970.', status: 202, body: clockMove,
    answer: answers.moving, example: { body: { by: 'day' }, answer: { movingTo: '2026-11-27T08:00:00.000Z' } },
    run: ({ context, body }) => ({ movingTo: new Date(moveClock(context, body as ClockMove)).toISOString() }),
  },
]

export const OPERATIONS: readonly Operation[] = [...OWN, ...DEFINITION_OPERATIONS]

export type Found = { operation: Operation, numbers: Record<string, number> } | { allowed: string[] }

/**
 * By method and path (without the version before it); the methods that there are at this path, where the one asked for is not among them.
 */
export function operationAt(method: string, path: string): Found {
  const parts = path.split('/')
  const here = OPERATIONS.flatMap((operation) => {
    const wanted = operation.path.split('/')
    if (wanted.length !== parts.length) return []
    const numbers: Record<string, number> = {}
    for (const [n, part] of wanted.entries()) {
      if (!part.startsWith('{')) {
        if (part !== parts[n]) return []
        continue
      }
      if (!/^[1-9]\d{0,14}$/.test(parts[n]!)) return []
      numbers[part.slice(1, -1)] = Number(parts[n])
    }
    return [{ operation, numbers }]
  })
  return here.find(({ operation }) => operation.method === method) ?? { allowed: here.map(({ operation }) => operation.method) }
}
