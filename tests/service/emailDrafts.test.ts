/** Emails that stand nowhere yet: kept, found, named by what they name, and put into a course. */
import { describe, expect, it } from 'vitest'
import type { MessageContent } from '#core/message/content'
import { findCourse } from '#data/courses'
import { allEmailDrafts } from '#data/emailDrafts'
import { deleteTag } from '#usecases/know/endMarks'
import { beginEmailDraft, emailDraftView, placeEmailDraft, removeEmailDraft, saveEmailDraft } from '#usecases/know/emailDrafts'
import { usesOf } from '#usecases/inner/uses'
import { ChangedElsewhere, InputProblem, NotThere } from '#usecases/problem'
import { emailLibrary } from '#usecases/views/emailLibrary'
import { email, furnish, openContext, step } from './workshop'

const asking = (tagId: number): MessageContent => email('Which book?', { body: { type: 'doc', content: [
  { type: 'button', attrs: { label: 'This one', url: 'https://saltmarsh.example.com/one', tagId } },
] } })

describe('a draft of an email', () => {
  it('is found among all emails, and named where what it names is used', async () => {
    const { context, interestId } = await furnish(openContext())
    const id = beginEmailDraft(context)
    saveEmailDraft(context, id, asking(interestId))
    expect(emailLibrary(context).find(({ kind }) => kind === 'draft')).toMatchObject({
      title: 'Which book?', to: `/email-drafts/${id}`, isLive: false, asks: ['This one'], tags: ['interest: coptic'], lastAt: null,
    })
    expect(usesOf(context.db, { kind: 'tag', id: interestId }).filter(({ kind }) => kind === 'emailDraft'))
      .toMatchObject([{ id, name: 'Which book?', inForce: false, needs: false }])
    deleteTag(context, interestId, 0)
    const [block] = emailDraftView(context, id).content.body.content
    expect(block).toMatchObject({ attrs: { label: 'This one', tagId: null } })
  })

  it('is not overwritten from another window, and refuses what is not there', async () => {
    const { context } = await furnish(openContext())
    const id = beginEmailDraft(context, email('first'))
    const { revision } = emailDraftView(context, id)
    saveEmailDraft(context, id, email('second'), revision)
    expect(() => saveEmailDraft(context, id, email('third'), revision)).toThrow(ChangedElsewhere)
    // What came in, and whose answer was lost, is sent again.
    saveEmailDraft(context, id, email('second'), revision)
    expect(() => saveEmailDraft(context, id, email('x', { attached: [{ fileId: 9, name: 'x', bytes: 1 }] }))).toThrow(InputProblem)
    expect(removeEmailDraft(context, id)).toEqual(email('second'))
    expect(() => saveEmailDraft(context, id, email('fourth'))).toThrow(NotThere)
  })

  it('becomes the last email of a course, a day after the one before it and before its end; and is a draft no more', async () => {
    const { context, courseId, interestId } = await furnish(openContext(), () => [
      step('one', { kind: 'calendar-day', day: 1, time: '08:00', from: 'joining' }),
      { id: 'end', kind: 'end', when: { kind: 'at-once' }, ifPast: 'at-once', zone: 'workspace' },
    ])
    const id = beginEmailDraft(context, asking(interestId))
    placeEmailDraft(context, id, courseId, 'placed')
    expect(findCourse(context.db, courseId)!.draft.steps).toMatchObject([
      { id: 'one' }, { id: 'placed', content: asking(interestId), when: { kind: 'calendar-day', day: 2, time: '08:00', from: 'joining' } },
      { id: 'end' },
    ])
    expect(allEmailDrafts(context.db)).toEqual([])
    expect(() => placeEmailDraft(context, id, courseId, 'again')).toThrow(/stands in a course/)
    const other = beginEmailDraft(context)
    expect(() => placeEmailDraft(context, other, 99, 'x')).toThrow(NotThere)
    expect(allEmailDrafts(context.db)).toHaveLength(1)
  })
})
