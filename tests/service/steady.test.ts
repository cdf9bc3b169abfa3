/** What is kept of the tables that hardly ever change, while a transaction writes. */
import { describe, expect, it } from 'vitest'
import { immediate, openDatabase, prepare, savepoint } from '#data/connection'
import { keepSteady } from '#data/kept'
import { setSendingHours, workspaceOf, type sendingHours } from '#data/workspace'
import { findTag } from '#data/marks'
import { saveTag } from '#usecases/know/listsAndTags'
import { openContext, tag } from './workshop'

describe('what hardly ever changes', () => {
  it('is read once in a writing transaction, and anew as soon as any of it is written there', () => {
    const { db } = openContext()
    let times = 0
    const read = () => keepSteady(db, 'a test', () => ++times)
    immediate(db, () => {
      expect([read(), read()]).toEqual([1, 1])
      setSendingHours(db, 'f'.repeat(84) as ReturnType<typeof sendingHours>)
      expect([read(), read()]).toEqual([2, 2])
      // Of people and events nothing is kept.
      prepare(db, 'UPDATE people SET first_name = first_name').run()
      expect(read()).toBe(2)
    })
    // Outside a transaction it is read each time.
    expect([read(), read()]).toEqual([3, 4])
  })

  it('is kept for later transactions until another process commits anything or this one changes it', () => {
    const { db } = openContext()
    const another = openDatabase(db.name)
    let times = 0
    const read = () => keepSteady(db, 'a test', () => ++times)
    const readWithin = () => immediate(db, read)
    expect([readWithin(), readWithin()]).toEqual([1, 1])
    immediate(db, () => prepare(db, 'UPDATE people SET first_name = first_name').run())
    expect(readWithin()).toBe(1)
    immediate(another, () => prepare(another, `UPDATE workspace SET name = 'Another' WHERE id = 1`).run())
    expect(readWithin()).toBe(2)
    prepare(db, `UPDATE workspace SET name = 'One' WHERE id = 1`).run()
    expect([readWithin(), readWithin()]).toEqual([3, 3])
    another.close()
  })

  it('is never kept from a transaction, or part of one, that was rolled back', () => {
    const { db } = openContext()
    const name = () => workspaceOf(db).name
    const rename = (to: string) => prepare(db, 'UPDATE workspace SET name = ? WHERE id = 1').run(to)
    const takenBack = (work: () => void) => expect(() => work()).toThrow('taken back')
    const fail = () => {
      throw new Error('taken back')
    }
    takenBack(() => immediate(db, () => {
      rename('Whole')
      takenBack(() => savepoint(db, () => {
        rename('Part')
        expect(name()).toBe('Part')
        fail()
      }))
      expect(name()).toBe('Whole')
      fail()
    }))
    expect(immediate(db, name)).toBe('Saltmarsh Bindery')
  })

  it('is told as it is after a change in the same transaction, and as it was after one that was taken back', () => {
    const context = openContext()
    const { db } = context
    const id = saveTag(context, null, tag('before'))
    expect(() => immediate(db, () => {
      expect(workspaceOf(db).name).toBe('Saltmarsh Bindery')
      expect(findTag(db, id)!.name).toBe('before')
      prepare(db, `UPDATE workspace SET name = 'Another' WHERE id = 1`).run()
      saveTag(context, id, tag('after'))
      expect([workspaceOf(db).name, findTag(db, id)!.name]).toEqual(['Another', 'after'])
      throw new Error('taken back')
    })).toThrow('taken back')
    immediate(db, () => expect([workspaceOf(db).name, findTag(db, id)!.name]).toEqual(['Saltmarsh Bindery', 'before']))
  })

  it('is forgotten by every way of writing it', () => {
    const { db } = openContext()
    const writes = [
      `INSERT INTO tags (name, note, group_name, created_at) VALUES ('x', '', '', 0) RETURNING id`, `UPDATE tags SET note = 'y'`,
      `DELETE FROM tags`,
      `WITH one (id) AS (SELECT 1) UPDATE lists SET description = '' WHERE id IN (SELECT id FROM one)`,
    ]
    for (const sql of writes) {
      let times = 0
      immediate(db, () => {
        keepSteady(db, sql, () => ++times)
        const statement = prepare(db, sql)
        if (statement.reader) statement.all()
        else statement.run()
        keepSteady(db, sql, () => ++times)
      })
      expect(times, sql).toBe(2)
    }
  })
})
