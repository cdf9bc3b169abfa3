import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { Condition } from '#core/audience/condition'
import { leavesOf } from '#core/audience/condition'
import { linksOf } from '#core/message/blocks'
import { givenBy } from '#core/page/content'
import { newResultPage } from '#core/page/result'
import { everyPage } from '../everyPage'
import { replacedIn } from '#core/mentions'
import { inCourse } from '#core/people/replaceMark'
import { whyOrWhyNot, type WhyFacts } from '#core/people/why'
import { emailsOf, newEmail, type CourseDraft } from '#core/sequence/draft'

const ids = fc.uniqueArray(fc.integer({ min: 1, max: 6 }))
const id = fc.integer({ min: 1, max: 6 })
const maybe = fc.option(id, { nil: null })

describe('a tag put in the place of another, or taken out', () => {
  it('leaves no trace of the old one in a page, and no number twice', () => {
    fc.assert(fc.property(ids, ids, id, maybe, fc.constantFrom('tag' as const, 'list' as const), (listIds, tagIds, from, to, kind) => {
      const every = everyPage('words')
      const option = { id: 'o1', label: '', tagIds, fields: [] }
      const result = { ...newResultPage('r1', null), tagIds }
      const before = { ...every, listIds, tagIds, forKnown: { tagIds, thanks: every.thanks }, resultPages: [result], form: {
        ...every.form, asks: [{ id: 'a1', kind: 'choice' as const, label: '', required: false, many: false, options: [option] }],
        boxes: [{ id: 'b1', wording: '', required: false, listIds, tagIds }],
      } }
      const after = replacedIn(before, { kind, from, to })
      const given = { tag: givenBy(after).tagIds, list: givenBy(after).listIds }
      const kept = kind === 'tag' ? 'list' : 'tag'
      expect(new Set(given[kept])).toEqual(new Set(kept === 'tag' ? tagIds : listIds))
      expect(new Set(after.listIds).size + new Set(after.tagIds).size).toBe(after.listIds.length + after.tagIds.length)
      expect(given[kind].includes(from)).toBe(to === from && (kind === 'tag' ? tagIds : listIds).includes(from))
    }))
  })

  it('reaches the ways in, the buttons and the watching of a course', () => {
    const button = (tagId: number | null) => ({ type: 'button' as const, attrs: { label: 'x', url: 'https://example.com', tagId } })
    const step = newEmail('one', { kind: 'at-once' })
    const draft: CourseDraft = {
      listId: 1, wayInTagIds: [1, 2], again: 'once',
      steps: [{
        ...step, reactions: [{ id: 'r', on: 'not-clicked', within: { count: 3, unit: 'days' }, then: [{ kind: 'give-tag', tagId: 1 }] }],
        content: { ...step.content, body: { type: 'doc', content: [button(1), button(3), button(null)] } },
      }],
    }
    const tagsOf = (course: CourseDraft) => {
      const [email] = emailsOf(course)
      return [
        course.listId, course.wayInTagIds, email!.reactions?.[0]?.then.map(action => 'tagId' in action && action.tagId)[0] ?? null,
        linksOf(email!.content.body).map(link => link.tagId),
      ]
    }
    expect(tagsOf(inCourse(draft, { kind: 'tag', from: 1, to: 2 }))).toEqual([1, [2], 2, [2, 3, null]])
    expect(tagsOf(inCourse(draft, { kind: 'tag', from: 1, to: null }))).toEqual([1, [2], null, [null, 3, null]])
    expect(tagsOf(inCourse(draft, { kind: 'list', from: 1, to: 4 }))).toEqual([4, [1, 2], 1, [1, 3, null]])
  })

  it('reaches every leaf of a condition, however deep, and no leaf of another kind', () => {
    const { tree } = fc.letrec<{ tree: Condition }>(tie => ({
      tree: fc.oneof({ maxDepth: 3 },
        id.map((tagId): Condition => ({
          kind: 'tag', tagId, since: null,
        })), id.map((listId): Condition => ({ kind: 'list', listId, is: 'joined' })),
        fc.tuple(fc.constantFrom('all' as const, 'any' as const, 'none' as const), fc.array(tie('tree'), { maxLength: 3 }))
          .map(([kind, of]): Condition => ({ kind, of }))),
    }))
    fc.assert(fc.property(tree, id, id, (before, from, to) => {
      const after = leavesOf(replacedIn(before, { kind: 'tag', from, to }))
      expect(after).toEqual(leavesOf(before).map(leaf => leaf.kind === 'tag' && leaf.tagId === from ? { ...leaf, tagId: to } : leaf))
    }))
  })
})

describe('why somebody did or did not get an email', () => {
  const facts = (more: Partial<WhyFacts> = {}): WhyFacts => ({
    listName: 'letters', courseName: 'Fold', emailTitle: 'Two', emails: [], journeys: [], told: [], courseRuns: true, emailRuns: true,
    waysIn: [], waitsBecause: null, heldBackNow: null, ...more
  })
  const email = (status: string, more: Partial<WhyFacts['emails'][number]> = {}) => ({
    status, plannedAt: 2, handedOverAt: null, reason: null, ...more,
  })
  const journey = (more: Partial<WhyFacts['journeys'][number]> = {}) => ({
    status: 'open' as const, joinedAt: 1, endedAt: null, standsBefore: 'One', dueAt: 3, standsStill: false, isAhead: true, ...more,
  })

  it.each([
    ['not started', facts({ courseRuns: false }), 'Nobody got it: Fold was not started yet.'],
    ['not in what runs', facts({ emailRuns: false }), 'Nobody gets it now: Two is not in what runs of Fold.'],
    ['never inside', facts(), 'They are not in Fold and never were.'],
    ['still ahead', facts({ journeys: [journey()] }), 'Not yet: they are waiting for One, due at 3.'],
    [
      'standing still', facts({ journeys: [journey({ dueAt: null, standsStill: true })], waitsBecause: 'they are resting' }),
      'Not yet: they are waiting for One, and nothing happens for now.',
    ],
    [
      'passed by', facts({ journeys: [journey({ standsBefore: 'Three', isAhead: false })] }),
      'They were past it when it was added, or its time had passed: they are already waiting for Three.',
    ],
    ['left', facts({ journeys: [journey({ status: 'left', endedAt: 4 })] }), 'They left Fold at 4, before it was due.'],
    [
      'finished', facts({ journeys: [journey({ status: 'finished', endedAt: 4 })] }),
      'They had finished Fold at 4, before it was added, or its time had passed.',
    ],
    ['sent', facts({ emails: [email('handed over', { handedOverAt: 5 })] }), 'It was sent at 5.'],
    ['held back', facts({ emails: [email('held back', { reason: 'no-consent' })] }), 'It was held back: no consent.'],
    ['not on the list', facts({ emails: [email('held back', { reason: 'not-on-list' })] }), 'It was held back: not on the list “letters”.'],
    ['withdrawn', facts({ emails: [email('withdrawn', { reason: 'left-course' })] }), 'It was withdrawn before sending: left the course.'],
    ['failed', facts({ emails: [email('failed', { reason: '550 no' })] }), 'It could not be sent: 550 no'],
    ['waiting', facts({ emails: [email('queued')] }), 'It is scheduled for at 2.'],
  ])('%s', (_, given, answer) => {
    const said = whyOrWhyNot(given, at => `at ${at}`)
    expect(said[0]!.replace(/\.$/, '')).toBe(answer.replace(/\.$/, ''))
    expect(said.join(' ')).not.toMatch(/undefined|null/)
  })

  it('warns of what would hold it back, only while it has not gone', () => {
    const warned = (more: Partial<WhyFacts>) =>
      whyOrWhyNot(facts({ heldBackNow: 'left-list', ...more }), String).some(line => line.includes('left the list'))
    expect([
      warned({ journeys: [journey()] }), warned({ emails: [email('queued')] }),
      warned({ emails: [email('handed over', { handedOverAt: 5 })] }),
    ]).toEqual([true, true, false])
  })
})
