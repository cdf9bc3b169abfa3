/**
 * Courses: what is due among 250,000 standing enrolments, how fast it is done, what is forecast, a screen of forty steps, a
 * rehearsal.
 */
import { join } from 'node:path'
import { newEmail } from '#core/sequence/draft'
import { emailStep } from '#core/sequence/templates/template'
import { email } from '#core/sequence/templates/write'
import { readyReaders } from '#core/sequence/rehearsal'
import { DAY, HOUR, MINUTE } from '#core/time/zone'
import { findCourse } from '#data/courses'
import { nextDue } from '#data/due'
import { dueEnrolments } from '#data/enrolments'
import { openSendId } from '#data/sends'
import { rehearsalSandbox } from '#runtime/rehearsalSandbox'
import { startCourse } from '#usecases/courses/publish'
import { createCourse, saveCourse } from '#usecases/courses/save'
import { saveList } from '#usecases/know/listsAndTags'
import { rehearse } from '#usecases/practice/rehearse'
import { saveSettings } from '#usecases/settings/workspace'
import { doDueSteps } from '#usecases/time/dueStep'
import { calendarView } from '#usecases/views/calendar'
import { courseView } from '#usecases/views/course'
import { benchContext } from './context'
import { median, ms, ratio, timed } from './measure'

const STANDING = 250_000
const STEPS = 40
const TURNS = 9
/** As the engine does at a time. */
const BATCH = 200

export async function measureCourses(folder: string): Promise<string[]> {
  const context = benchContext(join(folder, 'courses.db'))
  const { db } = context
  saveSettings(context, {
    name: 'Big bindery', zone: 'Europe/Lisbon', senderName: 'Ines', senderAddress: 'ines@example.com', postalAddress: 'Rua 1',
    currency: 'EUR', smtpUrl: null,
  })
  const listId = saveList(context, null, { name: 'letters', publicName: 'Letters', description: 'Letters.' })
  const courseId = createCourse(context, 'Forty steps', 's0')
  saveCourse(context, courseId, 'Forty steps', { listId, wayInTagIds: [], again: 'once', steps: Array.from({ length: STEPS }, (
    _, n,
  ) => n === 0 ? { ...newEmail('s0', { kind: 'at-once' }), content: email('First', 'First', 'x', 'Hello {name|there}.') } : emailStep(
    `s${n}`, { kind: 'elapsed', count: 2, unit: 'days', from: 'previous' },
    email(`Letter ${n}`, `Letter ${n}`, 'x', `This is number ${n}.`),
  )) })
  await startCourse(context, courseId)
  const now = context.clock.now()
  const { versionId } = findCourse(db, courseId)!
  // Spread over eighty days, each at a minute of their own: no two stand quite alike.
  const before = db.prepare<[], number>('SELECT coalesce(max(id), 0) FROM events').pluck().get()!
  db.exec('CREATE TEMP TABLE done (k INTEGER PRIMARY KEY, steps TEXT)')
  for (let k = 0; k < STEPS - 2; k++) db.prepare('INSERT INTO done (k, steps) VALUES (?, ?)').run(
    k, JSON.stringify(Array.from({ length: k + 1 }, (_, n) => `s${n}`)),
  )
  db.exec(`WITH RECURSIVE n (i) AS (SELECT 1 UNION ALL SELECT i + 1 FROM n WHERE i < ${STANDING})
    INSERT INTO people (id, address, address_key, first_name, search_text, status, source, created_at) SELECT i, 'p' || i || '@example.com',
      'p' || i || '@example.com', '', 'p' || i || '@example.com', 'active', 'import', ${now} FROM n;
    INSERT INTO events (kind, at, person_id, course_id) SELECT 'enrolled', ${now}, id, ${courseId} FROM people ORDER BY id;
    INSERT INTO enrolments (course_id,
      person_id, visit, version_id, status, joined_at, previous_at, step_id, due_at, hops, done_steps, own_act, event_id)
      SELECT ${courseId}, id, 1, ${versionId}, 'open', ${now} - (id * 7919 % ${80 * DAY / MINUTE}) * ${MINUTE},
        ${now} - (id * 104729 % ${2 * DAY / 1000}) * 1000, 's' || (1 + id % ${STEPS - 2}),
          ${now} + ${2 * DAY} - (id * 104729 % ${2 * DAY / 1000}) * 1000, 0,
        steps, 0, ${before} + id FROM people JOIN done ON done.k = people.id % ${STEPS - 2}`)
  db.exec('ANALYZE')

  const finding = median(Array.from({ length: TURNS }, () => timed(() => {
    nextDue(db)
    dueEnrolments(db, now + HOUR, BATCH)
  }).ms))
  const forecast = median(Array.from({ length: 3 }, () => timed(() => calendarView(context)).ms))
  const screen = median(Array.from({ length: TURNS }, () => timed(() => courseView(context, courseId)).ms))
  const readers = readyReaders({ date: '2024-11-05', time: '12:00' }, null, null)
  const sandbox = rehearsalSandbox({
    port: 3000, data: folder, password: null, baseUrl: 'http://localhost:3000', smtpUrl: null, host: '127.0.0.1', proxies: 0,
  }, { session: '', signing: Buffer.from('a signing key for benchmarks, 32') })
  const rehearsals: number[] = []
  for (let n = 0; n < TURNS; n++) {
    const before = performance.now()
    await rehearse(context, { courseId, readers: [readers[0]!] }, sandbox)
    rehearsals.push(performance.now() - before)
  }

  // Turn and turn about: a batch of ours, a batch of the bare statements on others who are due.
  const bare = bareSteps(context.db, courseId, versionId!, listId)
  const [ours, theirs]: [number[], number[]] = [[], []]
  for (let n = 0; n < 40; n++) {
    ours.push(timed(() => doDueSteps(context, now + DAY)).ms)
    theirs.push(timed(() => bare(now + DAY)).ms)
  }
  const perSecond = (times: number[]) => Math.round(BATCH * 1000 / median(times)).toLocaleString('en-GB')
  db.close()
  return [
    `${STANDING.toLocaleString('en-GB')} enrolments are in a course of ${STEPS} steps. What is due is found in ${ms(finding)} ms (promised: under 5). The coming 28 days are forecast in ${ms(forecast)} ms (promised: under 1,000). The course’s screen takes ${ms(screen)} ms (promised: under 1,000). A rehearsal of 90 days, with all its emails opened and followed, takes ${ms(median(rehearsals))} ms (promised: under 300).`,
    `Due steps done a second: ${perSecond(ours)}, by the bare statements ${perSecond(theirs)}: ${ratio(median(theirs) / median(ours))} of what they reach (promised: at least 0.60).`,
  ]
}

/** The same reading and writing, by hand: who is due, an email each, the move to the next step, in one transaction. */
function bareSteps(
  db: ReturnType<typeof benchContext>['db'], courseId: number, versionId: number, listId: number,
): (until: number) => void {
  const messages = new Map(db.prepare<[], { id: number, stepId: string }>('SELECT id, item_id AS stepId FROM messages').all()
    .map(({ id, stepId }) => [stepId, id]))
  const sends = new Map([...messages.keys()].map(itemId => [itemId, openSendId(db, { kind: 'course', ownerId: courseId, itemId })]))
  const due = db.prepare<[number, number], { id: number, personId: number, stepId: string, dueAt: number, done: string, eventId: number }>(`
    SELECT id, person_id AS personId, step_id AS stepId, due_at AS dueAt, done_steps AS done, event_id AS eventId FROM enrolments
    WHERE due_at IS NOT NULL AND due_at <= ? ORDER BY due_at, id LIMIT ?`)
  const mail = db.prepare(`
    INSERT INTO outbox (send_id,
      kind, owner_id, person_id, item_id, occasion, message_id, enrolment_id, list_id, asked_for, cause_id, planned_at, go_at)
    VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)`)
  const move = db.prepare('UPDATE enrolments SET version_id = ?, previous_at = ?, step_id = ?, due_at = ?, done_steps = ? WHERE id = ?')
  return db.transaction((until: number) => {
    for (const row of due.all(until, BATCH)) {
      mail.run(
        sends.get(row.stepId), 'course', courseId, row.personId, row.stepId, '1', messages.get(row.stepId), row.id, listId, 0, row.eventId,
        row.dueAt, row.dueAt,
      )
      move.run(
        versionId, row.dueAt, `s${Number(row.stepId.slice(1)) + 1}`, row.dueAt + 2 * DAY, `${row.done.slice(0, -1)},"${row.stepId}"]`,
        row.id,
      )
    }
  }).immediate
}
