/** What readers choose for themselves: lists and interests, a pause, taking back, another address. */
import { describe, expect, it } from 'vitest'
import { addressOutcome, answerWhy, askOtherAddress, choicesOf, choose, comeBack, confirmAddress, pause, refuseAddress } from '#usecases/arrive/choices'
import { leave, type Leaving } from '#usecases/arrive/leave'
import { optIn } from '#usecases/arrive/optIn'
import { takePageDown } from '#usecases/arrive/pages'
import { passedBy } from '#usecases/arrive/passOn'
import { takeBack } from '#usecases/arrive/takeBack'
import { erasePerson } from '#usecases/know/erase'
import { subscriberView } from '#usecases/views/subscriber'
import { eventsOfPerson, wholeStory } from '#data/events'
import { consentsOfPerson } from '#data/consents'
import { membership } from '#data/marks'
import { emailsOfPerson } from '#data/outbox'
import { findPerson } from '#data/people'
import { saveList, saveTag } from '#usecases/know/listsAndTags'
import { publishChanges } from '#usecases/courses/publish'
import { whyTheyLeft } from '#usecases/views/listsAndTags'
import {
  DAY, furnish, HOUR, listeningCarrier, moveTo, openHouse, tag, thursdayNoon, visit, visitAndConfirm, type Setting,
} from './workshop'

async function reader() {
  const carrier = listeningCarrier()
  const setting = await furnish(openHouse({ carrier }))
  const { house } = setting
  const ada = visit(house, 'ada@example.com', 'Ada')
  await moveTo(house, thursdayNoon + HOUR)
  return { ...setting, carrier, ada, outboxId: emailsOfPerson(house.db, ada)[0]!.id }
}

const sentTo = ({ house }: Setting, personId: number) => emailsOfPerson(house.db, personId).filter(email => email.status === 'handed over').map(email => [email.stepId, email.handedOverAt]).reverse()
const kindsOf = ({ house }: Setting, personId: number) => eventsOfPerson(house.db, personId).map(event => event.kind).filter(kind => !kind.endsWith('-segment')).reverse()

describe('a pause of 30 days', () => {
  it('sends nothing, and the course goes on from where it stood', async () => {
    const setting = await reader()
    const { house, ada, outboxId } = setting
    // The second email is due a day after the first, the third on the third day at eight.
    pause(house, outboxId, true)
    await moveTo(house, thursdayNoon + HOUR + 29 * DAY)
    expect(sentTo(setting, ada)).toHaveLength(1)
    expect(choicesOf(house, outboxId).pausedUntilAt).toBe(thursdayNoon + HOUR + 30 * DAY)
    await moveTo(house, thursdayNoon + 40 * DAY)
    expect(sentTo(setting, ada)).toEqual([['one', thursdayNoon], ['two', thursdayNoon + 31 * DAY], ['three', Date.UTC(2026, 11, 29, 8)]])
    expect(kindsOf(setting, ada)).toContain('pause-ended')
  })

  it('can be ended before its time, by choosing so or by asking for something', async () => {
    for (const end of ['choice', 'opting in'] as const) {
      const setting = await reader()
      const { house, ada, outboxId } = setting
      pause(house, outboxId, true)
      await moveTo(house, thursdayNoon + 10 * DAY + HOUR)
      if (end === 'choice') pause(house, outboxId, false)
      else visitAndConfirm(house, 'ada@example.com')
      await moveTo(house, thursdayNoon + 11 * DAY + HOUR)
      expect(sentTo(setting, ada), end).toEqual([['one', thursdayNoon], ['two', thursdayNoon + 11 * DAY]])
    }
  })

  it('holds whatever else happens meanwhile: the course published anew, a way in', async () => {
    const setting = await reader()
    const { house, ada, outboxId, courseId } = setting
    pause(house, outboxId, true)
    await publishChanges(house, courseId)
    await moveTo(house, thursdayNoon + 20 * DAY)
    expect(sentTo(setting, ada)).toHaveLength(1)
    await moveTo(house, thursdayNoon + 32 * DAY)
    expect(sentTo(setting, ada).map(([step]) => step)).toEqual(['one', 'two'])
  })

  it('tells the same story in one move as in many', async () => {
    const ends = []
    for (const days of [[60], Array.from({ length: 60 }, (_, n) => n + 1)]) {
      const { house, outboxId } = await reader()
      pause(house, outboxId, true)
      for (const day of days) await moveTo(house, thursdayNoon + HOUR + day * DAY)
      ends.push(wholeStory(house.db))
    }
    expect(ends[0]).toEqual(ends[1])
  })
})

describe('what was just chosen can be taken back', () => {
  it.each<[string, Leaving]>([['leaving the course', { what: 'course' }], ['leaving its list', { what: 'list', listId: 1 }], ['leaving everything', { what: 'everything' }]])('%s: the course goes on as if nothing had been', async (_, leaving) => {
    const plain = await reader()
    await moveTo(plain.house, thursdayNoon + 10 * DAY)
    const setting = await reader()
    const { house, ada, outboxId } = setting
    leave(house, outboxId, leaving)
    await moveTo(house, thursdayNoon + 2 * HOUR)
    expect(choicesOf(house, outboxId)).toMatchObject({ canTakeBack: true, course: { inside: false } })
    takeBack(house, outboxId)
    await moveTo(house, thursdayNoon + 10 * DAY)
    expect(sentTo(setting, ada)).toEqual(sentTo(plain, plain.ada))
    expect([findPerson(house.db, ada)!.status, membership(house.db, setting.listId, ada)]).toEqual(['active', 'joined'])
    expect(() => takeBack(house, outboxId)).toThrow(/nothing to take back/)
  })

  it('brings back an email that was withdrawn on its way, once', async () => {
    const setting = await reader()
    const { house, ada, outboxId, carrier } = setting
    // The engine has decided the second email and not yet handed it over.
    house.db.prepare(`UPDATE workspace SET carrier_state = 'stopped'`).run()
    await moveTo(house, thursdayNoon + DAY + HOUR)
    leave(house, outboxId, { what: 'everything' })
    expect(emailsOfPerson(house.db, ada).map(({ status }) => status)).toContain('withdrawn')
    takeBack(house, outboxId)
    house.db.prepare(`UPDATE workspace SET carrier_state = 'ready'`).run()
    await moveTo(house, thursdayNoon + 10 * DAY)
    expect(carrier.mails.map(mail => mail.subject.split(',')[0])).toEqual(['one', 'two', 'three'])
  })

  it('only for a day, and never into a course that was begun anew since', async () => {
    const late = await reader()
    leave(late.house, late.outboxId, { what: 'everything' })
    await moveTo(late.house, thursdayNoon + 2 * DAY)
    expect(choicesOf(late.house, late.outboxId).canTakeBack).toBe(false)
    expect(() => takeBack(late.house, late.outboxId)).toThrow(/nothing to take back/)

    const setting = await reader()
    const { house, ada, outboxId } = setting
    leave(house, outboxId, { what: 'course' })
    visit(house, 'ada@example.com')
    takeBack(house, outboxId)
    expect(house.db.prepare(`SELECT visit, status FROM enrolments WHERE person_id = ? ORDER BY visit`).all(ada)).toEqual([{ visit: 1, status: 'left' }, { visit: 2, status: 'open' }])
  })
})

describe('lists and interests', () => {
  it('are taken and put away; only what the page offers changes, and an interest starts what it starts', async () => {
    const setting = await reader()
    const { house, ada, outboxId, listId, interestId, tagId } = setting
    const offeredId = saveList(house, null, { name: 'classes', publicName: 'Classes', description: '', offered: true })
    const hiddenId = saveList(house, null, { name: 'inner', publicName: 'Inner', description: '' })
    saveTag(house, interestId, tag('interest: coptic', { publicName: 'Coptic books' }))
    expect(choicesOf(house, outboxId)).toMatchObject({ lists: [{ id: listId, joined: true }, { id: offeredId, joined: false }], interests: [{ id: interestId, name: 'Coptic books', has: false }] })
    choose(house, outboxId, { listIds: [offeredId, hiddenId], tagIds: [interestId, tagId] })
    expect(consentsOfPerson(house.db, ada)[0]).toMatchObject({ origin: 'on their choices page', wording: 'Classes' })
    expect([membership(house.db, offeredId, ada), membership(house.db, hiddenId, ada), membership(house.db, listId, ada)]).toEqual(['joined', 'never-joined', 'left'])
    expect(house.db.prepare('SELECT tag_id AS id FROM tag_holdings WHERE person_id = ? ORDER BY id').pluck().all(ada)).toEqual([tagId, interestId])
    // The course belongs to the list that was left.
    expect(choicesOf(house, outboxId).course).toMatchObject({ inside: false })
    takeBack(house, outboxId)
    expect(choicesOf(house, outboxId)).toMatchObject({ course: { inside: true }, lists: [{ joined: true }, { joined: false }], interests: [{ has: false }] })
  })

  it('a tag that is filled in anew each time cannot be an interest', async () => {
    const { house } = await reader()
    expect(() => saveTag(house, null, tag('joined [month]', { publicName: 'Joined' }))).toThrow(/cannot be taken by readers/)
  })
})

describe('another address', () => {
  it('is asked first whether it is theirs; then everything goes there, and nothing to the old one', async () => {
    const setting = await reader()
    const { house, ada, outboxId, carrier } = setting
    await askOtherAddress(house, outboxId, 'Ada.New@example.org')
    await moveTo(house, thursdayNoon + 2 * HOUR)
    const asking = emailsOfPerson(house.db, ada).find(email => email.kind === 'address')!
    expect(carrier.mails.at(-1)!.to.address).toBe('Ada.New@example.org')
    expect([findPerson(house.db, ada)!.address, addressOutcome(house, asking.visit).outcome]).toEqual(['ada@example.com', 'can-be'])
    confirmAddress(house, asking.visit)
    confirmAddress(house, asking.visit)
    await moveTo(house, thursdayNoon + 2 * DAY)
    expect(carrier.mails.slice(2).map(mail => mail.to.address)).toEqual(['Ada.New@example.org'])
    expect(kindsOf(setting, ada).filter(kind => kind === 'address-changed')).toHaveLength(1)
    expect(addressOutcome(house, asking.visit).outcome).toBe('done')
  })

  it('of somebody else, an old question, or one too many changes nothing', async () => {
    const setting = await reader()
    const { house, ada, outboxId } = setting
    const bo = visit(house, 'bo@example.com')
    await askOtherAddress(house, outboxId, 'bo@example.com')
    await askOtherAddress(house, outboxId, 'new@example.com')
    await askOtherAddress(house, outboxId, 'newer@example.com')
    await expect(askOtherAddress(house, outboxId, 'newest@example.com')).rejects.toThrow(/three times/)
    await expect(askOtherAddress(house, outboxId, 'ada@example.com')).rejects.toThrow(/there already/)
    await expect(askOtherAddress(house, outboxId, 'no address')).rejects.toThrow()
    const [taken, other] = emailsOfPerson(house.db, ada).filter(email => email.kind === 'address').map(email => email.visit).sort((a, b) => a - b)
    confirmAddress(house, taken!)
    await moveTo(house, thursdayNoon + HOUR + 7 * DAY + 1)
    confirmAddress(house, other!)
    expect([addressOutcome(house, taken!).outcome, addressOutcome(house, other!).outcome, findPerson(house.db, ada)!.address, findPerson(house.db, bo)!.address]).toEqual(['too-late', 'too-late', 'ada@example.com', 'bo@example.com'])
  })

  it('of a stranger gives no way into the choices of who typed it, and one press there ends the question', async () => {
    const { house, ada, outboxId, carrier } = await reader()
    await askOtherAddress(house, outboxId, 'stranger@example.org')
    await moveTo(house, thursdayNoon + 2 * HOUR)
    const mail = carrier.mails.at(-1)!
    expect(mail.to.address).toBe('stranger@example.org')
    expect([mail.html, mail.text, JSON.stringify(mail.headers)].join(' ')).not.toMatch(/\/[mo]\//)
    const { visit: id } = emailsOfPerson(house.db, ada).find(email => email.kind === 'address')!
    refuseAddress(house, id)
    confirmAddress(house, id)
    expect([findPerson(house.db, ada)!.address, findPerson(house.db, ada)!.status, addressOutcome(house, id).outcome]).toEqual(['ada@example.com', 'active', 'too-late'])
  })

  it('that does not take mail says nothing of the one they have', async () => {
    const { house, ada, outboxId } = await reader()
    house.carrier.handOver = async mail => mail.to.address.startsWith('refused') ? { kind: 'refused', answer: { stage: 'recipient', code: 550, text: '550 5.1.1 no such mailbox' } } : { kind: 'accepted' }
    await askOtherAddress(house, outboxId, 'refused@example.org')
    await moveTo(house, thursdayNoon + 2 * HOUR)
    expect(findPerson(house.db, ada)!.status).toBe('active')
  })
})

it('who left comes back by an email they have: mail again, and the lists they left one by one stay left', async () => {
  const { house, ada, outboxId, listId } = await reader()
  leave(house, outboxId, { what: 'list', listId })
  leave(house, outboxId, { what: 'everything' })
  comeBack(house, outboxId)
  expect([findPerson(house.db, ada)!.status, membership(house.db, listId, ada)]).toEqual(['active', 'left'])
})

it('why somebody left is asked once, only after leaving, and only counted', async () => {
  const { house, outboxId } = await reader()
  answerWhy(house, outboxId, 'too-many')
  expect([choicesOf(house, outboxId).asksWhy, whyTheyLeft(house)]).toEqual([false, []])
  leave(house, outboxId, { what: 'everything' })
  expect(choicesOf(house, outboxId).asksWhy).toBe(true)
  expect(() => answerWhy(house, outboxId, '<script>')).toThrow(/not one of those/)
  answerWhy(house, outboxId, 'have-it')
  answerWhy(house, outboxId, 'other')
  expect([choicesOf(house, outboxId).asksWhy, whyTheyLeft(house)]).toEqual([false, [{ answer: 'have-it', n: 1 }]])
})

describe('a page passed on', () => {
  const byIn = (url: string) => new URL(url).searchParams.get('by')!

  it('names the reader in the newcomer’s source, and gives nothing to anybody who does not opt in', async () => {
    const { house, ada, outboxId } = await reader()
    const by = byIn(choicesOf(house, outboxId).passOnUrl!)
    expect(passedBy(house, by)).toBe(ada)
    const people = house.db.prepare('SELECT count(*) FROM people').pluck()
    expect(people.get()).toBe(1)
    const { personId: bo } = optIn(house, { slug: 'sheet-kit', email: 'bo@example.com', firstName: '', zone: '', ip: null, by })
    expect(subscriberView(house, bo)).toMatchObject({ passedBy: { id: ada, name: 'Ada' } })
    expect(eventsOfPerson(house.db, bo).find(event => event.kind === 'opted-in')).toMatchObject({ otherId: ada, detail: 'passed-on' })
  })

  it.each([['made up', 'MQ.AAAAAAAAAAAAAAAAAAAAAA'], ['cut off', ''], ['of another purpose', null]])('by an address %s names nobody', async (_, token) => {
    const { house, outboxId } = await reader()
    const by = token ?? house.signer.sign('choices', String(outboxId))
    const { personId: bo } = optIn(house, { slug: 'sheet-kit', email: 'bo@example.com', firstName: '', zone: '', ip: null, by })
    expect(subscriberView(house, bo).passedBy).toBeNull()
  })

  it('by themselves, by somebody erased, or of a page taken down is none', async () => {
    const { house, ada, outboxId, pageId } = await reader()
    const by = byIn(choicesOf(house, outboxId).passOnUrl!)
    optIn(house, { slug: 'sheet-kit', email: 'ada@example.com', firstName: '', zone: '', ip: null, by })
    expect(subscriberView(house, ada).passedBy).toBeNull()
    takePageDown(house, pageId)
    expect(choicesOf(house, outboxId).passOnUrl).toBeNull()
    erasePerson(house, ada)
    expect(passedBy(house, by)).toBeNull()
  })
})
