/** How many emails one person gets: what the workspace allows, and what they have had and will have. */
import type { EmailKind } from '#core/sending/kinds'
import type { Limits } from '#core/sending/quota'
import type { Instant } from '#core/time/zone'
import type { Database } from './connection'
import { prepare } from './connection'
import { keepSteady } from './kept'
import { kindsInSql } from './sends'

export function sendingLimits(db: Database): Limits {
  return keepSteady(db, 'limits', () => prepare<Limits>(
    db, `
      SELECT smallest_gap_min AS gapMinutes, most_a_day AS aDay, most_a_week AS aWeek, too_many AS tooMany FROM workspace
      WHERE id = 1`).get()!)
}

export function setSendingLimits(db: Database, limits: Limits): void {
  prepare(db, `
    UPDATE workspace SET smallest_gap_min = @gapMinutes, most_a_day = @aDay, most_a_week = @aWeek, too_many = @tooMany
    WHERE id = 1`).run(limits)
}

/** The kinds that caps count, for SQL. */
const capped = (): string => kindsInSql(kind => kind.rank !== null)

/** When emails that count left for this person, after an instant; one that is just being handed over counts as leaving `now`. */
export function sentSince(db: Database, personId: number, since: Instant, now: Instant): Instant[] {
  return prepare<{ at: Instant }>(db, `
    SELECT CASE status WHEN 'handing over' THEN @now ELSE handed_over_at END AS at FROM outbox
    WHERE person_id = @personId AND asked_for = 0 AND kind IN (${capped()})
      AND (status = 'handing over'
        OR (status IN ('handed over', 'may have arrived') AND handed_over_at > @since))`).all({ personId, since, now }).map(({ at }) => at)
}

/** Emails that wait to leave for this person, and courses in which they stand before a step with a time; without the email `exceptId`. */
export function plannedFor(
  db: Database, personId: number, exceptId: number,
): { outboxId: number | null, at: Instant, kind: EmailKind, ownerId: number, enrolmentId: number | null, stepId: string | null }[] {
  return prepare<ReturnType<typeof plannedFor>[number]>(db, `
    SELECT id AS outboxId, go_at AS at, kind, owner_id AS ownerId, NULL AS enrolmentId, NULL AS stepId FROM outbox
    WHERE person_id = @personId AND id <> @exceptId AND asked_for = 0 AND kind IN (${capped()}) AND go_at IS NOT NULL
      AND status IN ('queued', 'leased', 'failed')
    UNION ALL
    SELECT NULL, due_at, 'course', course_id, id, step_id FROM enrolments WHERE person_id = @personId AND status = 'open'
      AND due_at IS NOT NULL`).all({ personId, exceptId })
}

/** Whether an offer that is sold gives this course: it is part of what was bought. */
export function isGivenByOffer(db: Database, courseId: number): boolean {
  return keepSteady(db, `given course ${courseId}`, () => prepare<{ is: 0 | 1 }>(db, `
    SELECT EXISTS (SELECT 1
      FROM offers o JOIN offer_versions v ON v.id = o.version_id
        WHERE v.content ->> '$.gives.courseId' = ?) AS "is"`).get(courseId)!.is === 1)
}
