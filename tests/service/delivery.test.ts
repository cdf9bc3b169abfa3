/**
 * What must never happen to mail: lost, without end, all stopped by one, somebody blamed for a policy, a later letter before an earlier
 * one.
 */
import { describe, expect, it, vi } from 'vitest'
import type { HandOver, Mail } from '#core/ports'
import { newRule } from '#core/rules/rule'
import { slowedTo } from '#data/carrier'
import { emailsOfPerson, findInOutbox, leaseEmails, renewLease } from '#data/outbox'
import { findPerson } from '#data/people'
import { workspaceOf } from '#data/workspace'
import { leave } from '#usecases/arrive/leave'
import type { HandOverStage } from '#usecases/context'
import { createCourse, saveCourse } from '#usecases/courses/save'
import { startCourse } from '#usecases/courses/publish'
import { letIn } from '#usecases/courses/people'
import { saveRule } from '#usecases/know/rules'
import { HandingOver } from '#usecases/sending/handOver'
import { sweepLeases } from '#usecases/sending/leases'
import { resumeDomainSending } from '#usecases/sending/waves'
import { resumeSending, saveSettings } from '#usecases/settings/workspace'
import { play } from '#usecases/time/play'
import { todayView } from '#usecases/views/today'
import { subscribersView } from '#usecases/views/subscribers'
import { NOT_NARROWED } from '#usecases/inner/narrowing'
import {
  confirmSenders, DAY, email, furnish, HOUR, listeningCarrier, moveTo, openContext, step, thursdayNoon, visit, type Options, type Workshop,
} from './workshop'

const MINUTE = 60_000
const refused = (text: string, stage: 'recipient' | 'sender' | 'after-data' = 'recipient'): HandOver => ({
  kind: 'refused', answer: { stage, code: Number(text.slice(0, 3)), text },
})
const NOTHING_CAME: HandOver = { kind: 'refused', answer: { stage: 'after-data', code: null, text: 'no answer within ten minutes' } }
const ACCEPTED: HandOver = { kind: 'accepted' }
const three = () => ['one', 'two', 'three'].map((id, n) =>
  step(id, n === 0 ? { kind: 'at-once' } : { kind: 'elapsed', count: 1, unit: 'days', from: 'previous' }))
const only = () => [step('one', { kind: 'at-once' }, email('one'))]

/** A live workspace whose mail server answers as told. */
async function live(answer: (mail: Mail, nth: number) => HandOver, steps: Parameters<typeof furnish>[1] = only, more: Options = {}) {
  const clock = { at: thursdayNoon }
  const carrier = listeningCarrier(answer)
  const setting = await furnish(openContext({ mode: 'live', clock, carrier, ...more }), steps)
  return { ...setting, clock, carrier, now: () => play(setting.context, clock.at), to: () => carrier.mails.map(mail => mail.to.address) }
}
const rows = (context: Workshop) => context.db.prepare(`
  SELECT id, person_id AS personId, status, go_at AS goAt, repeats, tries, message_ref AS ref, lease_owner AS owner FROM outbox
  ORDER BY id`).all() as {
    id: number, personId: number, status: string, goAt: number | null, repeats: number, tries: number, ref: string | null,
    owner: string | null,
  }[]
const notices = (context: Workshop) => todayView(context).needsAttention.map(({ title }) => title)

describe('emails that are claimed several at once', () => {
  it('leave once each; what is held too long, or when the engine stops, waits again and leaves then', async () => {
    const { context, to } = await live(() => ACCEPTED)
    for (let n = 0; n < 9; n++) visit(context, `p${n}@example.com`)
    await play(context, thursdayNoon - 1)
    const system = { at: 1_000_000 }
    context.system = { now: () => system.at }
    const leased = () => rows(context).filter(({ status }) => status === 'leased').length
    context.db.prepare(`UPDATE outbox SET go_at = ?`).run(thursdayNoon)
    const handing = new HandingOver(context)
    // Quickly gone, twice as many are claimed the next time: one, two, four.
    for (let n = 0; n < 4; n++) expect(await handing.next()).toBe(true)
    expect([to().length, leased()]).toEqual([4, 3])
    system.at += 2 * MINUTE
    expect(await handing.next()).toBe(true)
    expect([to().length, leased()]).toEqual([5, 1])
    handing.release()
    expect(leased()).toBe(0)
    while (await handing.next());
    await handing.ended()
    expect([to().length, new Set(to()).size, rows(context).every(({ status }) => status === 'handed over')]).toEqual([9, 9, true])
  })
})

describe('an email that is made while the mail server has the one before', () => {
  /** Three people wait; `made`: for whom an email was made, in order; `fails`: whose cannot be, the first time. */
  async function withThree(fails: string | null = null) {
    const setting = await live(() => ACCEPTED)
    const { context } = setting
    const people = ['a', 'b', 'c'].map(name => visit(context, `${name}@example.com`))
    await play(context, thursdayNoon - 1)
    context.db.prepare(`UPDATE outbox SET go_at = ?`).run(thursdayNoon)
    const system = { at: 1_000_000 }
    context.system = { now: () => system.at }
    const made: string[] = []
    const { compose } = context.composer
    context.composer.compose = async (mail, from) => {
      const address = mail.to.address
      made.push(address[0]!)
      if (address.startsWith(fails ?? '-') && made.filter(one => one === fails).length === 1) throw new Error('Cannot be made just now')
      return await compose(mail, from)
    }
    const handing = new HandingOver(context)
    // The second time two are claimed, and the third is made while the second leaves.
    await handing.next()
    await handing.next()
    expect([made.join(''), setting.to().length]).toEqual(['abc', 2])
    return { ...setting, people, system, made, handing }
  }

  it('leaves without being made once more', async () => {
    const { handing, made, to } = await withThree()
    await handing.next()
    expect([made.join(''), to().length]).toEqual(['abc', 3])
  })

  it('is made once more where that was long ago, or could not be done', async () => {
    const long = await withThree()
    long.system.at += 1000
    await long.handing.next()
    expect([long.made.join(''), long.to().length]).toEqual(['abcc', 3])
    const failed = await withThree('c')
    await failed.handing.next()
    expect([failed.made.join(''), failed.to().length]).toEqual(['abcc', 3])
  })

  it('does not leave to somebody who has left meanwhile', async () => {
    const { context, handing, people, to } = await withThree()
    leave(context, emailsOfPerson(context.db, people[2]!)[0]!.id, { what: 'everything' })
    while (await handing.next());
    await handing.ended()
    expect(to()).toEqual(['a@example.com', 'b@example.com'])
  })
})

describe('the result of an email', () => {
  it('is recorded with the mark of the next one: each lane has at most one sent email that is not recorded', async () => {
    const unwritten: number[] = []
    const { context } = await live(() => {
      unwritten.push(rows(context).filter(({ status }) => status === 'handing over').length)
      return ACCEPTED
    })
    for (let n = 0; n < 12; n++) visit(context, `p${n}@example.com`)
    await play(context, thursdayNoon - 1)
    context.db.prepare(`UPDATE outbox SET go_at = ?`).run(thursdayNoon)
    let ended = 0
    const handing = new HandingOver(context, () => ended++)
    const lane = async () => { while (await handing.next()); }
    await Promise.all([lane(), lane(), lane()])
    await handing.ended()
    expect([ended, Math.max(...unwritten)]).toEqual([12, 3])
    expect(rows(context).every(({ status }) => status === 'handed over')).toBe(true)
  })

  it('is recorded at once in practice, without waiting for a timer', async () => {
    const { context } = await furnish(openContext())
    for (let n = 0; n < 3; n++) visit(context, `p${n}@example.com`)
    const clock = vi.spyOn(globalThis, 'setTimeout')
    await moveTo(context, thursdayNoon + 1)
    expect(clock.mock.calls.filter(([, ms]) => (ms ?? 0) > 1)).toEqual([])
    clock.mockRestore()
    expect(rows(context).filter(({ status }) => status === 'handed over')).toHaveLength(3)
  })

  it('is recorded before the next one starts if it was refused, because sending may have to stop', async () => {
    const { context, to } = await live(() => ({ kind: 'refused', answer: { stage: 'sign-in', code: 535, text: '535 wrong password' } }))
    for (let n = 0; n < 3; n++) visit(context, `p${n}@example.com`)
    await play(context, thursdayNoon - 1)
    context.db.prepare(`UPDATE outbox SET go_at = ?`).run(thursdayNoon)
    const handing = new HandingOver(context)
    while (await handing.next());
    expect(to()).toHaveLength(1)
  })
})

describe('B1: a lease', () => {
  it('that ran out is swept: what was claimed goes back, what was being handed over goes again, with the same Message-ID, and is counted', async () => {
    const { context, carrier, now, clock } = await live(() => ACCEPTED)
    visit(context, 'a@example.com')
    visit(context, 'b@example.com')
    const system = { at: 1_000_000 }
    context.system = { now: () => system.at }
    const [first, second] = leaseEmails(context.db, 'an engine that hangs', clock.at, system.at + 3 * MINUTE, 2)
    context.db.prepare(`UPDATE outbox SET status = 'handing over', message_ref = '<kept@example.com>', tries = 1 WHERE id = ?`)
      .run(second!.id)
    system.at += 2 * MINUTE
    expect(sweepLeases(context)).toEqual({ givenBack: 0, repeats: 0 })
    // Renewed, it is somebody's; not renewed for three minutes, it is nobody's.
    expect(renewLease(context.db, first!.id, 'an engine that hangs', system.at + 3 * MINUTE)).toBe(true)
    system.at += MINUTE + 1
    expect(sweepLeases(context)).toEqual({ givenBack: 0, repeats: 1 })
    system.at += 2 * MINUTE
    expect(sweepLeases(context)).toEqual({ givenBack: 1, repeats: 0 })
    clock.at += HOUR
    await now()
    expect(rows(context).map(({ status, repeats }) => [status, repeats])).toEqual([['handed over', 0], ['handed over', 1]])
    expect(carrier.mails.find(({ to }) => to.address === 'b@example.com')!.messageId).toBe('<kept@example.com>')
  })

  it.each<HandOverStage>([
    'after lease', 'while handing over', 'before marking', 'after marking',
  ])('does not keep an email for good where something throws %s', async (where) => {
    let throws = 1
    const said: string[] = []
    const { context, now, clock, to } = await live(() => ACCEPTED, only, { trouble: what => said.push(what) })
    context.stage = (stage) => {
      if (stage === where && throws-- > 0) throw new Error(`thrown ${where}`)
    }
    visit(context, 'a@example.com')
    for (let n = 0; n < 5; n++) {
      // The engine's next round: what was claimed before it threw is swept, or was left in order.
      await now().catch(() => {})
      context.db.prepare(`UPDATE outbox SET lease_until_at = 0 WHERE lease_until_at IS NOT NULL`).run()
      sweepLeases(context)
      clock.at += HOUR
    }
    expect(rows(context)).toMatchObject([{ status: 'handed over', owner: null }])
    // Only what had been given to the carrier can have gone twice.
    expect(to().length).toBe(where === 'before marking' ? 2 : 1)
  })

  it('nor where its email cannot be made, where the carrier throws, or where what follows from sending fails', async () => {
    const said: string[] = []
    const { context, now, clock, to } = await live((_, nth) => {
      if (nth === 1) throw new Error('the carrier threw')
      return ACCEPTED
    }, only, { trouble: what => said.push(what) })
    visit(context, 'a@example.com')
    await now()
    expect(rows(context)).toMatchObject([{ status: 'failed', repeats: 1, owner: null }])
    clock.at += HOUR
    await now()
    expect(rows(context)).toMatchObject([{ status: 'handed over' }])
    context.db.exec(`CREATE TRIGGER broken BEFORE INSERT ON mail_answers BEGIN SELECT raise(ABORT, 'what follows fails'); END`)
    visit(context, 'b@example.com')
    await now()
    expect(rows(context)).toMatchObject([{ status: 'handed over' }, { status: 'handed over' }])
    expect(to()).toEqual(['a@example.com', 'a@example.com', 'b@example.com'])
    expect(said).toEqual(['an email could not be handed over', 'what follows from sending an email could not be done'])
    context.db.exec('DROP TRIGGER broken')
    context.composer.compose = () => {
      throw new Error('a faulty template')
    }
    visit(context, 'c@example.com')
    await now()
    expect(rows(context)[2]).toMatchObject({ status: 'failed', goAt: null, owner: null })
  })
})

describe('D2, D9: an email of which it is not known whether it arrived', () => {
  it('goes twice more at the most, each time with the same Message-ID, and is then left at that and counted as sent', async () => {
    const { context, now, clock, carrier } = await live(() => NOTHING_CAME)
    const personId = visit(context, 'a@example.com')
    for (let n = 0; n < 20; n++) {
      await now()
      clock.at += 6 * HOUR
    }
    expect(carrier.mails).toHaveLength(3)
    expect(new Set(carrier.mails.map(({ messageId }) => messageId)).size).toBe(1)
    expect(rows(context)).toMatchObject([{ status: 'may have arrived', repeats: 2, goAt: null }])
    expect(notices(context)).toContain('1 person may have got an email twice')
    expect(subscribersView(context, {
      ...NOT_NARROWED, search: '', trouble: 'repeated', sort: 'name', page: 0,
    }).rows.map(({ id }) => id)).toEqual([personId])
    expect(context.db.prepare(`SELECT detail FROM events WHERE kind = 'sent'`).pluck().all()).toEqual(['may-have-arrived'])
  })

  it('keeps its Message-ID when the sender’s domain changes meanwhile', async () => {
    const { context, now, clock, carrier } = await live((_, nth) => nth === 1 ? NOTHING_CAME : ACCEPTED)
    visit(context, 'a@example.com')
    await now()
    saveSettings(context, {
      name: 'Saltmarsh', zone: 'Europe/Lisbon', senderName: 'Ines', senderAddress: 'ines@another.example', postalAddress: 'Rua do Cais 3',
      currency: 'EUR', smtpUrl: null,
    })
    confirmSenders(context)
    clock.at += HOUR
    await now()
    expect(carrier.mails.map(({ messageId }) => messageId)).toEqual(Array(2).fill(carrier.mails[0]!.messageId))
    expect(carrier.mails[1]!.from.address).toBe('ines@another.example')
  })
})

describe('D3, D4, D11: refusals', () => {
  it('at RCPT, by a policy, concern one recipient: nobody else is stopped, and nobody is bounced', async () => {
    const { context, now, to } = await live(mail => mail.to.address.startsWith('odd') ? refused('550 5.7.1 Recipient rejected') : ACCEPTED)
    const odd = visit(context, 'odd@one.example')
    for (let n = 0; n < 10; n++) visit(context, `p${n}@two.example`)
    await now()
    expect(workspaceOf(context.db).carrierState).toBe('ready')
    expect(to()).toHaveLength(11)
    expect(findPerson(context.db, odd)!.status).toBe('active')
  })

  it('alike in three domains within ten minutes stop sending, bounce nobody and lose nothing; going on, what it stopped at comes last', async () => {
    let well = false
    const { context, now, to, clock } = await live(() => well ? ACCEPTED : refused('550 rejected as spam'))
    const people = Array.from({ length: 25 }, (_, n) => visit(context, `p${n}@d${n}.example`))
    await now()
    expect(to()).toHaveLength(3)
    expect(workspaceOf(context.db)).toMatchObject({ carrierState: 'stopped', carrierReason: expect.stringContaining('rejected as spam') })
    expect(people.map(id => findPerson(context.db, id)!.status)).toEqual(Array(25).fill('active'))
    well = true
    clock.at += 5 * MINUTE
    resumeSending(context)
    await now()
    expect(new Set(to().slice(3)).size).toBe(25)
    expect(to().slice(-3)).toEqual(to().slice(0, 3))
    expect(rows(context).every(({ status }) => status === 'handed over')).toBe(true)
  })

  it('that say nobody is there bounce people, and a wave of them gives back who was bounced, with their journeys', async () => {
    let well = false
    const { context, now, clock, courseId } = await live(() => well ? ACCEPTED : refused('550 5.1.1 User unknown'), three)
    const people = ['a@one.example', 'b@two.example', 'c@three.example', 'd@four.example'].map(address => visit(context, address))
    await now()
    expect(workspaceOf(context.db).carrierState).toBe('stopped')
    expect(people.map(id => findPerson(context.db, id)!.status)).toEqual(Array(4).fill('active'))
    expect(
      context.db.prepare(`SELECT status FROM enrolments WHERE course_id = ? ORDER BY id`).pluck().all(courseId),
    ).toEqual(Array(4).fill('open'))
    well = true
    resumeSending(context)
    await now()
    clock.at += 5 * DAY
    await now()
    expect(rows(context).map(({ status }) => status)).toEqual(Array(12).fill('handed over'))
  })

  it('five of ten at one domain stop that domain only; one click takes it up again', async () => {
    let well = false
    const {
      context, now, to,
    } = await live(mail => well || mail.to.address.endsWith('two.example') ? ACCEPTED : refused('550 5.7.1 Blocked'))
    for (let n = 0; n < 12; n++) {
      visit(context, `p${n}@one.example`)
      visit(context, `p${n}@two.example`)
    }
    await now()
    expect(workspaceOf(context.db).carrierState).toBe('ready')
    expect(to().filter(address => address.endsWith('two.example'))).toHaveLength(12)
    expect(to().filter(address => address.endsWith('one.example'))).toHaveLength(5)
    expect(notices(context)).toContain('Sending to one.example has stopped')
    // Who comes later waits, too.
    visit(context, 'late@one.example')
    await now()
    expect(to().filter(address => address.endsWith('one.example'))).toHaveLength(5)
    well = true
    resumeDomainSending(context, 'one.example')
    await now()
    expect(rows(context).every(({ status }) => status === 'handed over')).toBe(true)
    expect(notices(context)).not.toContain('Sending to one.example has stopped')
  })

  it('that want a sign-in stop sending, whatever they come to', async () => {
    const { context, now, to } = await live(() => refused('530 5.7.0 Authentication required'))
    for (let n = 0; n < 75; n++) visit(context, `p${n}@example.com`)
    await now()
    expect(to()).toHaveLength(1)
    expect(workspaceOf(context.db).carrierState).toBe('stopped')
    expect(rows(context).filter(({ status }) => status === 'queued')).toHaveLength(75)
  })

  it('for a full mailbox add up: the fifth within 14 days bounces', async () => {
    const { context, now, clock } = await live(() => refused('552 5.2.2 Mailbox full'), () =>
      [1, 2, 3, 4, 5, 6].map(n => step(`s${n}`, { kind: 'elapsed', count: 3, unit: 'days', from: 'previous' })))
    const personId = visit(context, 'full@example.com')
    const statuses = []
    for (let n = 0; n < 5; n++) {
      clock.at += 3 * DAY
      await now()
      statuses.push(findPerson(context.db, personId)!.status)
    }
    expect(statuses).toEqual(['active', 'active', 'active', 'active', 'bounced'])
  })
})

describe('D5: one journey’s emails', () => {
  it('never overtake each other: what comes later waits until the earlier has left, and its own time is planned as always', async () => {
    const tried = new Map<string, number>()
    const { context, now, clock, carrier } = await live((mail) => {
      const n = (tried.get(mail.messageId) ?? 0) + 1
      tried.set(mail.messageId, n)
      return n === 1 ? refused('451 4.7.1 Greylisted') : ACCEPTED
    }, () => ['one', 'two', 'three'].map((id, n) =>
      step(id, n === 0 ? { kind: 'at-once' } : { kind: 'elapsed', count: 1, unit: 'minutes', from: 'previous' })))
    for (let n = 0; n < 10; n++) visit(context, `p${n}@example.com`)
    for (let n = 0; n < 40; n++) {
      await now()
      clock.at += MINUTE
    }
    const perPerson = new Map<string, string[]>()
    for (const mail of carrier.mails) {
      if (tried.get(mail.messageId) === 2) {
        perPerson.set(mail.to.address, [...perPerson.get(mail.to.address) ?? [], mail.subject.split(',')[0]!])
      }
    }
    expect([...perPerson.values()].map(subjects => [...new Set(subjects)])).toEqual(Array(10).fill(['one', 'two', 'three']))
    expect(context.db.prepare(`SELECT DISTINCT planned_at - ? FROM outbox ORDER BY 1`).pluck().all(thursdayNoon)).toEqual([
      0, MINUTE, 2 * MINUTE,
    ])
  })

  it('go on once the earlier one was given up', async () => {
    const { context, now, clock, to } = await live(
      mail => mail.subject.startsWith('one') ? refused('554 5.6.0 Malformed', 'after-data') : ACCEPTED,
      () => ['one', 'two'].map(id => step(id, { kind: 'at-once' })),
    )
    visit(context, 'a@example.com')
    await now()
    clock.at += MINUTE
    await now()
    expect(to()).toHaveLength(2)
  })
})

describe('D6: a server that asks to go slower', () => {
  it('gets half as many at a time, is quoted on Today, and gets one more after some calm; others go on meanwhile', async () => {
    let strict = true
    const { context, now, clock, to } = await live((_, nth) =>
      strict && nth === 1 ? { kind: 'refused', answer: { stage: 'connect', code: 421, text: '421 Too many connections' } } : ACCEPTED)
    for (let n = 0; n < 6; n++) visit(context, `p${n}@example.com`)
    await now()
    expect(to()).toHaveLength(6)
    expect(slowedTo(context.db)).toMatchObject({ to: 2, said: '421 Too many connections' })
    expect(workspaceOf(context.db).carrierPauseUntilAt).toBeNull()
    expect(notices(context)).toContain('The mail server asked us to slow down')
    strict = false
    for (let n = 0; n < 4; n++) {
      clock.at += 6 * MINUTE
      visit(context, `later${n}@example.com`)
      await now()
    }
    expect(slowedTo(context.db)).toBeNull()
  })
})

describe('B4, D13: the owner’s notices', () => {
  it('go through the outbox: gathered into one, after all other mail, tried again and given up like any email', async () => {
    let takes = false
    const {
      context, now, clock, to, carrier, tagId,
    } = await live(mail => takes || mail.to.address !== 'ines@saltmarsh.example.com' ? ACCEPTED : refused('451 4.3.0 Later'))
    await saveRule(
      context, null, newRule({ kind: 'got-tag', thingId: tagId }, [{ kind: 'notice', text: 'Somebody new', email: 'at-once' }]),
    )
    for (let n = 0; n < 40; n++) visit(context, `p${n}@example.com`)
    await now()
    // Not one of the readers' waits behind them.
    expect(to().findIndex(address => address === 'ines@saltmarsh.example.com')).toBe(40)
    expect(to()).toHaveLength(41)
    expect(carrier.mails[40]!.subject).toMatch(/^40 notices from/)
    expect(carrier.mails[40]!.headers).toMatchObject({ 'Auto-Submitted': 'auto-generated' })
    for (let n = 0; n < 30; n++) {
      clock.at += 6 * HOUR
      await now()
    }
    expect(findInOutbox(context.db, 41)).toMatchObject({ kind: 'notice', status: 'failed', goAt: null })
    const before = to().length
    takes = true
    visit(context, 'another@example.com')
    await now()
    expect(to().slice(before)).toEqual(['another@example.com', 'ines@saltmarsh.example.com'])
    expect(context.db.prepare('SELECT count(*) FROM notices WHERE mailed_at IS NOT NULL').pluck().get()).toBe(1)
  })
})

describe('a course that is not behind', () => {
  it('is none of what another’s emails wait for', async () => {
    const { context, now, clock, to, listId } = await live(mail => mail.subject.startsWith('one') ? refused('451 4.3.0 Later') : ACCEPTED)
    const other = createCourse(context, 'Other', 'x')
    saveCourse(context, other, 'Other', { listId, wayInTagIds: [], again: 'once', steps: [step('x', { kind: 'at-once' })] })
    await startCourse(context, other)
    letIn(context, other, visit(context, 'a@example.com'))
    await now()
    clock.at += MINUTE
    await now()
    expect(to().length).toBeGreaterThanOrEqual(2)
    expect(rows(context).map(({ status }) => status)).toEqual(['failed', 'handed over'])
  })
})
