/** What readers choose for themselves: lists and interests, a pause, taking back, another address. */
import { describe, expect, it } from 'vitest'
import {
  addressOutcome, answerWhy, askOtherAddress, choicesOf, choose, comeBack, confirmAddress, pause, refuseAddress,
} from '#usecases/arrive/choices'
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
  DAY, furnish, HOUR, listeningCarrier, moveTo, openContext, tag, thursdayNoon, visit, visitAndConfirm, type Setting,
} from './workshop'

async function reader() {
  const carrier = listeningCarrier()
  const setting = await furnish(openContext({ carrier }))
  const { context } = setting
  const ada = visit(context, 'ada@example.com', 'Ada')
  await moveTo(context, thursdayNoon + HOUR)
  return { ...setting, carrier, ada, outboxId: emailsOfPerson(context.db, ada)[0]!.id }
}

const sentTo = ({ context }: Setting, personId: number) => emailsOfPerson(context.db, personId).filter(email =>
  email.status === 'handed over').map(email => [email.itemId, email.handedOverAt]).reverse()
const kindsOf = ({ context }: Setting, personId: number) =>
  eventsOfPerson(context.db, personId).map(event => event.kind).filter(kind => !kind.endsWith('-segment')).reverse()

describe('a pause of 30 days', () => {
  it('sends nothing, and the course goes on from where it stood', async () => {
    const setting = await reader()
    const { context, ada, outboxId } = setting
    // The second email is due a day after the first, the third on the third day at eight.
    pause(context, outboxId, true)
    await moveTo(context, thursdayNoon + HOUR + 29 * DAY)
    expect(sentTo(setting, ada)).toHaveLength(1)
    expect(choicesOf(context, outboxId).pausedUntilAt).toBe(thursdayNoon + HOUR + 30 * DAY)
    await moveTo(context, thursdayNoon + 40 * DAY)
    expect(sentTo(setting, ada)).toEqual([['one', thursdayNoon], ['two', thursdayNoon + 31 * DAY], ['three', Date.UTC(2026, 11, 29, 8)]])
    expect(kindsOf(setting, ada)).toContain('pause-ended')
  })

  it('can be ended before its time, by choosing so or by asking for something', async () => {
    for (const end of ['choice', 'opting in'] as const) {
      const setting = await reader()
      const { context, ada, outboxId } = setting
      pause(context, outboxId, true)
      await moveTo(context, thursdayNoon + 10 * DAY + HOUR)
      if (end === 'choice') pause(context, outboxId, false)
      else visitAndConfirm(context, 'ada@example.com')
      await moveTo(context, thursdayNoon + 11 * DAY + HOUR)
      expect(sentTo(setting, ada), end).toEqual([['one', thursdayNoon], ['two', thursdayNoon + 11 * DAY]])
    }
  })

  it('holds whatever else happens meanwhile: the course published anew, a way in', async () => {
    const setting = await reader()
    const { context, ada, outboxId, courseId } = setting
    pause(context, outboxId, true)
    await publishChanges(context, courseId)
    await moveTo(context, thursdayNoon + 20 * DAY)
    expect(sentTo(setting, ada)).toHaveLength(1)
    await moveTo(context, thursdayNoon + 32 * DAY)
    expect(sentTo(setting, ada).map(([step]) => step)).toEqual(['one', 'two'])
  })

  it('tells the same story in one move as in many', async () => {
    const ends = []
    for (const days of [[60], Array.from({ length: 60 }, (_, n) => n + 1)]) {
      const { context, outboxId } = await reader()
      pause(context, outboxId, true)
      for (const day of days) await moveTo(context, thursdayNoon + HOUR + day * DAY)
      ends.push(wholeStory(context.db))
    }
    expect(ends[0]).toEqual(ends[1])
  })
})

describe('what was just chosen can be taken back', () => {
  it.each<[string, Leaving]>([
    ['leaving the course', { what: 'course' }], ['leaving its list', { what: 'list', listId: 1 }],
    ['leaving everything', { what: 'everything' }],
  ])('%s: the course goes on as if nothing had been', async (_, leaving) => {
    const plain = await reader()
    await moveTo(plain.context, thursdayNoon + 10 * DAY)
    const setting = await reader()
    const { context, ada, outboxId } = setting
    leave(context, outboxId, leaving)
    await moveTo(context, thursdayNoon + 2 * HOUR)
    expect(choicesOf(context, outboxId)).toMatchObject({ canTakeBack: true, course: { inside: false } })
    takeBack(context, outboxId)
    await moveTo(context, thursdayNoon + 10 * DAY)
    expect(sentTo(setting, ada)).toEqual(sentTo(plain, plain.ada))
    expect([findPerson(context.db, ada)!.status, membership(context.db, setting.listId, ada)]).toEqual(['active', 'joined'])
    expect(() => takeBack(context, outboxId)).toThrow(/nothing left to undo/)
  })

  it('brings back an email that was withdrawn on its way, once', async () => {
    const setting = await reader()
    const { context, ada, outboxId, carrier } = setting
    // The engine has decided the second email and not yet handed it over.
    context.db.prepare(`UPDATE workspace SET carrier_state = 'stopped'`).run()
    await moveTo(context, thursdayNoon + DAY + HOUR)
    leave(context, outboxId, { what: 'everything' })
    expect(emailsOfPerson(context.db, ada).map(({ status }) => status)).toContain('withdrawn')
    takeBack(context, outboxId)
    context.db.prepare(`UPDATE workspace SET carrier_state = 'ready'`).run()
    await moveTo(context, thursdayNoon + 10 * DAY)
    expect(carrier.mails.map(mail => mail.subject.split(',')[0])).toEqual(['one', 'two', 'three'])
  })

  it('only for a day, and never into a course that was begun anew since', async () => {
    const late = await reader()
    leave(late.context, late.outboxId, { what: 'everything' })
    await moveTo(late.context, thursdayNoon + 2 * DAY)
    expect(choicesOf(late.context, late.outboxId).canTakeBack).toBe(false)
    expect(() => takeBack(late.context, late.outboxId)).toThrow(/nothing left to undo/)

    const setting = await reader()
    const { context, ada, outboxId } = setting
    leave(context, outboxId, { what: 'course' })
    visit(context, 'ada@example.com')
    takeBack(context, outboxId)
    expect(context.db.prepare(`SELECT visit, status FROM enrolments WHERE person_id = ? ORDER BY visit`).all(ada)).toEqual([
      { visit: 1, status: 'left' }, { visit: 2, status: 'open' },
    ])
  })
})

describe('lists and interests', () => {
  it('are taken and put away; only what the page offers changes, and an interest starts what it starts', async () => {
    const setting = await reader()
    const { context, ada, outboxId, listId, interestId, tagId } = setting
    const offeredId = saveList(context, null, { name: 'classes', publicName: 'Classes', description: '', offered: true })
    const hiddenId = saveList(context, null, { name: 'inner', publicName: 'Inner', description: '' })
    saveTag(context, interestId, tag('interest: coptic', { publicName: 'Coptic books' }))
    expect(choicesOf(context, outboxId)).toMatchObject({
      lists: [{ id: listId, joined: true }, { id: offeredId, joined: false }],
      interests: [{ id: interestId, name: 'Coptic books', has: false }],
    })
    choose(context, outboxId, { listIds: [offeredId, hiddenId], tagIds: [interestId, tagId] })
    expect(consentsOfPerson(context.db, ada)[0]).toMatchObject({ origin: 'on their choices page', wording: 'Classes' })
    expect([membership(context.db, offeredId, ada), membership(context.db, hiddenId, ada), membership(context.db, listId, ada)]).toEqual([
      'joined', 'never-joined', 'left',
    ])
    expect(context.db.prepare('SELECT tag_id AS id FROM tag_holdings WHERE person_id = ? ORDER BY id').pluck().all(ada)).toEqual([
      tagId, interestId,
    ])
    // The course belongs to the list that was left.
    expect(choicesOf(context, outboxId).course).toMatchObject({ inside: false })
    takeBack(context, outboxId)
    expect(choicesOf(context, outboxId)).toMatchObject({
      course: { inside: true }, lists: [{ joined: true }, { joined: false }], interests: [{ has: false }],
    })
  })

  it('a tag that is filled in anew each time cannot be an interest', async () => {
    const { context } = await reader()
    expect(() => saveTag(context, null, tag('joined [month]', { publicName: 'Joined' }))).toThrow(/cannot be chosen by readers/)
  })
})

describe('another address', () => {
  it('is asked first whether it is theirs; then everything goes there, and nothing to the old one', async () => {
    const setting = await reader()
    const { context, ada, outboxId, carrier } = setting
    await askOtherAddress(context, outboxId, 'Ada.New@example.org')
    await moveTo(context, thursdayNoon + 2 * HOUR)
    const asking = emailsOfPerson(context.db, ada).find(email => email.kind === 'address')!
    expect(carrier.mails.at(-1)!.to.address).toBe('Ada.New@example.org')
    expect([findPerson(context.db, ada)!.address, addressOutcome(context, asking.occasionId).outcome]).toEqual([
      'ada@example.com', 'can-be',
    ])
    confirmAddress(context, asking.occasionId)
    confirmAddress(context, asking.occasionId)
    await moveTo(context, thursdayNoon + 2 * DAY)
    expect(carrier.mails.slice(2).map(mail => mail.to.address)).toEqual(['Ada.New@example.org'])
    expect(kindsOf(setting, ada).filter(kind => kind === 'address-changed')).toHaveLength(1)
    expect(addressOutcome(context, asking.occasionId).outcome).toBe('done')
  })

  it('of somebody else, an old question, or one too many changes nothing', async () => {
    const setting = await reader()
    const { context, ada, outboxId } = setting
    const bo = visit(context, 'bo@example.com')
    await askOtherAddress(context, outboxId, 'bo@example.com')
    await askOtherAddress(context, outboxId, 'new@example.com')
    await askOtherAddress(context, outboxId, 'newer@example.com')
    await expect(askOtherAddress(context, outboxId, 'newest@example.com')).rejects.toThrow(/three times/)
    await expect(askOtherAddress(context, outboxId, 'ada@example.com')).rejects.toThrow(/already go there/)
    await expect(askOtherAddress(context, outboxId, 'no address')).rejects.toThrow()
    const [taken, other] = emailsOfPerson(context.db, ada).filter(email => email.kind === 'address').map(email => email.occasionId)
      .sort((a, b) => a - b)
    confirmAddress(context, taken!)
    await moveTo(context, thursdayNoon + HOUR + 7 * DAY + 1)
    confirmAddress(context, other!)
    expect([
      addressOutcome(context, taken!).outcome, addressOutcome(context, other!).outcome, findPerson(context.db, ada)!.address,
      findPerson(context.db, bo)!.address,
    ]).toEqual(['too-late', 'too-late', 'ada@example.com', 'bo@example.com'])
  })

  it('of a stranger gives no way into the choices of who typed it, and one press there ends the question', async () => {
    const { context, ada, outboxId, carrier } = await reader()
    await askOtherAddress(context, outboxId, 'stranger@example.org')
    await moveTo(context, thursdayNoon + 2 * HOUR)
    const mail = carrier.mails.at(-1)!
    expect(mail.to.address).toBe('stranger@example.org')
    expect([mail.html, mail.text, JSON.stringify(mail.headers)].join(' ')).not.toMatch(/\/[mo]\//)
    const { occasionId: id } = emailsOfPerson(context.db, ada).find(email => email.kind === 'address')!
    refuseAddress(context, id)
    confirmAddress(context, id)
    expect([findPerson(context.db, ada)!.address, findPerson(context.db, ada)!.status, addressOutcome(context, id).outcome]).toEqual([
      'ada@example.com', 'active', 'too-late',
    ])
  })

  it('that does not take mail says nothing of the one they have', async () => {
    const { context, ada, outboxId } = await reader()
    context.carrier.handOver = async mail => mail.to.address.startsWith('refused')
      ? { kind: 'refused', answer: { stage: 'recipient', code: 550, text: '550 5.1.1 no such mailbox' } }
      : { kind: 'accepted' }
    await askOtherAddress(context, outboxId, 'refused@example.org')
    await moveTo(context, thursdayNoon + 2 * HOUR)
    expect(findPerson(context.db, ada)!.status).toBe('active')
  })
})

it('who left comes back by an email they have: mail again, and the lists they left one by one stay left', async () => {
  const { context, ada, outboxId, listId } = await reader()
  leave(context, outboxId, { what: 'list', listId })
  leave(context, outboxId, { what: 'everything' })
  comeBack(context, outboxId)
  expect([findPerson(context.db, ada)!.status, membership(context.db, listId, ada)]).toEqual(['active', 'left'])
})

it('why somebody left is asked once, only after leaving, and only counted', async () => {
  const { context, outboxId } = await reader()
  answerWhy(context, outboxId, 'too-many')
  expect([choicesOf(context, outboxId).asksWhy, whyTheyLeft(context)]).toEqual([false, []])
  leave(context, outboxId, { what: 'everything' })
  expect(choicesOf(context, outboxId).asksWhy).toBe(true)
  expect(() => answerWhy(context, outboxId, '<script>')).toThrow(/not one of those/)
  answerWhy(context, outboxId, 'have-it')
  answerWhy(context, outboxId, 'other')
  expect([choicesOf(context, outboxId).asksWhy, whyTheyLeft(context)]).toEqual([false, [{ answer: 'have-it', n: 1 }]])
})

describe('a page passed on', () => {
  const byIn = (url: string) => new URL(url).searchParams.get('by')!

  it('names the reader in the newcomer’s source, and gives nothing to anybody who does not opt in', async () => {
    const { context, ada, outboxId } = await reader()
    const by = byIn(choicesOf(context, outboxId).passOnUrl!)
    expect(passedBy(context, by)).toBe(ada)
    const people = context.db.prepare('SELECT count(*) FROM people').pluck()
    expect(people.get()).toBe(1)
    const { personId: bo } = optIn(context, { slug: 'sheet-kit', email: 'bo@example.com', firstName: '', zone: '', ip: null, by })
    expect(subscriberView(context, bo)).toMatchObject({ passedBy: { id: ada, name: 'Ada' } })
    expect(eventsOfPerson(context.db, bo).find(event => event.kind === 'opted-in')).toMatchObject({ otherId: ada, detail: 'passed-on' })
  })

  it.each([
    ['made up', 'MQ.AAAAAAAAAAAAAAAAAAAAAA'], ['cut off', ''], ['of another purpose', null],
  ])('by an address %s names nobody', async (_, token) => {
    const { context, outboxId } = await reader()
    const by = token ?? context.signer.sign('choices', String(outboxId))
    const { personId: bo } = optIn(context, { slug: 'sheet-kit', email: 'bo@example.com', firstName: '', zone: '', ip: null, by })
    expect(subscriberView(context, bo).passedBy).toBeNull()
  })

  it('by themselves, by somebody erased, or of a page taken down is none', async () => {
    const { context, ada, outboxId, pageId } = await reader()
    const by = byIn(choicesOf(context, outboxId).passOnUrl!)
    optIn(context, { slug: 'sheet-kit', email: 'ada@example.com', firstName: '', zone: '', ip: null, by })
    expect(subscriberView(context, ada).passedBy).toBeNull()
    takePageDown(context, pageId)
    expect(choicesOf(context, outboxId).passOnUrl).toBeNull()
    erasePerson(context, ada)
    expect(passedBy(context, by)).toBeNull()
  })
})
