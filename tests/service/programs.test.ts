import { beforeEach, describe, expect, it, vi } from 'vitest'
import type Joi from 'joi'
import { newRule } from '#core/rules/rule'
import { SCOPES, type Scope } from '#core/views/keys'
import { emailsOfPerson } from '#data/outbox'
import { hasTag } from '#data/marks'
import { findPersonByKey } from '#data/people'
import { answerProgram, keyOf, type ProgramAnswer } from '#server/open/answer'
import { openApi } from '#server/open/openapi'
import { OPERATIONS } from '#server/open/operations'
import { Refused } from '#server/refused'
import { Pool } from '#server/work/pool'
import { keysView, makeKey, removeKey } from '#usecases/api/keys'
import { erasePerson } from '#usecases/know/erase'
import { saveField } from '#usecases/know/fields'
import { saveRule } from '#usecases/know/rules'
import { InputProblem, NotThere } from '#usecases/problem'
import { saveTag } from '#usecases/know/listsAndTags'
import { leaveAll, openShop, type Shop } from './shop'
import { DAY, furnish, moveTo, openContext, tag, thursdayNoon, visit } from './workshop'

let shop: Shop
let system: number
let secret: string
beforeEach(async () => {
  system = thursdayNoon
  shop = await openShop(await furnish(openContext()))
  saveField(shop.context, null, { name: 'Favourite binding', label: 'Your favourite', kind: 'text', choices: [] })
  secret = makeKey(shop.context, { name: 'the shop', scopes: [...SCOPES] }, system).secret
})

interface Said {
  key?: string
  body?: unknown
  /** Instead of the body as JSON. */
  text?: string | Uint8Array
  once?: string
  query?: Record<string, unknown>
}
async function ask(
  method: string, path: string, { key = secret, body, text = JSON.stringify(body) ?? '', once, query = {} }: Said = {},
): Promise<ProgramAnswer> {
  const found = keyOf(shop.context, `Bearer ${key}`, system)
  const bytes = typeof text === 'string' ? new TextEncoder().encode(text) : text
  return 'refused' in found
    ? found.refused
    : answerProgram(shop.context, found.key, { method, path, query, idempotencyKey: once ?? null, bytes }, system)
}
/** What is answered, held against its description. */
async function got<Body = Record<string, unknown>>(method: string, path: string, said: Said = {}): Promise<Body> {
  const answer = await ask(method, path, said)
  const template = path.replace(/^\/people\/\d+/, '/people/{id}').replace(/\/(tag|list|course)s\/\d+$/, '/$1s/{$1Id}')
  const operation = OPERATIONS.find(one => one.method === method && one.path === template)!
  expect([answer.status, answer.body], `${method} ${path}`).toEqual([operation.status, answer.body])
  if (operation.answer) fits(operation.answer, answer.body, template)
  else expect(answer.body).toBeUndefined()
  return answer.body as Body
}
const fits = (schema: Joi.Schema, value: unknown, what: string) =>
  expect(schema.validate(value, { convert: false }).error?.message, what).toBeUndefined()
const historyOf = async (id: number) =>
  (await got<{ events: { says: string }[] }>('GET', `/people/${id}/events`)).events.map(({ says }) => says)
const ada = {
  email: 'Ada@example.com', firstName: ' Ada ', zone: 'Europe/Lisbon', country: 'PT', fields: { 'favourite binding': 'coptic' },
}

describe('a key', () => {
  it('is shown once and kept as a digest; its use is told; ended it opens nothing', async () => {
    const { context } = shop
    const [key] = keysView(context).keys
    expect([key!.name, key!.hint, key!.lastUsedAt]).toEqual(['the shop', secret.slice(-4), null])
    expect(JSON.stringify(context.db.prepare('SELECT * FROM api_keys').all())).not.toContain(secret.slice(0, 30))
    system += 5000
    expect((await ask('GET', '/clock')).status).toBe(200)
    expect(keysView(context).keys[0]!.lastUsedAt).toBe(system)
    removeKey(context, key!.id, system)
    expect(await ask('GET', '/clock')).toMatchObject({ status: 401, headers: { 'www-authenticate': 'Bearer' } })
    expect(() => removeKey(context, key!.id, system)).toThrow(NotThere)
    expect(keysView(context).keys).toEqual([])
  })

  it('is refused without a name and without anything it may do', () => {
    expect(() => makeKey(shop.context, { name: ' ', scopes: ['people:read'] }, system)).toThrow(InputProblem)
    expect(() => makeKey(shop.context, { name: 'x', scopes: [] }, system)).toThrow('at least one')
  })

  it('opens each operation only with its own scope', async () => {
    for (const { method, path, scope } of OPERATIONS) {
      const others = SCOPES.filter(one => one !== scope && one !== scope.replace(':read', ':write'))
      const { secret: key } = makeKey(shop.context, { name: 'all but one', scopes: others }, system)
      const answer = await ask(method, path.replace(/\{\w+\}/g, '1'), { key, body: {} })
      expect([answer.status, answer.body]).toEqual([403, { problem: `This key lacks the permission ${scope}.` }])
    }
  })

  it('A8: gives no tag and no list by adding somebody where it may touch neither; what a call does is asked for, not its address', async () => {
    const { context, tagId, listId } = shop
    const post = (scopes: Scope[], more: object) => ask('POST', '/people', {
      key: makeKey(context, { name: 'one of many', scopes }, system).secret, body: { email: `p${system++}@example.com`, ...more },
    })
    const people = () => context.db.prepare('SELECT count(*) FROM people').pluck().get()
    const before = people()
    expect(await post(['people:write', 'lists:write'], { tagIds: [tagId] })).toMatchObject({
      status: 403, body: { problem: 'This key may not do all of that: “tagIds” needs tags:write.' },
    })
    expect(await post(['people:write', 'tags:write', 'lists:read'], { listIds: [listId] })).toMatchObject({
      status: 403, body: { problem: 'This key may not do all of that: “listIds” needs lists:write.' },
    })
    expect(people()).toBe(before)
    expect([(await post(['people:write'], {})).status, (await post(['people:write'], {
      tagIds: [], listIds: [],
    })).status, (await post(['people:write', 'tags:write', 'lists:write'], { tagIds: [tagId], listIds: [listId] })).status]).toEqual([
      201, 201, 201,
    ])
  })

  it('of another workspace, nobody’s and none are refused, each in its own words', async () => {
    const problems = await Promise.all(['porch_live_abc', 'porch_practice_abc', ''].map(key => ask('GET', '/tags', { key })))
    expect(problems.map(({ status }) => status)).toEqual([401, 401, 401])
    expect(problems.map(({ body }) => (body as { problem: string }).problem)).toEqual([
      'This key is for live, whose addresses begin with /v1.', 'This key is unknown or was revoked.',
      expect.stringContaining('in the header Authorization'),
    ])
  })
})

describe('subscribers', () => {
  it('are added with what is known of them; rules wake and courses begin', async () => {
    const bell = saveTag(shop.context, null, tag('bell'))
    await saveRule(shop.context, null, newRule({ kind: 'got-tag', thingId: shop.interestId }, [{ kind: 'give-tag', tagId: bell }]))
    const { id } = await got<{ id: number }>('POST', '/people', { body: {
      ...ada, tagIds: [shop.tagId, shop.interestId], listIds: [shop.listId], consent: { origin: 'the fair', wording: 'Yes, letters.' },
    } })
    const person = await got('GET', `/people/${id}`)
    expect(person).toMatchObject({
      email: 'Ada@example.com', firstName: 'Ada', status: 'active', source: 'api', fields: { 'Favourite binding': 'coptic' },
      lists: [{ name: 'letters', joined: true }],
    })
    expect((person.tags as { name: string }[]).map(({ name }) => name).sort()).toEqual(['bell', 'interest: coptic', 'sheet kit'])
    await moveTo(shop.context, thursdayNoon + DAY + 1)
    expect(emailsOfPerson(shop.context.db, id).filter(({ handedOverAt }) => handedOverAt !== null)).toHaveLength(2)
    expect((await got<{ people: unknown[] }>('GET', '/people', { query: { email: 'ada@EXAMPLE.com' } })).people).toHaveLength(1)
    expect(await got('GET', '/people', { query: { email: 'nobody@example.com' } })).toEqual({ people: [], next: null })
  })

  it('are not brought back: who is known, has left, or was erased', async () => {
    const here = visit(shop.context, 'here@example.com')
    await moveTo(shop.context, thursdayNoon + 1)
    leaveAll(shop.context, here)
    const left = await ask('POST', '/people', { body: { email: 'here@example.com' } })
    expect([left.status, (left.body as { problem: string }).problem]).toEqual([
      409, expect.stringMatching(/unsubscribed: only they can come back/),
    ])
    const gone = visit(shop.context, 'gone@example.com')
    erasePerson(shop.context, gone)
    expect((await ask('POST', '/people', { body: { email: 'gone@example.com' } })).status).toBe(409)
    expect(findPersonByKey(shop.context.db, 'gone@example.com')).toBeUndefined()
  })

  it('with something wrong are refused whole, and told what and where', async () => {
    const wrong = async (body: unknown) => {
      const { status, body: said } = await ask('POST', '/people', { body })
      return [status, (said as { fields: { field: string }[] }).fields.map(({ field }) => field).sort()]
    }
    expect(await wrong({ emial: 'a@example.com' })).toEqual([422, ['email', 'emial']])
    expect(await wrong({ email: 'a@@example.com' })).toEqual([422, ['email']])
    expect(await wrong({ ...ada, zone: 'Lisbon', country: 'XX' })).toEqual([422, ['country', 'zone']])
    expect(await wrong({ ...ada, fields: { nonsense: 'x' } })).toEqual([422, ['fields.nonsense']])
    expect(await wrong({ ...ada, tagIds: [shop.tagId, 9999], listIds: [9999] })).toEqual([422, ['listIds.0', 'tagIds.1']])
    expect(await wrong({ ...ada, tagIds: ['1'] })).toEqual([422, ['tagIds.0']])
    expect(await ask('POST', '/people', { text: '{"email":' })).toMatchObject({ status: 400 })
    expect(await got('GET', '/people')).toEqual({ people: [], next: null })
  })

  it('are changed and forgotten in part, tagged, listed, let into courses and out, and erased', async () => {
    const id = (await got<{ id: number }>('POST', '/people', { body: ada })).id
    expect(await got('PATCH', `/people/${id}`, { body: { fields: { 'Favourite binding': null }, zone: 'Asia/Tokyo' } })).toMatchObject({
      firstName: 'Ada', zone: 'Asia/Tokyo', country: 'PT', fields: {},
    })
    expect((await ask('PATCH', `/people/${id}`, { body: {} })).status).toBe(422)
    await got('PUT', `/people/${id}/tags/${shop.interestId}`)
    await got('PUT', `/people/${id}/tags/${shop.interestId}`)
    expect(hasTag(shop.context.db, shop.interestId, id)).toBe(true)
    await got('DELETE', `/people/${id}/tags/${shop.interestId}`)
    await got('PUT', `/people/${id}/lists/${shop.listId}`)
    expect(await got('PUT', `/people/${id}/courses/${shop.courseId}`)).toEqual({ outcome: 'enrolled' })
    expect(await got('PUT', `/people/${id}/courses/${shop.courseId}`)).toEqual({ outcome: 'stays-out' })
    await got('DELETE', `/people/${id}/courses/${shop.courseId}`)
    expect((await ask('DELETE', `/people/${id}/courses/${shop.courseId}`)).status).toBe(409)
    await got('DELETE', `/people/${id}/lists/${shop.listId}`)
    expect(await historyOf(id)).toEqual([
      'was removed from the list “letters”, by one of your programs',
      'left the course “Fold, Sew, Cover” because one of your programs asked for it',
      'one of your programs asked to end “Fold, Sew, Cover” for them',
      'did not join “Fold, Sew, Cover”: they are already in it', 'one of your programs asked to start “Fold, Sew, Cover” for them',
      'joined the course “Fold, Sew, Cover”', 'one of your programs asked to start “Fold, Sew, Cover” for them',
      'was added to the list “letters”, by one of your programs', 'lost the tag “interest: coptic”, by one of your programs',
      'got the tag “interest: coptic”, by one of your programs',
      '“Favourite binding” changed, by one of your programs', 'has a new time zone, by one of your programs',
      '“Favourite binding” changed, by one of your programs', 'one of your programs added them',
    ])
    for (const path of ['tags/9999', 'lists/9999', 'courses/9999']) {
      expect([404, 409]).toContain((await ask('PUT', `/people/${id}/${path}`)).status)
    }
    await got('DELETE', `/people/${id}`)
    expect((await ask('GET', `/people/${id}`)).status).toBe(404)
    expect(JSON.stringify(shop.context.db.prepare('SELECT * FROM api_answers').all())).not.toContain('ada@')
  })

  it('come page by page, and events so that none is missed or told twice', async () => {
    const ids: number[] = []
    for (let n = 0; n < 7; n++) ids.push((await got<{ id: number }>('POST', '/people', { body: { email: `p${n}@example.com` } })).id)
    const seen: number[] = []
    for (let after: number | null = 0; after !== null;) {
      const {
        people, next,
      }: { people: { id: number }[], next: number | null } = await got('GET', '/people', { query: { after: String(after), limit: '3' } })
      seen.push(...people.map(({ id }) => id))
      after = next
    }
    expect(seen).toEqual(ids)
    const events: number[] = []
    let from = 0
    for (let more = true; more;) {
      const page = await got<{ events: { id: number }[], next: number }>('GET', '/events', { query: { after: String(from), limit: '4' } })
      events.push(...page.events.map(({ id }) => id))
      from = page.next
      more = page.events.length > 0
    }
    expect(events).toEqual([...new Set(events)].sort((a, b) => a - b))
    expect(events).toHaveLength((shop.context.db.prepare('SELECT count(*) AS n FROM events').get() as { n: number }).n)
    await got('PUT', `/people/${ids[0]}/tags/${shop.interestId}`)
    expect(
      (await got<{ events: { kind: string }[] }>('GET', '/events', { query: { after: String(from) } })).events.map(({ kind }) => kind),
    ).toEqual(['got-tag'])
    expect((await ask('GET', '/people', { query: { limit: '0' } })).status).toBe(422)
    expect((await ask('GET', '/people', { query: { page: '2' } })).status).toBe(422)
  })
})

describe('the same request again', () => {
  it('with its idempotency key is done once within a day; another request under that key is refused', async () => {
    const first = await ask('POST', '/people', { body: ada, once: 'k1' })
    const second = await ask('POST', '/people', { body: ada, once: 'k1' })
    expect([first.status, second.status, second.body, second.headers]).toEqual([201, 201, first.body, { 'idempotent-replayed': 'true' }])
    expect(await ask('POST', '/people', { body: { ...ada, firstName: 'Eve' }, once: 'k1' })).toMatchObject({
      status: 422, body: { fields: [{ field: 'Idempotency-Key' }] },
    })
    const other = makeKey(shop.context, { name: 'another', scopes: ['people:write'] }, system).secret
    expect((await ask('POST', '/people', { body: { email: 'other@example.com' }, once: 'k1', key: other })).status).toBe(201)
    system += DAY + 1
    await got('POST', '/tags', { body: { name: 'later' }, once: 'k2' })
    expect((await ask('POST', '/people', { body: ada, once: 'k1' })).status).toBe(409)
    expect((await got<{ people: unknown[] }>('GET', '/people')).people).toHaveLength(2)
  })

  it('that was refused may be put right and sent again under the same key', async () => {
    expect((await ask('POST', '/tags', { body: { name: '' }, once: 'k' })).status).toBe(422)
    expect((await ask('POST', '/tags', { body: { name: 'bell' }, once: 'k' })).status).toBe(201)
    expect((await ask('POST', '/tags', { body: { name: 'bell 2' }, once: 'x'.repeat(201) })).status).toBe(422)
  })
})

describe('purchases', () => {
  const sale = (more: Record<string, unknown> = {}) => ({
    type: 'payment.made', timestamp: '2026-11-26T11:00:00Z',
    data: { order: 'fair-1', payment: 'p-1', amount: 4900, currency: 'EUR', offer: 'long-stitch', email: 'buyer@example.com', ...more },
  })

  it('are told like a payment service tells them, counted once, and given what the offer gives', async () => {
    expect(await got('POST', '/purchases', { body: sale() })).toEqual({ outcome: 'counted' })
    await got('POST', '/purchases', { body: sale() })
    const { purchases } = await got<{ purchases: Record<string, unknown>[] }>('GET', '/purchases')
    expect(purchases).toMatchObject([{
      order: 'fair-1', paid: 4900, refunded: 0, isOver: false, boughtAt: '2026-11-26T11:00:00.000Z', offer: { slug: 'long-stitch' },
      payments: [{ payment: 'p-1', amount: 4900 }],
    }])
    const id = purchases[0]!.personId as number
    expect(await got('GET', `/people/${id}`)).toMatchObject({ lists: [{ name: 'letters', joined: true }] })
    expect(await got('POST', '/purchases', { body: {
      type: 'payment.refunded', timestamp: '2026-11-26T11:30:00Z',
      data: { order: 'fair-1', payment: 'p-1', refund: 'r-1', amount: 4900, currency: 'EUR' },
    } })).toEqual({ outcome: 'counted' })
    expect((await got<{ purchases: unknown[] }>('GET', `/people/${id}/purchases`)).purchases).toMatchObject([
      { isOver: true, refunded: 4900 },
    ])
  })

  it('that cannot be used are refused with the reason, and leave nothing behind', async () => {
    for (const [body, reason] of [
      [sale({ offer: 'nonsense' }), /There is no offer “nonsense”/], [sale({ email: 'a@@b' }), /only one @/],
      [sale({ amount: '49' }), /number/], [{ ...sale(), timestamp: '2026-11-29T11:00:00Z' }, /in the future/],
      [sale({ currency: 'EUR', amount: 1.5 }), /whole number/],
    ] as const) {
      const answer = await ask('POST', '/purchases', { body })
      expect([answer.status, (answer.body as { problem: string }).problem]).toEqual([422, expect.stringMatching(reason)])
    }
    expect(await got('GET', '/purchases')).toEqual({ purchases: [], next: null })
    expect(shop.context.db.prepare('SELECT count(*) AS n FROM unmatched_payment_events').get()).toEqual({ n: 0 })
  })
})

it('a large body for which there is no time now is put off with its reason, not called a failure of ours', async () => {
  const busy = vi.spyOn(Pool.prototype, 'run').mockRejectedValueOnce(new Refused(503, 'The server is busy right now.'))
  const answer = await ask('POST', '/courses', { text: ' '.repeat(60_000) })
  expect([answer.status, answer.body, busy.mock.calls.length]).toEqual([503, { problem: 'The server is busy right now.' }, 1])
  busy.mockRestore()
})

it('the clock is told, and moved in practice', async () => {
  expect(await got('GET', '/clock')).toEqual({ mode: 'practice', now: '2026-11-26T12:00:00.000Z', zone: 'Europe/Lisbon' })
  expect(await got('POST', '/clock', { body: { by: 'to', at: thursdayNoon + DAY } })).toEqual({ movingTo: '2026-11-27T12:00:00.000Z' })
  expect((await ask('POST', '/clock', { body: { by: 'to', at: thursdayNoon - DAY } })).status).toBe(422)
})

describe('the document', () => {
  it('describes what there is, and its examples are what it says', () => {
    const document = openApi('https://porch.example.com', '1.0.0') as {
      openapi: string, paths: Record<string, Record<string, { operationId: string, requestBody?: unknown }>>,
    }
    expect(document.openapi).toBe('3.1.1')
    expect(Object.entries(document.paths).flatMap(([path, methods]) => Object.keys(methods)
      .map(method => `${method.toUpperCase()} ${path}`)).sort()).toEqual(OPERATIONS.map(({ method, path }) => `${method} ${path}`).sort())
    const ids = Object.values(document.paths).flatMap(methods => Object.values(methods).map(({ operationId }) => operationId))
    expect(new Set(ids).size).toBe(ids.length)
    for (const { method, path, body, answer, example } of OPERATIONS) {
      if (body) fits(body, example.body, `what comes to ${method} ${path}`)
      if (answer) fits(answer, example.answer, `what ${method} ${path} answers`)
      expect([body === undefined, answer === undefined]).toEqual([example.body === undefined, example.answer === undefined])
    }
  })

  it('says where there is nothing, and what an address takes', async () => {
    expect((await ask('GET', '/nothing')).status).toBe(404)
    expect((await ask('GET', '/people/0')).status).toBe(404)
    expect((await ask('GET', '/people/1e3')).status).toBe(404)
    expect(await ask('DELETE', '/people')).toMatchObject({ status: 405, headers: { allow: 'GET, POST' } })
  })
})
