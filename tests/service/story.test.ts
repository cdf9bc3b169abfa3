import { describe, expect, it } from 'vitest'
import { eventsOfPerson, wholeStory } from '#data/events'
import { searchMailbox } from '#data/mailbox'
import { emailsOfPerson, insertEmail, findEmail } from '#data/outbox'
import { countWhere, findPerson } from '#data/people'
import { hasTag, tagsOfPerson } from '#data/marks'
import { insertInventedReader } from '#data/reading'
import { stepNumbers } from '#data/courses'
import { leave } from '#usecases/arrive/leave'
import { changeOutlook, publishChanges, startCourse, startOutlook } from '#usecases/courses/publish'
import { saveCourse } from '#usecases/courses/save'
import { recordClick } from '#usecases/reading/click'
import { recordOpen } from '#usecases/reading/open'
import { play } from '#usecases/time/play'
import { openEnrolmentsOfPerson } from '#data/enrolments'
import { MINUTE } from '#core/time/zone'
import { DAY, HOUR, email, furnish, moveTo, openContext, step, thursdayNoon, visit, visitAndConfirm } from './workshop'

const at = (context: { clock: { now(): number } }) => context.clock.now()
const sentTimes = (context: Parameters<typeof searchMailbox>[0], address: string) =>
  searchMailbox(context, address, 100, 0).rows.map(mail => [mail.subject, mail.at] as const).reverse()
const byHand = { agent: 'a browser', robot: false, certain: true }

describe('someone opts in and gets the course', () => {
  it('at once, a day later and on calendar day 3 at 08:00, with their name in it', async () => {
    const { context } = await furnish(openContext())
    visit(context, 'Ada@Example.com', 'Ada', 'Asia/Tokyo')
    await play(context, at(context))
    expect(sentTimes(context.db, 'ada@example.com')).toEqual([['one, Ada', thursdayNoon]])
    await moveTo(context, thursdayNoon + 10 * DAY)
    expect(sentTimes(context.db, 'ada@example.com')).toEqual([
      ['one, Ada', thursdayNoon], ['two, Ada', thursdayNoon + DAY], ['three, Ada', Date.UTC(2026, 10, 29, 8)],
    ])
  })

  it('uses the fallback where no name is known', async () => {
    const { context } = await furnish(openContext())
    visit(context, 'bo@example.com')
    await play(context, at(context))
    expect(sentTimes(context.db, 'bo@example.com')).toEqual([['one, friend', thursdayNoon]])
  })

  it('is one subscriber with two opt-ins after doing it twice, and inside the course once', async () => {
    const { context } = await furnish(openContext())
    const first = visit(context, 'ada@example.com')
    const second = visit(context, ' ADA@example.COM ')
    await moveTo(context, thursdayNoon + 10 * DAY)
    expect(second).toBe(first)
    expect(countWhere(context.db, { search: 'ada', where: { sql: '1', values: [] } })).toBe(1)
    const kinds = eventsOfPerson(context.db, first).map(event => event.kind)
    expect(kinds.filter(kind => kind === 'opted-in')).toHaveLength(2)
    expect(kinds.filter(kind => kind === 'way-in-again')).toHaveLength(1)
    expect(sentTimes(context.db, 'ada@example.com')).toHaveLength(3)
  })

  it('follows every event but the first back to its cause', async () => {
    const { context } = await furnish(openContext())
    const id = visit(context, 'ada@example.com')
    await moveTo(context, thursdayNoon + 10 * DAY)
    const events = eventsOfPerson(context.db, id)
    const roots = events.filter(event => event.causeId === null).map(event => event.kind)
    // Time alone takes someone out of the newcomers.
    expect(roots).toEqual(['left-segment', 'opted-in'])
    for (const event of events) if (event.causeId !== null) expect(events.some(other => other.id === event.causeId)).toBe(true)
  })

  it('refuses a bad address and changes nothing', async () => {
    const { context } = await furnish(openContext())
    const before = wholeStory(context.db).length
    expect(() => visit(context, 'ada@example')).toThrow(/example\.com/)
    expect(wholeStory(context.db)).toHaveLength(before)
  })

  it('comes in again after the end, where the course allows it, and not where it is once only', async () => {
    for (const [again, mails] of [['after-ending', 6], ['once', 3]] as const) {
      const { context } = await furnish(openContext(), undefined, again)
      visit(context, 'ada@example.com')
      await moveTo(context, thursdayNoon + 10 * DAY)
      visit(context, 'ada@example.com')
      await moveTo(context, thursdayNoon + 20 * DAY)
      expect(sentTimes(context.db, 'ada@example.com')).toHaveLength(mails)
    }
  })
})

describe('opens and clicks', () => {
  it('are recorded with their time, and the link gives its tag', async () => {
    const { context, interestId, courseId } = await furnish(openContext())
    const id = visit(context, 'ada@example.com')
    await play(context, at(context))
    const [mail] = emailsOfPerson(context.db, id)
    recordOpen(context, mail!.id, byHand)
    recordClick(context, mail!.id, 0, byHand)
    expect(tagsOfPerson(context.db, id).map(tag => tag.id)).toContain(interestId)
    expect(stepNumbers(context.db, courseId).get('one')).toMatchObject({ sent: 1, opened: 1, clicked: 1 })
    const got = eventsOfPerson(context.db, id).find(event => event.kind === 'got-tag' && event.tagName === 'interest: coptic')!
    expect(eventsOfPerson(context.db, id).find(event => event.id === got.causeId)).toMatchObject({
      kind: 'clicked', linkLabel: 'I like coptic',
    })
  })

  it('judges a click after the window, and dates the tag at the click', async () => {
    const { context, interestId } = await furnish(openContext())
    const id = visit(context, 'ada@example.com')
    await moveTo(context, thursdayNoon + HOUR)
    const [mail] = emailsOfPerson(context.db, id)
    recordClick(context, mail!.id, 0, { agent: 'a browser', robot: false, certain: false })
    await moveTo(context, thursdayNoon + HOUR + 29_999)
    expect(hasTag(context.db, interestId, id)).toBe(false)
    await moveTo(context, thursdayNoon + HOUR + 30_000)
    expect(tagsOfPerson(context.db, id).find(tag => tag.id === interestId)?.sinceAt).toBe(thursdayNoon + HOUR)
  })

  it('lets a scanner cause nothing', async () => {
    const { context, interestId, courseId } = await furnish(openContext())
    const id = visit(context, 'ada@example.com')
    await play(context, at(context))
    const [mail] = emailsOfPerson(context.db, id)
    recordClick(context, mail!.id, 0, { agent: 'a browser', robot: false, certain: false }) // within five seconds of arrival
    await moveTo(context, thursdayNoon + HOUR)
    recordClick(context, mail!.id, 0, { agent: 'a known robot', robot: true, certain: false })
    recordOpen(context, mail!.id, { agent: 'a known robot', robot: true, certain: false })
    await moveTo(context, thursdayNoon + 2 * HOUR)
    expect(hasTag(context.db, interestId, id)).toBe(false)
    expect(stepNumbers(context.db, courseId).get('one')).toMatchObject({ opened: 0, clicked: 0 })
  })

  it('gives the tag for not clicking only to who did not click', async () => {
    const { context, interestId } = await furnish(openContext(), ({ interestId: silentTag }) => [
      step('one', {
        kind: 'at-once',
      }, email(
        'one', { body: { type: 'doc', content: [{ type: 'button', attrs: { label: 'Go', url: 'https://a.example.com/', tagId: null } }] } }
      ), {
        reactions: [{ id: 'r', on: 'not-clicked', within: { count: 3, unit: 'days' }, then: [{ kind: 'give-tag', tagId: silentTag }] }],
      }),
    ])
    const [clicker, silent] = ['c@example.com', 's@example.com'].map(address => visit(context, address))
    await moveTo(context, thursdayNoon + 3 * DAY - 1)
    recordClick(context, emailsOfPerson(context.db, clicker!)[0]!.id, 0, byHand)
    expect(hasTag(context.db, interestId, silent!)).toBe(false)
    // A click within the time is judged for half a minute; the tag is dated at the limit.
    await moveTo(context, thursdayNoon + 3 * DAY + MINUTE)
    expect(hasTag(context.db, interestId, silent!)).toBe(true)
    expect(eventsOfPerson(context.db, silent!).find(({ kind }) => kind === 'got-tag')?.at).toBe(thursdayNoon + 3 * DAY)
    expect(hasTag(context.db, interestId, clicker!)).toBe(false)
  })
})

describe('leaving', () => {
  it.each([
    ['everything', { what: 'everything' } as const, 'unsubscribed'],
    ['only this course', { what: 'course' } as const, 'active'],
    ['the list', { what: 'list', listId: 1 } as const, 'active'],
  ])('%s: nothing more is sent', async (_what, leaving, status) => {
    const { context } = await furnish(openContext())
    const id = visit(context, 'ada@example.com')
    await play(context, at(context))
    leave(context, emailsOfPerson(context.db, id)[0]!.id, leaving)
    leave(context, emailsOfPerson(context.db, id)[0]!.id, leaving)
    await moveTo(context, thursdayNoon + 30 * DAY)
    expect(sentTimes(context.db, 'ada@example.com')).toHaveLength(1)
    expect(findPerson(context.db, id)!.status).toBe(status)
    expect(openEnrolmentsOfPerson(context.db, id)).toEqual([])
  })

  it('stops an email that is already queued and claimed, up to the mark of handing over', async () => {
    const { context } = await furnish(openContext())
    const id = visit(context, 'ada@example.com')
    const [queued] = emailsOfPerson(context.db, id)
    const leavingContext = { ...context, stage(stage: string) {
      if (stage === 'after lease') leave(context, queued!.id, { what: 'everything' })
    } }
    await play(leavingContext, at(context))
    expect(sentTimes(context.db, 'ada@example.com')).toEqual([])
    expect(findEmail(context.db, queued!.id)!.status).toBe('withdrawn')
  })

  it('is lifted by opting in again, and the course begins anew', async () => {
    const { context } = await furnish(openContext())
    const id = visit(context, 'ada@example.com')
    await play(context, at(context))
    leave(context, emailsOfPerson(context.db, id)[0]!.id, { what: 'everything' })
    await moveTo(context, thursdayNoon + DAY)
    visitAndConfirm(context, 'ada@example.com')
    await moveTo(context, thursdayNoon + 9 * DAY)
    expect(findPerson(context.db, id)!.status).toBe('active')
    expect(sentTimes(context.db, 'ada@example.com').map(([subject]) => subject)).toEqual([
      'one, friend', 'one, friend', 'two, friend', 'three, friend',
    ])
  })
})

describe('the outbox', () => {
  it('refuses a second email under the same key', async () => {
    const { context } = await furnish(openContext())
    const id = visit(context, 'ada@example.com')
    const [mail] = emailsOfPerson(context.db, id)
    expect(() => insertEmail(context.db, { ...mail! })).toThrow(/UNIQUE/)
  })
})

describe('starting a course', () => {
  it('says how many have the tag already, and enrols them only if told to', async () => {
    const { context, listId, tagId, courseId } = await furnish(openContext())
    const left = visit(context, 'gone@example.com')
    visit(context, 'ada@example.com')
    await play(context, at(context))
    leave(context, emailsOfPerson(context.db, left)[0]!.id, { what: 'everything' })
    const { createCourse } = await import('#usecases/courses/save')
    const second = createCourse(context, 'Second', 'x')
    saveCourse(context, second, 'Second', {
      listId, wayInTagIds: [tagId], again: 'once', steps: [step('x', { kind: 'at-once' }, email('x'))],
    })
    expect(startOutlook(context, second)).toMatchObject({ total: 2, waiting: 1, looked: 1, byJoining: [{ stepId: null, people: 1 }] })
    expect(await startCourse(context, second, { kind: 'now' })).toEqual({ scheduledEntries: 1 })
    await play(context, at(context))
    expect(stepNumbers(context.db, second).get('x')).toMatchObject({ sent: 1 })
    expect(courseId).not.toBe(second)
  })

  it('refuses a course without a first email, a list, or with a button that leads nowhere', async () => {
    const { context, listId } = await furnish(openContext())
    const { createCourse } = await import('#usecases/courses/save')
    const id = createCourse(context, 'Third', 'x')
    await expect(startCourse(context, id)).rejects.toThrow(/list[\s\S]*first email/)
    const button = { type: 'button' as const, attrs: { label: 'Go', url: 'javascript:alert(1)', tagId: null } }
    saveCourse(context, id, 'Third', {
      listId, wayInTagIds: [], again: 'once',
      steps: [step('x', { kind: 'at-once' }, email('x', { body: { type: 'doc', content: [button] } }))],
    })
    await expect(startCourse(context, id)).rejects.toThrow(/https/)
  })
})

describe('changing a running course', () => {
  it('says how many get something at once, moves everybody, and repeats nothing', async () => {
    const { context, listId, tagId, courseId } = await furnish(openContext())
    visit(context, 'ada@example.com')
    await moveTo(context, thursdayNoon + 20 * HOUR)
    saveCourse(context, courseId, 'Fold, Sew, Cover', { listId, wayInTagIds: [tagId], again: 'once', steps: [
      step('one', { kind: 'at-once' }, email('one, reworded')),
      step('two', { kind: 'elapsed', count: 2, unit: 'hours', from: 'previous' }),
    ] })
    expect(changeOutlook(context, courseId)).toMatchObject({
      inside: 1, effects: [{ fromStepId: 'two', toStepId: 'two', people: 1, atOnce: 1 }],
      steps: [{ what: ['reworded'] }, { what: ['retimed'] }, { what: ['removed'] }],
    })
    await publishChanges(context, courseId)
    await moveTo(context, thursdayNoon + 30 * DAY)
    expect(sentTimes(context.db, 'ada@example.com')).toEqual([['one, friend', thursdayNoon], ['two, friend', thursdayNoon + 20 * HOUR]])
  })
})

describe('the practice clock', () => {
  const crowd = async () => {
    const { context } = await furnish(openContext())
    for (let n = 0; n < 40; n++) insertInventedReader(
      context.db, visit(context, `reader${n}@example.com`, '', n % 2 ? 'Asia/Kathmandu' : ''), (n * 7) % 100,
    )
    return context
  }

  it('tells the same story in one move of 90 days as in 90 moves of a day', async () => {
    const [once, daily] = [await crowd(), await crowd()]
    await moveTo(once, thursdayNoon + 90 * DAY)
    for (let day = 1; day <= 90; day++) await moveTo(daily, thursdayNoon + day * DAY)
    const story = wholeStory(once.db)
    expect(story.filter(event => event.kind === 'opened').length).toBeGreaterThan(20)
    expect(story.some(event => event.kind === 'clicked')).toBe(true)
    expect(wholeStory(daily.db)).toEqual(story)
  })

  it('stops between two things and goes on later as if nothing had been', async () => {
    const [smooth, broken] = [await crowd(), await crowd()]
    await moveTo(smooth, thursdayNoon + 9 * DAY)
    const { askPracticeClock } = await import('#data/workspace')
    askPracticeClock(broken.db, thursdayNoon + 9 * DAY)
    let done = false
    while (!done) {
      let left = 7
      done = await play(broken, thursdayNoon + 9 * DAY, { goOn: () => left-- > 0 })
    }
    expect(wholeStory(broken.db)).toEqual(wholeStory(smooth.db))
  })
})
