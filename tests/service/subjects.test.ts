/** Subjects side by side: what each is like, and how one's own past ones of the kind did. */
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { Line } from '#core/message/content'
import { historyOf, LEAST_EMAILS, sayHistory, traitsOf, type PastSubject } from '#core/message/subjects'
import { NOT_NARROWED } from '#usecases/inner/narrowing'
import { recordOpen } from '#usecases/reading/open'
import { pastSubjects } from '#usecases/views/pastSubjects'
import { subscribersView } from '#usecases/views/subscribers'
import { play } from '#usecases/time/play'
import { email, furnish, openContext, step, thursdayNoon, visit } from './workshop'

const line = (text: string): Line => [{ type: 'text', text }]

describe('what a subject is like', () => {
  it.each([
    ['Three books from one set of sections', ['short']],
    ['3 books from one set', ['short', 'number']],
    ['Which book first?', ['short', 'question']],
    ['Is it your first book, or have you sewn one before?', ['question', 'you']],
    ['Last day: the class closes tonight', ['short', 'deadline', 'parts']],
    ['A youngster’s book', ['short']],
    ['A new book 📗', ['short', 'emoji']],
    ['x'.repeat(41), []],
    ['', []],
  ])('%s', (text, traits) => {
    expect(traitsOf(line(text))).toEqual(traits)
  })

  it('naming the reader is told by the placeholder, not by its words', () => {
    expect(traitsOf([...line('For '), { type: 'placeholder', attrs: { field: 'first_name', fallback: 'you' } }])).toContain('name')
    expect(traitsOf(line('first name'))).not.toContain('name')
  })
})

describe('how past ones did', () => {
  const past = fc.array(fc.record({
    sent: fc.integer({ min: 0, max: 900 }), share: fc.double({ min: 0, max: 1, noNaN: true }), has: fc.boolean(),
  })).map(all => all.map(({ sent, share, has }): PastSubject => ({ sent, opened: Math.floor(sent * share), traits: has ? ['short'] : [] })))

  it('counts every email once, and claims a difference only where the intervals of enough emails lie apart', () => {
    fc.assert(fc.property(past, (all) => {
      const history = historyOf('short', all)
      expect(history.with.emails + history.without.emails).toBe(all.length)
      expect(history.with.whole + history.without.whole).toBe(all.reduce((sum, { sent }) => sum + sent, 0))
      const says = sayHistory(history)
      if (says === 'more') expect(history.with.low!).toBeGreaterThan(history.without.high!)
      if (says === 'less') expect(history.with.high!).toBeLessThan(history.without.low!)
      if (Math.min(history.with.emails, history.without.emails) < LEAST_EMAILS) expect(says).toBe('few')
    }), { seed: 20, numRuns: 300 })
  })

  it('are people, and the very people that the numbers open onto', async () => {
    const { context } = await furnish(openContext(), () => [
      step('one', { kind: 'at-once' }, email('one', { subject: line('Which book first?') })),
      step('two', { kind: 'at-once' }, email('two', { subject: line('3 books') })),
      step('some', { kind: 'at-once' }, email('some', {
        subject: line('For you'),
        subjectFor: [{ who: { kind: 'all', of: [{ kind: 'tag', tagId: 1, since: null }] }, subject: line('For some') }],
      })),
    ])
    for (let n = 0; n < 5; n++) visit(context, `p${n}@example.com`)
    await play(context, thursdayNoon)
    const emails = context.db.prepare<[], { id: number, itemId: string }>(`
      SELECT id, item_id AS itemId FROM outbox WHERE handed_over_at IS NOT NULL AND item_id IN ('one', 'two') ORDER BY id`).all()
    context.db.exec('UPDATE outbox SET opened_at = NULL, last_opened_at = NULL')
    for (const { id } of emails.filter(({ itemId }) => itemId === 'one').slice(0, 3)) {
      for (let twice = 0; twice < 2; twice++) recordOpen(context, id, { agent: '', robot: false, certain: true })
    }
    // What a scanner fetched is no open.
    recordOpen(context, emails.find(({ itemId }) => itemId === 'two')!.id, { agent: 'curl', robot: true, certain: false })
    const found = pastSubjects(context)
    expect(found.map(({ subject, sent, opened, traits }) => [subject, sent, opened, traits]).sort()).toEqual([
      ['3 books', 5, 0, ['short', 'number']], ['Which book first?', 5, 3, ['short', 'question']],
    ])
    for (const { sent, opened, whereSent, whereOpened } of found) {
      const count = (where: typeof whereSent) =>
        subscribersView(context, { ...NOT_NARROWED, where, search: '', sort: 'name', page: 0 }).rows.length
      expect([count(whereSent), count(whereOpened)]).toEqual([sent, opened])
    }
  })
})
