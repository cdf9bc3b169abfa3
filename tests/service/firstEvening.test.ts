/** What a new workspace begins with: a page with the course that starts from it, and the list on Today that ticks itself. */
import { describe, expect, it } from 'vitest'
import { fitOf } from '#core/fit'
import { byUrgency } from '#core/urgency'
import type { Notice } from '#core/views/today'
import { emptyOutline } from '#core/sequence/outline'
import { allCourses, findCourse } from '#data/courses'
import { allLists, allTags, findTag } from '#data/marks'
import { allPages, findPage } from '#data/pages'
import { sayEvent } from '#core/events'
import { eventsOfPerson } from '#data/events'
import { emailsOfPerson } from '#data/outbox'
import { enrolmentsOfPerson } from '#data/enrolments'
import { leave } from '#usecases/arrive/leave'
import { makePageWithCourse } from '#usecases/arrive/pageWithCourse'
import { publishPage, savePage } from '#usecases/arrive/pages'
import { beginCourse } from '#usecases/courses/begin'
import { saveCourse } from '#usecases/courses/save'
import { startCourse } from '#usecases/courses/publish'
import { workspaceOf } from '#data/workspace'
import { saveSettings } from '#usecases/settings/workspace'
import { saveList } from '#usecases/know/listsAndTags'
import { noteRehearsed, showSetup } from '#usecases/settings/firstSteps'
import { nameOfSend } from '#usecases/inner/sendNames'
import { courseLines, courseView } from '#usecases/views/course'
import { coursesAhead } from '#usecases/views/coursesAhead'
import { forecast } from '#usecases/views/forecast'
import { weeksView } from '#usecases/views/weeks'
import { appendEvent } from '#data/events'
import { instantOf } from '#core/time/zone'
import { NO_TOUCH } from '#core/page/touch'
import { countVisits } from '#usecases/arrive/visits'
import { findAnything } from '#usecases/views/find'
import { todayView } from '#usecases/views/today'
import { InputProblem } from '#usecases/problem'
import { email, furnish, HOUR, moveTo, openContext, step, thursdayNoon, visit, DAY, type Workshop } from './workshop'

let ids = 0
const newId = () => `n${++ids}`
const outline = { kind: 'outline' as const, outline: { lines: emptyOutline(5), everyDays: 1, time: '08:00' } }

describe('a page and its course, made in one go', () => {
  it('are wired: who opts in is on the list, gets the tag, and gets the first email', async () => {
    const context = openContext()
    const { db } = context
    const { id, courseId } = makePageWithCourse(context, {
      page: { name: 'Sheet kit', beginning: 'email-course' }, course: { beginning: outline, listId: null },
    }, newId)
    const course = findCourse(db, courseId)!
    const page = findPage(db, id)!
    expect(course.draft.steps).toHaveLength(5)
    expect(page.draft.listIds).toEqual([course.draft.listId])
    expect(course.draft.wayInTagIds).toEqual([page.draft.tagIds.at(-1)])
    expect(findTag(db, course.draft.wayInTagIds[0]!)!.name).toBe('opted in: Sheet kit')
    // What is published and started as it was made brings the first email, once it is written.
    saveSettings(context, { ...workspaceOf(db), senderName: 'Ines', senderAddress: 'ines@saltmarsh.example.com', postalAddress: 'Lisboa' })
    savePage(context, id, { ...page, draft: { ...page.draft, confirming: { ...page.draft.confirming, who: 'nobody' } } })
    await publishPage(context, id)
    const steps = course.draft.steps.map(step => step.kind === 'email' ? { ...step, content: email('hello') } : step)
    saveCourse(context, courseId, course.name, { ...course.draft, steps })
    await startCourse(context, courseId, { kind: 'none' }, null)
    const person = visit(context, 'filipa@example.com')
    expect(enrolmentsOfPerson(db, person).map(one => one.courseId)).toEqual([courseId])
    await moveTo(context, thursdayNoon + DAY)
    expect(db.prepare('SELECT count(*) FROM mailbox').pluck().get()).toBe(2)
  })

  it('from a template still lead to nobody’s addresses, which live says at the course and practice does not', () => {
    for (const mode of ['live', 'practice'] as const) {
      const context = openContext({ mode, clock: { at: thursdayNoon } })
      const { courseId } = makePageWithCourse(context, {
        page: { name: 'Kit', beginning: null }, course: { beginning: { kind: 'template', key: 'five-days' }, listId: null },
      }, newId)
      const { examples, draft } = courseView(context, courseId)
      expect(examples.length > 0).toBe(mode === 'live')
      if (mode === 'practice') continue
      expect(examples[0]!.urls[0]).toMatch(/^https:\/\/saltmarsh\.example\.com\//)
      // Addresses of one’s own are no longer told.
      const own = JSON.parse(JSON.stringify(draft).replaceAll('saltmarsh.example.com', 'books.ines.pt')) as typeof draft
      saveCourse(context, courseId, 'Kit', own)
      expect(courseView(context, courseId).examples).toEqual([])
      // It is found in the list by what its emails say.
      expect(courseLines(context)[0]!.subjects).toContain('Fold once, then trust the grain')
    }
  })

  it('make a second pair beside the first without sharing a tag, on the list that is chosen', () => {
    const context = openContext()
    const listId = saveList(context, null, { name: 'letters', publicName: 'Letters', description: '', offered: true })
    const first = makePageWithCourse(context, { page: { name: 'Kit', beginning: null }, course: { beginning: outline, listId } }, newId)
    const second = makePageWithCourse(context, { page: { name: 'Kit', beginning: null }, course: { beginning: outline, listId } }, newId)
    const tagOf = (courseId: number) => findCourse(context.db, courseId)!.draft.wayInTagIds
    expect(tagOf(first.courseId)).not.toEqual(tagOf(second.courseId))
    expect(allLists(context.db)).toHaveLength(1)
  })

  it('take a finished course without the list and tags it would bring of its own', () => {
    const context = openContext()
    const { courseId } = makePageWithCourse(context, {
      page: { name: 'Kit', beginning: null }, course: { beginning: { kind: 'template', key: 'five-days' }, listId: null },
    }, newId)
    const { draft, name } = findCourse(context.db, courseId)!
    expect([name, draft.steps.length, draft.wayInTagIds.length]).toEqual(['Kit', 5, 1])
    expect(allLists(context.db).map(list => list.id)).toEqual([draft.listId])
    expect(allTags(context.db).map(tag => tag.name).sort())
      .toEqual(['likes: coptic', 'likes: long-stitch', 'likes: marbling', 'opted in: Kit', 'undecided'])
  })

  it('make nothing at all where a part of it cannot be', () => {
    const context = openContext()
    const made = () => [allPages, allCourses, allTags, allLists].map(all => all(context.db).length)
    const before = made()
    for (const [name, key, listId] of [['  ', 'five-days', null], ['Kit', 'no-such', null], ['Kit', 'five-days', 99]] as const) {
      expect(() => makePageWithCourse(context, {
        page: { name, beginning: null }, course: { beginning: { kind: 'template', key }, listId },
      }, newId)).toThrow()
    }
    expect(made()).toEqual(before)
    expect(() => beginCourse(context, ' ', outline, newId)).toThrow(InputProblem)
  })
})

describe('an email without a working title', () => {
  it('is called by its subject wherever it is told of', async () => {
    const { context, courseId } = await furnish(openContext(), () => [
      step('one', { kind: 'at-once' }, { ...email('x'), workingTitle: '', subject: [{ type: 'text', text: 'Fold once' }] }),
    ])
    const person = visit(context, 'ada@example.com')
    await moveTo(context, thursdayNoon + HOUR)
    expect(eventsOfPerson(context.db, person).map(sayEvent).join()).toContain('“Fold once”')
    expect(emailsOfPerson(context.db, person)[0]!.workingTitle).toBe('Fold once')
    expect(nameOfSend(context.db, { kind: 'course', ownerId: courseId, itemId: 'one' }).title).toBe('Fold once')
  })
})

describe('the first steps on Today', () => {
  const left = (context: Workshop, hasLive = false) =>
    todayView(context, null, hasLive).setup?.filter(({ done }) => !done).map(({ key }) => key) ?? null
  const to = (context: Workshop, key: string) => todayView(context).setup!.find(step => step.key === key)!.to

  it('tick one by one, in any order, each leads to where it is done, and go once all are done', async () => {
    const bare = openContext()
    expect(left(bare)).toEqual(['sender', 'page', 'list', 'course', 'tried', 'rehearsed', 'live'])
    expect(['sender', 'list', 'page', 'course'].map(key => to(bare, key)))
      .toEqual(['/settings?at=sender-name', '/tags-and-lists?at=new-list', '/pages?at=new-page', '/courses?at=new-course'])
    const { context, courseId } = await furnish(bare)
    expect(left(context)).toEqual(['tried', 'rehearsed', 'live'])
    expect(to(context, 'tried')).toMatch(/^http.*\/p\/sheet-kit$/)
    context.db.prepare(`UPDATE courses SET status = 'draft' WHERE id = ?`).run(courseId)
    expect([left(context)!.includes('course'), to(context, 'course')]).toEqual([true, `/courses/${courseId}?at=start`])
    context.db.prepare(`UPDATE courses SET status = 'running' WHERE id = ?`).run(courseId)
    noteRehearsed(context)
    visit(context, 'ada@example.com')
    expect([left(context), left(context, true)]).toEqual([['live'], null])
  })

  it('can be put away, and come back; what they ask for is then asked for by the list of what needs attention', () => {
    const context = openContext()
    const asks = () => todayView(context).needsAttention.map(({ title }) => title)
    expect(asks()).toEqual([])
    showSetup(context, true)
    expect([left(context), asks()]).toEqual([null, ['Say who the emails are from', 'Make a list']])
    showSetup(context, false)
    expect(left(context)).toHaveLength(7)
  })

  it('ask in live only for what live has', () => {
    expect(left(openContext({ mode: 'live', clock: { at: thursdayNoon } }))).toEqual(['sender', 'page', 'list', 'course'])
  })
})

describe('what needs attention', () => {
  const notice = (title: string, more: Partial<Notice>): Notice => ({ title, text: '', to: '/', action: 'Look', tone: 'plain', ...more })

  it('stands in the order in which it cannot wait', () => {
    expect(byUrgency([
      notice('a note', {}), notice('closes', { by: 9 }), notice('broken', { tone: 'trouble' }), notice('late', { tone: 'trouble', by: 5 }),
      notice('closes first', { by: 3 }), notice('another note', {}), notice('later', { tone: 'trouble', by: 7 }),
    ]).map(({ title }) => title)).toEqual(['late', 'later', 'broken', 'closes first', 'closes', 'a note', 'another note'])
  })
})

describe('the figures of 28 days', () => {
  it('are the sums of their days, which begin at midnight where the workspace is', async () => {
    const { context } = await furnish(openContext())
    const { db } = context
    const midnight = thursdayNoon - 12 * HOUR
    for (const [n, at] of [midnight - 1, midnight, midnight + HOUR, midnight - 27 * DAY, midnight - 27 * DAY - 1].entries()) {
      const id = visit(context, `p${n}@example.com`)
      db.prepare('UPDATE people SET created_at = ? WHERE id = ?').run(at, id)
    }
    const { figures } = todayView(context)
    expect(figures!.days).toHaveLength(28)
    expect([figures!.arrived28, figures!.days[0]!.arrived, figures!.days[26]!.arrived, figures!.days[27]!.arrived]).toEqual([4, 1, 1, 2])
    await moveTo(context, thursdayNoon + HOUR)
    leave(context, db.prepare<[], number>('SELECT min(id) FROM outbox').pluck().get()!, { what: 'everything' })
    expect(todayView(context).figures).toMatchObject({ left28: 1 })
  })
})

describe('finding anything', () => {
  it('names what has it in its name, the best first, with people after things, whatever the letters', async () => {
    const { context, courseId } = await furnish(openContext())
    visit(context, 'fold@example.com', 'Zoë')
    const names = (text: string) => findAnything(context, text).map(({ kind, name }) => `${kind} ${name}`)
    expect(names('FOLD')).toEqual(['course Fold, Sew, Cover', 'person Zoë'])
    expect(names('ZOË')).toEqual(['person Zoë'])
    expect(names('kit')).toContain('page Sheet kit')
    expect(findAnything(context, 'fold, sew, cover')[0]).toMatchObject({ kind: 'course', to: `/courses/${courseId}` })
    for (const odd of ['', '   ', '%', '(', '\\', 'no such thing', '🙂', 'x'.repeat(200)]) expect(names(odd), odd).toEqual([])
  })

  it('prefers the name to its beginning, that to a word, and that to a part of one', () => {
    const names = ['kit', 'kit, printed', 'sheet kit', 'kitten', 'a biskit', 'fold']
    expect(names.map(name => fitOf(name, 'kit'))).toEqual([0, 1, 2, 1, 3, null])
  })
})

describe('the last twelve weeks', () => {
  it('are weeks of the workspace’s days, the last of them today, through a change of the clocks', async () => {
    const { context, pageId } = await furnish(openContext())
    const { db } = context
    const day = (date: string, time = '00:00') => instantOf(date, time, 'Europe/Lisbon')
    // Twelve weeks back from Thursday 26 November begin on Friday 4 September; the clocks went back on 25 October.
    const times = [
      day('2026-09-04') - 1, day('2026-09-04'), day('2026-10-22', '23:59'), day('2026-10-23'),
      day('2026-11-19', '23:59'), day('2026-11-20'),
    ]
    for (const [n, at] of times.entries()) {
      const personId = visit(context, `w${n}@example.com`)
      appendEvent(db, 'opted-in', at, { personId, pageId })
    }
    const { firstDays, rows } = weeksView(context, 'page')
    expect([firstDays[0], firstDays.at(-1)]).toEqual(['2026-09-04', '2026-11-20'])
    // Each visit of this test opted in today, too.
    expect(rows).toEqual([{ id: pageId, counts: [1, 0, 0, 0, 0, 0, 1, 1, 0, 0, 1, 6] }])
    countVisits(context, [{ shown: { kind: 'page', id: pageId }, touch: NO_TOUCH, at: thursdayNoon, visits: 1 }])
    expect(weeksView(context, 'visit').rows).toEqual([{ id: pageId, counts: [0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 1] }])
  })

  it('of courses are their emails; people stand before the step that comes next, those in a way at its fork', async () => {
    const { context, courseId } = await furnish(openContext(), () => [
      step('one', { kind: 'at-once' }),
      { id: 'h', kind: 'hold', when: { kind: 'at-once' }, ifPast: 'at-once', zone: 'workspace', atMost: { count: 1, unit: 'days' },
        until: { kind: 'event', when: { kind: 'clicked', thingId: null } }, did: [],
        didNot: [step('again', { kind: 'elapsed', count: 2, unit: 'days', from: 'previous' })] },
      step('last', { kind: 'calendar-day', day: 5, time: '08:00', from: 'joining' }),
    ])
    for (const name of ['a', 'b', 'c']) visit(context, `${name}@example.com`)
    await moveTo(context, thursdayNoon + 30 * HOUR)
    visit(context, 'd@example.com')
    await moveTo(context, thursdayNoon + 31 * HOUR)
    const [course] = coursesAhead(context)
    expect(course!.steps.map(({ id, day, people }) => [id, day, people])).toEqual([['one', 0, 0], ['h', 0, 4], ['last', 5, 0]])
    expect(weeksView(context, 'course').rows).toEqual([{ id: courseId, counts: [0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 4] }])
    expect(course!.next).toMatchObject({ title: 'again', people: 3 })
    expect(course!.comingWeek).toBe(forecast(context, HOUR).reduce((sum, { people }) => sum + people, 0))
  })
})
