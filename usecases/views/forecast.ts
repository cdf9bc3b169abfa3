/** What will go out, as far as is decided by where everybody stands now. */
import { joining, sendsUntil } from '#core/sequence/dates'
import { allSteps, type Program, type Step } from '#core/sequence/program'
import { ALWAYS, type WeekHours } from '#core/time/hours'
import type { Instant } from '#core/time/zone'
import { DAY, MINUTE } from '#core/time/zone'
import type { ComingSend } from '#core/views/frame'
import type { Database } from '#data/connection'
import { readTogether } from '#data/connection'
import { programOfVersion, runningCourses } from '#data/courses'
import { comingsUntil } from '#data/doors'
import { plansStamp } from '#data/due'
import { standingsDueBy } from '#data/enrolments'
import { emailsWaiting } from '#data/outbox'
import type { House } from '../house'
import { dateFieldsRunning, dateOfStanding, houseFacts } from '../inner/enrolments'
import { sharesSoFar } from '../inner/shares'

/** How far ahead it is looked. */
export const FORECAST_DAYS = 7

/** `people` is what is expected, in parts of people where it is open which way they take. */
interface Send { courseId: number, stepId: string, at: Instant, people: number }

interface Reckoned { minute: number, stamp: string, sends: Send[], tookMs: number, doneAtMs: number }

/** The last sends reckoned per database: every open screen asks every few seconds, and mostly nothing has changed. */
const lastReckoned = new WeakMap<Database, Reckoned>()

/** While much happens at once to very many, what takes this long is reckoned anew only after some rest. */
const DEAR_MS = 250
const REST = 3

const isGood = (last: Reckoned, minute: number, stamp: string) =>
  last.minute === minute && (last.stamp === stamp || (last.tookMs > DEAR_MS && performance.now() - last.doneAtMs < REST * last.tookMs))

/** Coming emails of the next seven days, gathered per step within stretches of `stretch` milliseconds counted from now; `at` is the earliest of each. */
export function forecast(house: House, stretch: number): ComingSend[] {
  const now = house.clock.now()
  const gathered = new Map<string, ComingSend>()
  for (const { courseId, stepId, at: plannedAt, people } of comingSends(house, now)) {
    const at = Math.max(plannedAt, now)
    const key = `${courseId}/${stepId}/${Math.floor((at - now) / stretch)}`
    const known = gathered.get(key)
    if (known) Object.assign(known, { at: Math.min(known.at, at), people: known.people + people })
    else gathered.set(key, { kind: 'course', courseId, stepId, at, people })
  }
  // Parts of people, where it is open which way they take, are told as whole ones once they are gathered.
  for (const [key, send] of gathered) {
    send.people = Math.round(send.people)
    if (send.people === 0) gathered.delete(key)
  }
  return [...gathered.values()].sort((a, b) => a.at - b.at || b.people - a.people)
}

/** Told of everything that will go out until `until`, as far as it is decided by where everybody stands, and by who is on their way in. */
export function eachSend(db: Database, until: Instant, add: (courseId: number, stepId: string, at: Instant, people: number, spread: number) => void): void {
  const house = houseFacts(db)
  const shares = sharesSoFar(db)
  for (const { courseId, stepId, at, people } of emailsWaiting(db, until)) add(courseId, stepId, at, people, 0)
  // What they were sent is one list for all who were sent the same.
  const alike = new Map<readonly string[], Map<string, { stepId: string, after: number, part: number }[]>>()
  for (const row of standingsDueBy(db, until, dateFieldsRunning(db))) {
    const program = programOfVersion(db, row.versionId)
    const facts = { ...house, personZone: row.personZone, dateOf: dateOfStanding(row, program) }
    if (row.heldSince === null && row.dueAt !== null && goesByTheClockAlone(program, facts)) {
      // Wherever they stand in time, what comes comes as long after the step they stand before: reckoned once for all who stand there.
      let known = alike.get(row.doneStepIds)
      if (!known) alike.set(row.doneStepIds, known = new Map())
      const key = `${row.versionId}/${row.stepId}`
      let coming = known.get(key)
      if (!coming) known.set(key, coming = sendsUntil(program, row, row.dueAt + (until - row.dueAt) * 2 + FARTHEST, facts, shares).map(({ stepId, plannedAt, part }) => ({ stepId, after: plannedAt - row.dueAt!, part })))
      for (const { stepId, after, part } of coming) if (row.dueAt + after <= until) add(row.courseId, stepId, row.dueAt + after, row.people * part, row.people * part * (1 - part))
      continue
    }
    for (const { stepId, plannedAt, part } of sendsUntil(program, row, until, facts, shares)) add(row.courseId, stepId, plannedAt, row.people * part, row.people * part * (1 - part))
  }
  const running = new Map(runningCourses(db).map(({ id, versionId }) => [id, versionId]))
  for (const { courseId, dueAt, occursOn, personZone, people } of comingsUntil(db, until)) {
    const versionId = running.get(courseId)
    if (versionId === undefined) continue
    const program = programOfVersion(db, versionId)
    const facts = { ...house, personZone, dateOf: dateOfStanding({ occursOn, dateOf: () => null }, program) }
    for (const { stepId, plannedAt, part } of sendsUntil(program, joining(program, dueAt, facts), until, facts, shares)) add(courseId, stepId, plannedAt, people * part, people * part * (1 - part))
  }
}

/** Farther ahead than anybody looks. */
const FARTHEST = 40 * DAY

const clockAlone = new WeakMap<Program, boolean>()

/** Whether no step of a program asks for a calendar, a date or an hour: only for so much time since the step before. */
function goesByTheClockAlone(program: Program, { hours }: { hours: WeekHours }): boolean {
  if (hours !== ALWAYS || program.hours) return false
  let is = clockAlone.get(program)
  if (is === undefined) clockAlone.set(program, is = allSteps<Step>(program.steps).every(({ when }) => when.kind === 'at-once' || (when.kind === 'elapsed' && when.from === 'previous')))
  return is
}

function comingSends({ db }: House, now: Instant): Send[] {
  return readTogether(db, () => {
    const [minute, stamp, before] = [Math.floor(now / MINUTE), plansStamp(db), performance.now()]
    const last = lastReckoned.get(db)
    if (last && isGood(last, minute, stamp)) return last.sends
    const sends: Send[] = []
    eachSend(db, now + FORECAST_DAYS * DAY, (courseId, stepId, at, people) => sends.push({ courseId, stepId, at, people }))
    lastReckoned.set(db, { minute, stamp, sends, tookMs: performance.now() - before, doneAtMs: performance.now() })
    return sends
  })
}
