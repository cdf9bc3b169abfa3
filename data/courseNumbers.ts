/** What came of a course: ways of people, joining weeks, purchases; and who they are. */
import type { Instant } from '#core/time/zone'
import type { JourneyEnd, WhoAsked, Who } from '#core/views/courseNumbers'
import { EMAIL_BEHIND } from './attribution'
import type { Database } from './connection'
import { prepare } from './connection'

/** Journeys that went alike: the emails they were sent, in their order, and where they have come to. */
export function journeysOf(db: Database, courseId: number): { done: string[], end: JourneyEnd, people: number }[] {
  return prepare<{ done: string, end: JourneyEnd, people: number }>(db, `
    SELECT done_steps AS done, CASE status WHEN 'open' THEN 'inside' ELSE status END AS "end", count(*) AS people FROM enrolments
      WHERE course_id = ? GROUP BY 1, 2`).all(courseId)
    .map(row => ({ ...row, done: JSON.parse(row.done) as string[] }))
}

/**
 * Of each email how many bought something within so many milliseconds after they last followed a link in it, and before they followed
 * another.
 */
export function boughtBySteps(db: Database, courseId: number, clickMs: number): Map<string, number> {
  return new Map(prepare<{ stepId: string, people: number }>(db, `
    SELECT o.item_id AS stepId, count(DISTINCT o.person_id) AS people FROM purchases p
    JOIN outbox o ON o.id = ${EMAIL_BEHIND}
    WHERE o.kind = 'course' AND o.owner_id = @courseId GROUP BY 1`)
    .all({ courseId, clickMs }).map(({ stepId, people }) => [stepId, people]))
}

export interface Week { from: Instant, to: Instant }

/** How those who joined in each of these weeks stand now; people, not visits. Bought: anything since they joined. */
export function weeksOf(
  db: Database, courseId: number, weeks: readonly Week[],
): { from: Instant, joined: number, inside: number, finished: number, left: number, bought: number }[] {
  return prepare<ReturnType<typeof weeksOf>[number]>(db, `
    SELECT w.value ->> 'from' AS "from", count(DISTINCT e.person_id) AS joined,
      count(DISTINCT CASE e.status WHEN 'open' THEN e.person_id END) AS inside,
      count(DISTINCT CASE e.status WHEN 'finished' THEN e.person_id END) AS finished,
        count(DISTINCT CASE e.status WHEN 'left' THEN e.person_id END) AS left,
      count(DISTINCT CASE WHEN EXISTS (SELECT 1
        FROM purchases p WHERE p.person_id = e.person_id AND p.bought_at >= e.joined_at) THEN e.person_id END) AS bought
    FROM json_each(@weeks) w JOIN enrolments e ON e.course_id = @courseId AND e.joined_at >= w.value ->> 'from'
      AND e.joined_at < w.value ->> 'to' GROUP BY 1 ORDER BY 1`).all({ courseId, weeks: JSON.stringify(weeks) })
}

/** How many of each week were sent each email. */
export function sentByWeeks(db: Database, courseId: number, weeks: readonly Week[]): { from: Instant, stepId: string, people: number }[] {
  return prepare<ReturnType<typeof sentByWeeks>[number]>(db, `
    SELECT w.value ->> 'from' AS "from", o.item_id AS stepId, count(DISTINCT o.person_id) AS people
    FROM json_each(@weeks) w JOIN enrolments e ON e.course_id = @courseId AND e.joined_at >= w.value ->> 'from'
      AND e.joined_at < w.value ->> 'to'
    JOIN outbox o ON o.person_id = e.person_id AND o.enrolment_id = e.id AND o.handed_over_at IS NOT NULL GROUP BY 1,
      2`).all({ courseId, weeks: JSON.stringify(weeks) })
}

const NAME = `CASE p.first_name WHEN '' THEN p.address ELSE p.first_name || ', ' || p.address END AS name`

/** The people behind one of these numbers, the latest first. */
export function whoOf(db: Database, courseId: number, asked: WhoAsked, limit: number, offset: number): Who[] {
  const page = { courseId, limit, offset }
  if ('way' in asked) {
    return prepare<Who>(db, `
      SELECT p.id AS personId, ${NAME}, max(e.at) AS at FROM events e JOIN people p ON p.id = e.person_id
      WHERE e.kind = 'took-way' AND +e.course_id = @courseId AND +e.step_id = @stepId AND +e.detail = @wayId GROUP BY p.id
      ORDER BY at DESC LIMIT @limit OFFSET @offset`).all({ ...page, ...asked.way })
  }
  if ('bought' in asked) {
    return prepare<Who>(db, `
      SELECT n.id AS personId, ${NAME.replaceAll('p.', 'n.')}, max(p.bought_at) AS at FROM purchases p JOIN people n ON n.id = p.person_id
      JOIN outbox o ON o.id = ${EMAIL_BEHIND}
      WHERE o.kind = 'course' AND o.owner_id = @courseId AND o.item_id = @stepId GROUP BY n.id ORDER BY at DESC
        LIMIT @limit OFFSET @offset`).all({ ...page, stepId: asked.bought, clickMs: asked.clickMs })
  }
  if ('week' in asked) {
    const is = {
      joined: '1', inside: `e.status = 'open'`, finished: `e.status = 'finished'`, left: `e.status = 'left'`,
      bought: 'EXISTS (SELECT 1 FROM purchases b WHERE b.person_id = e.person_id AND b.bought_at >= e.joined_at)',
    }[asked.is]
    return prepare<Who>(db, `
      SELECT p.id AS personId, ${NAME}, max(e.joined_at) AS at FROM enrolments e JOIN people p ON p.id = e.person_id
      WHERE e.course_id = @courseId AND e.joined_at >= @from AND e.joined_at < @to AND ${is} GROUP BY p.id ORDER BY at DESC
      LIMIT @limit OFFSET @offset`).all({ ...page, ...asked.week })
  }
  return prepare<Who>(db, `SELECT p.id AS personId, ${NAME}, max(e.joined_at) AS at FROM enrolments e JOIN people p ON p.id = e.person_id
    WHERE e.course_id = @courseId AND e.status = @status AND (e.done_steps ->> '$[#-1]') IS @after GROUP BY p.id ORDER BY at DESC
      LIMIT @limit OFFSET @offset`).all({ ...page, status: asked.end === 'inside' ? 'open' : asked.end, after: asked.after })
}
