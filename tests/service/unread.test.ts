/** What was typed as a placeholder of another program, found wherever a reader would read it; and nothing goes out with one. */
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { BlockNode, MessageContent } from '#core/message/content'
import { unreadIn } from '#core/message/unread'
import { missingForStart, type CourseDraft } from '#core/sequence/draft'
import { missingForSelling, newOffer } from '#core/offers/offer'
import { missingForWaiting, newWaiting } from '#core/offers/waiting'
import { ALWAYS } from '#core/time/hours'
import { email, step } from './workshop'

const draft = (content: MessageContent): CourseDraft =>
  ({ listId: 1, wayInTagIds: [1], again: 'once', steps: [step('one', { kind: 'at-once' }, content)] })
const says = (content: Partial<MessageContent>) =>
  missingForStart(draft(email('one', content)), ALWAYS).map(({ problem }) => problem).filter(
    problem => problem.includes('is not filled in')
  )
const paragraph = (text: string): BlockNode => ({ type: 'paragraph', content: [{ type: 'text', text }] })
const body = (...content: BlockNode[]) => ({ body: { type: 'doc' as const, content } })

describe('a course', () => {
  it.each<[where: string, content: Partial<MessageContent>, isFound: boolean]>([
    ['the subject', { subject: [{ type: 'text', text: 'For {{ name }}' }] }, true],
    ['a subject for some', { subjectFor: [{ who: { kind: 'all', of: [] }, subject: [{ type: 'text', text: '{{name}}' }] }] }, true],
    ['the preview text', { preview: [{ type: 'text', text: '{% now %}' }] }, true],
    ['a button', body({ type: 'button', attrs: { label: '{{ go }}', url: 'https://a.example.com/', tagId: null } }), true],
    ['HTML of one’s own', body({ type: 'html', attrs: { source: '<p>{{ x }}</p>' } }), true],
    ['a version for some', body({
      type: 'onlyFor', content: [{ type: 'case', attrs: { who: null }, content: [paragraph('{{x}}') as never] }],
    }), true],
    ['words about braces', body(paragraph('A set {1, 2}, 50 % {off}, and { { not one } }')), false],
  ])('with one in %s does not start', (_, content, isFound) => {
    expect(says(content)).toHaveLength(isFound ? 1 : 0)
  })

  it('nor is an offer sold, nor a waiting list opened, with one in its emails', () => {
    const offer = newOffer('Class')
    const about = (content: typeof offer) =>
      missingForSelling(content).filter(({ problem }) => problem.includes('is not filled in')).map(({ field }) => field)
    expect(about(offer)).toEqual([])
    expect(about({ ...offer, receipt: { ...offer.receipt, subject: [{ type: 'text', text: 'Thanks, {{name}}' }] } })).toEqual(['receipt'])
    const waiting = newWaiting()
    expect(missingForWaiting({ ...waiting, opening: { ...waiting.opening, ...body(paragraph('{{name}}')) } })
      .filter(({ problem }) => problem.includes('is not filled in')).map(({ field }) => field)).toEqual(['waiting.opening'])
  })

  it('finds it however deep it stands, and in no text without its signs', () => {
    const quiet = fc.string().filter(text => !/\{\{|\{%/.test(text))
    const deep = (value: unknown, depth: number): unknown => depth === 0 ? value : { content: [{ x: 1 }, deep(value, depth - 1)] }
    fc.assert(fc.property(quiet, fc.integer({ min: 0, max: 9 }), (text, depth) => {
      expect(unreadIn(deep({ text }, depth))).toBeNull()
      expect(unreadIn(deep({ text: `${text} {{a}}` }, depth))).toBe('{{a}}')
    }), { seed: 20, numRuns: 200 })
  })
})
