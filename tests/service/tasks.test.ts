import { describe, expect, it } from 'vitest'
import { sayEvent } from '#core/events'
import { EVERYBODY } from '#core/audience/condition'
import type { Doing } from '#core/views/tasks'
import { eventsOfPerson } from '#data/events'
import { findRemembered } from '#data/erasing'
import { fieldOfPerson } from '#data/fields'
import { hasTag, membership, tagsOfPerson } from '#data/marks'
import { emailsOfPerson } from '#data/outbox'
import { findPerson, findPersonByKey } from '#data/people'
import { leave } from '#usecases/arrive/leave'
import type { WorkspaceContext } from '#usecases/context'
import { giveTagByHand, leaveListByHand, takeTagByHand } from '#usecases/know/byHand'
import type { Whom } from '#usecases/know/doToMany'
import { doToMany, stopTask, takeBack, taskView } from '#usecases/know/doToMany'
import { saveField } from '#usecases/know/fields'
import { saveList } from '#usecases/know/listsAndTags'
import { subscriberView } from '#usecases/views/subscriber'
import { workOnTask } from '#usecases/time/tasks'
import { NOT_NARROWED } from '#usecases/inner/narrowing'
import { furnish, HOUR, moveTo, openContext, thursdayNoon, visit } from './workshop'

const narrowing = { ...NOT_NARROWED, where: EVERYBODY }
const everybody: Whom = { kind: 'all', search: '', narrowing }

async function made(people: number) {
  const setting = await furnish(openContext())
  const ids = Array.from({ length: people }, (_, n) => visit(setting.context, `p${n}@example.com`, `P${n}`))
  await moveTo(setting.context, thursdayNoon + HOUR)
  return { ...setting, ids }
}

/** As the engine does: bit by bit, until nothing is left to do. */
function doAll(context: WorkspaceContext, whom: Whom, doing: Doing, said: number) {
  const id = doToMany(context, whom, doing, said)
  while (workOnTask(context));
  return taskView(context, id)
}
function back(context: WorkspaceContext, id: number) {
  const undo = takeBack(context, id)
  while (workOnTask(context));
  return taskView(context, undo)
}
const outcomes = (view: { outcomes: { outcome: string, people: number }[] }) =>
  Object.fromEntries(view.outcomes.map(({ outcome, people }) => [outcome, people]))

describe('what is done to many', () => {
  it('is refused if it would touch another number than was said, and then nothing is done', async () => {
    const { context, interestId } = await made(3)
    expect(() => doToMany(context, everybody, { kind: 'give-tag', tagId: interestId }, 2)).toThrow('Meanwhile these are 3 people, not 2')
    expect(context.db.prepare('SELECT count(*) AS n FROM tasks').get()).toEqual({ n: 0 })
    expect(() => doToMany(context, everybody, { kind: 'give-tag', tagId: 99 }, 3)).toThrow(/no longer exists/)
    expect(() =>
      doToMany(context, { ...everybody, search: 'nobody' } as Whom, { kind: 'give-tag', tagId: interestId }, 0)).toThrow('Nobody matches')
  })

  it('gives a tag with a cause, tells who had it, and takes back only what is still as it left it', async () => {
    const { context, interestId, ids } = await made(600)
    giveTagByHand(context, ids[0]!, interestId)
    const view = doAll(context, everybody, { kind: 'give-tag', tagId: interestId }, 600)
    expect(view).toMatchObject({
      state: 'done', total: 600, done: 600, changed: 599, title: 'add the tag “interest: coptic”', canBeTakenBack: true,
    })
    expect(outcomes(view)).toEqual({ 'given': 599, 'had-it': 1 })
    const [got] = eventsOfPerson(context.db, ids[1]!).filter(event => event.tagName === 'interest: coptic')
    const cause = subscriberView(context, ids[1]!).causes.find(event => event.id === got!.causeId)!
    expect(sayEvent(cause)).toBe('you made a bulk change: add the tag “interest: coptic”')
    // One loses it by hand, one gets it anew since: neither is touched by taking it back.
    takeTagByHand(context, ids[2]!, interestId)
    takeTagByHand(context, ids[3]!, interestId)
    giveTagByHand(context, ids[3]!, interestId)
    const undo = back(context, view.id)
    expect(outcomes(undo)).toEqual({ 'taken-back': 597, 'changed-since': 2 })
    expect([0, 1, 2, 3].map(n => hasTag(context.db, interestId, ids[n]!))).toEqual([true, false, false, true])
    expect(() => takeBack(context, view.id)).toThrow(/has been undone already/)
    expect(taskView(context, view.id).takenBackBy).toBe(undo.id)
  })

  it('comes to each of those picked once, however far apart they were written', async () => {
    const { context, interestId, ids } = await made(3)
    for (const last of [1999, 3999, 9000]) {
      context.db.prepare(`INSERT INTO people (id, address, address_key, status, source, created_at)
        VALUES (@last, @last || '@example.org', @last || '@example.org', 'active', 'page', 0)`).run({ last })
      ids.push(...['a', 'b'].map(name => visit(context, `${name}${last}@example.com`)))
    }
    expect(ids.slice(3)).toEqual([2000, 2001, 4000, 4001, 9001, 9002])
    const picked = ids.filter(id => id !== ids[1] && id !== 4000)
    const view = doAll(context, { kind: 'picked', ids: picked.toReversed() }, { kind: 'give-tag', tagId: interestId }, 7)
    expect(view).toMatchObject({ state: 'done', total: 7, changed: 7 })
    expect(ids.filter(id => hasTag(context.db, interestId, id))).toEqual(picked)
  })

  it('takes a tag away and brings it back with its own time, without beginning its course', async () => {
    const { context, tagId, ids } = await made(4)
    const before = tagsOfPerson(context.db, ids[0]!).find(tag => tag.id === tagId)!
    const enrolled = () =>
      eventsOfPerson(context.db, ids[0]!).filter(event => event.kind === 'enrolled' || event.kind === 'way-in-again').length
    const was = enrolled()
    const view = doAll(context, { kind: 'picked', ids: ids.slice(0, 2) }, { kind: 'take-tag', tagId }, 2)
    expect([hasTag(context.db, tagId, ids[0]!), hasTag(context.db, tagId, ids[2]!)]).toEqual([false, true])
    back(context, view.id)
    expect(tagsOfPerson(context.db, ids[0]!).find(tag => tag.id === tagId)).toMatchObject({ sinceAt: before.sinceAt })
    expect(enrolled()).toBe(was)
  })

  it('puts nobody back on a list they left themselves, and undoing leaves them as they were', async () => {
    const { context, listId, ids } = await made(5)
    const other = saveList(context, null, { name: 'other', publicName: '', description: '' })
    leave(context, emailsOfPerson(context.db, ids[0]!)[0]!.id, { what: 'list', listId })
    leaveListByHand(context, ids[1]!, listId)
    const view = doAll(context, everybody, { kind: 'put-on-list', listId }, 5)
    expect(outcomes(view)).toEqual({ 'left-it-themselves': 1, 'put-on': 1, 'was-on-it': 3 })
    expect(membership(context.db, listId, ids[0]!)).toBe('left')
    const fresh = doAll(context, everybody, { kind: 'put-on-list', listId: other }, 5)
    back(context, fresh.id)
    expect(membership(context.db, other, ids[2]!)).toBe('never-joined')
    const off = doAll(context, everybody, { kind: 'take-off-list', listId }, 5)
    expect(outcomes(off)).toEqual({ 'taken-off': 4, 'was-not-on-it': 1 })
    expect(outcomes(back(context, off.id))).toEqual({ 'taken-back': 4 })
    expect(ids.map(id => membership(context.db, listId, id))).toEqual(['left', 'joined', 'joined', 'joined', 'joined'])
  })

  it('sets a field and gives everybody back their own value', async () => {
    const { context, ids } = await made(3)
    const fieldId = saveField(context, null, { name: 'books bound', label: '', kind: 'number', choices: [] })
    doAll(context, { kind: 'picked', ids: [ids[0]!] }, { kind: 'set-field', fieldId, typed: '3' }, 1)
    expect(() => doToMany(context, everybody, { kind: 'set-field', fieldId, typed: 'many' }, 3)).toThrow(/A number looks like/)
    const view = doAll(context, everybody, { kind: 'set-field', fieldId, typed: '7' }, 3)
    expect(ids.map(id => fieldOfPerson(context.db, fieldId, id))).toEqual([7, 7, 7])
    back(context, view.id)
    expect(ids.map(id => fieldOfPerson(context.db, fieldId, id))).toEqual([3, null, null])
  })

  it('begins a course for those who may come in, never as asked-for mail', async () => {
    const { context, courseId, ids } = await made(3)
    const stranger = context.db.prepare(`
      INSERT INTO people (address, address_key, status, source, created_at)
      VALUES ('x@example.com', 'x@example.com', 'active', 'test', 0)`).run().lastInsertRowid as number
    const view = doAll(context, everybody, { kind: 'enrol', courseId }, 4)
    expect(outcomes(view)).toEqual({ 'stays-out': 3, 'enrolled': 1 })
    expect(view.canBeTakenBack).toBe(false)
    await moveTo(context, thursdayNoon + 2 * HOUR)
    expect(emailsOfPerson(context.db, stranger)[0]).toMatchObject({ askedFor: 0 })
    expect(ids).toHaveLength(3)
  })

  it('can be stopped half-way, told how far, and what is done taken back; the next one then begins', async () => {
    const { context, interestId, tagId } = await made(600)
    const id = doToMany(context, everybody, { kind: 'give-tag', tagId: interestId }, 600)
    const next = doToMany(context, everybody, { kind: 'take-tag', tagId }, 600)
    workOnTask(context)
    stopTask(context, id)
    const view = taskView(context, id)
    expect(view).toMatchObject({ state: 'stopped', done: view.changed })
    expect(view.done).toBeGreaterThan(0)
    expect(view.done).toBeLessThan(600)
    while (workOnTask(context));
    expect(taskView(context, next)).toMatchObject({ state: 'done', changed: 600 })
    expect(outcomes(back(context, id))).toEqual({ 'taken-back': view.done })
  })

  it('is settled when it is said: who comes to fit later is not touched', async () => {
    const { context, interestId } = await made(2)
    doToMany(context, everybody, { kind: 'give-tag', tagId: interestId }, 2)
    const late = visit(context, 'late@example.com')
    while (workOnTask(context));
    expect(hasTag(context.db, interestId, late)).toBe(false)
  })
})

describe('erasing', () => {
  it('takes out everything personal, ends what would be sent, and keeps the counts', async () => {
    const { context, listId, tagId, courseId, ids } = await made(3)
    const count = () => context.db.prepare(`SELECT count(*) AS n FROM events WHERE person_id = ?`).get(ids[0]) as { n: number }
    const before = count().n
    const view = doAll(context, { kind: 'picked', ids: [ids[0]!] }, { kind: 'erase' }, 1)
    expect(view).toMatchObject({ changed: 1, canBeTakenBack: false })
    await moveTo(context, thursdayNoon + 200 * HOUR)
    const everything = (context.db.prepare(`SELECT name FROM sqlite_master WHERE type = 'table'`).all() as { name: string }[])
      .flatMap(({ name }) => context.db.prepare(`SELECT * FROM ${name}`).all() as Record<string, unknown>[]).map(row =>
        JSON.stringify(Object.values(row).map(value => Buffer.isBuffer(value) ? value.toString() : value)))
    expect(everything.filter(row => row.includes('p0@example.com') || row.includes('"P0"'))).toEqual([])
    expect(everything.some(row => row.includes('p1@example.com'))).toBe(true)
    expect(count().n).toBeGreaterThan(before)
    expect(findPerson(context.db, ids[0]!)).toBeUndefined()
    expect([membership(context.db, listId, ids[0]!), hasTag(context.db, tagId, ids[0]!)]).toEqual(['never-joined', false])
    expect(emailsOfPerson(context.db, ids[0]!).every(mail => mail.status === 'handed over' || mail.status === 'withdrawn')).toBe(true)
    expect(context.db.prepare('SELECT count(*) AS n FROM enrolments WHERE course_id = ?').get(courseId)).toEqual({ n: 3 })
    expect(findRemembered(context.db, context.signer.digest('p0@example.com'))).toMatchObject({ status: 'active' })
    // Their own act makes them a new subscriber like any other.
    expect(visit(context, 'p0@example.com')).not.toBe(ids[0])
    expect(findPersonByKey(context.db, 'p0@example.com')?.status).toBe('active')
  })
})
