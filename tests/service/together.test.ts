/** Transactions of several that are ready at once, written in one. */
import { expect, it } from 'vitest'
import { saveTag } from '#usecases/know/listsAndTags'
import { allTags } from '#data/marks'
import { Together } from '#usecases/inner/reactor/together'
import { openContext, tag } from './workshop'

it('each is told of its own end, once all is on the disk; what one throws undoes only what it wrote', async () => {
  const context = openContext()
  const together = new Together(context)
  const names = () => allTags(context.db).map(({ name }) => name)
  const outcomes = await Promise.allSettled([
    together.write(() => saveTag(context, null, tag('one'))),
    together.write(() => {
      saveTag(context, null, tag('two'))
      expect(names()).toEqual(['one', 'two'])
      throw new Error('not that one')
    }),
    // What was read in the part that was undone is read again.
    together.write(() => names()),
    together.write(() => saveTag(context, null, tag('two'))),
  ])
  expect(outcomes).toMatchObject([
    { status: 'fulfilled' }, { status: 'rejected', reason: new Error('not that one') }, { status: 'fulfilled', value: ['one'] },
    { status: 'fulfilled' },
  ])
  expect([names(), context.db.inTransaction]).toEqual([['one', 'two'], false])
})

it('nobody is told that it is done where it cannot be committed', async () => {
  const context = openContext()
  const together = new Together(context)
  const both = Promise.allSettled([
    together.write(() => saveTag(context, null, tag('one'))),
    // A row that refers to nothing is found at the end.
    together.write(() => {
      context.db.pragma('defer_foreign_keys = ON')
      context.db.prepare('INSERT INTO tag_holdings (tag_id, person_id, since_at, event_id) VALUES (99, 99, 0, 99)').run()
    }),
  ])
  expect((await both).map(({ status }) => status)).toEqual(['rejected', 'rejected'])
  expect([allTags(context.db), context.db.inTransaction]).toEqual([[], false])
})

it('a write that may wait commits with the next one, before it, or alone after a moment', async () => {
  const context = openContext()
  const together = new Together(context)
  const names = () => allTags(context.db).map(({ name }) => name)
  const first = together.writeSoon(() => saveTag(context, null, tag('first')))
  await new Promise(setImmediate)
  expect(names()).toEqual([])
  const known = await together.write(() => names())
  expect([known, await first]).toEqual([['first'], 1])
  await together.writeSoon(() => saveTag(context, null, tag('second')))
  expect(names()).toEqual(['first', 'second'])
})
