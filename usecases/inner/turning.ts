/** A course was stopped as a whole, or goes on: everybody in it is brought to that, some at a time. */
import type { Database } from '#data/connection'
import { courseTurning, endTurn, runningOf } from '#data/courses'
import { releaseComings } from '#data/doors'
import { enrolmentsToTurn } from '#data/enrolments'
import type { House } from '../house'
import { upToDate } from './enrolments'
import { write } from './transaction'

/** Few enough that a sign-up hardly waits. */
const BATCH = 500

/** Some of one course; when none are left, that is written down. Nobody in it gets on before, whoever's turn it is. */
export function turnSome(db: Database, courseId: number): void {
  const { stoppedAt, turnedAt } = runningOf(db, courseId)!
  const rows = enrolmentsToTurn(db, courseId, stoppedAt !== null, BATCH)
  for (const row of rows) upToDate(db, row)
  const comeIn = stoppedAt === null ? releaseComings(db, courseId, turnedAt!, BATCH) : 0
  if (rows.length < BATCH && comeIn < BATCH) endTurn(db, courseId)
}

/** The engine's bit of it; true if there was one. */
export function turnCourses(house: House): boolean {
  const { db } = house
  return courseTurning(db) !== null && write(house, () => {
    const courseId = courseTurning(db)
    if (courseId !== null) turnSome(db, courseId)
    return courseId !== null
  })
}
