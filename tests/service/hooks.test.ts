import { createServer, type Server } from 'node:http'
import type { AddressInfo } from 'node:net'
import { afterEach, describe, expect, it } from 'vitest'
import { createCaller } from '#adapters/caller'
import { createLinkChecker } from '#adapters/linkChecker'
import { waitAfterCall, WAITS } from '#core/hooks/retry'
import { newReading } from '#core/hooks/reading'
import type { Called } from '#core/ports'
import { newRule } from '#core/rules/rule'
import { readWebhook, signWebhook } from '#adapters/webhooks'
import { eventsOfPerson } from '#data/events'
import { hasTag } from '#data/marks'
import { findPersonByKey } from '#data/people'
import { erasePerson } from '#usecases/know/erase'
import { hooksView, receiveCall, saveHookIn, saveHookOut, sendAgain, type Proof } from '#usecases/know/hooks'
import { giveTagByHand } from '#usecases/know/byHand'
import { saveRule } from '#usecases/know/rules'
import { saveTag } from '#usecases/know/listsAndTags'
import { todayView } from '#usecases/views/today'
import { InputProblem, NotThere } from '#usecases/problem'
import { DAY, furnish, HOUR, moveTo, openContext, tag, thursdayNoon, visit, type Workshop } from './workshop'

const servers: Server[] = []
afterEach(() => {
  for (const server of servers.splice(0)) server.close()
})

/** A server on loopback that answers as told; returns its address and what it was sent. */
async function listen(answer: (nth: number) => number): Promise<{ url: string, got: { headers: Record<string, string>, body: string }[] }> {
  const got: { headers: Record<string, string>, body: string }[] = []
  const server = createServer(async (request, response) => {
    const chunks: Buffer[] = []
    for await (const chunk of request) chunks.push(chunk as Buffer)
    got.push({ headers: request.headers as Record<string, string>, body: Buffer.concat(chunks).toString() })
    response.writeHead(answer(got.length), { location: '/elsewhere' }).end()
  })
  servers.push(server)
  await new Promise<void>(done => server.listen(0, '127.0.0.1', done))
  return { url: `http://127.0.0.1:${(server.address() as AddressInfo).port}/hook`, got }
}

const calling = async (context: Workshop, url = 'https://shop.example.com/hook') => {
  const bell = saveTag(context, null, tag('bell'))
  const hookId = saveHookOut(context, null, { name: 'the shop', url })
  const saved = await saveRule(context, null, newRule({ kind: 'got-tag', thingId: bell }, [{ kind: 'webhook', hookId }]))
  if (!saved.saved) throw new Error(saved.circle)
  return { bell, hookId, ruleId: saved.id }
}

describe('a call out', () => {
  it('says who, what and why, signed, to loopback only where that is allowed', async () => {
    const { context } = await furnish(openContext())
    const { url, got } = await listen(() => 204)
    const { bell } = await calling(context, url)
    const system = { now: () => Date.now() }
    context.caller = createCaller({ system, allowInside: () => true })
    const id = visit(context, 'ada@example.com', 'Ada')
    giveTagByHand(context, id, bell)
    await moveTo(context, thursdayNoon + 1)
    const { secret } = hooksView(context).out[0]!
    expect(readWebhook([secret], got[0]!.headers, got[0]!.body, Date.now())).toMatchObject({ ok: true })
    expect(JSON.parse(got[0]!.body)).toMatchObject({ type: 'rule.acted', data: {
      event: { kind: 'got-tag', says: 'got the tag “bell”, by hand' },
      subscriber: { email: 'ada@example.com', firstName: 'Ada', tags: ['bell', 'sheet kit'] },
    } })
    expect(hooksView(context).deliveries).toMatchObject([{ state: 'delivered', tries: 1, status: 204, person: { id } }])
    expect(await createCaller({ system, allowInside: () => false }).call({ url, secret }, { id: 'x', body: '{}' })).toEqual({
      ok: false, status: null, problem: '127.0.0.1 is in a private network, which is not allowed', gone: false,
    })
    expect(await createCaller({ system, allowInside: () => false }).call(
      { url: url.replace('127.0.0.1', 'localhost'), secret }, { id: 'x', body: '{}' },
    )).toMatchObject({ ok: false, problem: 'localhost leads into a private network, which is not allowed' })
    expect(got).toHaveLength(1)
  })

  it('is tried again with growing waits for a day, under one identifier, and then given up, which stands on Today; it can be sent again', async () => {
    const { context } = await furnish(openContext())
    const { bell } = await calling(context)
    const asked: { id: string, at: number }[] = []
    let answer: Called = { ok: false, status: 500, problem: 'it answers with 500', gone: false }
    context.caller = { async call(_, { id }) {
      asked.push({ id, at: context.clock.now() })
      return answer
    } }
    giveTagByHand(context, visit(context, 'ada@example.com'), bell)
    await moveTo(context, thursdayNoon + 2 * DAY)
    expect(new Set(asked.map(({ id }) => id)).size).toBe(1)
    expect(asked.slice(1).map(({ at }, n) => at - asked[n]!.at)).toEqual(WAITS)
    expect(asked.at(-1)!.at - asked[0]!.at).toBe(DAY)
    expect(WAITS.every((wait, n) => n === 0 || wait > WAITS[n - 1]! || n === WAITS.length - 1)).toBe(true)
    expect(waitAfterCall(WAITS.length + 1)).toBeNull()
    expect(todayView(context).needsAttention.map(({ title }) => title)).toContain('the shop could not be called')
    answer = { ok: true, status: 200 }
    const [call] = hooksView(context).deliveries
    sendAgain(context, call!.id)
    await moveTo(context, thursdayNoon + 2 * DAY + 1)
    expect([hooksView(context).deliveries[0]!.state, asked.length, asked.at(-1)!.id]).toEqual(['delivered', WAITS.length + 2, asked[0]!.id])
  })

  it('that is told never to come again is not', async () => {
    const { context } = await furnish(openContext())
    const { bell } = await calling(context, 'https://shop.example.com/gone')
    giveTagByHand(context, visit(context, 'ada@example.com'), bell)
    await moveTo(context, thursdayNoon + DAY)
    expect(hooksView(context).deliveries).toMatchObject([{ state: 'given up', tries: 1, status: 410 }])
  })
})

it('whether a destination answers is asked over HTTP, redirects followed to their end', async () => {
  const linkChecker = createLinkChecker({ allowInside: true })
  const [fine, missing, around, onlyPages] = [
    await listen(() => 200), await listen(() => 404), await listen(() => 302), await listen(nth => nth === 1 ? 405 : 200),
  ]
  expect(await Promise.all([fine, missing, around, onlyPages].map(({ url }) => linkChecker.check(url)))).toEqual([
    null, 'it says the page does not exist (404)', 'it redirects in a loop', null,
  ])
  expect(await createLinkChecker().check(fine!.url)).toContain('private network')
})

describe('a call in', () => {
  const bears = (token: string, callId: string | null = null): Proof => ({
    signedBy: () => ({ ok: false, problem: '' }), bears: secret => secret === token, callId,
  })
  const setUp = async (context: Workshop, reading: Partial<ReturnType<typeof newReading>> = {}) => {
    const id = saveHookIn(context, null, {
      name: 'bookings', reading: { ...newReading(), emailAt: 'data.email', nameAt: 'data.name', ...reading },
    })
    const { url, secret } = hooksView(context).in.find(hook => hook.id === id)!
    const booked = saveTag(context, null, tag(`has booked ${id}`))
    await saveRule(context, null, newRule({ kind: 'hook-called', thingId: id }, [{ kind: 'give-tag', tagId: booked }]))
    return { id, token: url.split('/').at(-1)!, secret, booked }
  }

  it('is an event of the subscriber it names, which rules wake on; the same call twice is one', async () => {
    const { context } = await furnish(openContext())
    const { token, secret, booked } = await setUp(context)
    const ada = visit(context, 'ada@example.com')
    const body = { data: { email: ' Ada@Example.com ' } }
    expect([receiveCall(context, token, bears(secret, 'one'), body), receiveCall(context, token, bears(secret, 'one'), body)]).toEqual([
      { is: 'taken' }, { is: 'known' },
    ])
    expect(hasTag(context.db, booked, ada)).toBe(true)
    expect(eventsOfPerson(context.db, ada).filter(({ kind }) => kind === 'hook-called')).toHaveLength(1)
    expect(receiveCall(context, token, bears('another'), body)).toMatchObject({ is: 'refused' })
    expect(receiveCall(context, token, bears(secret), { data: { email: 'nobody@example.com' } })).toEqual({
      is: 'in-vain', problem: 'Nobody has this address, and this webhook adds nobody.',
    })
    expect(receiveCall(context, token, bears(secret), { email: 'ada@example.com' })).toEqual({
      is: 'in-vain', problem: 'There is no email address at “data.email”.',
    })
    expect(() => receiveCall(context, 'not-a-token', bears(secret), body)).toThrow(NotThere)
    expect(hooksView(context).calls.map(({ problem }) => problem === null)).toContain(true)
    expect(() => saveHookIn(context, null, { name: 'x', reading: { ...newReading(), emailAt: 'a..b' } })).toThrow(InputProblem)
  })

  it('may bring somebody unknown in, but never who was erased; a path cannot reach what is inherited', async () => {
    const { context } = await furnish(openContext())
    const { token, secret, booked } = await setUp(context, { unknown: 'bring' })
    receiveCall(context, token, bears(secret), { data: { email: 'new@example.com', name: 'Nell' } })
    expect(findPersonByKey(context.db, 'new@example.com')).toMatchObject({
      firstName: 'Nell', status: 'active', source: 'hook:bookings', consentAt: null,
    })
    expect(hasTag(context.db, booked, findPersonByKey(context.db, 'new@example.com')!.id)).toBe(true)
    erasePerson(context, findPersonByKey(context.db, 'new@example.com')!.id)
    expect(receiveCall(context, token, bears(secret), { data: { email: 'new@example.com' } })).toEqual({
      is: 'in-vain', problem: 'The person with this address was erased. Only they can come back.',
    })
    await moveTo(context, thursdayNoon + HOUR)
    const odd = await setUp(context, { emailAt: '__proto__.email' })
    expect(receiveCall(context, odd.token, bears(odd.secret), JSON.parse('{"a": 1}'))).toMatchObject({ is: 'in-vain' })
  })

  it('is believed by its signature, and not when that is another’s or another time’s', async () => {
    const { context } = await furnish(openContext())
    const { token, secret } = await setUp(context, { proof: 'signed' })
    visit(context, 'ada@example.com')
    const text = JSON.stringify({ data: { email: 'ada@example.com' } })
    const signed = (by: string, at = Date.now()): Proof => ({
      bears: () => true, callId: null,
      signedBy: known => context.webhooks.readBy(known, signWebhook(by, { id: 'msg_1', at, body: text }), text),
    })
    expect([
      receiveCall(context, token, signed(secret), JSON.parse(text)), receiveCall(context, token, signed(secret), JSON.parse(text)),
    ]).toEqual([{ is: 'taken' }, { is: 'known' }])
    expect(receiveCall(context, token, signed(`whsec_${Buffer.alloc(24).toString('base64')}`), JSON.parse(text))).toMatchObject({
      is: 'refused',
    })
    expect(receiveCall(context, token, signed(secret, Date.now() - HOUR), JSON.parse(text))).toMatchObject({ is: 'refused' })
  })
})
