/**
 * Every view that a screen asks for, on generated workspaces that hold every
 * kind of when, step, way in, rule, page and offer, with people in every
 * state: none throws, and none contradicts another.
 */
import fc from 'fast-check'
import { expect, it } from 'vitest'
import { EVERYBODY } from '#core/audience/condition'
import { RULE_TEMPLATES, ruleOfTemplate } from '#core/rules/templates'
import type { DraftStep } from '#core/sequence/draft'
import { readyReaders } from '#core/sequence/rehearsal'
import { daily } from '#core/time/hours'
import type { Timing } from '#core/time/when'
import { addDays, localOf } from '#core/time/zone'
import { countInside, courseCounts } from '#data/enrolments'
import { allCourses } from '#data/courses'
import { allLinks } from '#data/links'
import { allRules } from '#data/rules'
import { rehearsalSandbox } from '#runtime/rehearsalSandbox'
import { AGAIN_WITHOUT } from '#core/broadcast/again'
import { newBroadcast } from '#core/broadcast/draft'
import { SPLITS } from '#core/views/broadcastResults'
import { SLOW_VIEWS, type SlowView } from '#server/reader/views'
import { createPage } from '#usecases/arrive/pages'
import { leave } from '#usecases/arrive/leave'
import { createCourse, saveCourse } from '#usecases/courses/save'
import { startCourse } from '#usecases/courses/publish'
import { standStill } from '#usecases/courses/people'
import type { WorkspaceContext } from '#usecases/context'
import { changeStatus } from '#usecases/inner/facts/marks'
import { transact } from '#usecases/inner/reactor/transaction'
import { correctPerson } from '#usecases/know/byHand'
import { saveField } from '#usecases/know/fields'
import { saveTag } from '#usecases/know/listsAndTags'
import { saveRule } from '#usecases/know/rules'
import { receiveImport } from '#usecases/know/importFile'
import { saveSendingHours } from '#usecases/settings/hours'
import { emailsOfPerson } from '#data/outbox'
import { openEnrolmentsOfPerson } from '#data/enrolments'
import { calendarView } from '#usecases/views/calendar'
import { railView } from '#usecases/views/frame'
import { WEEKLY_KINDS } from '#core/views/weeks'
import { todayView } from '#usecases/views/today'
import { subscribersCount } from '#usecases/views/subscribers'
import { NOT_NARROWED } from '#usecases/inner/narrowing'
import { sendBroadcast } from './broadcasting'
import { everyPage } from '../everyPage'
import { buy, openShop } from './shop'
import { temporaryFolder } from '../temporary'
import { email, furnish, HOUR, moveTo, openContext, step, tag, visit, type Workshop } from './workshop'

const sandbox = rehearsalSandbox({
  port: 3000, data: temporaryFolder(), password: null, baseUrl: 'http://localhost:3000', smtpUrl: null, host: '127.0.0.1', proxies: 0,
}, { session: '', signing: Buffer.from('a signing key for tests only, 32') })
const everybody = NOT_NARROWED

/** Every kind of when there is; `field` stands for the date field. */
const TRIGGERS = (field: number): Timing[] => [
  { kind: 'at-once' }, { kind: 'elapsed', count: 5, unit: 'hours', from: 'previous' },
  { kind: 'elapsed', count: 9, unit: 'days', from: 'joining' }, { kind: 'calendar-day', day: 0, time: '08:00', from: 'previous' },
  { kind: 'calendar-day', day: 3, time: '06:15', from: 'joining' }, { kind: 'months', count: 1, time: '10:00', from: 'joining' },
  { kind: 'next-time', time: '18:00' }, { kind: 'next-weekday', weekday: 2, time: '09:10' },
  { kind: 'date', date: '2026-12-20', time: '10:00' }, { kind: 'date-field', fieldId: field, days: -3, time: '09:00', everyMonths: 0 },
  { kind: 'date-field', fieldId: field, days: 0, time: '09:00', everyMonths: 12 },
  { kind: 'date-field', fieldId: field, days: 0, months: 6, time: '18:00', everyMonths: 0 },
  { kind: 'date-field', fieldId: field, days: 1, time: '07:00', everyMonths: 6, fromFirst: true },
]

interface Sketch {
  kind: 'email' | 'empty' | 'hold' | 'fork' | 'do' | 'jump' | 'end', when: number, ifPast: 'at-once' | 'skip',
  zone: 'workspace' | 'subscriber', paused: boolean,
}
const anySketch: fc.Arbitrary<Sketch> = fc.record({
  kind: fc.constantFrom<Sketch['kind']>('email', 'email', 'email', 'empty', 'hold', 'fork', 'do', 'jump', 'end'), when: fc.nat(12),
  ifPast: fc.constantFrom('at-once', 'skip'), zone: fc.constantFrom('workspace', 'subscriber'), paused: fc.nat(9).map(n => n === 0),
})

function stepsOf(sketches: Sketch[], field: number, tagId: number): DraftStep[] {
  return sketches.map(({ kind, when, ifPast, zone, paused }, n): DraftStep => {
    const base = { id: `s${n}`, when: TRIGGERS(field)[when]!, ifPast, zone, ...paused && { paused } }
    const inner = (id: string) => [step(id, { kind: 'elapsed', count: 2, unit: 'hours', from: 'previous' })]
    switch (kind) {
      case 'email': return { ...base, kind: 'email', content: email(base.id) }
      case 'empty': return { ...base, kind: 'email', content: email(base.id, { subject: [] }) }
      case 'hold': return {
        ...base, kind: 'hold', until: { kind: 'condition', who: { kind: 'all', of: [{ kind: 'tag', tagId, since: null }] } },
        atMost: { count: 3, unit: 'days' }, did: inner(`d${n}`), didNot: inner(`n${n}`),
      }
      case 'fork': return {
        ...base, kind: 'fork', ways: [{ id: 'w', who: { kind: 'all', of: [{ kind: 'tag', tagId, since: null }] }, steps: inner(`w${n}`) }],
        otherwise: inner(`o${n}`),
      }
      case 'do': return { ...base, kind: 'do', then: [{ kind: 'score', points: 1 }, { kind: 'notice', text: 'reached', email: 'daily' }] }
      // Always some time, so that it can be started.
      case 'jump': return { ...base, kind: 'jump', toId: 's0', when: { kind: 'elapsed', count: 3, unit: 'days', from: 'previous' } }
      case 'end': return { ...base, kind: 'end' }
    }
  })
}

/** What each view is asked; several questions for some. */
const QUESTIONS: Record<SlowView, (
  context: Workshop, ids: { courseIds: number[], pageId: number, offerId: number, importId: number, tagId: number },
) => unknown[]> = {
  subscribers: () => [{ search: '', ...everybody, sort: 'newest', page: 0 }],
  subscribersCount: () => [{ search: '', ...everybody }, { search: 'p', ...everybody, status: 'resting' }],
  audience: (_, { tagId }) => [{ condition: { kind: 'all', of: [{ kind: 'tag', tagId, since: null }] }, segmentId: null }],
  audienceMore: () => [{ condition: EVERYBODY, segmentId: null }],
  howMany: (_, { courseIds, tagId }) => [
    { kind: 'picked', ids: [1, 2] },
    { kind: 'fitting', search: 'p', condition: { kind: 'all', of: [{ kind: 'tag', tagId, since: null }] } },
    ...courseIds.map(courseId => ({ kind: 'outside', courseId })),
  ],
  emailVersions: (_, { courseIds, tagId }) => courseIds.map(ownerId => ({
    content: email('s0', { body: { type: 'doc', content: [{ type: 'onlyFor', content: [
      { type: 'case', attrs: { who: { kind: 'tag', tagId, since: null } }, content: [{ type: 'paragraph' }] },
    ] }] } }), listId: null, kind: 'course', ownerId, stepId: 's0',
  })),
  answers: (_, { courseIds }) => [{ of: { kind: 'course', ownerId: courseIds[0]!, itemId: 's0' }, labels: ['one', 'two'] }],
  emailLibrary: () => [undefined], pastSubjects: () => [undefined],
  lacking: () => [{ field: 'first_name', fieldId: null, listId: null }],
  idsToExport: () => [{ search: '', narrowing: everybody, ids: null }],
  importPlan: (_, { importId }) => [{ id: importId, spec: {
    columns: [{ target: { kind: 'address' }, dateOrder: 'day-month-year' }], listIds: [], tagIds: [], source: 'fair', starts: false,
    known: 'keep', consent: { kind: 'given', origin: 'fair', wording: 'Letters', date: '2026-05-02' },
  } }],
  frame: () => [undefined], rail: () => [undefined], today: () => [false], find: () => ['p', 'sheet'],
  weeks: () => [...WEEKLY_KINDS], coursesAhead: () => [undefined], courses: () => [undefined],
  course: (_, { courseIds }) => courseIds, engine: () => [undefined],
  broadcastResults: () => [1], broadcastSplit: () => SPLITS.map(by => ({ id: 1, by })),
  againReach: () => AGAIN_WITHOUT.map(without => ({ id: 1, spec: { without, url: 'https://example.com/a', uncertainToo: false } })),
  broadcastWho: () => ['sent', 'held-newcomer', 'bought', 'complained', 'link-0'].map(key => ({ id: 1, key, within: null, from: 0 })),
  broadcasts: () => [undefined],
  broadcastReach: () => [{ id: 1, draft: newBroadcast(1) }, {
    id: 1, draft: { ...newBroadcast(1), when: { kind: 'at', date: '2026-12-01', time: '08:00', zone: 'reader' }, spreadHours: 3 },
  }],
  courseStanding: (_, { courseIds }) => courseIds.map(courseId => ({ courseId, stepId: null, from: 0 })),
  courseNumbers: (_, { courseIds }) => courseIds,
  whoBehind: (_, { courseIds }) => courseIds.map(courseId => ({ courseId, asked: { after: null, end: 'inside' }, from: 0 })),
  calendar: () => [undefined], rehearsal: (_, { courseIds }) => courseIds.slice(0, 1)
    .map(courseId => ({ courseId, readers: readyReaders({ date: '2026-12-01', time: '10:00' }, null, null).slice(0, 1) })),
  keptRehearsals: (_, { courseIds }) => courseIds.slice(0, 1), startOutlook: (_, { courseIds }) => courseIds, changeOutlook: (context, {
    courseIds,
  }) => courseIds.filter(id => allCourses(context.db).find(course => course.id === id)!.versionId !== null),
  pages: () => [undefined], pageResults: (_, { pageId }) => [{ id: pageId, days: 28 }], lists: () => [undefined], tags: () => [undefined],
  conditionParts: () => [undefined],
  ending: (context, { courseIds, pageId, tagId }) => [{ kind: 'tag', id: tagId }, {
    kind: 'page', id: pageId,
  }, ...courseIds.map(id => ({ kind: 'course', id })), ...allRules(context.db).map(({ id }) => ({ kind: 'rule', id }))],
  rules: () => [undefined], desk: () => [undefined], hooks: () => [undefined], links: () => [undefined],
  link: context => allLinks(context.db).slice(0, 3).map(({ id }) => ({ id, days: 28 })),
  rule: context => allRules(context.db).map(({ id }) => id), ruleParts: () => [undefined], sources: () => [{ months: 6 }],
  offers: () => [undefined],
  offerSales: (_, { offerId }) => [{ id: offerId, days: 90, state: 'all', couponId: null, source: null, email: null, page: 0 }],
}

it('A6, A7: every view answers, and they agree, on whatever there is', async () => {
  const asked = new Set<string>()
  await fc.assert(fc.asyncProperty(fc.array(
    fc.array(anySketch, { minLength: 1, maxLength: 5 }), { minLength: 2, maxLength: 3 },
  ), fc.array(fc.integer({ min: 1, max: 300 }), { minLength: 2, maxLength: 5 }), fc.boolean(), async (sketches, moves, narrow) => {
    const context = openContext()
    const setting = await furnish(context)
    const { listId, tagId, interestId, pageId } = setting
    const fieldId = saveField(context, null, { name: 'birthday', label: 'Birthday', kind: 'date', choices: [] })
    const { offerId } = await openShop(setting)
    const other = createPage(context, 'Every kind of section')
    // It names things that no longer exist, as a page can that was written long ago.
    context.db.prepare('UPDATE pages SET draft = ? WHERE id = ?').run(JSON.stringify(everyPage('words')), other)
    const courseIds = [setting.courseId]
    for (const [n, sketch] of sketches.entries()) {
      const byDate = n === 1
      const id = createCourse(context, `Course ${n}`, 's0')
      const own = saveTag(context, null, tag(`starts ${n}`))
      // The first thing is an email that is written, or goes by the date people come in by.
      const [first, ...rest] = stepsOf(sketch, fieldId, interestId)
      const begins = step(
        's0', byDate ? { kind: 'date-field', fieldId, days: -2, time: '08:00', everyMonths: 0 } : first!.when, email('s0'),
        { ifPast: first!.ifPast },
      )
      saveCourse(context, id, `Course ${n}`, {
        listId, wayInTagIds: byDate ? [] : [tagId, own], again: 'after-ending', steps: [begins, ...rest],
        ...byDate && { dates: { fieldId, everyMonths: 12 } },
        waysOut: [{ id: 'w', when: { kind: 'bought', thingId: offerId }, fromStepId: null }], onFinish: [{ kind: 'score', points: 5 }],
      })
      courseIds.push(id)
      // One stays a draft.
      if (n < 2) await startCourse(context, id)
    }
    for (const template of RULE_TEMPLATES) {
      if (template.needs.includes('link')) continue
      await saveRule(context, null, {
        ...ruleOfTemplate(template, { pageId, tagId, listId, linkId: 0, offerId, courseId: setting.courseId, sourceWord: null }), on: true,
      }, true).catch(() => {})
    }
    if (narrow) saveSendingHours(context, daily([1, 2, 3, 4, 5], '08:00', '18:00'))
    const importId = await receiveImport(context, {
      fileName: 'a.csv', bytes: Buffer.from('email\nx@example.com\n'), encoding: null, delimiter: null,
    })
    const people = Array.from({
      length: 8,
    }, (_, n) => visit(context, `p${n}@example.com`, n % 2 ? 'Ada' : '', ['', 'Asia/Kathmandu', 'America/New_York'][n % 3]))
    for (const [n, id] of people.entries()) if (n % 2) correctPerson(context, id, {
      firstName: 'Ada', country: n % 3 ? 'PT' : null, zone: null,
      fields: { [fieldId]: ['1990-12-20', '2000-02-29', '2026-11-28', '1985-06-15'][n % 4]! },
    } as never)
    await sendBroadcast(context, listId, { spreadHours: 5 })
    for (const [n, hours] of moves.entries()) {
      await moveTo(context, context.clock.now() + hours * HOUR)
      const id = people[n]!
      const journey = openEnrolmentsOfPerson(context.db, id)[0]
      if (n === 0 && journey) standStill(context, journey.id)
      if (n === 1) {
        transact(context, () => changeStatus(context.db, id, 'put-to-rest', { at: context.clock.now(), causeId: null, ownAct: false }))
      }
      if (n === 2) leave(context, emailsOfPerson(context.db, id)[0]!.id, { what: 'everything' })
      if (n === 3) await buy(context, `p${n}@example.com`)
      await askAll(context, { courseIds, pageId, offerId, importId, tagId: interestId }, asked)
      agree(context)
    }
    context.db.close()
  }), { numRuns: 12 })
  expect([...asked].sort()).toEqual(Object.keys(SLOW_VIEWS).sort())
})

async function askAll(context: Workshop, ids: Parameters<typeof QUESTIONS.rail>[1], asked: Set<string>): Promise<void> {
  const troubles: string[] = []
  context.trouble = (what, error) => troubles.push(`${what}: ${(error as Error).message}`)
  for (const view of Object.keys(SLOW_VIEWS) as SlowView[]) {
    for (const question of QUESTIONS[view](context, ids)) {
      asked.add(view)
      const ask = SLOW_VIEWS[view] as (context: WorkspaceContext, input: unknown, sandbox: unknown) => unknown
      try {
        await ask(context, question, sandbox)
      }
      catch (error) {
        throw new Error(`${view} of ${JSON.stringify(question)}: ${(error as Error).message}`, { cause: error })
      }
    }
  }
  expect(troubles).toEqual([])
}

/** The same thing told by two views is told alike. */
function agree(context: Workshop): void {
  const { db } = context
  const now = context.clock.now()
  const rail = railView(context)
  const today = todayView(context)
  const calendar = calendarView(context)
  expect(rail.posts).not.toBeNull()
  expect(today.figures!.active).toBe(subscribersCount(context, { search: '', ...everybody, status: 'active' }).total)
  for (const { id } of allCourses(db)) expect(courseCounts(db, id).get(id)?.inside ?? 0).toBeLessThanOrEqual(countInside(db, id))
  // What the rail shows of the days that both show whole, the calendar shows, too.
  const postsOf = (from: number, to: number) => rail.posts!.filter(({ at }) => at >= from && at < to)
  const zone = rail.zone
  for (const day of calendar.days.slice(1, 6)) {
    const next = calendar.days.find(({ date }) => date === addDays(day.date, 1))!
    const posts = postsOf(day.at, next.at)
    // Behind a fork each post is rounded by itself: half a person that may go either way stands as one in both.
    const most = Math.max(1, posts.length / 2)
    expect(
      Math.abs(posts.reduce((total, { people }) => total + people, 0) - day.people), `${day.date} at ${localOf(now, zone).date}`
    ).toBeLessThanOrEqual(most)
  }
}
