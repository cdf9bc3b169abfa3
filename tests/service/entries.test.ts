/**
 * Ways into a course and out of it: who comes in, when, and again; who goes; who is led on; what one person's journey can be made to do by
 * hand.
 */
import { describe, expect, it } from 'vitest'
import type { Condition } from '#core/audience/condition'
import { sayEvent } from '#core/events'
import { newRule, type Action } from '#core/rules/rule'
import type { CourseDraft } from '#core/sequence/draft'
import type { Timing } from '#core/time/when'
import { localOf } from '#core/time/zone'
import { findCourse } from '#data/courses'
import { countScheduledEntries } from '#data/entries'
import { enrolmentsOfPerson } from '#data/enrolments'
import { eventsOfPerson } from '#data/events'
import { hasTag } from '#data/marks'
import { emailsOfPerson } from '#data/outbox'
import { latestTasks } from '#data/tasks'
import { publishPage, savePage } from '#usecases/arrive/pages'
import { goOnAgain, letIn, movePerson, standStill, takeOut } from '#usecases/courses/people'
import { changeOutlook, publishChanges, startCourse, startOutlook } from '#usecases/courses/publish'
import { createCourse, saveCourse } from '#usecases/courses/save'
import { correctPerson, giveTagByHand, joinListByHand, takeTagByHand } from '#usecases/know/byHand'
import { namesOfRules } from '#usecases/inner/names'
import { saveField } from '#usecases/know/fields'
import { mergeLists } from '#usecases/know/endMarks'
import { saveLink } from '#usecases/know/links'
import { saveList, saveTag } from '#usecases/know/listsAndTags'
import { saveRule } from '#usecases/know/rules'
import { mergePeople } from '#usecases/know/sameness'
import { pageView } from '#usecases/views/pages'
import { courseView } from '#usecases/views/course'
import { courseStanding } from '#usecases/views/courseStanding'
import { newOffer } from '#core/offers/offer'
import type { Include } from '#core/views/course'
import { buy, openShop } from './shop'
import { DAY, email, furnish, HOUR, moveTo, openContext, step, tag, thursdayNoon, visit, type Setting, type Workshop } from './workshop'

const hours = (count: number): Timing => ({ kind: 'elapsed', count, unit: 'hours', from: 'previous' })
const said = (at: number | null) => at === null ? 'not' : Object.values(localOf(at, 'Europe/Lisbon')).join(' ')
const sent = (context: Workshop, id: number, courseId?: number) => emailsOfPerson(
  context.db, id,
).reverse().filter(one => courseId === undefined
  || one.ownerId === courseId).map(one => `${one.itemId} ${one.status === 'handed over' ? said(one.handedOverAt) : one.status}`)
const status = (context: Workshop, id: number, courseId: number) =>
  enrolmentsOfPerson(context.db, id).filter(one => one.courseId === courseId).map(one => one.status)
const story = (context: Workshop, id: number) => eventsOfPerson(context.db, id).reverse().map(sayEvent)

/** A second course, running or not. */
async function course(setting: Setting, more: Partial<CourseDraft>, start: Include | null = { kind: 'none' }): Promise<number> {
  const id = createCourse(setting.context, 'Second', 'a')
  saveCourse(setting.context, id, 'Second', {
    listId: setting.listId, wayInTagIds: [], again: 'after-ending',
    steps: [step('a', { kind: 'at-once' }), step('b', hours(24)), step('c', hours(24))], ...more,
  })
  if (start) await startCourse(setting.context, id, start)
  return id
}
async function change(context: Workshop, courseId: number, more: Partial<CourseDraft>, goesOn = false) {
  const { draft, name } = findCourse(context.db, courseId)!
  saveCourse(context, courseId, name, { ...draft, ...more })
  return publishChanges(context, courseId, { goesOn })
}

describe('ways in and out, wherever they were set', () => {
  it('stand in one place: pages, offers, links, rules, other courses and emails of theirs; by name, by tag or by list', async () => {
    const setting = await furnish(openContext())
    const { context, pageId, listId } = setting
    const [startsIt, other] = ['starts it', 'another'].map(name => saveTag(context, null, tag(name)))
    const clubId = saveList(context, null, { name: 'club', publicName: 'Club', description: 'A club.' })
    const id = await course(setting, { wayInTagIds: [startsIt!], wayInListIds: [clubId] })
    const entriesAndExits = () => {
      const { in: ways, out } = courseView(context, id).entriesAndExits
      return { in: ways.map(({ kind, name }) => `${kind} ${name}`), out: out.map(({ kind, name }) => `${kind} ${name}`) }
    }
    expect(entriesAndExits()).toEqual({ in: [], out: [] })

    const page = pageView(context, pageId)
    savePage(context, pageId, { name: page.name, slug: page.slug, draft: { ...page.draft, tagIds: [...page.draft.tagIds, startsIt!] } })
    // What is not published yet does nothing.
    expect(entriesAndExits().in).toEqual([])
    await publishPage(context, pageId)
    const { offerId } = await openShop(setting, { gives: { ...newOffer('x').gives, endsCourseIds: [id], listIds: [clubId] } })
    const link = (name: string, does: Action[]) =>
      saveLink(context, null, { name, url: `https://saltmarsh.example.com/${name}`, note: '', asks: false, does })
    link('joins', [{ kind: 'join-list', listId: clubId }])
    link('leaves', [{ kind: 'leave-course', courseId: id }])
    link('neither', [{ kind: 'give-tag', tagId: other! }, { kind: 'join-list', listId }])
    const rule = async (thingId: number, then: Action[], on = true, ruleId: number | null = null) => {
      const done = await saveRule(context, ruleId, { ...newRule({ kind: 'got-tag', thingId }, then), on })
      return done.saved ? done.id : Number.NaN
    }
    const enrols = await rule(other!, [{ kind: 'enrol', courseId: id }])
    const nameOfRule = namesOfRules(context.db).find(one => one.id === enrols)!.name
    const off = await rule(startsIt!, [{ kind: 'leave-course', courseId: id }], false)
    const third = createCourse(context, 'Third', 't')
    saveCourse(context, third, 'Third', { listId, wayInTagIds: [], again: 'once', onFinish: [
      { kind: 'leave-course', courseId: id },
    ], steps: [
      step('t', { kind: 'at-once' }, email('t', { body: {
        type: 'doc', content: [{ type: 'button', attrs: { label: 'More', url: 'https://saltmarsh.example.com/more', tagId: startsIt! } }],
      } })),
    ] })
    expect(entriesAndExits()).toEqual({
      in: ['page Sheet kit', 'offer Long-Stitch Journals', 'link joins', `rule ${nameOfRule}`, 'course Third'],
      out: ['offer Long-Stitch Journals', 'link leaves', 'course Third'],
    })
    expect(nameOfRule).toContain('another')
    await rule(startsIt!, [{ kind: 'leave-course', courseId: id }], true, off)
    expect(courseView(context, id).entriesAndExits.out.map(({ kind, id }) => `${kind} ${id}`)).toContain(`rule ${off}`)
    expect(courseView(context, id).entriesAndExits.in.find(({ kind }) => kind === 'offer')!.id).toBe(offerId)
  })
})

describe('ways in', () => {
  it('a list joined starts it as a tag does; merging the list keeps it', async () => {
    const setting = await furnish(openContext())
    const { context } = setting
    const clubId = saveList(context, null, { name: 'club', publicName: 'Club', description: 'A club.' })
    const otherId = saveList(context, null, { name: 'other club', publicName: 'Club', description: 'A club.' })
    const id = await course(setting, { wayInListIds: [clubId] })
    const [ada, bram] = [visit(context, 'ada@example.com'), visit(context, 'bram@example.com')]
    joinListByHand(context, ada, clubId)
    mergeLists(context, clubId, otherId)
    joinListByHand(context, bram, otherId)
    expect([status(context, ada, id), status(context, bram, id)]).toEqual([['open'], ['open']])
  })

  it('turns away who may not come in, says so, and lets them in when they may', async () => {
    const setting = await furnish(openContext())
    const { context, interestId } = setting
    const doorId = saveTag(context, null, tag('door'))
    const entry: Condition = { kind: 'tag', tagId: interestId, since: null }
    const id = await course(setting, { wayInTagIds: [doorId], entry })
    const ada = visit(context, 'ada@example.com')
    giveTagByHand(context, ada, doorId)
    expect([status(context, ada, id), story(context, ada).at(-1)]).toEqual([
      [], 'did not join “Second”: they do not fit its conditions for joining',
    ])
    giveTagByHand(context, ada, interestId)
    expect(letIn(context, id, ada)).toBe('enrolled')
  })

  it.each([
    ['once', 'open', 1, 'they have been in it, and people can take it only once'], ['after-ending', 'open', 1, null],
    ['always', 'open', 2, null],
  ] as const)('a second time, %s: while inside, and after the end', async (again, _, inside, turned) => {
    const setting = await furnish(openContext())
    const { context } = setting
    const doorId = saveTag(context, null, tag('door'))
    const id = await course(setting, { wayInTagIds: [doorId], again })
    const ada = visit(context, 'ada@example.com')
    const knock = () => {
      giveTagByHand(context, ada, doorId)
      takeTagByHand(context, ada, doorId)
    }
    knock()
    await moveTo(context, thursdayNoon + HOUR)
    knock()
    expect(status(context, ada, id)).toEqual(inside === 1 ? ['open'] : ['left', 'open'])
    await moveTo(context, thursdayNoon + 10 * DAY)
    knock()
    expect(status(context, ada, id).length).toBe(turned ? 1 : inside + 1)
    if (turned) expect(story(context, ada)).toContain(`did not join “Second”: ${turned}`)
    if (again === 'always') expect(story(context, ada)).toContain('left the course “Second” to start it again')
  })
})

describe('ways out, and on', () => {
  it('by what happens, for the whole course or from a step on; what waits is withdrawn', async () => {
    const setting = await furnish(openContext())
    const { context, interestId } = setting
    const doorId = saveTag(context, null, tag('door'))
    const id = await course(setting, {
      wayInTagIds: [doorId], waysOut: [{ id: 'w', when: { kind: 'got-tag', thingId: interestId }, fromStepId: 'c' }],
    })
    const [early, late] = [visit(context, 'e@example.com'), visit(context, 'l@example.com')]
    for (const person of [early, late]) giveTagByHand(context, person, doorId)
    await moveTo(context, thursdayNoon + HOUR)
    giveTagByHand(context, early, interestId)
    expect(status(context, early, id)).toEqual(['open'])
    await moveTo(context, thursdayNoon + 25 * HOUR)
    giveTagByHand(context, late, interestId)
    await moveTo(context, thursdayNoon + 10 * DAY)
    expect([sent(context, early, id).length, sent(context, late, id).length]).toEqual([3, 2])
    expect([status(context, late, id), story(context, late)]).toEqual([
      ['left'], expect.arrayContaining(['left the course “Second” by one of its ways out']),
    ])
    // A way out that comes with a new version counts for who is inside.
    const other = visit(context, 'o@example.com')
    giveTagByHand(context, other, doorId)
    await change(context, id, { waysOut: [{ id: 'v', when: { kind: 'replied', thingId: null }, fromStepId: null }] })
    giveTagByHand(context, other, interestId)
    expect(status(context, other, id)).toEqual(['open'])
  })

  it('who bought is mailed no more of it, even at the very instant of an email', async () => {
    const setting = await furnish(openContext())
    const { context } = setting
    const shop = await openShop(setting)
    const doorId = saveTag(context, null, tag('door'))
    const id = await course(setting, {
      wayInTagIds: [doorId], waysOut: [{ id: 'w', when: { kind: 'bought', thingId: shop.offerId }, fromStepId: null }],
    })
    const ada = visit(context, 'ada@example.com')
    giveTagByHand(context, ada, doorId)
    await moveTo(context, thursdayNoon + 24 * HOUR - 1)
    await buy(context, 'ada@example.com')
    await moveTo(context, thursdayNoon + 5 * DAY)
    expect(sent(context, ada, id)).toEqual(['a 2026-11-26 12:00'])
  })

  it('the end leads on: a tag, a list, another course', async () => {
    const setting = await furnish(openContext())
    const { context, interestId, courseId } = setting
    const next = await course(setting, {})
    await change(context, courseId, { onFinish: [{ kind: 'give-tag', tagId: interestId }, { kind: 'enrol', courseId: next }] })
    const ada = visit(context, 'ada@example.com')
    await moveTo(context, thursdayNoon + 10 * DAY)
    expect(hasTag(context.db, interestId, ada)).toBe(true)
    expect(sent(context, ada)).toEqual([
      'one 2026-11-26 12:00', 'two 2026-11-27 12:00', 'three 2026-11-29 08:00', 'a 2026-11-29 08:00', 'b 2026-11-30 08:00',
      'c 2026-12-01 08:00',
    ])
  })
})

describe('starting with people outside', () => {
  const outside = async (include: Include, people = 5) => {
    const setting = await furnish(openContext())
    const { context, tagId } = setting
    const ids: number[] = []
    for (let n = 0; n < people; n++) {
      ids.push(visit(context, `p${n}@example.com`))
      await moveTo(context, thursdayNoon + (n + 1) * 12 * HOUR)
    }
    const id = await course(setting, { wayInTagIds: [tagId] }, null)
    const outlook = startOutlook(context, id)
    await startCourse(context, id, include, people)
    await moveTo(context, thursdayNoon + 60 * DAY)
    return { ids, outlook, mails: ids.map(person => sent(context, person, id).map(one => one.slice(0, 12))), context, id }
  }

  it('spreads them evenly, in their order, each from the first step', async () => {
    const { mails, context, id } = await outside({ kind: 'spread', days: 5 })
    expect(mails.map(([first]) => first)).toEqual(['a 2026-11-30', 'a 2026-12-01', 'a 2026-12-02', 'a 2026-12-03', 'a 2026-12-04'])
    expect([mails.map(one => one.length), countScheduledEntries(context.db, id).people, latestTasks(context.db, 1)[0]!.title]).toEqual([
      [3, 3, 3, 3, 3], 0, 'Let 5 people into Second',
    ])
  })

  it('by the date they got it, each at the first step ahead, with their number before it is done', async () => {
    const { mails, outlook } = await outside({ kind: 'by-joining' })
    // At noon of the 29th the last came half a day ago, the first two and a half days ago: past the end.
    expect(outlook).toMatchObject({
      total: 5, waiting: 5,
      byJoining: expect.arrayContaining([{ stepId: null, people: 2 }, { stepId: 'c', people: 2 }, { stepId: 'b', people: 1 }]),
    })
    expect(mails).toEqual([[], [], ['c 2026-11-29'], ['c 2026-11-30'], ['b 2026-11-29', 'c 2026-11-30']])
  })

  it('refuses another number than was seen, and lets nobody in', async () => {
    const setting = await furnish(openContext())
    visit(setting.context, 'p@example.com')
    const id = await course(setting, { wayInTagIds: [setting.tagId] }, null)
    await expect(startCourse(setting.context, id, { kind: 'now' }, 7)).rejects.toThrow(/Meanwhile these are 1 person, not 7/)
    expect(findCourse(setting.context.db, id)!.status).toBe('draft')
  })

  it('a new end is for who has come to the old one, if that is said', async () => {
    const { context, courseId } = await furnish(openContext())
    const [done, inside] = [visit(context, 'd@example.com'), 0]
    await moveTo(context, thursdayNoon + 5 * DAY)
    const { draft } = findCourse(context.db, courseId)!
    saveCourse(context, courseId, 'Fold', { ...draft, steps: [...draft.steps, step('four', hours(24))] })
    expect(changeOutlook(context, courseId)).toMatchObject({ inside, newEnd: { stepId: 'four', finished: 1 } })
    expect(await publishChanges(context, courseId, { goesOn: true })).toEqual({ moved: 0, goOn: 1 })
    await moveTo(context, thursdayNoon + 10 * DAY)
    // Its moment was past: it goes at once.
    expect(sent(context, done).at(-1)).toBe('four 2026-12-01 12:00')
    expect(status(context, done, courseId)).toEqual(['finished'])
  })
})

describe('people who come in by their date', () => {
  const birthday = async (everyMonths: number, ...days: number[]) => {
    const setting = await furnish(openContext())
    const { context } = setting
    const fieldId = saveField(context, null, { name: 'birthday', label: 'Birthday', kind: 'date', choices: [] })
    const set = (person: number, date: string) =>
      correctPerson(context, person, { firstName: '', country: null, zone: null, fields: { [fieldId]: date } } as never)
    const id = await course(setting, {
      dates: { fieldId, everyMonths },
      steps: days.map((n, at) => step(`d${at}`, { kind: 'date-field', fieldId, days: n, time: '09:00', everyMonths: 0 })),
    }, null)
    return { ...setting, fieldId, set, id }
  }

  it('each return is a journey of its own, also where two overlap; a date given later counts, and one changed midway', async () => {
    const { context, set, id } = await birthday(1, -7, 28)
    const [ada, bram, cato] = ['ada', 'bram', 'cato'].map(name => visit(context, `${name}@example.com`))
    set(ada!, '2026-12-05')
    set(bram!, '2020-01-05')
    expect(startOutlook(context, id)).toMatchObject({ kind: 'by-date', people: 2 })
    await startCourse(context, id)
    await moveTo(context, thursdayNoon + DAY)
    set(cato!, '2026-12-10')
    await moveTo(context, Date.UTC(2026, 11, 8, 12))
    // Midway: the first letter is out, the second goes by the new date.
    set(cato!, '2026-12-12')
    await moveTo(context, Date.UTC(2027, 0, 20))
    expect(sent(context, ada!, id)).toEqual(['d0 2026-11-28 09:00', 'd0 2026-12-29 09:00', 'd1 2027-01-02 09:00'])
    expect(sent(context, bram!, id)).toEqual(['d0 2026-11-28 09:00', 'd0 2026-12-29 09:00', 'd1 2027-01-02 09:00'])
    expect(sent(context, cato!, id)).toEqual(['d0 2026-12-03 09:00', 'd0 2027-01-05 09:00', 'd1 2027-01-09 09:00'])
  })

  it('who comes no more when the date is no longer known; two records made one come once', async () => {
    const { context, set, id } = await birthday(12, -7, 0)
    const [ada, twin] = [visit(context, 'ada@example.com'), visit(context, 'twin@example.com')]
    for (const person of [ada, twin]) set(person, '1990-12-10')
    await startCourse(context, id)
    await moveTo(context, thursdayNoon + DAY)
    mergePeople(context, ada, twin, 'twin@example.com')
    await moveTo(context, Date.UTC(2026, 11, 5))
    set(ada, '')
    await moveTo(context, Date.UTC(2028, 0, 1))
    expect(sent(context, ada, id)).toEqual(['d0 2026-12-03 09:00'])
    expect(story(context, ada)).toContain('left the course “Second” because their date is no longer known')
  })

  it('nobody comes in by another way', async () => {
    const { context, set, id } = await birthday(12, 0)
    const ada = visit(context, 'ada@example.com')
    set(ada, '1990-12-10')
    await startCourse(context, id)
    expect(letIn(context, id, ada)).toBe('stays-out')
    expect(story(context, ada).at(-1)).toContain('people join it on a date of their own')
  })
})

describe('one person’s journey, by hand', () => {
  it('another step, a stop, the way out; who stands where, the longest first', async () => {
    const {
      context, courseId,
    } = await furnish(openContext(), () => [step('one', { kind: 'at-once' }), step('two', hours(24)), step('three', hours(24))])
    const [moved, still, out] = ['m', 's', 'o'].map(name => visit(context, `${name}@example.com`))
    await moveTo(context, thursdayNoon + HOUR)
    const row = (id: number) => enrolmentsOfPerson(context.db, id)[0]!.id
    movePerson(context, row(moved!), 'three')
    standStill(context, row(still!))
    takeOut(context, row(out!))
    expect(courseStanding(context, { courseId, stepId: null, from: 0 })).toMatchObject({
      inside: 2,
      rows: [{ personId: still, stepId: 'two', dueAt: null, stillSince: thursdayNoon + HOUR }, { personId: moved, stepId: 'three' }],
    })
    await moveTo(context, thursdayNoon + 3 * DAY)
    goOnAgain(context, row(still!))
    await moveTo(context, thursdayNoon + 10 * DAY)
    // What is left of the wait runs on: 23 hours from going on.
    expect(sent(context, still!)).toEqual(['one 2026-11-26 12:00', 'two 2026-11-30 11:00', 'three 2026-12-01 11:00'])
    expect(sent(context, moved!)).toEqual(['one 2026-11-26 12:00', 'three 2026-11-27 13:00'])
    expect(sent(context, out!)).toEqual(['one 2026-11-26 12:00'])
    expect(() => movePerson(context, row(out!), 'two')).toThrow(/no longer in this course/)
  })
})
