/** What the owner can undo that the server has to know how: a to-do that was not done after all, a coupon that was ended. */
import { describe, expect, it } from 'vitest'
import { sayEvent } from '#core/events'
import { newRule } from '#core/rules/rule'
import type { Timing } from '#core/time/when'
import { enrolmentsOfPerson } from '#data/enrolments'
import { eventsOfPerson } from '#data/events'
import { hasTag } from '#data/marks'
import { emailsOfPerson } from '#data/outbox'
import { publishPage, savePage, showPageVersion } from '#usecases/arrive/pages'
import { deleteTag } from '#usecases/know/endMarks'
import { saveTag } from '#usecases/know/listsAndTags'
import { letIn, movePerson, takeOut, undoByHand } from '#usecases/courses/people'
import { saveRule } from '#usecases/know/rules'
import { addTodo, deskView, finishTodo, reopenTodo } from '#usecases/know/todos'
import { takeTagByHand } from '#usecases/know/byHand'
import { removeCoupon, restoreCoupon } from '#usecases/offers/coupons'
import { createOffer, publishOffer, saveOffer, showOfferVersion } from '#usecases/offers/save'
import { NotNow, NotThere } from '#usecases/problem'
import { saveSendingLimits } from '#usecases/settings/limits'
import { offerView } from '#usecases/views/offers'
import { pageView } from '#usecases/views/pages'
import { buy, coupon, openShop } from './shop'
import { DAY, furnish, HOUR, moveTo, openContext, step, tag, thursdayNoon, visit, type Workshop } from './workshop'

describe('a to-do that was not done after all', () => {
  it('is open again, stands so in the history, and wakes its rule anew only once it is done again', async () => {
    const { context, tagId } = await furnish(openContext())
    const personId = visit(context, 'filipa@example.com')
    takeTagByHand(context, personId, tagId)
    await saveRule(context, null, newRule({ kind: 'todo-done', thingId: null, text: 'call' }, [{ kind: 'give-tag', tagId }]))
    const id = addTodo(context, { personId, text: 'call', helper: '', days: 1 })
    finishTodo(context, id)
    expect(hasTag(context.db, tagId, personId)).toBe(true)
    takeTagByHand(context, personId, tagId)
    reopenTodo(context, id)
    expect(deskView(context).open.map(todo => todo.id)).toEqual([id])
    expect(hasTag(context.db, tagId, personId)).toBe(false)
    expect(eventsOfPerson(context.db, personId).map(sayEvent)).toContain('the to-do about them is open again: call')
    // Open as it is, there is nothing to open.
    const before = eventsOfPerson(context.db, personId).length
    reopenTodo(context, id)
    expect(eventsOfPerson(context.db, personId)).toHaveLength(before)
    finishTodo(context, id)
    expect(hasTag(context.db, tagId, personId)).toBe(true)
    expect(() => reopenTodo(context, 999)).toThrow(NotThere)
  })
})

describe('a move in a course, or out of it, by hand', () => {
  const open = async () => {
    const day: Timing = { kind: 'elapsed', count: 24, unit: 'hours', from: 'previous' }
    const steps = [step('one', { kind: 'at-once' }), ...['two', 'three', 'four'].map(id => step(id, day))]
    const setting = await furnish(openContext(), () => steps, 'always')
    const personId = visit(setting.context, 'filipa@example.com')
    await moveTo(setting.context, thursdayNoon + HOUR)
    return { ...setting, personId, enrolmentId: enrolmentsOfPerson(setting.context.db, personId)[0]!.id }
  }
  const sent = (context: Workshop, personId: number) => eventsOfPerson(context.db, personId).reverse()
    .filter(({ kind }) => kind === 'sent').map(({ stepId, at }) => `${stepId} ${(at - thursdayNoon) / HOUR}`)

  it('is undone: they get what they would have got, when they would have got it', async () => {
    const { context, personId, enrolmentId } = await open()
    movePerson(context, enrolmentId, 'three')
    undoByHand(context, enrolmentId)
    takeOut(context, enrolmentId)
    await moveTo(context, thursdayNoon + 20 * HOUR)
    undoByHand(context, enrolmentId)
    expect(eventsOfPerson(context.db, personId).map(sayEvent)).toContain('is back in “Fold, Sew, Cover”, at the same step, by hand')
    expect(() => undoByHand(context, enrolmentId)).toThrow('There is nothing left to undo.')
    await moveTo(context, thursdayNoon + 5 * DAY)
    expect(sent(context, personId)).toEqual(['one 0', 'two 24', 'three 48', 'four 72'])
  })

  it('gives back the email that was waiting, which then goes once', async () => {
    const { context, personId, enrolmentId } = await open()
    saveSendingLimits(context, { gapMinutes: 30 * 60, aDay: null, aWeek: null, tooMany: 'wait' })
    await moveTo(context, thursdayNoon + 49 * HOUR)
    expect(sent(context, personId)).toEqual(['one 0', 'two 24'])
    takeOut(context, enrolmentId)
    const statuses = () => emailsOfPerson(context.db, personId).map(({ status }) => status).sort()
    expect(statuses()).toEqual(['handed over', 'handed over', 'withdrawn'])
    undoByHand(context, enrolmentId)
    await moveTo(context, thursdayNoon + 5 * DAY)
    expect(sent(context, personId)).toEqual(['one 0', 'two 24', 'three 54', 'four 84'])
    expect(statuses()).toEqual(Array(4).fill('handed over'))
  })

  it('is not undone once they have gone on, or joined again', async () => {
    const { context, personId, courseId, enrolmentId } = await open()
    movePerson(context, enrolmentId, 'two')
    await moveTo(context, thursdayNoon + 30 * HOUR)
    expect(() => undoByHand(context, enrolmentId)).toThrow(NotNow)
    takeOut(context, enrolmentId)
    expect(letIn(context, courseId, personId)).toBe('enrolled')
    expect(() => undoByHand(context, enrolmentId)).toThrow(NotNow)
    expect(enrolmentsOfPerson(context.db, personId).filter(({ status }) => status === 'open')).toHaveLength(1)
  })
})

describe('a coupon that was ended', () => {
  it('can be used again as often as was left of it, unless another has its code by now', async () => {
    const { context, offerId } = await openShop(await furnish(openContext()))
    const id = coupon(context, offerId, { uses: 2 })
    expect((await buy(context, 'ana@example.com', { code: 'EARLY' })).couponId).toBe(id)
    removeCoupon(context, offerId, id)
    await expect(buy(context, 'rui@example.com', { code: 'EARLY' })).rejects.toThrow('This code is not known.')
    expect(() => restoreCoupon(context, createOffer(context, 'Another'), id)).toThrow(NotThere)
    restoreCoupon(context, offerId, id)
    expect((await buy(context, 'rui@example.com', { code: 'EARLY' })).couponId).toBe(id)
    await expect(buy(context, 'eva@example.com', { code: 'EARLY' })).rejects.toThrow('This code has been used up.')
    removeCoupon(context, offerId, id)
    const second = coupon(context, offerId)
    expect(() => restoreCoupon(context, offerId, id)).toThrow(NotNow)
    removeCoupon(context, offerId, second)
    restoreCoupon(context, offerId, id)
  })
})

describe('what the public sees', () => {
  it('is the version before again, or nothing, but never one that gives what no longer exists', async () => {
    const { context, pageId } = await furnish(openContext())
    const { name, slug, draft } = pageView(context, pageId)
    const tagId = saveTag(context, null, tag('fair'))
    savePage(context, pageId, { name, slug, draft: { ...draft, tagIds: [tagId] } })
    await publishPage(context, pageId)
    savePage(context, pageId, { name, slug, draft })
    await publishPage(context, pageId)
    showPageVersion(context, pageId, { from: 3, to: 2 })
    expect(hasTag(context.db, tagId, visit(context, 'eva@example.com'))).toBe(true)
    expect(() => showPageVersion(context, pageId, { from: 3, to: null })).toThrow(NotNow)
    expect(() => showPageVersion(context, pageId, { from: 2, to: 9 })).toThrow(NotThere)
    showPageVersion(context, pageId, { from: 2, to: null })
    expect(pageView(context, pageId)).toMatchObject({ status: 'draft', versionNumber: null })
    expect(() => visit(context, 'rui@example.com')).toThrow()
    deleteTag(context, tagId, 1)
    expect(() => showPageVersion(context, pageId, { from: null, to: 2 })).toThrow(
      'One of these tags no longer exists. So nothing was undone.',
    )
    showPageVersion(context, pageId, { from: null, to: 3 })
    visit(context, 'rui@example.com')
  })

  it('and pays, is the version before again', async () => {
    const { context, offerId } = await openShop(await furnish(openContext()))
    const { name, slug, draft } = offerView(context, offerId)
    saveOffer(context, offerId, { name, slug, draft: { ...draft, price: { ...draft.price, amount: draft.price.amount * 2 } } })
    await publishOffer(context, offerId)
    showOfferVersion(context, offerId, { from: 2, to: 1 })
    expect((await buy(context, 'ana@example.com')).price.amount).toBe(draft.price.amount)
    showOfferVersion(context, offerId, { from: 1, to: null })
    await expect(buy(context, 'rui@example.com')).rejects.toThrow()
    expect(() => showOfferVersion(context, offerId, { from: 1, to: 2 })).toThrow(NotNow)
  })
})
