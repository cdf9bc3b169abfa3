/** Ways into a course and out of it: who comes in, when, and again; who goes; who is led on; what one person's journey can be made to do by hand. */
import { describe, expect, it } from 'vitest'
import type { Condition } from '#core/audience/condition'
import { sayEvent } from '#core/events'
import { newRule, type Action } from '#core/rules/rule'
import type { CourseDraft } from '#core/sequence/draft'
import type { When } from '#core/time/when'
import { localOf } from '#core/time/zone'
import { findCourse } from '#data/courses'
import { countComings } from '#data/doors'
import { enrolmentsOfPerson } from '#data/enrolments'
import { eventsOfPerson } from '#data/events'
import { hasTag } from '#data/marks'
import { emailsOfPerson } from '#data/outbox'
import { latestTasks } from '#data/tasks'
import { publishPage, savePage } from '#usecases/arrive/pages'
import { goOnAgain, letIn, movePerson, standStill, takeOut } from '#usecases/courses/people'
import { changeOutlook, publishChanges, startCourse, startOutlook, type Include } from '#usecases/courses/publish'
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
import { buy, openShop } from './shop'
import { DAY, email, furnish, HOUR, moveTo, openHouse, step, tag, thursdayNoon, visit, type Setting, type Workshop } from './workshop'

const hours = (count: number): When => ({ kind: 'elapsed', count, unit: 'hours', from: 'previous' })
const said = (at: number | null) => at === null ? 'not' : Object.values(localOf(at, 'Europe/Lisbon')).join(' ')
const sent = (house: Workshop, id: number, courseId?: number) => emailsOfPerson(house.db, id).reverse().filter(one => courseId === undefined || one.thingId === courseId).map(one => `${one.stepId} ${one.status === 'handed over' ? said(one.handedOverAt) : one.status}`)
const status = (house: Workshop, id: number, courseId: number) => enrolmentsOfPerson(house.db, id).filter(one => one.courseId === courseId).map(one => one.status)
const story = (house: Workshop, id: number) => eventsOfPerson(house.db, id).reverse().map(sayEvent)

/** A second course, running or not. */
async function course(setting: Setting, more: Partial<CourseDraft>, start: Include | null = { kind: 'none' }): Promise<number> {
  const id = createCourse(setting.house, 'Second', 'a')
  saveCourse(setting.house, id, 'Second', { listId: setting.listId, wayInTagIds: [], again: 'after-ending', steps: [step('a', { kind: 'at-once' }), step('b', hours(24)), step('c', hours(24))], ...more })
  if (start) await startCourse(setting.house, id, start)
  return id
}
async function change(house: Workshop, courseId: number, more: Partial<CourseDraft>, goesOn = false) {
  const { draft, name } = findCourse(house.db, courseId)!
  saveCourse(house, courseId, name, { ...draft, ...more })
  return publishChanges(house, courseId, { goesOn })
}

describe('ways in and out, wherever they were set', () => {
  it('stand in one place: pages, offers, links, rules, other courses and emails of theirs; by name, by tag or by list', async () => {
    const setting = await furnish(openHouse())
    const { house, pageId, listId } = setting
    const [startsIt, other] = ['starts it', 'another'].map(name => saveTag(house, null, tag(name)))
    const clubId = saveList(house, null, { name: 'club', publicName: 'Club', description: 'A club.' })
    const id = await course(setting, { wayInTagIds: [startsIt!], wayInListIds: [clubId] })
    const doors = () => {
      const { in: ways, out } = courseView(house, id).doors
      return { in: ways.map(({ kind, name }) => `${kind} ${name}`), out: out.map(({ kind, name }) => `${kind} ${name}`) }
    }
    expect(doors()).toEqual({ in: [], out: [] })

    const page = pageView(house, pageId)
    savePage(house, pageId, { name: page.name, slug: page.slug, draft: { ...page.draft, tagIds: [...page.draft.tagIds, startsIt!] } })
    // What is not published yet does nothing.
    expect(doors().in).toEqual([])
    await publishPage(house, pageId)
    const { offerId } = await openShop(setting, { gives: { ...newOffer('x').gives, endsCourseIds: [id], listIds: [clubId] } })
    const link = (name: string, does: Action[]) => saveLink(house, null, { name, url: `https://saltmarsh.example.com/${name}`, note: '', asks: false, does })
    link('joins', [{ kind: 'join-list', listId: clubId }])
    link('leaves', [{ kind: 'leave-course', courseId: id }])
    link('neither', [{ kind: 'give-tag', tagId: other! }, { kind: 'join-list', listId }])
    const rule = async (thingId: number, then: Action[], on = true, ruleId: number | null = null) => {
      const done = await saveRule(house, ruleId, { ...newRule({ kind: 'got-tag', thingId }, then), on })
      return done.saved ? done.id : Number.NaN
    }
    const enrols = await rule(other!, [{ kind: 'enrol', courseId: id }])
    const nameOfRule = namesOfRules(house.db).find(one => one.id === enrols)!.name
    const off = await rule(startsIt!, [{ kind: 'leave-course', courseId: id }], false)
    const third = createCourse(house, 'Third', 't')
    saveCourse(house, third, 'Third', { listId, wayInTagIds: [], again: 'once', onFinish: [{ kind: 'leave-course', courseId: id }], steps: [
      step('t', { kind: 'at-once' }, email('t', { body: { type: 'doc', content: [{ type: 'button', attrs: { label: 'More', url: 'https://saltmarsh.example.com/more', tagId: startsIt! } }] } })),
    ] })
    expect(doors()).toEqual({
      in: ['page Sheet kit', 'offer Long-Stitch Journals', 'link joins', `rule ${nameOfRule}`, 'course Third'],
      out: ['offer Long-Stitch Journals', 'link leaves', 'course Third'],
    })
    expect(nameOfRule).toContain('another')
    await rule(startsIt!, [{ kind: 'leave-course', courseId: id }], true, off)
    expect(courseView(house, id).doors.out.map(({ kind, id }) => `${kind} ${id}`)).toContain(`rule ${off}`)
    expect(courseView(house, id).doors.in.find(({ kind }) => kind === 'offer')!.id).toBe(offerId)
  })
})

describe('ways in', () => {
  it('a list joined starts it as a tag does; merging the list keeps it', async () => {
    const setting = await furnish(openHouse())
    const { house } = setting
    const clubId = saveList(house, null, { name: 'club', publicName: 'Club', description: 'A club.' })
    const otherId = saveList(house, null, { name: 'other club', publicName: 'Club', description: 'A club.' })
    const id = await course(setting, { wayInListIds: [clubId] })
    const [ada, bram] = [visit(house, 'ada@example.com'), visit(house, 'bram@example.com')]
    joinListByHand(house, ada, clubId)
    mergeLists(house, clubId, otherId)
    joinListByHand(house, bram, otherId)
    expect([status(house, ada, id), status(house, bram, id)]).toEqual([['open'], ['open']])
  })

  it('turns away who may not come in, says so, and lets them in when they may', async () => {
    const setting = await furnish(openHouse())
    const { house, interestId } = setting
    const doorId = saveTag(house, null, tag('door'))
    const entry: Condition = { kind: 'tag', tagId: interestId, since: null }
    const id = await course(setting, { wayInTagIds: [doorId], entry })
    const ada = visit(house, 'ada@example.com')
    giveTagByHand(house, ada, doorId)
    expect([status(house, ada, id), story(house, ada).at(-1)]).toEqual([[], 'came to the door of Second and stays as before: is not among those who may come in'])
    giveTagByHand(house, ada, interestId)
    expect(letIn(house, id, ada)).toBe('enrolled')
  })

  it.each([
    ['once', 'open', 1, 'has been through it, and it is once only'], ['after-ending', 'open', 1, null], ['always', 'open', 2, null],
  ] as const)('a second time, %s: while inside, and after the end', async (again, _, inside, turned) => {
    const setting = await furnish(openHouse())
    const { house } = setting
    const doorId = saveTag(house, null, tag('door'))
    const id = await course(setting, { wayInTagIds: [doorId], again })
    const ada = visit(house, 'ada@example.com')
    const knock = () => {
      giveTagByHand(house, ada, doorId)
      takeTagByHand(house, ada, doorId)
    }
    knock()
    await moveTo(house, thursdayNoon + HOUR)
    knock()
    expect(status(house, ada, id)).toEqual(inside === 1 ? ['open'] : ['left', 'open'])
    await moveTo(house, thursdayNoon + 10 * DAY)
    knock()
    expect(status(house, ada, id).length).toBe(turned ? 1 : inside + 1)
    if (turned) expect(story(house, ada)).toContain(`came to the door of Second and stays as before: ${turned}`)
    if (again === 'always') expect(story(house, ada)).toContain('left the course Second to begin anew')
  })
})

describe('ways out, and on', () => {
  it('by what happens, for the whole course or from a step on; what waits is withdrawn', async () => {
    const setting = await furnish(openHouse())
    const { house, interestId } = setting
    const doorId = saveTag(house, null, tag('door'))
    const id = await course(setting, { wayInTagIds: [doorId], waysOut: [{ id: 'w', when: { kind: 'got-tag', thingId: interestId }, fromStepId: 'c' }] })
    const [early, late] = [visit(house, 'e@example.com'), visit(house, 'l@example.com')]
    for (const person of [early, late]) giveTagByHand(house, person, doorId)
    await moveTo(house, thursdayNoon + HOUR)
    giveTagByHand(house, early, interestId)
    expect(status(house, early, id)).toEqual(['open'])
    await moveTo(house, thursdayNoon + 25 * HOUR)
    giveTagByHand(house, late, interestId)
    await moveTo(house, thursdayNoon + 10 * DAY)
    expect([sent(house, early, id).length, sent(house, late, id).length]).toEqual([3, 2])
    expect([status(house, late, id), story(house, late)]).toEqual([['left'], expect.arrayContaining(['left the course Second by a way out of it'])])
    // A way out that comes with a new version counts for who is inside.
    const other = visit(house, 'o@example.com')
    giveTagByHand(house, other, doorId)
    await change(house, id, { waysOut: [{ id: 'v', when: { kind: 'replied', thingId: null }, fromStepId: null }] })
    giveTagByHand(house, other, interestId)
    expect(status(house, other, id)).toEqual(['open'])
  })

  it('who bought is mailed no more of it, even at the very instant of an email', async () => {
    const setting = await furnish(openHouse())
    const { house } = setting
    const shop = await openShop(setting)
    const doorId = saveTag(house, null, tag('door'))
    const id = await course(setting, { wayInTagIds: [doorId], waysOut: [{ id: 'w', when: { kind: 'bought', thingId: shop.offerId }, fromStepId: null }] })
    const ada = visit(house, 'ada@example.com')
    giveTagByHand(house, ada, doorId)
    await moveTo(house, thursdayNoon + 24 * HOUR - 1)
    await buy(house, 'ada@example.com')
    await moveTo(house, thursdayNoon + 5 * DAY)
    expect(sent(house, ada, id)).toEqual(['a 2026-11-26 12:00'])
  })

  it('the end leads on: a tag, a list, another course', async () => {
    const setting = await furnish(openHouse())
    const { house, interestId, courseId } = setting
    const next = await course(setting, {})
    await change(house, courseId, { onFinish: [{ kind: 'give-tag', tagId: interestId }, { kind: 'enrol', courseId: next }] })
    const ada = visit(house, 'ada@example.com')
    await moveTo(house, thursdayNoon + 10 * DAY)
    expect(hasTag(house.db, interestId, ada)).toBe(true)
    expect(sent(house, ada)).toEqual(['one 2026-11-26 12:00', 'two 2026-11-27 12:00', 'three 2026-11-29 08:00', 'a 2026-11-29 08:00', 'b 2026-11-30 08:00', 'c 2026-12-01 08:00'])
  })
})

describe('starting with people outside', () => {
  const outside = async (include: Include, people = 5) => {
    const setting = await furnish(openHouse())
    const { house, tagId } = setting
    const ids: number[] = []
    for (let n = 0; n < people; n++) {
      ids.push(visit(house, `p${n}@example.com`))
      await moveTo(house, thursdayNoon + (n + 1) * 12 * HOUR)
    }
    const id = await course(setting, { wayInTagIds: [tagId] }, null)
    const outlook = startOutlook(house, id)
    await startCourse(house, id, include, people)
    await moveTo(house, thursdayNoon + 60 * DAY)
    return { ids, outlook, mails: ids.map(person => sent(house, person, id).map(one => one.slice(0, 12))), house, id }
  }

  it('spreads them evenly, in their order, each from the first step', async () => {
    const { mails, house, id } = await outside({ kind: 'spread', days: 5 })
    expect(mails.map(([first]) => first)).toEqual(['a 2026-11-30', 'a 2026-12-01', 'a 2026-12-02', 'a 2026-12-03', 'a 2026-12-04'])
    expect([mails.map(one => one.length), countComings(house.db, id).people, latestTasks(house.db, 1)[0]!.title]).toEqual([[3, 3, 3, 3, 3], 0, 'Let 5 people into Second'])
  })

  it('by the date they got it, each at the first step ahead, with their number before it is done', async () => {
    const { mails, outlook } = await outside({ kind: 'by-joining' })
    // At noon of the 29th the last came half a day ago, the first two and a half days ago: past the end.
    expect(outlook).toMatchObject({ total: 5, waiting: 5, byJoining: expect.arrayContaining([{ stepId: null, people: 2 }, { stepId: 'c', people: 2 }, { stepId: 'b', people: 1 }]) })
    expect(mails).toEqual([[], [], ['c 2026-11-29'], ['c 2026-11-30'], ['b 2026-11-29', 'c 2026-11-30']])
  })

  it('refuses another number than was seen, and lets nobody in', async () => {
    const setting = await furnish(openHouse())
    visit(setting.house, 'p@example.com')
    const id = await course(setting, { wayInTagIds: [setting.tagId] }, null)
    await expect(startCourse(setting.house, id, { kind: 'now' }, 7)).rejects.toThrow(/Meanwhile these are 1 person, not 7/)
    expect(findCourse(setting.house.db, id)!.status).toBe('draft')
  })

  it('a new end is for who has come to the old one, if that is said', async () => {
    const { house, courseId } = await furnish(openHouse())
    const [done, inside] = [visit(house, 'd@example.com'), 0]
    await moveTo(house, thursdayNoon + 5 * DAY)
    const { draft } = findCourse(house.db, courseId)!
    saveCourse(house, courseId, 'Fold', { ...draft, steps: [...draft.steps, step('four', hours(24))] })
    expect(changeOutlook(house, courseId)).toMatchObject({ inside, newEnd: { stepId: 'four', finished: 1 } })
    expect(await publishChanges(house, courseId, { goesOn: true })).toEqual({ moved: 0, goOn: 1 })
    await moveTo(house, thursdayNoon + 10 * DAY)
    // Its moment was past: it goes at once.
    expect(sent(house, done).at(-1)).toBe('four 2026-12-01 12:00')
    expect(status(house, done, courseId)).toEqual(['finished'])
  })
})

describe('people who come in by their date', () => {
  const birthday = async (everyMonths: number, ...days: number[]) => {
    const setting = await furnish(openHouse())
    const { house } = setting
    const fieldId = saveField(house, null, { name: 'birthday', label: 'Birthday', kind: 'date', choices: [] })
    const set = (person: number, date: string) => correctPerson(house, person, { firstName: '', country: null, zone: null, fields: { [fieldId]: date } } as never)
    const id = await course(setting, { dates: { fieldId, everyMonths }, steps: days.map((n, at) => step(`d${at}`, { kind: 'date-field', fieldId, days: n, time: '09:00', everyMonths: 0 })) }, null)
    return { ...setting, fieldId, set, id }
  }

  it('each return is a journey of its own, also where two overlap; a date given later counts, and one changed midway', async () => {
    const { house, set, id } = await birthday(1, -7, 28)
    const [ada, bram, cato] = ['ada', 'bram', 'cato'].map(name => visit(house, `${name}@example.com`))
    set(ada!, '2026-12-05')
    set(bram!, '2020-01-05')
    expect(startOutlook(house, id)).toMatchObject({ kind: 'by-date', people: 2 })
    await startCourse(house, id)
    await moveTo(house, thursdayNoon + DAY)
    set(cato!, '2026-12-10')
    await moveTo(house, Date.UTC(2026, 11, 8, 12))
    // Midway: the first letter is out, the second goes by the new date.
    set(cato!, '2026-12-12')
    await moveTo(house, Date.UTC(2027, 0, 20))
    expect(sent(house, ada!, id)).toEqual(['d0 2026-11-28 09:00', 'd0 2026-12-29 09:00', 'd1 2027-01-02 09:00'])
    expect(sent(house, bram!, id)).toEqual(['d0 2026-11-28 09:00', 'd0 2026-12-29 09:00', 'd1 2027-01-02 09:00'])
    expect(sent(house, cato!, id)).toEqual(['d0 2026-12-03 09:00', 'd0 2027-01-05 09:00', 'd1 2027-01-09 09:00'])
  })

  it('who comes no more when the date is not known any more; two records made one come once', async () => {
    const { house, set, id } = await birthday(12, -7, 0)
    const [ada, twin] = [visit(house, 'ada@example.com'), visit(house, 'twin@example.com')]
    for (const person of [ada, twin]) set(person, '1990-12-10')
    await startCourse(house, id)
    await moveTo(house, thursdayNoon + DAY)
    mergePeople(house, ada, twin, 'twin@example.com')
    await moveTo(house, Date.UTC(2026, 11, 5))
    set(ada, '')
    await moveTo(house, Date.UTC(2028, 0, 1))
    expect(sent(house, ada, id)).toEqual(['d0 2026-12-03 09:00'])
    expect(story(house, ada)).toContain('left the course Second because their date is not known any more')
  })

  it('nobody comes in by another way', async () => {
    const { house, set, id } = await birthday(12, 0)
    const ada = visit(house, 'ada@example.com')
    set(ada, '1990-12-10')
    await startCourse(house, id)
    expect(letIn(house, id, ada)).toBe('stays-out')
    expect(story(house, ada).at(-1)).toContain('people come into it by a date of theirs')
  })
})

describe('one person’s journey, by hand', () => {
  it('another step, a stop, the way out; who stands where, the longest first', async () => {
    const { house, courseId } = await furnish(openHouse(), () => [step('one', { kind: 'at-once' }), step('two', hours(24)), step('three', hours(24))])
    const [moved, still, out] = ['m', 's', 'o'].map(name => visit(house, `${name}@example.com`))
    await moveTo(house, thursdayNoon + HOUR)
    const row = (id: number) => enrolmentsOfPerson(house.db, id)[0]!.id
    movePerson(house, row(moved!), 'three')
    standStill(house, row(still!))
    takeOut(house, row(out!))
    expect(courseStanding(house, { courseId, stepId: null, from: 0 })).toMatchObject({ inside: 2, rows: [{ personId: still, stepId: 'two', dueAt: null, stillSince: thursdayNoon + HOUR }, { personId: moved, stepId: 'three' }] })
    await moveTo(house, thursdayNoon + 3 * DAY)
    goOnAgain(house, row(still!))
    await moveTo(house, thursdayNoon + 10 * DAY)
    // What is left of the wait runs on: 23 hours from going on.
    expect(sent(house, still!)).toEqual(['one 2026-11-26 12:00', 'two 2026-11-30 11:00', 'three 2026-12-01 11:00'])
    expect(sent(house, moved!)).toEqual(['one 2026-11-26 12:00', 'three 2026-11-27 13:00'])
    expect(sent(house, out!)).toEqual(['one 2026-11-26 12:00'])
    expect(() => movePerson(house, row(out!), 'two')).toThrow(/not in this course any more/)
  })
})
