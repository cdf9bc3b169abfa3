import { describe, expect, it } from 'vitest'
import { sayEvent } from '#core/events'
import { strictest, type Status } from '#core/people/status'
import { openEnrolmentsOfPerson } from '#data/enrolments'
import { eventsOfPerson } from '#data/events'
import { hasTag, membership, tagsOfPerson } from '#data/marks'
import { emailsOfPerson } from '#data/outbox'
import { findPerson, findPersonByKey } from '#data/people'
import { formerAddresses } from '#data/sameness'
import { setConsentRule } from '#data/workspace'
import { leave } from '#usecases/arrive/leave'
import { changeStatus } from '#usecases/inner/facts/marks'
import { transact } from '#usecases/inner/reactor/transaction'
import { correctPerson, giveTagByHand, takeTagByHand } from '#usecases/know/byHand'
import { erasePerson } from '#usecases/know/erase'
import { receiveImport } from '#usecases/know/importFile'
import { changeAddress, mergePeople } from '#usecases/know/sameness'
import { exportPerson } from '#usecases/views/exportPerson'
import { importPlan } from '#usecases/views/importPlan'
import { subscriberView } from '#usecases/views/subscriber'
import { whyView } from '#usecases/views/why'
import { DAY, email, furnish, HOUR, moveTo, openContext, step, thursdayNoon, visit } from './workshop'

const sent = (context: Parameters<typeof subscriberView>[0], id: number) =>
  emailsOfPerson(context.db, id).filter(one => one.status === 'handed over').map(one => one.workingTitle).sort()

describe('another address', () => {
  it('gets what waits; the old one is kept, found by imports, and gone with an erasing', async () => {
    const { context } = await furnish(openContext())
    const [ada, bo] = [visit(context, 'ada@example.com', 'Ada'), visit(context, 'bo@example.com')]
    await moveTo(context, thursdayNoon + HOUR)
    expect(() => changeAddress(context, ada, 'bo@example.com')).toThrow(/is a subscriber already/)
    expect(() => changeAddress(context, ada, 'ada@')).toThrow(/Something is missing/)
    changeAddress(context, ada, 'Ada@NEW.example.com')
    await moveTo(context, thursdayNoon + 2 * DAY)
    expect(context.db.prepare('SELECT to_address AS "to" FROM mailbox ORDER BY id').pluck().all()).toEqual([
      'ada@example.com', 'bo@example.com', 'Ada@new.example.com', 'bo@example.com',
    ])
    expect(subscriberView(context, ada).formerAddresses).toEqual([{ address: 'ada@example.com', untilAt: thursdayNoon + HOUR }])
    const id = await receiveImport(context, {
      fileName: 'x', bytes: new Uint8Array(Buffer.from('email\nADA@example.com\nada@new.example.com\nnew@example.com')), encoding: null,
      delimiter: null,
    })
    const spec = {
      columns: [{ target: { kind: 'address' as const }, dateOrder: 'day-month-year' as const }], listIds: [], tagIds: [], source: 'x',
      starts: false, known: 'keep' as const, consent: { kind: 'none' as const },
    }
    expect(importPlan(context, { id, spec })).toMatchObject({ new: 1, unchanged: 2 })
    erasePerson(context, ada)
    expect(importPlan(context, { id, spec })).toMatchObject({ new: 1, refused: 2 })
    expect(formerAddresses(context.db, ada)).toEqual([])
    expect(bo).toBeGreaterThan(0)
  })
})

describe('merging two people', () => {
  it('keeps the strictest status, whatever the two were', () => {
    const order: Status[] = ['complained', 'unsubscribed', 'bounced', 'pending', 'resting', 'active']
    for (const [n, a] of order.entries()) for (const [m, b] of order.entries()) expect(strictest(a, b)).toBe(order[Math.min(n, m)])
  })

  it('brings everything together: marks, consent, emails, history; what is known stays and gaps are filled', async () => {
    const { context, listId, tagId, interestId } = await furnish(openContext())
    const [ada, other] = [visit(context, 'ada@example.com', 'Ada'), visit(context, 'a.l@example.com', 'A.', 'Asia/Tokyo')]
    giveTagByHand(context, other, interestId)
    correctPerson(context, other, { firstName: 'A.', zone: 'Asia/Tokyo', country: 'JP', fields: {} })
    await moveTo(context, thursdayNoon + HOUR)
    expect(() => mergePeople(context, ada, ada, 'ada@example.com')).toThrow(/same record/)
    expect(() => mergePeople(context, ada, other, 'b@example.com')).toThrow(/another address/)
    mergePeople(context, ada, other, 'a.l@example.com')
    expect(findPerson(context.db, other)).toBeUndefined()
    expect(findPerson(context.db, ada)).toMatchObject({
      address: 'ada@example.com', firstName: 'Ada', zone: 'Asia/Tokyo', country: 'JP', status: 'active', createdAt: thursdayNoon,
    })
    const view = subscriberView(context, ada)
    expect([
      view.consents.length, view.emails.length, view.tags.map(({ name }) => name).sort(),
      view.formerAddresses.map(({ address }) => address),
    ]).toEqual([2, 2, ['interest: coptic', 'sheet kit'], ['a.l@example.com']])
    expect([hasTag(context.db, tagId, ada), membership(context.db, listId, ada)]).toEqual([true, 'joined'])
    expect(eventsOfPerson(context.db, ada).filter(event => sayEvent(event) === 'opted in on “Sheet kit”')).toHaveLength(2)
    // One journey goes on, and nobody gets any email of it a second time by being merged.
    expect(openEnrolmentsOfPerson(context.db, ada)).toHaveLength(1)
    await moveTo(context, thursdayNoon + 10 * DAY)
    expect(sent(context, ada)).toEqual(['one', 'one', 'three', 'two'])
    const twice = context.db.prepare('SELECT to_address AS "to", subject, count(*) AS n FROM mailbox GROUP BY 1, 2 HAVING n > 1').all()
    expect(twice).toEqual([])
    // An address of the past may opt in again, as somebody new.
    expect(visit(context, 'a.l@example.com')).not.toBe(ada)
    const everything = JSON.stringify(exportPerson(context, ada))
    for (const word of ['ada@example.com', 'a.l@example.com', '192.0.2.7', 'Asia/Tokyo', 'interest: coptic', 'keen-porch-person']) {
      expect(everything).toContain(word)
    }
    erasePerson(context, ada)
    expect(context.db.prepare(`SELECT count(*) AS n FROM event_personal x JOIN events e ON e.id = x.event_id WHERE e.person_id IN (?, ?)`)
      .get(ada, other)).toEqual({ n: 0 })
  })

  it('never brings back who has left: a leaving of either stops all mail, a list left by either stays left', async () => {
    const { context, listId } = await furnish(openContext())
    const [ada, other, third] = ['a', 'b', 'c'].map(name => visit(context, `${name}@example.com`)) as [number, number, number]
    await moveTo(context, thursdayNoon + HOUR)
    leave(context, emailsOfPerson(context.db, other)[0]!.id, { what: 'list', listId })
    mergePeople(context, ada, other, 'b@example.com')
    expect([findPerson(context.db, ada)!.status, membership(context.db, listId, ada), openEnrolmentsOfPerson(context.db, ada)]).toEqual([
      'active', 'left', [],
    ])
    const before = context.db.prepare('SELECT count(*) AS n FROM mailbox WHERE to_address = ?').get('a@example.com')
    leave(context, emailsOfPerson(context.db, third)[0]!.id, { what: 'everything' })
    mergePeople(context, ada, third, 'c@example.com')
    expect(findPerson(context.db, ada)!.status).toBe('unsubscribed')
    await moveTo(context, thursdayNoon + 10 * DAY)
    expect(context.db.prepare('SELECT count(*) AS n FROM mailbox WHERE to_address = ?').get('a@example.com')).toEqual(before)
    expect(tagsOfPerson(context.db, ada)).toHaveLength(1)
  })

  it('moves a journey the other was on alone, with what waits of it, behind the visits already made', async () => {
    const { context, tagId } = await furnish(openContext())
    const ada = visit(context, 'a@example.com')
    await moveTo(context, thursdayNoon + 5 * DAY)
    takeTagByHand(context, ada, tagId)
    const stranger = context.db.prepare(`
      INSERT INTO people (address, address_key, status, source, created_at)
      VALUES ('s@example.com', 's@example.com', 'active', 'test', 0)`).run().lastInsertRowid as number
    const other = visit(context, 'b@example.com')
    await moveTo(context, thursdayNoon + 5 * DAY + HOUR)
    mergePeople(context, stranger, other, 'b@example.com')
    await moveTo(context, thursdayNoon + 10 * DAY)
    expect(sent(context, stranger)).toEqual(['one', 'three', 'two'])
    expect(context.db.prepare(`SELECT to_address AS "to" FROM mailbox WHERE to_address IN ('s@example.com', 'b@example.com') ORDER BY id`)
      .pluck().all()).toEqual(['b@example.com', 's@example.com', 's@example.com'])
    expect(findPersonByKey(context.db, 's@example.com')!.createdAt).toBe(0)
  })
})

describe('why did they, or did they not, get it', () => {
  it('answers from what stands in the books, whatever became of it', async () => {
    const { context, courseId, listId } = await furnish(openContext(), () => [
      step('one', { kind: 'at-once' }), step('two', { kind: 'elapsed', count: 1, unit: 'days', from: 'previous' }),
      step('three', { kind: 'elapsed', count: 1, unit: 'days', from: 'previous' }),
      step('four', { kind: 'elapsed', count: 1, unit: 'days', from: 'previous' }, email('four', { subject: [] })),
    ])
    const why = (id: number, stepId: string) => whyView(context, id, { kind: 'course', ownerId: courseId, itemId: stepId })
    const [ada, gone, out] = ['a', 'b', 'c'].map(name => visit(context, `${name}@example.com`)) as [number, number, number]
    await moveTo(context, thursdayNoon + HOUR)
    expect(why(ada, 'one')).toEqual([
      'It was sent Thu 26 Nov, 12:00.', 'They joined Fold, Sew, Cover Thu 26 Nov, 12:00, and it was planned for Thu 26 Nov, 12:00.',
    ])
    expect(why(ada, 'two')[0]).toBe('Not yet: they are waiting for two, due Fri 27 Nov, 12:00.')
    expect(why(ada, 'three')).toEqual(['Not yet: they are waiting for two, due Fri 27 Nov, 12:00.', 'three comes after it.'])
    leave(context, emailsOfPerson(context.db, gone)[0]!.id, { what: 'everything' })
    expect(why(gone, 'two').slice(0, 2)).toEqual([
      'They left Fold, Sew, Cover Thu 26 Nov, 13:00, before it was due.',
      'Thu 26 Nov, 13:00: left the course “Fold, Sew, Cover” (unsubscribed).',
    ])
    // Still planned, but they may not be mailed any more: the answer says so beforehand, and then what became of it.
    const rest = (status: 'put-to-rest' | 'woken') => transact(context, () =>
      changeStatus(context.db, out, status, { at: context.clock.now(), causeId: null, ownAct: false }))
    setConsentRule(context.db, { countries: [], unknownNeeds: true })
    context.db.prepare('UPDATE people SET consent_at = NULL WHERE id = ?').run(out)
    expect(why(out, 'two')).toContain('Right now it would be held back then:  no consent.')
    setConsentRule(context.db, { countries: [], unknownNeeds: false })
    rest('put-to-rest')
    expect(why(out, 'two').slice(0, 2)).toEqual([
      'Not yet: they are waiting for two, and nothing happens for now.', 'The course continues from there later: they are resting.',
    ])
    await moveTo(context, thursdayNoon + 25 * HOUR)
    expect(emailsOfPerson(context.db, out)).toHaveLength(1)
    rest('woken')
    expect(why(out, 'two')[0]).toBe('Not yet: they are waiting for two, due Sat 28 Nov, 12:00.')
    await moveTo(context, thursdayNoon + 3 * DAY)
    expect(why(ada, 'four')[0]).toBe('Not yet: they are waiting for four, which is still empty.')
    const stranger = context.db.prepare(`
      INSERT INTO people (address, address_key, status, source, created_at)
      VALUES ('s@example.com', 's@example.com', 'active', 'test', 0)`).run().lastInsertRowid as number
    expect(why(stranger, 'one')).toEqual([
      'They are not in Fold, Sew, Cover and never were.',
      'It starts with the tag “sheet kit”, which they have not got since it was started.',
    ])
    expect(() => why(stranger, 'none')).toThrow(/no longer exists/)
    expect(listId).toBeGreaterThan(0)
  })
})
