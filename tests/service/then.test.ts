import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { Condition, Leaf } from '#core/audience/condition'
import { toSql } from '#core/audience/sql'
import { toSqlThen } from '#core/audience/then'
import { diceOf } from '#core/dice'
import { NO_TOUCH } from '#core/page/touch'
import { newRule } from '#core/rules/rule'
import { peopleWhere } from '#data/audience'
import { emailsOfPerson } from '#data/outbox'
import { findPerson, findPersonByKey } from '#data/people'
import type { WorkspaceContext } from '#usecases/context'
import { leave } from '#usecases/arrive/leave'
import { optIn } from '#usecases/arrive/optIn'
import { giveTagByHand, joinListByHand, leaveListByHand, takeTagByHand } from '#usecases/know/byHand'
import { receiveImport } from '#usecases/know/importFile'
import { beginImport } from '#usecases/know/importPeople'
import { saveList } from '#usecases/know/listsAndTags'
import { inventReader } from '#usecases/practice/inventReader'
import { saveRule } from '#usecases/know/rules'
import { momentOf } from '#usecases/inner/moment'
import { audienceMore } from '#usecases/views/audience'
import { paymentsOfPurchase, purchasesOfPerson } from '#data/purchases'
import { endPurchase, giveBack } from '#usecases/offers/end'
import { newWaiting } from '#core/offers/waiting'
import { openWait } from '#data/waits'
import { sayNoMore, takeBackNoMore } from '#usecases/offers/noMore'
import { createOffer, publishOffer, saveOffer } from '#usecases/offers/save'
import { confirmWaiting, waitForOffer } from '#usecases/offers/wait'
import { offerView } from '#usecases/views/offers'
import { openShop, press } from './shop'
import { DAY, furnish, HOUR, moveTo, openContext, thursdayNoon } from './workshop'

const LETTERS = ['letter 1', 'letter 2', '']
const optInBy = (context: WorkspaceContext, email: string, source: string) =>
  optIn(context, { slug: 'sheet-kit', email, firstName: '', zone: '', ip: null, touch: { ...NO_TOUCH, source } }).personId

/** Two months of a workspace in which much happens, looked at in the middle and from the end. */
async function story() {
  const setting = await openShop(await furnish(openContext()), {
    price: { currency: 'EUR', amount: 900, paying: 'monthly', parts: 1 }, abandonedAfterHours: 30,
  })
  const { context, listId, interestId, courseId } = setting
  await saveRule(context, null, newRule({ kind: 'got-tag', thingId: interestId }, [{ kind: 'score', points: 1 }]))
  const other = saveList(context, null, { name: 'other', publicName: '', description: '' })
  const later = createOffer(context, 'Later')
  const draft = {
    ...offerView(context, setting.offerId).draft, opensAt: thursdayNoon + 40 * DAY, waiting: { ...newWaiting(), listIds: [listId] },
  }
  saveOffer(context, later, { name: 'Later', slug: 'later', draft })
  await publishOffer(context, later)
  const wait = (email: string) => quietly(() => {
    waitForOffer(context, { slug: 'later', email, firstName: '', code: '', zone: '', ip: null })
    const open = openWait(context.db, later, findPersonByKey(context.db, email)!.id)!
    if (queue() < 0.7) confirmWaiting(context, open.id)
  })
  const queue = diceOf(577)
  const dice = diceOf(31)
  const people: number[] = []
  const pick = () => people[Math.floor(dice() * people.length)]!
  const quietly = (work: () => void) => { try { work() } catch { /* refused: they have left */ } }
  const live = async (from: number, to: number) => {
    // Not at the very instant that was looked at.
    await moveTo(context, context.clock.now() + 1)
    for (let day = from; day < to; day++) {
      for (let n = 0; n < 3; n++) {
        const id = optInBy(context, `p${day}-${n}@example.com`, LETTERS[Math.floor(dice() * 3)]!)
        inventReader(context, id, Math.floor(dice() * 101))
        people.push(id)
      }
      // Somebody known comes by another way.
      optInBy(context, findPerson(context.db, pick())!.address, LETTERS[Math.floor(dice() * 3)]!)
      for (let n = 0; n < 4; n++) quietly(() => giveTagByHand(context, pick(), interestId))
      quietly(() => takeTagByHand(context, pick(), interestId))
      quietly(() => joinListByHand(context, pick(), other))
      quietly(() => leaveListByHand(context, pick(), listId))
      const buyer = findPerson(context.db, pick())!
      const order = await press(context, buyer.address)
      if (dice() < 0.6) await context.standin.pay(order, dice() < 0.5 ? 'works' : 'disputed')
      const [own] = purchasesOfPerson(context.db, pick())
      const [payment] = own ? paymentsOfPurchase(context.db, own.id) : []
      if (payment && payment.refunded < 900) {
        await giveBack(context, { purchaseId: own!.id, paymentId: payment.id, amount: dice() < 0.5 ? 100 : 900 - payment.refunded })
      }
      if (own && own.endedAt === null && own.paidUntilAt !== null && dice() < 0.5) await endPurchase(context, own.id)
      for (let n = 0; n < 3; n++) wait(findPerson(context.db, people[Math.floor(queue() * people.length)]!)!.address)
      quietly(() => sayNoMore(context, pick(), setting.offerId))
      quietly(() => takeBackNoMore(context, pick(), setting.offerId))
      const gone = pick()
      const [mail] = emailsOfPerson(context.db, gone).filter(one => one.status === 'handed over')
      if (mail && dice() < 0.4) leave(context, mail.id, dice() < 0.5 ? { what: 'everything' } : { what: 'list', listId })
      // Late in the night, when no click still waits to be judged.
      await moveTo(context, thursdayNoon + day * DAY + 15 * HOUR)
    }
  }
  const file = await receiveImport(context, {
    fileName: 'a.csv', bytes: new TextEncoder().encode('email,country\ni1@example.com,DE\ni2@example.com,US\n'), encoding: null,
    delimiter: null,
  })
  beginImport(context, file, {
    columns: (['address', 'country'] as const).map(kind => ({ target: { kind }, dateOrder: 'day-month-year' as const })), listIds: [other],
    tagIds: [interestId], source: 'x', starts: false, known: 'keep', consent: { kind: 'none' },
  })
  return { ...setting, other, live, courseId, later }
}

describe('whom a condition held for', () => {
  it('is worked out from the events and dated rows as it was counted then', async () => {
    const { context, listId, other, tagId, interestId, courseId, offerId, later, live } = await story()
    await live(0, 25)
    const moment = momentOf(context.db, context.clock.now())
    const stretch = fc.oneof(
      fc.constantFrom(0, 1, 3, 10).map(days => ({ kind: 'last-days' as const, days })),
      fc.constantFrom(2, 12, 20).map(day => ({ kind: 'since' as const, at: thursdayNoon + day * DAY })),
      fc.constantFrom(5, 15).map(day => ({ kind: 'before' as const, at: thursdayNoon + day * DAY })),
    )
    const maybe = fc.oneof(fc.constant(null), stretch)
    const leaf: fc.Arbitrary<Leaf> = fc.oneof(
      fc.subarray(['pending', 'active', 'unsubscribed', 'bounced'] as const).map((is): Leaf => ({ kind: 'status', is: [...is] })),
      fc.constantFrom<Leaf>({ kind: 'may-be-mailed' }, { kind: 'consent', is: 'on-record' }, {
        kind: 'consent', is: 'missing',
      }, { kind: 'source', is: 'import:x' }, { kind: 'segment', segmentId: 4 }, { kind: 'sample', hundredths: 5000, salt: 1 }),
      fc.tuple(fc.constantFrom(listId, other), fc.constantFrom('joined' as const, 'left' as const, 'never-joined' as const))
        .map(([id, is]): Leaf => ({ kind: 'list', listId: id, is })),
      fc.tuple(fc.constantFrom(tagId, interestId), maybe).map(([id, since]): Leaf => ({ kind: 'tag', tagId: id, since })),
      stretch.map((when): Leaf => ({ kind: 'arrived', when })),
      fc.tuple(maybe, fc.constantFrom('pressed' as const, 'counts' as const))
        .map(([within, did]): Leaf => ({ kind: 'opted-in', pageId: 1, within, did })),
      fc.tuple(fc.constantFrom('first' as const, 'latest' as const), fc.constantFrom(...LETTERS))
        .map(([by, word]): Leaf => ({ kind: 'brought', by, source: { kind: word === '' ? 'untold' : 'utm', word } })),
      fc.tuple(
        fc.constantFrom('sent' as const, 'opened' as const, 'clicked' as const, 'left-by' as const, 'held-back' as const),
        fc.constantFrom(
          null, { kind: 'course' as const, ownerId: courseId, itemId: null }, { kind: 'course' as const, ownerId: courseId, itemId: 'two' },
        ),
        maybe, fc.constantFrom(1, 2),
      ).map(([fate, which, within, times]): Leaf => ({ kind: 'email', fate, which, within, times, url: null })),
      fc.tuple(fc.constantFrom('reader' as const, 'uncertain' as const), stretch)
        .map(([by, within]): Leaf => ({ kind: 'last-read', by, within })),
      fc.tuple(
        fc.constantFrom(
          'bought' as const, 'owned' as const, 'over' as const, 'refunded' as const, 'disputed' as const, 'began' as const,
          'abandoned' as const,
        ),
        fc.constantFrom(null, offerId), maybe, fc.constantFrom(1, 2),
      ).map(([fate, offer, within, times]): Leaf => ({ kind: 'purchase', fate, offerId: offer, within, times })),
      fc.constantFrom(1, 800, 1800).map((atLeast): Leaf => ({ kind: 'spent', currency: 'EUR', atLeast, offerId: null })),
      fc.constant<Leaf>({ kind: 'no-more', offerId }),
      fc.constant<Leaf>({ kind: 'waits', offerId: later }),
      fc.tuple(maybe, fc.constantFrom(1, 2)).map(([within, times]): Leaf => ({ kind: 'followed', linkId: 1, within, times })),
      maybe.map((within): Leaf => ({ kind: 'rule-acted', ruleId: 1, within })),
      fc.constantFrom(3, 6, 9, 20).map((atLeast): Leaf => ({ kind: 'score', atLeast })),
      fc.constantFrom('inside' as const, 'finished' as const, 'left' as const, 'ever' as const, 'never' as const)
        .map((is): Leaf => ({ kind: 'course', courseId, is, stepId: null })),
    )
    const condition: fc.Arbitrary<Condition> = fc.oneof({ weight: 2, arbitrary: leaf }, { weight: 1, arbitrary: fc.tuple(
      fc.constantFrom('all' as const, 'any' as const, 'none' as const), fc.array(leaf, { maxLength: 3 }),
    ).map(([kind, of]): Condition => ({ kind, of })) })
    const conditions = fc.sample(condition, { numRuns: 400, seed: 7 })
    const counted = conditions.map(one => peopleWhere(context.db, toSql(one, moment)))
    expect(counted.filter(ids => ids.length > 0 && ids.length < 70).length).toBeGreaterThan(150)
    await live(25, 55)
    for (const [n, one] of conditions.entries()) {
      expect(peopleWhere(context.db, toSqlThen(one, moment)), JSON.stringify(one)).toEqual(counted[n])
    }
    expect(findPerson(context.db, 1)).toBeDefined()
  })

  it('is told beside the number while a condition is edited', async () => {
    const { context, interestId, live } = await story()
    const condition: Condition = { kind: 'all', of: [{ kind: 'tag', tagId: interestId, since: null }] }
    await live(0, 10)
    const before = peopleWhere(context.db, toSql(condition, momentOf(context.db, context.clock.now()))).length
    const at = context.clock.now()
    await live(10, 15)
    await moveTo(context, at + 30 * DAY)
    expect(audienceMore(context, { condition, segmentId: null }).then).toEqual({ at, people: before })
  })
})
