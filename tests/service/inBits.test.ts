/** Whatever is done about very many people: no transaction grows with how many they are. */
import { describe, expect, it } from 'vitest'
import { EVERYBODY, type Condition } from '#core/audience/condition'
import { newRule } from '#core/rules/rule'
import { daily } from '#core/time/hours'
import { findCourse } from '#data/courses'
import { appendEvent, eventsOfPerson } from '#data/events'
import { fieldsOfPerson } from '#data/fields'
import { membership, setJoined, setLeft, tagsOfPerson } from '#data/marks'
import { segmentsOfPerson } from '#data/segments'
import { countTaskPeople } from '#data/tasks'
import { createCourse, saveCourse } from '#usecases/courses/save'
import { publishChanges, startCourse } from '#usecases/courses/publish'
import { giveTagByHand, takeTagByHand } from '#usecases/know/byHand'
import { doToMany, stopTask, takeBack, taskView, taskViews, type Whom } from '#usecases/know/doToMany'
import { deleteList, deleteTag, mergeLists, mergeTags } from '#usecases/know/endMarks'
import { removeField, saveField } from '#usecases/know/fields'
import { saveList, saveTag } from '#usecases/know/listsAndTags'
import { removeRule, runRule, saveRule } from '#usecases/know/rules'
import { removeSegment, saveSegment } from '#usecases/know/segments'
import { saveSendingHours } from '#usecases/settings/hours'
import { play } from '#usecases/time/play'
import { workOnTask } from '#usecases/time/tasks'
import { NOT_NARROWED } from '#usecases/inner/narrowing'
import { DAY, furnish, openContext, step, tag, type Workshop } from './workshop'

const MANY = 4_500
/** Rows that one transaction may write: of a request, and of the engine. */
const REQUEST = 2_600
const BIT = 4_200

const everybody: Whom = { kind: 'all', search: '', narrowing: { ...NOT_NARROWED, where: EVERYBODY } }
const having = (tagId: number): Condition => ({ kind: 'all', of: [{ kind: 'tag', tagId, since: null }] })

const written = ({ db }: Workshop) => (db.prepare('SELECT total_changes() AS n').get() as { n: number }).n

/** The most rows that were written at once: while asking, and in any bit of what follows. */
async function most(context: Workshop, asks: () => unknown): Promise<{ request: number, bit: number }> {
  let before = written(context)
  await asks()
  const request = written(context) - before
  let bit = 0
  const look = () => {
    bit = Math.max(bit, written(context) - before)
    before = written(context)
    return true
  }
  before = written(context)
  await play(context, context.clock.now(), { goOn: look })
  look()
  return { request, bit }
}

/** So many who have the tag, are on the list, and of whom a date is known. */
async function crowd(people = MANY) {
  const setting = await furnish(openContext(), () => [step('one', { kind: 'elapsed', count: 2, unit: 'days', from: 'joining' })])
  const { context, tagId } = setting
  const { db } = context
  const listId = saveList(context, null, { name: 'many', publicName: 'Many', description: '' })
  const fieldId = saveField(context, null, { name: 'birthday', label: 'Birthday', kind: 'date', choices: [] })
  const at = context.clock.now()
  db.transaction(() => {
    db.prepare(`WITH RECURSIVE n(n) AS (SELECT 1 UNION ALL SELECT n + 1 FROM n WHERE n < ?)
      INSERT INTO people (address, address_key, status, source, created_at, consent_at) SELECT 'p' || n || '@example.com',
        'p' || n || '@example.com', 'active', 'file', ?, ? FROM n`).run(people, at, at)
    db.prepare(`INSERT INTO events (kind, at, person_id, tag_id) SELECT 'got-tag', ?, id, ? FROM people`).run(at, tagId)
    db.prepare(`
      INSERT INTO tag_holdings (tag_id, person_id, since_at, event_id) SELECT tag_id, person_id, at, id FROM events
      WHERE tag_id = ?`).run(tagId)
    db.prepare(`INSERT INTO events (kind, at, person_id, list_id) SELECT 'joined-list', ?, id, ? FROM people`).run(at, listId)
    db.prepare(`
      INSERT INTO list_members (list_id, person_id, joined_at, event_id) SELECT list_id, person_id, at, id FROM events
      WHERE list_id = ?`).run(listId)
    db.prepare(`INSERT INTO field_values (field_id, person_id, value) SELECT ?, id, '1984-12-20' FROM people`).run(fieldId)
  })()
  await play(context, at)
  return {
    ...setting, lettersId: setting.listId, listId, fieldId,
    ids: (db.prepare('SELECT id FROM people ORDER BY id').all() as { id: number }[]).map(({ id }) => id),
  }
}

async function course(context: Workshop, listId: number, name: string, more: object) {
  const id = createCourse(context, name, `${name} 1`)
  const { draft } = findCourse(context.db, id)!
  saveCourse(context, id, name, {
    ...draft, listId, again: 'once', steps: [step(`${name} 1`, { kind: 'elapsed', count: 3, unit: 'days', from: 'joining' })], ...more,
  })
  return id
}

describe('A4: among very many people', () => {
  it('no transaction grows with how many they are', async () => {
    const { context, tagId, lettersId, listId, fieldId, interestId } = await crowd()
    const outcome: Record<string, { request: number, bit: number }> = {}
    const task = () => taskViews(context)[0]!.id
    const other = saveTag(context, null, tag('other'))
    const otherList = saveList(context, null, { name: 'other', publicName: 'Other', description: '' })
    outcome['give a tag'] = await most(context, () => doToMany(context, everybody, { kind: 'give-tag', tagId: other }, MANY))
    outcome['take it back'] = await most(context, () => takeBack(context, task()))
    expect(taskViews(context).map(({ state, total, changed }) => [state, total, changed])).toEqual([
      ['done', MANY, MANY], ['done', MANY, MANY],
    ])

    let segmentId = 0
    outcome['a segment'] = await most(context, () =>
      segmentId = saveSegment(context, null, { name: 'tagged', note: '', condition: having(tagId) }))
    expect(context.db.prepare('SELECT count(*) AS n FROM segment_people WHERE segment_id = ? AND inside = 1').get(segmentId)).toEqual({
      n: MANY,
    })
    outcome['delete the segment'] = await most(context, () => removeSegment(context, segmentId))
    expect(segmentsOfPerson(context.db, 1).map(({ name }) => name)).not.toContain('tagged')

    const byTag = await course(context, lettersId, 'by tag', { wayInTagIds: [tagId] })
    outcome['take all in'] = await most(context, () => startCourse(context, byTag, { kind: 'now' }, MANY))
    const byDate = await course(context, lettersId, 'by date', {
      dates: { fieldId, everyMonths: 12 },
      steps: [step('by date 1', { kind: 'date-field', fieldId, days: 0, time: '08:00', everyMonths: 12 })],
    })
    outcome['plan by date'] = await most(context, () => startCourse(context, byDate))
    expect(context.db.prepare('SELECT count(*) AS n FROM scheduled_entries').get()).toEqual({ n: MANY })
    outcome['hours'] = await most(context, () => saveSendingHours(context, daily([1, 2, 3, 4, 5], '08:00', '18:00')))
    const { name, draft } = findCourse(context.db, byDate)!
    saveCourse(context, byDate, name, {
      ...draft, dates: undefined, wayInTagIds: [interestId], steps: [step('by date 1', { kind: 'at-once' })],
    })
    outcome['no longer by date'] = await most(context, () => publishChanges(context, byDate))
    expect(context.db.prepare('SELECT count(*) AS n FROM scheduled_entries').get()).toEqual({ n: 0 })

    const saved = await saveRule(context, null, newRule({ kind: 'got-tag', thingId: tagId }, [{ kind: 'score', points: 1 }]))
    const ruleId = saved.saved ? saved.id : 0
    outcome['a rule for those who fit'] = await most(context, () => runRule(context, ruleId, MANY))
    removeRule(context, ruleId)

    outcome['merge tags'] = await most(context, () => mergeTags(context, tagId, other))
    outcome['delete a tag'] = await most(context, () => deleteTag(context, other, MANY))
    outcome['merge lists'] = await most(context, () => mergeLists(context, listId, otherList))
    expect(membership(context.db, otherList, 77)).toBe('joined')
    outcome['delete a list'] = await most(context, () => deleteList(context, otherList, MANY))
    outcome['delete a field'] = await most(context, () => removeField(context, fieldId, MANY))
    expect([tagsOfPerson(context.db, 5), fieldsOfPerson(context.db, 5), membership(context.db, otherList, 5)]).toEqual([
      [], [], 'never-joined',
    ])
    expect(eventsOfPerson(context.db, 5).slice(0, 3).map(({ kind, detail }) => [kind, detail])).toEqual([
      // On no list any more, which is a segment of its own.
      ['entered-segment', null], ['left-list', 'deleted'], ['lost-tag', 'deleted'],
    ])
    for (const table of ['tag_holdings', 'list_members', 'field_values', 'clearings']) {
      expect(context.db.prepare(`SELECT count(*) AS n FROM ${table}`).get()).toEqual({ n: 0 })
    }

    const above = Object.entries(outcome).filter(([, { request, bit }]) => request > REQUEST || bit > BIT)
    expect(above).toEqual([])
  })

  it('whom a task is for is put down before a longer one goes on; stopped meanwhile, it does nothing', async () => {
    const { context, interestId } = await crowd(3_000)
    const first = doToMany(context, everybody, { kind: 'give-tag', tagId: interestId }, 3_000)
    while (taskView(context, first).state === 'waiting') workOnTask(context)
    const second = doToMany(context, everybody, { kind: 'take-tag', tagId: interestId }, 3_000)
    const { done } = taskView(context, first)
    expect(countTaskPeople(context.db, second)).toBe(2_000)
    workOnTask(context)
    expect([countTaskPeople(context.db, second), taskView(context, first).done, taskView(context, second).state]).toEqual([
      3_000, done, 'waiting',
    ])
    stopTask(context, second)
    while (workOnTask(context));
    expect([taskView(context, first).changed, taskView(context, second).state, taskView(context, second).done]).toEqual([
      3_000, 'stopped', 0,
    ])
  })

  it('who gets, loses, joins or leaves while two are merged ends as if it had been done at once', async () => {
    const { context, ids, tagId, listId, interestId } = await crowd(3_000)
    const { db } = context
    const into = saveList(context, null, { name: 'into', publicName: 'Into', description: '' })
    const at = context.clock.now()
    takeTagByHand(context, ids[2500]!, tagId)
    setLeft(db, listId, ids[1]!, at)
    // They have left the other one: that stays so.
    setJoined(db, into, ids[2]!, at, appendEvent(db, 'joined-list', at, { personId: ids[2]!, listId: into }))
    setLeft(db, into, ids[2]!, at)
    const tags = mergeTags(context, tagId, interestId)
    expect([taskView(context, tags).state, taskView(context, tags).done]).toEqual(['running', 250])
    expect(() => mergeTags(context, tagId, interestId)).toThrow('being merged already')
    expect(() => stopTask(context, tags)).toThrow(/cannot be stopped/)
    // Already copied: it is lost again. Not copied yet: likewise. And one who had lost it before gets it anew.
    takeTagByHand(context, ids[3]!, tagId)
    takeTagByHand(context, ids[2000]!, tagId)
    giveTagByHand(context, ids[2500]!, tagId)
    while (workOnTask(context));
    await play(context, context.clock.now())
    expect(taskView(context, tags)).toMatchObject({ state: 'done', done: 2_999, canBeTakenBack: false })
    const has = (n: number) => tagsOfPerson(db, ids[n]!).map(({ id }) => id)
    expect([0, 3, 2000, 2500, 2999].map(has)).toEqual([[interestId], [], [], [interestId], [interestId]])

    const lists = mergeLists(context, listId, into)
    const leaves = (n: number) => {
      setLeft(db, listId, ids[n]!, at + DAY)
      appendEvent(db, 'left-list', at + DAY, { personId: ids[n]!, listId })
    }
    leaves(4)
    leaves(2001)
    while (workOnTask(context));
    await play(context, context.clock.now())
    expect(taskView(context, lists).state).toBe('done')
    expect([0, 1, 2, 4, 2001, 2999].map(n => membership(db, into, ids[n]!))).toEqual(['joined', 'left', 'left', 'left', 'left', 'joined'])
  })

  it('a merging whose end is gone meanwhile breaks off and says why', async () => {
    const { context, tagId, interestId } = await crowd(3_000)
    const task = mergeTags(context, tagId, interestId)
    deleteTag(
      context, interestId,
      (context.db.prepare('SELECT count(*) AS n FROM tag_holdings WHERE tag_id = ?').get(interestId) as { n: number }).n,
    )
    while (workOnTask(context));
    await play(context, context.clock.now())
    expect(taskView(context, task)).toMatchObject({ state: 'failed', problem: 'This tag no longer exists.' })
    expect(context.db.prepare('SELECT tag_id AS tagId, count(*) AS n FROM tag_holdings GROUP BY 1').all()).toEqual([{ tagId, n: 3_000 }])
  })
})
