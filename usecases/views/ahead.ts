/** What will go out, as far as it is decided by where everybody stands now and by who is on their way in. */
import { dependsOf, joining as joiningAt, forecaster, sendsUntil, type ForecastSend } from '#core/sequence/ahead'
import { dateFieldsOf, type Program } from '#core/sequence/program'
import { DAY, type Instant, type ZoneName } from '#core/time/zone'
import type { SendOf } from '#core/sending/kinds'
import { programOfVersion, runningCourses } from '#data/courses'
import { scheduledEntriesUntil } from '#data/entries'
import { emailsWaiting } from '#data/outbox'
import { peopleWaitingIn, peopleWaitingTwice, versionsInside, waitingIn, waitingOf, type Asked, type Waiting } from '#data/cohorts'
import { sharesSoFar } from '../inner/shares'
import { dateOfStanding } from '../inner/journeyFacts'
import { workspaceFacts } from '../inner/workspaceFacts'
import type { WorkspaceContext } from '../context'
import { scheduledSendsAhead } from '../sending/audience'
import type { Add, ForecastSource } from '../inner/forecastSource'
import { openingsAhead } from './openings'

/** Of journeys through courses each knows its own way; all else that is planned stands here, one entry a feature. */
const SOURCES: readonly ForecastSource[] = [emailsAhead, openingsAhead, scheduledSendsAhead]

/** What waits to leave already. */
function emailsAhead({ db }: Pick<WorkspaceContext, 'db'>, { until }: { until: Instant }, to: (of: SendOf) => Add): void {
  for (const { at, people, ...of } of emailsWaiting(db, until)) to(of)(at, people, 0)
}

export interface Ahead {
  /** Everything that will go out. `to` is asked once for each step of each version, and for each opening. */
  eachSend(to: (of: SendOf) => Add): void
  /**
   * Emails to people who can get more than `most` within a day and a bit: who is in several courses, or in one of many emails a day. The
   * latter is known by what was reckoned for {@link eachSend}, so it comes after that; before it, this throws.
   */
  eachOfCrowds(most: number, add: AddOne): void
  /** What courses will send to these people. */
  eachOfPeople(personIds: readonly number[], add: AddOne): void
}

/** `part` of 1: how likely it is, where it is open which way they take. */
type AddOne = (personId: number, zone: ZoneName | null, at: Instant, part: number, of: SendOf) => void

/** A day of the autumn has an hour more. */
const LONG_DAY = DAY + DAY / 24

/** `unit`: the least difference in time that matters to who asks, in milliseconds: 1 for exact instants. */
export function aheadOf(
  { db, baseUrl }: Pick<WorkspaceContext, 'db' | 'baseUrl'>, { now, until, unit }: { now: Instant, until: Instant, unit: number },
): Ahead {
  const common = workspaceFacts(db)
  const shares = sharesSoFar(db)
  /** What comes to people of one version, as far as it was reckoned: who can get many in a day is known by that. */
  const seen = new Map<number, Set<readonly ForecastSend[]>>()
  const versions = versionsInside(db)

  function asked(versionId: number, program: Program): Asked {
    const { joining, zone, bucket } = dependsOf(program)
    return { versionId, until, unit: Math.min(unit, bucket), joining, zone, fields: dateFieldsOf(program) }
  }

  const forecasterOf = (program: Program, cohort: Waiting['cohort']) =>
    forecaster(until, program, cohort, { ...common, personZone: cohort.personZone, dateOf: dateOfStanding(cohort, program) }, shares)

  function eachSend(to: (of: SendOf) => Add): void {
    for (const source of SOURCES) source({ db, baseUrl }, { now, until }, to)
    for (const { courseId, versionId } of versions) {
      const program = programOfVersion(db, versionId)
      const steps = new Map<string, Add>()
      const lists = new Set<readonly ForecastSend[]>()
      seen.set(versionId, lists)
      for (const { cohort, people } of waitingIn(db, asked(versionId, program))) {
        const sendsFrom = forecasterOf(program, cohort)
        for (const [dueAt, number] of people) {
          const list = sendsFrom(dueAt)
          lists.add(list)
          for (const { stepId, after, part } of list) {
            const at = dueAt + after
            if (at > until) continue
            let add = steps.get(stepId)
            if (!add) steps.set(stepId, add = to({ kind: 'course', ownerId: courseId, itemId: stepId }))
            add(at, number * part, number * part * (1 - part))
          }
        }
      }
    }
    eachScheduledEntry(to)
  }

  function eachScheduledEntry(to: (of: SendOf) => Add): void {
    const running = new Map(runningCourses(db).map(({ id, versionId }) => [id, versionId]))
    for (const { courseId, dueAt, occursOn, personZone, people } of scheduledEntriesUntil(db, until)) {
      const versionId = running.get(courseId)
      if (versionId === undefined) continue
      const program = programOfVersion(db, versionId)
      const facts = { ...common, personZone, dateOf: dateOfStanding({ occursOn, dateOf: () => null }, program) }
      for (const { stepId, plannedAt, part } of sendsUntil(program, joiningAt(program, dueAt, facts), until, facts, shares)) {
        to({ kind: 'course', ownerId: courseId, itemId: stepId })(plannedAt, people * part, people * part * (1 - part))
      }
    }
  }

  function eachOfCrowds(most: number, add: AddOne): void {
    if (seen.size < versions.length) throw new Error('Who can get many in a day is known only once everything was counted')
    const crowding = [...seen].filter(([, lists]) => [...lists].some(list => isCrowded(list, most))).map(([versionId]) => versionId)
    const people = new Set([...peopleWaitingTwice(db, until), ...crowding.length > 0 ? peopleWaitingIn(db, crowding, until) : []])
    eachOfPeople([...people], add)
  }

  function eachOfPeople(personIds: readonly number[], add: AddOne): void {
    if (personIds.length === 0) return
    for (const { courseId, versionId } of versions) {
      const program = programOfVersion(db, versionId)
      const forecasters = new Map<Waiting['cohort'], ReturnType<typeof forecaster>>()
      for (const { cohort, dueAt, personId } of waitingOf(db, { ...asked(versionId, program), zone: true }, personIds)) {
        let sendsFrom = forecasters.get(cohort)
        if (!sendsFrom) forecasters.set(cohort, sendsFrom = forecasterOf(program, cohort))
        for (const { stepId, after, part } of sendsFrom(dueAt)) {
          if (dueAt + after <= until) add(
            personId, cohort.personZone, dueAt + after, part, { kind: 'course', ownerId: courseId, itemId: stepId }
          )
        }
      }
    }
  }

  return { eachSend, eachOfCrowds, eachOfPeople }
}

/** Whether more than so many of these emails can come within one day. */
function isCrowded(list: readonly ForecastSend[], most: number): boolean {
  const sorted = list.toSorted((a, b) => a.after - b.after)
  return sorted.some(({ after }, from) => {
    let parts = 0
    for (let n = from; n < sorted.length && sorted[n]!.after < after + LONG_DAY; n++) parts += sorted[n]!.part
    return parts > most
  })
}
