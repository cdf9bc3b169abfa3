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
import { changeStatus } from '#usecases/inner/marks'
import { correctPerson, giveTagByHand, takeTagByHand } from '#usecases/know/byHand'
import { erasePerson } from '#usecases/know/erase'
import { receiveImport } from '#usecases/know/importFile'
import { changeAddress, mergePeople } from '#usecases/know/sameness'
import { exportPerson } from '#usecases/views/exportPerson'
import { importPlan } from '#usecases/views/importPlan'
import { subscriberView } from '#usecases/views/subscriber'
import { whyView } from '#usecases/views/why'
import { DAY, email, furnish, HOUR, moveTo, openHouse, step, thursdayNoon, visit } from './workshop'

const sent = (house: Parameters<typeof subscriberView>[0], id: number) => emailsOfPerson(house.db, id).filter(one => one.status === 'handed over').map(one => one.workingTitle).sort()

describe('another address', () => {
  it('gets what waits; the old one is kept, found by imports, and gone with an erasing', async () => {
    const { house } = await furnish(openHouse())
    const [ada, bo] = [visit(house, 'ada@example.com', 'Ada'), visit(house, 'bo@example.com')]
    await moveTo(house, thursdayNoon + HOUR)
    expect(() => changeAddress(house, ada, 'bo@example.com')).toThrow(/is a subscriber already/)
    expect(() => changeAddress(house, ada, 'ada@')).toThrow(/Something is missing/)
    changeAddress(house, ada, 'Ada@NEW.example.com')
    await moveTo(house, thursdayNoon + 2 * DAY)
    expect(house.db.prepare('SELECT to_address AS "to" FROM mailbox ORDER BY id').pluck().all()).toEqual(['ada@example.com', 'bo@example.com', 'Ada@new.example.com', 'bo@example.com'])
    expect(subscriberView(house, ada).formerAddresses).toEqual([{ address: 'ada@example.com', untilAt: thursdayNoon + HOUR }])
    const id = await receiveImport(house, { fileName: 'x', bytes: new Uint8Array(Buffer.from('email\nADA@example.com\nada@new.example.com\nnew@example.com')), encoding: null, delimiter: null })
    const spec = { columns: [{ target: { kind: 'address' as const }, dateOrder: 'day-month-year' as const }], listIds: [], tagIds: [], source: 'x', starts: false, known: 'keep' as const, consent: { kind: 'none' as const } }
    expect(importPlan(house, { id, spec })).toMatchObject({ new: 1, unchanged: 2 })
    erasePerson(house, ada)
    expect(importPlan(house, { id, spec })).toMatchObject({ new: 1, refused: 2 })
    expect(formerAddresses(house.db, ada)).toEqual([])
    expect(bo).toBeGreaterThan(0)
  })
})

describe('merging two people', () => {
  it('keeps the strictest status, whatever the two were', () => {
    const order: Status[] = ['complained', 'unsubscribed', 'bounced', 'pending', 'resting', 'active']
    for (const [n, a] of order.entries()) for (const [m, b] of order.entries()) expect(strictest(a, b)).toBe(order[Math.min(n, m)])
  })

  it('brings everything together: marks, consent, emails, history; what is known stays and gaps are filled', async () => {
    const { house, listId, tagId, interestId } = await furnish(openHouse())
    const [ada, other] = [visit(house, 'ada@example.com', 'Ada'), visit(house, 'a.l@example.com', 'A.', 'Asia/Tokyo')]
    giveTagByHand(house, other, interestId)
    correctPerson(house, other, { firstName: 'A.', zone: 'Asia/Tokyo', country: 'JP', fields: {} })
    await moveTo(house, thursdayNoon + HOUR)
    expect(() => mergePeople(house, ada, ada, 'ada@example.com')).toThrow(/same record/)
    expect(() => mergePeople(house, ada, other, 'b@example.com')).toThrow(/another address/)
    mergePeople(house, ada, other, 'a.l@example.com')
    expect(findPerson(house.db, other)).toBeUndefined()
    expect(findPerson(house.db, ada)).toMatchObject({ address: 'ada@example.com', firstName: 'Ada', zone: 'Asia/Tokyo', country: 'JP', status: 'active', createdAt: thursdayNoon })
    const view = subscriberView(house, ada)
    expect([view.consents.length, view.emails.length, view.tags.map(({ name }) => name).sort(), view.formerAddresses.map(({ address }) => address)]).toEqual([2, 2, ['interest: coptic', 'sheet kit'], ['a.l@example.com']])
    expect([hasTag(house.db, tagId, ada), membership(house.db, listId, ada)]).toEqual([true, 'joined'])
    expect(eventsOfPerson(house.db, ada).filter(event => sayEvent(event) === 'opted in on Sheet kit')).toHaveLength(2)
    // One journey goes on, and nobody gets any email of it a second time by being merged.
    expect(openEnrolmentsOfPerson(house.db, ada)).toHaveLength(1)
    await moveTo(house, thursdayNoon + 10 * DAY)
    expect(sent(house, ada)).toEqual(['one', 'one', 'three', 'two'])
    const twice = house.db.prepare('SELECT to_address AS "to", subject, count(*) AS n FROM mailbox GROUP BY 1, 2 HAVING n > 1').all()
    expect(twice).toEqual([])
    // An address of the past may opt in again, as somebody new.
    expect(visit(house, 'a.l@example.com')).not.toBe(ada)
    const everything = JSON.stringify(exportPerson(house, ada))
    for (const word of ['ada@example.com', 'a.l@example.com', '192.0.2.7', 'Asia/Tokyo', 'interest: coptic', 'keen-porch-person']) expect(everything).toContain(word)
    erasePerson(house, ada)
    expect(house.db.prepare(`SELECT count(*) AS n FROM event_personal x JOIN events e ON e.id = x.event_id WHERE e.person_id IN (?, ?)`).get(ada, other)).toEqual({ n: 0 })
  })

  it('never brings back who has left: a leaving of either stops all mail, a list left by either stays left', async () => {
    const { house, listId } = await furnish(openHouse())
    const [ada, other, third] = ['a', 'b', 'c'].map(name => visit(house, `${name}@example.com`)) as [number, number, number]
    await moveTo(house, thursdayNoon + HOUR)
    leave(house, emailsOfPerson(house.db, other)[0]!.id, { what: 'list', listId })
    mergePeople(house, ada, other, 'b@example.com')
    expect([findPerson(house.db, ada)!.status, membership(house.db, listId, ada), openEnrolmentsOfPerson(house.db, ada)]).toEqual(['active', 'left', []])
    const before = house.db.prepare('SELECT count(*) AS n FROM mailbox WHERE to_address = ?').get('a@example.com')
    leave(house, emailsOfPerson(house.db, third)[0]!.id, { what: 'everything' })
    mergePeople(house, ada, third, 'c@example.com')
    expect(findPerson(house.db, ada)!.status).toBe('unsubscribed')
    await moveTo(house, thursdayNoon + 10 * DAY)
    expect(house.db.prepare('SELECT count(*) AS n FROM mailbox WHERE to_address = ?').get('a@example.com')).toEqual(before)
    expect(tagsOfPerson(house.db, ada)).toHaveLength(1)
  })

  it('moves a journey the other was on alone, with what waits of it, behind the visits already made', async () => {
    const { house, tagId } = await furnish(openHouse())
    const ada = visit(house, 'a@example.com')
    await moveTo(house, thursdayNoon + 5 * DAY)
    takeTagByHand(house, ada, tagId)
    const stranger = house.db.prepare(`INSERT INTO people (address, address_key, status, source, created_at) VALUES ('s@example.com', 's@example.com', 'active', 'test', 0)`).run().lastInsertRowid as number
    const other = visit(house, 'b@example.com')
    await moveTo(house, thursdayNoon + 5 * DAY + HOUR)
    mergePeople(house, stranger, other, 'b@example.com')
    await moveTo(house, thursdayNoon + 10 * DAY)
    expect(sent(house, stranger)).toEqual(['one', 'three', 'two'])
    expect(house.db.prepare(`SELECT to_address AS "to" FROM mailbox WHERE to_address IN ('s@example.com', 'b@example.com') ORDER BY id`).pluck().all()).toEqual(['b@example.com', 's@example.com', 's@example.com'])
    expect(findPersonByKey(house.db, 's@example.com')!.createdAt).toBe(0)
  })
})

describe('why did they, or did they not, get it', () => {
  it('answers from what stands in the books, whatever became of it', async () => {
    const { house, courseId, listId } = await furnish(openHouse(), () => [
      step('one', { kind: 'at-once' }), step('two', { kind: 'elapsed', count: 1, unit: 'days', from: 'previous' }), step('three', { kind: 'elapsed', count: 1, unit: 'days', from: 'previous' }),
      step('four', { kind: 'elapsed', count: 1, unit: 'days', from: 'previous' }, email('four', { subject: [] })),
    ])
    const why = (id: number, stepId: string) => whyView(house, id, courseId, stepId)
    const [ada, gone, out] = ['a', 'b', 'c'].map(name => visit(house, `${name}@example.com`)) as [number, number, number]
    await moveTo(house, thursdayNoon + HOUR)
    expect(why(ada, 'one')).toEqual(['They were sent it Thu 26 Nov, 12:00.', 'They joined Fold, Sew, Cover Thu 26 Nov, 12:00, and it was planned for Thu 26 Nov, 12:00.'])
    expect(why(ada, 'two')[0]).toBe('Not yet: they stand before two, due Fri 27 Nov, 12:00.')
    expect(why(ada, 'three')).toEqual(['Not yet: they stand before two, due Fri 27 Nov, 12:00.', 'three comes after it.'])
    leave(house, emailsOfPerson(house.db, gone)[0]!.id, { what: 'everything' })
    expect(why(gone, 'two').slice(0, 2)).toEqual(['They left Fold, Sew, Cover Thu 26 Nov, 13:00, before it was their turn.', 'Thu 26 Nov, 13:00: left the course Fold, Sew, Cover (unsubscribed).'])
    // Still planned, but they may not be mailed any more: the answer says so beforehand, and then what became of it.
    const rest = (status: 'put-to-rest' | 'woken') => changeStatus(house.db, out, status, { at: house.clock.now(), causeId: null, ownAct: false })
    setConsentRule(house.db, { countries: [], unknownNeeds: true })
    house.db.prepare('UPDATE people SET consent_at = NULL WHERE id = ?').run(out)
    expect(why(out, 'two')).toContain('As things stand it would then be held back: no consent.')
    setConsentRule(house.db, { countries: [], unknownNeeds: false })
    rest('put-to-rest')
    expect(why(out, 'two').slice(0, 2)).toEqual(['Not yet: they stand before two, and nothing moves for now.', 'The course continues from there later: they are resting.'])
    await moveTo(house, thursdayNoon + 25 * HOUR)
    expect(emailsOfPerson(house.db, out)).toHaveLength(1)
    rest('woken')
    expect(why(out, 'two')[0]).toBe('Not yet: they stand before two, due Sat 28 Nov, 12:00.')
    await moveTo(house, thursdayNoon + 3 * DAY)
    expect(why(ada, 'four')[0]).toBe('Not yet: they stand before four, which is still empty.')
    const stranger = house.db.prepare(`INSERT INTO people (address, address_key, status, source, created_at) VALUES ('s@example.com', 's@example.com', 'active', 'test', 0)`).run().lastInsertRowid as number
    expect(why(stranger, 'one')).toEqual(['They are not in Fold, Sew, Cover and never were.', 'It begins with the tag “sheet kit”, which they have not got since it was started.'])
    expect(() => why(stranger, 'none')).toThrow(/not there/)
    expect(listId).toBeGreaterThan(0)
  })
})
