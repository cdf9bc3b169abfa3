/** B2: who waits for an offer hears of it when it can be bought, once, in the order of waiting, and only if they want to. */
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { newOffer, type OfferContent } from '#core/offers/offer'
import { openingPlan } from '#core/offers/opening'
import { newWaiting, type Waiting } from '#core/offers/waiting'
import { eventsOfPerson } from '#data/events'
import { linksOfMessage } from '#data/messages'
import { membership, hasTag } from '#data/marks'
import { emailsOfPerson } from '#data/outbox'
import { findPersonByKey } from '#data/people'
import { placesTaken } from '#data/purchases'
import { countWaiting, openWait, waitsOfPerson } from '#data/waits'
import { leave } from '#usecases/arrive/leave'
import { deleteList } from '#usecases/know/endMarks'
import { saveLink } from '#usecases/know/links'
import { saveList } from '#usecases/know/listsAndTags'
import { mergePeople } from '#usecases/know/sameness'
import { confirmWaiting, waitForOffer, waitView } from '#usecases/offers/wait'
import { giveBack } from '#usecases/offers/end'
import { sayNoMore } from '#usecases/offers/noMore'
import { publishOffer, removeOffer, saveOffer, takeOfferDown } from '#usecases/offers/save'
import { doFollowed, undoFollowed } from '#usecases/inner/followed'
import { linkActsOf } from '#data/links'
import { appendEvent } from '#data/events'
import { paymentsOfPurchase } from '#data/purchases'
import { write } from '#usecases/inner/transaction'
import { soldBy } from '#usecases/inner/sold'
import { destinationOf } from '#usecases/reading/click'
import { offerView } from '#usecases/views/offers'
import { todayView } from '#usecases/views/today'
import { subscriberView } from '#usecases/views/subscriber'
import { railView } from '#usecases/views/frame'
import { calendarView } from '#usecases/views/calendar'
import { NOT_NARROWED, subscribersView } from '#usecases/views/subscribers'
import { NotNow } from '#usecases/problem'
import { buy, openShop, press } from './shop'
import { DAY, furnish, HOUR, listeningCarrier, moveTo, openHouse, thursdayNoon, visit, type Workshop } from './workshop'

const monday = thursdayNoon + 4 * DAY

async function withWaiting(content: Partial<OfferContent> = {}, waiting: Partial<Waiting> = {}) {
  const carrier = listeningCarrier()
  const setting = await furnish(openHouse({ carrier }))
  const shop = await openShop(setting, {
    opensAt: monday, ...content, waiting: { ...newWaiting(), listIds: [setting.listId], asks: false, ...waiting },
  })
  const { house, offerId } = shop
  const wait = (email: string) => {
    waitForOffer(house, { slug: 'long-stitch', email, firstName: '', code: '', zone: '', ip: '192.0.2.7' })
    return findPersonByKey(house.db, email)!.id
  }
  /** To whom the opening went, in the order in which it left. */
  const told = () => carrier.mails.filter(({ subject }) => subject === 'It can be bought now').map(({ to }) => to.address)
  const change = async (more: Partial<OfferContent>) => {
    const { name, slug, draft } = offerView(house, offerId)
    saveOffer(house, offerId, { name, slug, draft: { ...draft, ...more } })
    await publishOffer(house, offerId)
  }
  return { ...shop, carrier, wait, told, change }
}

const letters = (...which: string[]) => which.map(letter => `${letter}@example.com`)
const asks = (house: Workshop, personId: number) => emailsOfPerson(house.db, personId).filter(({ kind, stepId }) => kind === 'waiting' && stepId === 'asking')

describe('B2: who waits for an offer', () => {
  it('hears of it at the opening, once, as asked-for mail with their own words, and waits no longer', async () => {
    const { house, wait, told, carrier, offerId } = await withWaiting()
    const ana = wait('a@example.com')
    wait('b@example.com')
    wait('b@example.com')
    expect(countWaiting(house.db, offerId)).toBe(2)
    await moveTo(house, monday - 1)
    expect(told()).toEqual([])
    await moveTo(house, monday)
    expect(told()).toEqual(letters('a', 'b'))
    expect(countWaiting(house.db, offerId)).toBe(0)
    const [mail] = emailsOfPerson(house.db, ana)
    expect([mail!.kind, mail!.askedFor, mail!.status, mail!.thingName]).toEqual(['waiting', 1, 'handed over', 'Long-Stitch Journals'])
    // Its button is a link that counts, and leads to the offer.
    expect(linksOfMessage(house.db, mail!.messageId).map(({ url }) => url)).toEqual([`${house.baseUrl}/s/long-stitch`])
    expect(carrier.mails.at(-1)!.text).toContain('You get this because you asked for it')
    await moveTo(house, monday + 30 * DAY)
    expect(told()).toHaveLength(2)
  })

  it('hears of it in bits where places are few: the longest first, the next when a turn is over or a place comes free', async () => {
    const { house, wait, told, offerId } = await withWaiting({ places: 2 }, { turnHours: 24 })
    for (const letter of letters('a', 'b', 'c', 'd', 'e')) {
      wait(letter)
      await moveTo(house, house.clock.now() + 1000)
    }
    const plan = offerView(house, offerId).waiting!
    expect([plan.people, plan.ahead]).toEqual([5, { bits: [0, 1, 2].map(n => ({ at: monday + n * DAY, people: n < 2 ? 2 : 1 })), unheard: 0 }])
    await moveTo(house, monday)
    expect(told()).toEqual(letters('a', 'b'))
    // One buys: their place is gone, and nobody else’s turn comes of it.
    const bought = await buy(house, 'a@example.com')
    await moveTo(house, monday + DAY - 1)
    expect(told()).toEqual(letters('a', 'b'))
    await moveTo(house, monday + DAY)
    expect(told()).toEqual(letters('a', 'b', 'c'))
    // Money back makes a place free at once.
    const [payment] = paymentsOfPurchase(house.db, bought.id)
    await giveBack(house, { purchaseId: bought.id, paymentId: payment!.id, amount: 4900 })
    await moveTo(house, monday + DAY + HOUR)
    expect(told()).toEqual(letters('a', 'b', 'c', 'd'))
    await buy(house, 'c@example.com')
    await buy(house, 'd@example.com')
    await moveTo(house, monday + 60 * DAY)
    expect(told()).toEqual(letters('a', 'b', 'c', 'd'))
    expect(countWaiting(house.db, offerId)).toBe(1)
    expect(placesTaken(house.db, offerId, house.clock.now()).sold).toBe(2)
  })

  it('hears of it when room is made, not while it is taken down, and again after it has opened once more', async () => {
    const { house, wait, told, change, offerId } = await withWaiting({ places: 1, opensAt: null })
    await buy(house, 'first@example.com')
    wait('a@example.com')
    takeOfferDown(house, offerId)
    await moveTo(house, house.clock.now() + DAY)
    expect(told()).toEqual([])
    await change({ places: 2 })
    await moveTo(house, house.clock.now() + 1)
    expect(told()).toEqual(letters('a'))
    const closesAt = house.clock.now() + DAY
    await change({ places: null, closesAt, opensAgainAt: closesAt + 5 * DAY })
    await moveTo(house, closesAt + HOUR)
    wait('a@example.com')
    wait('z@example.com')
    await moveTo(house, closesAt + 5 * DAY - 1)
    expect(told()).toHaveLength(1)
    await moveTo(house, closesAt + 5 * DAY)
    expect(told()).toEqual(letters('a', 'a', 'z'))
  })

  it('is told nothing if they left, said no more, were erased from the list or bought it meanwhile; a place goes to the next', async () => {
    const { house, wait, told, offerId, listId } = await withWaiting({ places: 1 })
    const [gone, silent, off] = [wait('gone@example.com'), wait('silent@example.com'), wait('off@example.com')]
    wait('a@example.com')
    visit(house, 'gone@example.com')
    visit(house, 'off@example.com')
    await moveTo(house, thursdayNoon + HOUR)
    const [ofGone, ofOff] = [gone, off].map(id => emailsOfPerson(house.db, id)[0]!.id)
    leave(house, ofGone!, { what: 'everything' })
    leave(house, ofOff!, { what: 'list', listId })
    sayNoMore(house, silent, offerId)
    expect(countWaiting(house.db, offerId)).toBe(2)
    await moveTo(house, monday)
    // Who left the list is held back with that reason, and takes nobody’s turn.
    expect(told()).toEqual(letters('a'))
    expect(emailsOfPerson(house.db, off).filter(({ kind }) => kind === 'waiting').map(({ status, reason }) => [status, reason])).toEqual([['held back', 'left-list']])
  })

  it('hears of it by the workspace’s first list where the list they joined was deleted', async () => {
    const carrier = listeningCarrier()
    const setting = await furnish(openHouse({ carrier }))
    const { house } = setting
    const own = saveList(house, null, { name: 'waits', publicName: '', description: '' })
    const { offerId } = await openShop(setting, { opensAt: monday, waiting: { ...newWaiting(), listIds: [own], asks: false } })
    waitForOffer(house, { slug: 'long-stitch', email: 'a@example.com', firstName: '', code: '', zone: '', ip: null })
    deleteList(house, own, 1)
    await moveTo(house, monday)
    expect([countWaiting(house.db, offerId), carrier.mails.filter(({ subject }) => subject === 'It can be bought now').length]).toEqual([0, 1])
  })

  it('comes to the offer by that email also after its address has changed, before or since', async () => {
    const { house, wait, offerId } = await withWaiting()
    const ana = wait('a@example.com')
    const leadsTo = () => destinationOf(house, emailsOfPerson(house.db, ana)[0]!.id, 0)
    const rename = (slug: string) => {
      const { name, draft } = offerView(house, offerId)
      saveOffer(house, offerId, { name, slug, draft })
    }
    rename('leather')
    await moveTo(house, monday)
    expect(leadsTo()).toBe(`${house.baseUrl}/s/leather`)
    rename('leather-by-night')
    expect(leadsTo()).toBe(`${house.baseUrl}/s/leather-by-night`)
    expect(soldBy(house, emailsOfPerson(house.db, ana)[0]!.messageId).map(({ id }) => id)).toEqual([offerId])
  })

  it('is not told what has closed again before the email could leave', async () => {
    const { house, wait, told } = await withWaiting({ closesAt: monday + HOUR })
    const ana = wait('a@example.com')
    house.db.prepare(`UPDATE workspace SET carrier_state = 'stopped'`).run()
    await moveTo(house, monday + 2 * HOUR)
    house.db.prepare(`UPDATE workspace SET carrier_state = 'ready'`).run()
    await moveTo(house, monday + 3 * HOUR)
    expect(told()).toEqual([])
    expect(emailsOfPerson(house.db, ana)[0]!.reason).toBe('too-late')
  })

  it('confirms first where the list asks: nothing is given before, the answer is the same for all, and it counts once', async () => {
    const { house, wait, told, offerId, tagId, listId } = await withWaiting({}, { asks: true, tagIds: [1] })
    const known = visit(house, 'known@example.com')
    const [ana, late] = [wait('a@example.com'), wait('late@example.com')]
    wait('known@example.com')
    wait('a@example.com')
    expect([countWaiting(house.db, offerId), membership(house.db, listId, ana), hasTag(house.db, tagId, ana)]).toEqual([0, 'never-joined', false])
    expect([ana, known].map(id => asks(house, id).length)).toEqual([1, 1])
    const id = openWait(house.db, offerId, ana)!.id
    expect(confirmWaiting(house, id)).toBe('counts')
    expect(confirmWaiting(house, id)).toBe('waits-already')
    expect([membership(house.db, listId, ana), hasTag(house.db, tagId, ana), waitsOfPerson(house.db, ana)[0]!.place]).toEqual(['joined', true, 1])
    await moveTo(house, thursdayNoon + 7 * DAY + 1)
    expect(waitView(house, openWait(house.db, offerId, late)!.id).outcome).toBe('too-late')
    expect(told()).toEqual(letters('a'))
    expect(waitView(house, id).outcome).toBe('told-already')
    expect(waitView(house, 999).outcome).toBe('over')
  })

  it('gets at most five emails that ask in a day, however often a stranger presses', async () => {
    const { house, wait } = await withWaiting({}, { asks: true })
    const ana = wait('a@example.com')
    for (let n = 0; n < 20; n++) {
      await moveTo(house, house.clock.now() + 11 * 60_000)
      wait('a@example.com')
    }
    expect(asks(house, ana)).toHaveLength(5)
  })

  it('joins by a link in an email, too, and takes it back with what it brought', async () => {
    const { house, offerId, tagId, listId, told } = await withWaiting({}, { tagIds: [2] })
    const ana = visit(house, 'a@example.com')
    const does = [{ kind: 'wait' as const, offerId }]
    const linkId = saveLink(house, null, { name: 'tell me', url: 'https://example.com/', note: '', does, asks: false })
    const follow = (personId: number) => write(house, () => {
      const eventId = appendEvent(house.db, 'clicked', house.clock.now(), { personId })
      doFollowed(house.db, { personId, linkId, label: 'tell me', does }, { at: house.clock.now(), eventId })
      return eventId
    })
    const eventId = follow(ana)
    expect([countWaiting(house.db, offerId), hasTag(house.db, 2, ana)]).toEqual([1, true])
    expect(linkActsOf(house.db, follow(ana))!.acts[0]!.outcome).toBe('waits-already')
    write(house, () => undoFollowed(house.db, linkActsOf(house.db, eventId)!, house.clock.now()))
    // The tag and the list that they had before stay.
    expect([countWaiting(house.db, offerId), hasTag(house.db, 2, ana), hasTag(house.db, tagId, ana), membership(house.db, listId, ana)])
      .toEqual([0, false, true, 'joined'])
    follow(ana)
    await moveTo(house, monday)
    expect(told()).toEqual(letters('a'))
    // It can be bought already: the email goes at once.
    const bea = visit(house, 'b@example.com')
    follow(bea)
    await moveTo(house, monday + 1)
    expect(told()).toEqual(letters('a', 'b'))
  })

  it('keeps the earlier place when two records are made one', async () => {
    const { house, wait, offerId } = await withWaiting()
    const first = wait('a@example.com')
    await moveTo(house, thursdayNoon + HOUR)
    wait('b@example.com')
    await moveTo(house, thursdayNoon + 2 * HOUR)
    const second = wait('c@example.com')
    mergePeople(house, second, first, 'a@example.com')
    expect([countWaiting(house.db, offerId), waitsOfPerson(house.db, second)[0]!.place]).toEqual([2, 1])
  })

  it('is seen: on Today, on the rail, in the calendar and behind the number', async () => {
    const { house, wait, offerId } = await withWaiting({ places: 2 })
    for (const letter of letters('a', 'b', 'c')) wait(letter)
    expect(todayView(house).wantsALook.map(({ title }) => title)).toContain('3 people wait for Long-Stitch Journals')
    expect(railView(house).posts!.filter(({ kind }) => kind === 'opening').map(({ at, people }) => [at, people])).toEqual([[monday, 2], [monday + DAY, 1]])
    const day = calendarView(house).days.find(({ people }) => people > 0 && people < 3)!
    expect(day.slots.flatMap(({ sends }) => sends).map(({ of, people }) => [of, people])).toEqual([['Long-Stitch Journals', 2]])
    const { rows } = subscribersView(house, { ...NOT_NARROWED, search: '', page: 0, sort: 'address', where: { kind: 'waits', offerId } })
    expect(rows.map(({ address }) => address).sort()).toEqual(letters('a', 'b', 'c'))
    expect(() => wait('no address')).toThrow()
    await moveTo(house, monday)
    expect(() => wait('d@example.com')).toThrow(NotNow)
    expect(eventsOfPerson(house.db, findPersonByKey(house.db, 'a@example.com')!.id)[0]!.kind).toBe('sent')
  })

  it('and what they said no more of stand on their page, and nothing of either once the offer is deleted', async () => {
    const { house, wait, offerId } = await withWaiting()
    const [ana, bea] = [wait('a@example.com'), wait('b@example.com')]
    sayNoMore(house, bea, offerId)
    expect(subscriberView(house, ana).waits).toEqual([{ offerId, name: 'Long-Stitch Journals', since: thursdayNoon, place: 1 }])
    removeOffer(house, offerId)
    expect([ana, bea].map(id => [subscriberView(house, id).waits, subscriberView(house, id).noMore])).toEqual([[[], []], [[], []]])
    await moveTo(house, monday + DAY)
    expect(todayView(house).wantsALook.map(({ title }) => title).join()).not.toContain('wait')
  })

  it('was never promised an email by an offer of before: its words have to be published first', async () => {
    const { house, wait, told, change, offerId } = await withWaiting()
    wait('a@example.com')
    house.db.prepare('UPDATE offer_versions SET opening_message_id = NULL').run()
    await moveTo(house, monday + DAY)
    expect([told(), countWaiting(house.db, offerId)]).toEqual([[], 1])
    expect(todayView(house).wantsALook.find(({ title }) => title.includes('waits for'))!.text).toContain('Publish it once more')
    await change({})
    await moveTo(house, monday + 2 * DAY)
    expect(told()).toEqual(letters('a'))
  })
})

describe('the look ahead at an opening', () => {
  it('tells nobody twice and nobody more than wait, keeps to the places, and ends with the closing', () => {
    fc.assert(fc.property(
      fc.record({ waiting: fc.nat(500), places: fc.option(fc.integer({ min: 1, max: 40 })), sold: fc.nat(45), turnHours: fc.integer({ min: 1, max: 72 }), days: fc.nat(6), closes: fc.option(fc.nat(12)) }),
      ({ waiting, places, sold, turnHours, days, closes }) => {
        const content = { ...newOffer(), opensAt: thursdayNoon + days * DAY, closesAt: closes === null ? null : thursdayNoon + (days + closes + 1) * DAY, places, waiting: { turnHours } }
        const { bits, unheard } = openingPlan(content, { now: thursdayNoon, taken: { sold, held: 0, freeAt: null }, waiting, turnEnds: [] })
        expect(bits.reduce((sum, { people }) => sum + people, 0) + unheard).toBe(waiting)
        for (const [n, { at, people }] of bits.entries()) {
          expect([at >= content.opensAt, content.closesAt === null || at < content.closesAt, n === 0 || at > bits[n - 1]!.at]).toEqual([true, true, true])
          if (places !== null) expect(people).toBeLessThanOrEqual(places - sold)
        }
        if (places === null) expect(bits.length).toBe(waiting > 0 ? 1 : 0)
      },
    ))
  })

  it('is what the engine then does, whoever else buys not', async () => {
    const { house, wait, told, offerId } = await withWaiting({ places: 3, closesAt: monday + 5 * HOUR }, { turnHours: 2 })
    for (let n = 0; n < 11; n++) wait(`p${n}@example.com`)
    const { ahead } = offerView(house, offerId).waiting!
    const seen: { at: number, people: number }[] = []
    for (let at = monday; at < monday + 8 * HOUR; at += HOUR) {
      const before = told().length
      await moveTo(house, at)
      if (told().length > before) seen.push({ at, people: told().length - before })
    }
    expect([seen, 11 - told().length]).toEqual([ahead.bits, ahead.unheard])
    // Going to pay holds a place for ten minutes and no longer.
    await expect(press(house, 'z@example.com')).rejects.toThrow(NotNow)
  })
})
