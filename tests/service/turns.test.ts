/** Whose turn it is: receiving domains that get so many a minute or ask us to wait, and a new sender that is made known slowly. */
import { describe, expect, it } from 'vitest'
import type { HandOver, Mail } from '#core/ports'
import { addDays, localOf } from '#core/time/zone'
import { slowedTo } from '#data/carrier'
import { defaultSenderId } from '#data/senders'
import { InputProblem } from '#usecases/problem'
import { setHeld } from '#usecases/sending/hold'
import { endDomainPause, saveSendingSettings, sendingSettingsOf } from '#usecases/settings/sending'
import { saveWarmUp } from '#usecases/settings/warmUp'
import { play } from '#usecases/time/play'
import { broadcastView } from '#usecases/views/broadcasts'
import { broadcastReach } from '#usecases/views/broadcastReach'
import { sendersView } from '#usecases/views/senders'
import { settingsView } from '#usecases/views/settings'
import { subscriberView } from '#usecases/views/subscriber'
import { todayView } from '#usecases/views/today'
import { writeBroadcast } from './broadcasting'
import { DAY, email, furnish, HOUR, listeningCarrier, openContext, step, thursdayNoon, visit, type Workshop } from './workshop'

const MINUTE = 60_000
const ACCEPTED: HandOver = { kind: 'accepted' }
const putOff = (text: string): HandOver => ({ kind: 'refused', answer: { stage: 'recipient', code: Number(text.slice(0, 3)), text } })
/** A day after opting in: what is planned, and not asked for. */
const later = () => [step('one', { kind: 'elapsed', count: 1, unit: 'days', from: 'joining' }, email('one'))]

async function live(answer: (mail: Mail, nth: number) => HandOver = () => ACCEPTED, addresses: string[] = []) {
  const clock = { at: thursdayNoon }
  const left: { to: string, at: number }[] = []
  const carrier = listeningCarrier((mail, nth) => {
    const said = answer(mail, nth)
    if (said.kind === 'accepted') left.push({ to: mail.to.address, at: clock.at })
    return said
  })
  const setting = await furnish(openContext({ mode: 'live', clock, carrier }), later)
  const { context } = setting
  const people = addresses.map(address => visit(context, address))
  clock.at += DAY
  /** The engine looks each second. */
  const pass = async (ms: number, every = 1000) => {
    for (const end = clock.at + ms; clock.at < end; clock.at += every) await play(context, clock.at)
    await play(context, clock.at)
  }
  return { ...setting, clock, carrier, left, people, pass }
}
const some = (n: number, domain: string) => Array.from({ length: n }, (_, k) => `p${k}@${domain}`)
const rates = (context: Workshop, domainRates: ReturnType<typeof sendingSettingsOf>['domainRates']) =>
  saveSendingSettings(context, { ...sendingSettingsOf(context), domainRates })
/** From now on the page asks everybody to confirm, by an email that they wait for. */
const askToConfirm = ({ db }: Workshop) =>
  db.prepare(`UPDATE page_versions SET content = json_set(content, '$.confirming.who', 'everybody')`).run()
const notices = (context: Workshop) => todayView(context).needsAttention.map(({ title }) => title)

describe('a receiving domain', () => {
  it('gets so many a minute, evenly, while others get theirs at once; nothing is lost, and each knows its time', async () => {
    const { context, left, pass, people, clock } = await live(() => ACCEPTED, [...some(12, 'slow.example'), ...some(3, 'quick.example')])
    rates(context, { everyDomain: null, domains: [{ domain: 'slow.example', aMinute: 4 }] })
    const began = clock.at
    await pass(0)
    expect(left.map(({ to }) => to.split('@')[1])).toEqual(['slow.example', ...Array<string>(3).fill('quick.example')])
    expect(subscriberView(context, people[4]!).emails[0]!.turn).toEqual({ at: began + MINUTE, why: 'domain pace' })
    await pass(5 * MINUTE)
    const slow = left.filter(({ to }) => to.endsWith('@slow.example'))
    expect([slow.length, new Set(slow.map(({ to }) => to)).size]).toEqual([12, 12])
    for (const from of slow) expect(slow.filter(({ at }) => at >= from.at && at < from.at + MINUTE).length).toBeLessThanOrEqual(4)
    expect(slow.at(-1)!.at - began).toBe(11 * 15_000)
    expect(subscriberView(context, people[4]!).emails[0]!.turn).toBeNull()
  })

  it('by another number goes on by that from then on, and what is no domain is refused', async () => {
    const { context, left, pass } = await live(() => ACCEPTED, some(40, 'slow.example'))
    rates(context, { everyDomain: 1, domains: [] })
    await pass(2 * MINUTE)
    expect(left).toHaveLength(3)
    rates(context, { everyDomain: null, domains: [] })
    await pass(0)
    expect(left).toHaveLength(40)
    const wrong = (...domains: string[]) => {
      try {
        rates(context, { everyDomain: null, domains: domains.map(domain => ({ domain, aMinute: 1 })) })
      }
      catch (error) {
        return (error as InputProblem).problems.map(({ field }) => field)
      }
      return sendingSettingsOf(context).domainRates.domains.map(({ domain }) => domain)
    }
    expect([wrong('no domain'), wrong('example.com', 'me@EXAMPLE.com'), wrong('Bücher.example', '@EXAMPLE.com')]).toEqual([
      ['domainRates.domains.0.domain'], ['domainRates.domains.1.domain'], ['bücher.example', 'example.com'],
    ])
  })

  it('that puts us off is left alone, longer each time, until it accepts; others go on, and Today says so', async () => {
    let isFull = true
    const { context, left, pass, clock, carrier } = await live(
      ({ to }) => isFull && to.address.endsWith('@busy.example') ? putOff('450 4.7.0 Too many messages, slow down') : ACCEPTED,
      [...some(30, 'busy.example'), ...some(30, 'quick.example')],
    )
    await pass(0)
    const tried = () => carrier.mails.filter(({ to }) => to.address.endsWith('@busy.example')).length
    expect([left.length, tried() < 10, slowedTo(context.db)]).toEqual([30, true, null])
    expect(settingsView(context).pausingDomains).toMatchObject([{ domain: 'busy.example', untilAt: clock.at + MINUTE, pauses: 1 }])
    expect(notices(context)).toContain('busy.example asks us to wait')
    const before = tried()
    await pass(50_000)
    expect(tried()).toBe(before)
    await pass(2 * HOUR, 10_000)
    // A minute, five, fifteen, an hour.
    expect(settingsView(context).pausingDomains).toMatchObject([{ pauses: 5 }])
    isFull = false
    endDomainPause(context, 'busy.example')
    await pass(0)
    // What was tried goes again at its own time.
    await pass(7 * HOUR, MINUTE)
    expect([left.length, new Set(left.map(({ to }) => to)).size, settingsView(context).pausingDomains]).toEqual([60, 60, []])
    expect(() => endDomainPause(context, 'busy.example')).toThrow('Nothing pauses')
  })

  it('is not blamed for what the server before it says: two that ask alike slow down all', async () => {
    const { context, pass } = await live(
      () => putOff('451 4.7.0 Rate limit exceeded'), [...some(5, 'one.example'), ...some(5, 'other.example')],
    )
    await pass(0)
    expect(slowedTo(context.db)).toMatchObject({ said: '451 4.7.0 Rate limit exceeded' })
  })

  it('does not keep anybody waiting for what they have just asked for', async () => {
    const { context, left, pass } = await live()
    rates(context, { everyDomain: 1, domains: [] })
    askToConfirm(context)
    for (const address of some(5, 'example.net')) visit(context, address)
    await pass(0)
    expect(left).toHaveLength(5)
  })
})

describe('a new sender', () => {
  const plan = { first: 4, growth: 100, until: 20 }

  it('sends as many a day as its plan says, each reader once, in their order; a day that was hardly used is repeated', async () => {
    const { context, left, pass, people, clock } = await live(() => ACCEPTED, some(30, 'example.net'))
    const senderId = defaultSenderId(context.db)!
    saveWarmUp(context, senderId, plan)
    const dateOf = (at: number) => localOf(at, 'Europe/Lisbon').date
    const first = dateOf(clock.at)
    await pass(0)
    expect(left.map(({ to }) => to)).toEqual(some(4, 'example.net'))
    expect(subscriberView(context, people[4]!).emails[0]!.turn).toEqual({ at: clock.at + DAY, why: 'warm-up' })
    expect([sendersView(context).waitingForPlans, notices(context)]).toEqual([
      26, expect.arrayContaining(['26 emails wait for another day']),
    ])
    // Nothing leaves on the second day: the third is no larger for it.
    setHeld(context, true)
    await pass(1.5 * DAY, HOUR)
    setHeld(context, false)
    await pass(5 * DAY, HOUR)
    const days = [...new Set(left.map(({ at }) => dateOf(at)))]
    expect(days.map(date => [date, left.filter(({ at }) => dateOf(at) === date).length])).toEqual([
      [first, 4], [addDays(first, 2), 8], [addDays(first, 3), 16], [addDays(first, 4), 2],
    ])
    expect([new Set(left.map(({ to }) => to)).size, sendersView(context).waitingForPlans]).toEqual([30, 0])
    expect(sendersView(context).senders[0]!.warmUp).toMatchObject({ startedOn: first, most: null })
  })

  it('is told to send all once its plan ends, by hand or by itself; a plan that cannot grow is refused', async () => {
    const { context, left, pass } = await live(() => ACCEPTED, some(30, 'example.net'))
    const senderId = defaultSenderId(context.db)!
    expect(() => saveWarmUp(context, senderId, { ...plan, until: 4 })).toThrow(InputProblem)
    expect(() => saveWarmUp(context, 999, plan)).toThrow('no longer exists')
    saveWarmUp(context, senderId, plan)
    await pass(0)
    expect(left).toHaveLength(4)
    saveWarmUp(context, senderId, null)
    await pass(0)
    expect(left).toHaveLength(30)
  })

  it('counts what was asked for, which never waits; a further try of the same email counts once', async () => {
    const { context, pass, left, clock } = await live((_, nth) => nth === 1 ? putOff('451 4.3.0 Later') : ACCEPTED)
    saveWarmUp(context, defaultSenderId(context.db)!, { first: 2, growth: 10, until: 100 })
    askToConfirm(context)
    for (const address of some(5, 'example.net')) visit(context, address)
    await pass(10 * MINUTE, MINUTE)
    const { date } = localOf(clock.at, 'Europe/Lisbon')
    expect([left.length, sendersView(context).senders[0]!.warmUp!.sent]).toEqual([5, [{ date, sent: 5 }]])
  })

  it('is told beside a broadcast, with real days, and so is the speed', async () => {
    const { context, pass, listId, clock } = await live(() => ACCEPTED, [...some(20, 'slow.example'), ...some(10, 'quick.example')])
    saveWarmUp(context, defaultSenderId(context.db)!, { first: 40, growth: 100, until: 1000 })
    await pass(0)
    const reach = () => {
      const id = writeBroadcast(context, listId)
      return broadcastReach(context, { id, draft: broadcastView(context, id).draft })
    }
    const today = localOf(clock.at, 'Europe/Lisbon').date
    // Thirty of today's forty have left.
    expect([reach().going, reach().warmUp]).toEqual([null, { sender: 'Ines', days: [
      { date: today, most: 40, people: 10 }, { date: addDays(today, 1), most: 80, people: 20 },
    ] }])
    rates(context, { everyDomain: 6, domains: [{ domain: 'slow.example', aMinute: 4 }] })
    expect(reach().going).toEqual({ minutes: 5, slowest: { domain: 'slow.example', people: 20, aMinute: 4 } })
    saveSendingSettings(context, { ...sendingSettingsOf(context), aMinute: 3 })
    expect(reach().going).toEqual({ minutes: 10, slowest: null })
    saveWarmUp(context, defaultSenderId(context.db)!, null)
    expect(reach().warmUp).toBeNull()
  })
})
