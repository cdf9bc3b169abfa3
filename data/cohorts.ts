/** Where people inside courses stand, gathered where they stand alike: for reckoning ahead. */
import { within } from '#core/maps'
import type { Cohort } from '#core/sequence/ahead'
import type { Enrolment } from '#core/sequence/journey'
import type { DateOf } from '#core/time/when'
import type { Instant, LocalDate, ZoneName } from '#core/time/zone'
import type { Database } from './connection'
import { prepare } from './connection'

/** What the dates of somebody inside a course depend on besides where they stand. */
interface Besides {
  /** Their own zone where it is known. */
  personZone: ZoneName | null
  /** What date fields hold, of those that were asked for. */
  dateOf: DateOf
  /** Of a course of dates: which return of their date this is. */
  occursOn: LocalDate | null
}

/** Where people inside stand who stand alike. */
export interface CourseCohort extends Enrolment, Besides {
  courseId: number
  versionId: number
  people: number
}

interface RawCohort extends Omit<CourseCohort, 'status' | 'doneStepIds' | 'ownAct' | 'dateOf'> {
  doneStepIds: string, ownAct: 0 | 1, dateOf: string | null,
}

/** What date fields hold, by their ids. */
type Dates = Record<string, LocalDate>

/** What the fields of a person hold that are asked for, as JSON. */
const DATES =
  `(SELECT json_group_object(field_id, value) FROM field_values v WHERE v.person_id = enrolments.person_id
    AND v.field_id IN (SELECT value FROM json_each(@fields)))`
const ZONE = '(SELECT zone FROM people WHERE people.id = enrolments.person_id)'

/** `fields`: the date fields that the dates may depend on. */
export function cohortsOfCourse(db: Database, courseId: number, fields: readonly number[]): CourseCohort[] {
  const done = doneReader()
  return prepare<RawCohort>(db, `
    SELECT course_id AS courseId, version_id AS versionId, joined_at AS joinedAt, previous_at AS previousAt, still_ms AS stillMs,
      step_id AS stepId, due_at AS dueAt, held_since AS heldSince, limit_at AS limitAt, hops,
      paused_at AS pausedAt, resumed_at AS resumedAt, done_steps AS doneStepIds, own_act AS ownAct, ${ZONE} AS personZone,
        occurs_on AS occursOn, CASE WHEN @fields = '[]' THEN NULL ELSE ${DATES} END AS dateOf, count(*) AS people
    FROM enrolments WHERE course_id = @courseId AND status = 'open'
    GROUP BY courseId, versionId, joinedAt, previousAt, stillMs, stepId, dueAt, heldSince, limitAt, hops, pausedAt, resumedAt, doneStepIds,
      ownAct, occursOn, personZone, dateOf ORDER BY dueAt`)
    .all({ courseId, fields: JSON.stringify(fields) })
    .map(row => ({
      ...row, status: 'open', doneStepIds: done(row.doneStepIds), ownAct: row.ownAct === 1,
      dateOf: datesIn(row.dateOf === null ? null : JSON.parse(row.dateOf) as Dates),
    }))
}

/** Most have done the same few steps, and those are read once. */
function doneReader(): (doneSteps: string) => readonly string[] {
  const known = new Map<string, readonly string[]>()
  return (text) => {
    let ids = known.get(text)
    if (!ids) known.set(text, ids = JSON.parse(text) as readonly string[])
    return ids
  }
}

const NO_DATES: DateOf = () => null
const datesIn = (dates: Dates | null): DateOf => dates === null ? NO_DATES : fieldId => dates[fieldId] ?? null

/** The versions of courses that somebody is inside of. */
export function versionsInside(db: Database): { courseId: number, versionId: number }[] {
  return prepare<{ courseId: number, versionId: number }>(
    db, `SELECT DISTINCT course_id AS courseId, version_id AS versionId FROM enrolments WHERE status = 'open' ORDER BY 1, 2`,
  ).all()
}

/** What is asked of those who wait in one version. */
export interface Asked {
  versionId: number
  until: Instant
  /** The least difference in time that matters, in milliseconds: every instant is given as the last whole one of these. */
  unit: number
  /** Whether it matters when they joined, and what their own zone is. */
  joining: boolean
  zone: boolean
  /** The date fields that matter. */
  fields: readonly number[]
}

/** Those who stand alike but for when their step is due: how many at each instant. */
export interface Waiting { cohort: Cohort & Besides, people: Map<Instant, number> }

type Rest = [
  justAsked: 0 | 1, limitAfter: number | null, joinedBefore: number | null, zone: ZoneName | null, occursOn: LocalDate | null,
  dates: Dates | null,
]

/** The last whole unit. A number is bound as one with a fraction, by which a division would not be whole; a remainder is. */
const whole = (instant: string) => `((${instant}) - (${instant}) % @unit)`

/** What matters besides where they stand and when; of most there is nothing to say. */
const restOf = ({ joining, zone, fields }: Asked) => {
  const justAsked = `own_act AND done_steps = '[]' AND due_at = joined_at`
  const rest =
    `json_array(${justAsked}, ${whole('limit_at')} - ${whole('due_at')}, ${joining ? `${whole('due_at')} - ${whole('joined_at + still_ms')}` : 'NULL'}, ${zone ? ZONE : 'NULL'}, occurs_on, ${fields.length > 0 ? `json(${DATES})` : 'NULL'})`
  return joining || zone || fields.length > 0
    ? rest
    : `CASE WHEN limit_at IS NULL AND occurs_on IS NULL AND NOT (${justAsked}) THEN NULL ELSE ${rest} END`
}

const WAITING = `
  FROM enrolments WHERE course_id = (SELECT course_id FROM course_versions WHERE id = @versionId) AND version_id = @versionId
    AND status = 'open' AND due_at <= @until`

type Counted = [stepId: string, dueAt: Instant, rest: string | null, leastDone: string, mostDone: string, people: number]

/** How many wait for which step, in groups whose members may have done different steps before it. */
const countedWaiting = (db: Database, asked: Asked): Counted[] =>
  prepare(db, `SELECT step_id, ${whole('due_at')} AS due, ${restOf(asked)} AS rest, min(done_steps), max(done_steps), count(*) ${WAITING}
    GROUP BY due, step_id, rest`).raw().all(boundOf(asked)) as Counted[]

const boundOf = ({ versionId, until, unit, fields }: Asked) => ({ versionId, until, unit, fields: JSON.stringify(fields) })

/** `only`: some people, or who waits for some steps. */
function eachWaiting(
  db: Database, asked: Asked, only: { column: 'person_id' | 'step_id', values: readonly (number | string)[] },
  visit: (cohort: Waiting['cohort'], dueAt: Instant, personId: number) => void,
): void {
  const cohort = cohortReader()
  // Few columns, since there may be very many rows.
  const rows = prepare(db, `SELECT person_id, step_id, done_steps, ${whole('due_at')}, ${restOf(asked)} ${WAITING}
    AND ${only.column} IN (SELECT value FROM json_each(@only))`).raw()
    .iterate({ ...boundOf(asked), only: JSON.stringify(only.values) }) as
    Iterable<[personId: number, stepId: string, doneSteps: string, dueAt: Instant, rest: string | null]>
  for (const [personId, stepId, doneSteps, dueAt, rest] of rows) visit(cohort(stepId, doneSteps, rest), dueAt, personId)
}

/** Who stands alike is told by one and the same object. */
function cohortReader(): (stepId: string, doneSteps: string, rest: string | null) => Waiting['cohort'] {
  const done = doneReader()
  const known = new Map<string | null, Map<string, Map<string, Waiting['cohort']>>>()
  return (stepId, doneSteps, rest) => {
    const byStep = within(known, rest, () => new Map<string, Map<string, Waiting['cohort']>>())
    const byDone = within(byStep, stepId, () => new Map<string, Waiting['cohort']>())
    return within(byDone, doneSteps, () => cohortOf(stepId, done(doneSteps), rest))
  }
}

function cohortOf(stepId: string, doneStepIds: readonly string[], rest: string | null): Waiting['cohort'] {
  const [justAsked, limitAfter, joinedBefore, personZone, occursOn, dates] = rest === null
    ? [0, null, null, null, null, null]
    : JSON.parse(rest) as Rest
  return { stepId, doneStepIds, justAsked: justAsked === 1, limitAfter, joinedBefore, personZone, occursOn, dateOf: datesIn(dates) }
}

/** Those with a step due until then in one version. Where all who wait for a step have done the same, the database counts them. */
export function waitingIn(db: Database, asked: Asked): Waiting[] {
  const all = new Map<Waiting['cohort'], Map<Instant, number>>()
  const add = (cohort: Waiting['cohort'], dueAt: Instant, more: number) => {
    const people = within(all, cohort, () => new Map<Instant, number>())
    people.set(dueAt, (people.get(dueAt) ?? 0) + more)
  }
  const counted = countedWaiting(db, asked)
  const mixed = new Set(counted.filter(([, , , leastDone, mostDone]) => leastDone !== mostDone).map(([stepId]) => stepId))
  const cohort = cohortReader()
  for (const [stepId, dueAt, rest, doneSteps, , people] of counted) {
    if (!mixed.has(stepId)) add(cohort(stepId, doneSteps, rest), dueAt, people)
  }
  if (mixed.size > 0) eachWaiting(db, asked, { column: 'step_id', values: [...mixed] }, (cohort, dueAt) => add(cohort, dueAt, 1))
  return [...all].map(([cohort, people]) => ({ cohort, people }))
}

/** Some of them, one by one. */
export function waitingOf(
  db: Database, asked: Asked, people: readonly number[],
): { cohort: Waiting['cohort'], dueAt: Instant, personId: number }[] {
  const rows: ReturnType<typeof waitingOf> = []
  eachWaiting(db, asked, { column: 'person_id', values: people }, (cohort, dueAt, personId) => rows.push({ cohort, dueAt, personId }))
  return rows
}

/** Who has steps due until then in more than one course, or in a course of dates for more than one return, by id. */
export function peopleWaitingTwice(db: Database, until: Instant): number[] {
  return prepare<{ id: number }>(
    db, 'SELECT person_id AS id FROM enrolments WHERE due_at IS NOT NULL AND due_at <= ? GROUP BY person_id HAVING count(*) > 1',
  ).all(until).map(({ id }) => id)
}

/** Who has a step due until then in one of these versions, by id. */
export function peopleWaitingIn(db: Database, versionIds: readonly number[], until: Instant): number[] {
  return prepare<{ id: number }>(db, `
    SELECT DISTINCT person_id AS id FROM enrolments WHERE status = 'open' AND due_at <= ?
    AND version_id IN (SELECT value FROM json_each(?))`).all(until, JSON.stringify(versionIds)).map(({ id }) => id)
}
