/** An email as it was written earlier: kept by the clock while it changes, compared in words, and taken again. */
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { compareMessages } from '#core/message/compare'
import type { MessageContent } from '#core/message/content'
import { newPromised } from '#core/page/promise'
import { newRule, type RuleInput } from '#core/rules/rule'
import { findOffer } from '#data/offers'
import { findPage } from '#data/pages'
import { bringFile } from '#usecases/arrive/files'
import { createPage, removePage, savePage } from '#usecases/arrive/pages'
import { saveRule } from '#usecases/know/rules'
import { createOffer, saveOffer } from '#usecases/offers/save'
import { courseView } from '#usecases/views/course'
import { saveCourse } from '#usecases/courses/save'
import { removeCourse } from '#usecases/courses/stop'
import { earlierVersion, earlierVersions, EVERY, MOST_EARLIER } from '#usecases/know/earlierEmails'
import { NotThere } from '#usecases/problem'
import { email, furnish, openContext, step, thursdayNoon } from './workshop'

const says = (...lines: string[]): MessageContent => email('one', { body: { type: 'doc', content: lines.map(text =>
  ({ type: 'paragraph' as const, content: [{ type: 'text' as const, text }] })) } })

async function writing() {
  const context = openContext()
  const system = { at: thursdayNoon }
  context.system = { now: () => system.at }
  const { courseId, listId, tagId } = await furnish(context)
  const of = { kind: 'course' as const, ownerId: courseId, itemId: 'one' }
  const write = (text: string, after = 1000) => {
    system.at += after
    saveCourse(
      context, courseId, 'x', { listId, wayInTagIds: [tagId], again: 'after-ending', steps: [step('one', { kind: 'at-once' }, says(text))] }
    )
  }
  const kept = () => earlierVersions(context, of).map(({ id }) => {
    const [block] = earlierVersion(context, id).content.body.content
    return block?.type === 'paragraph' && block.content?.[0]?.type === 'text' ? block.content[0].text : ''
  })
  return { context, courseId, write, kept, of }
}

describe('earlier versions', () => {
  it('are kept every ten minutes of writing, as it stood before; what did not change is not kept', async () => {
    const { write, kept } = await writing()
    write('a', EVERY)
    write('ab')
    write('abc', EVERY - 2000)
    expect(kept()).toHaveLength(1)
    write('abcd', 1000)
    expect(kept().slice(0, -1)).toEqual(['abc'])
    write('abcd', 5 * EVERY)
    expect(kept()).toHaveLength(2)
    write('abcde', 1)
    expect(kept().slice(0, -1)).toEqual(['abcd', 'abc'])
  })

  it('are at most so many of an email, the oldest go first; and go with their course', async () => {
    const { context, courseId, write, kept, of } = await writing()
    for (let n = 0; n < MOST_EARLIER + 5; n++) write(String(n), EVERY)
    expect(kept()).toHaveLength(MOST_EARLIER)
    expect(kept()[0]).toBe(String(MOST_EARLIER + 3))
    const [latest] = earlierVersions(context, of)
    // Whatever is taken again is written like anything else.
    const draft = courseView(context, courseId).draft
    expect(draft.steps).toHaveLength(1)
    removeCourse(context, courseId)
    expect(earlierVersions(context, of)).toEqual([])
    expect(() => earlierVersion(context, latest!.id)).toThrow(NotThere)
  })
})

describe('comparing', () => {
  it('of the emails of pages, offers and rules are kept in the same way, each under its own, and go with them', async () => {
    const { context } = await writing()
    const versions = (kind: 'confirmation' | 'file' | 'receipt' | 'opening' | 'rule', ownerId: number) =>
      earlierVersions(context, { kind, ownerId, itemId: 'email' }).map(({ id }) => earlierVersion(context, id).content.workingTitle)
    const pageId = createPage(context, 'Kit')
    const page = findPage(context.db, pageId)!
    const { id: fileId } = bringFile(context, 'kit.pdf', 'application/pdf', Buffer.from('x'))
    const draft = (title: string) => ({
      ...page.draft, promised: newPromised(fileId, 'kit.pdf'),
      confirming: { ...page.draft.confirming, who: 'everybody' as const, mail: { ...page.draft.confirming.mail, workingTitle: title } },
    })
    for (const title of ['first', 'second']) savePage(context, pageId, { ...page, draft: draft(title) })
    expect([versions('confirmation', pageId), versions('file', pageId)]).toEqual([[page.draft.confirming.mail.workingTitle], []])
    removePage(context, pageId)
    expect(versions('confirmation', pageId)).toEqual([])

    const offerId = createOffer(context, 'Class')
    const offer = findOffer(context.db, offerId)!
    saveOffer(context, offerId, { ...offer, draft: { ...offer.draft, receipt: { ...offer.draft.receipt, workingTitle: 'Thanks' } } })
    expect(versions('receipt', offerId)).toEqual([offer.draft.receipt.workingTitle])

    const rule = (text: string): RuleInput => ({
      ...newRule({ kind: 'opted-in', thingId: null }), on: false,
      then: [{ kind: 'email', content: { ...says(text), workingTitle: text }, listId: 1, messageId: null }],
    })
    const saved = await saveRule(context, null, rule('Come back'))
    if (!saved.saved) throw new Error('It goes in a circle')
    await saveRule(context, saved.id, rule('Please come back'))
    expect(versions('rule', saved.id)).toEqual(['Come back'])
  })

  it('tells in words what came and went, and only of what differs', () => {
    const one = says('Fold once.', 'Press with a spoon.')
    const other: MessageContent = { ...says('Fold twice.', 'Press with a spoon.'), preview: [{ type: 'text', text: 'New' }] }
    other.body.content.push({ type: 'button', attrs: { label: 'Watch', url: 'https://a.example.com/', tagId: null } })
    const compared = compareMessages(one, other)
    expect(compared.map(({ name }) => name)).toEqual(['Preview text', 'The email'])
    const of = (is: string) => compared[1]!.stretches.filter(stretch => stretch.is === is).map(({ text }) => text.trim()).join('|')
    expect([of('removed'), of('added')]).toEqual(['once', 'twice|[button] Watch.'])
    expect(compareMessages(one, one)).toEqual([])
  })

  it('holds all of both: without what was added it is the one, without what was taken out the other', () => fc.assert(fc.property(
    fc.array(fc.string(), { minLength: 1 }), fc.array(fc.string(), { minLength: 1 }), (before, after) => {
      const [place] = compareMessages(says(...before), says(...after)).slice(-1)
      if (!place) return
      const without = (is: string) => place.stretches.filter(stretch => stretch.is !== is).map(({ text }) => text).join('')
      const [whole, other] = [compareMessages(says(...before), says('')), compareMessages(says(''), says(...after))]
      const removed = whole[0]?.stretches.filter(({ is }) => is !== 'added').map(({ text }) => text).join('') ?? ''
      const added = other[0]?.stretches.filter(({ is }) => is !== 'removed').map(({ text }) => text).join('') ?? ''
      expect([without('added').trim(), without('removed').trim()]).toEqual([removed.trim(), added.trim()])
    })))
})
