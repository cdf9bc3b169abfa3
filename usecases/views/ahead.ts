/** What will go out, as far as it is decided by where everybody stands now and by who is on their way in. */
import { dependsOf, joining as joiningAt, reckoner, sendsUntil, type Coming } from '#core/sequence/ahead'
import { dateFieldsOf, type Program } from '#core/sequence/program'
import { DAY, type Instant, type ZoneName } from '#core/time/zone'
import type { SendOf } from '#core/views/frame'
import type { Database } from '#data/connection'
import { programOfVersion, runningCourses } from '#data/courses'
import { comingsUntil } from '#data/doors'
import { emailsWaiting } from '#data/outbox'
import { peopleWaitingIn, peopleWaitingTwice, versionsInside, waitingIn, waitingOf, type Asked, type Waiting } from '#data/standings'
import { dateOfStanding, houseFacts } from '../inner/enrolments'
import { sharesSoFar } from '../inner/shares'
import { STEP_OF_OPENING } from '../inner/waits'
import { openingsUntil } from './openings'

/** Told of emails of one step. `people` is what is expected, in parts of people where it is open which way they take; `spread` is the variance of that. */
export type Add = (at: Instant, people: number, spread: number) => void

export interface Ahead {
  /** Everything that will go out. `to` is asked once for each step of each version, and for each opening. */
  eachSend(to: (of: SendOf) => Add): void
  /** Emails to people who can get more than `most` within a day and a bit: who is in several courses, or in one of many emails a day. The latter is known by what was reckoned for {@link eachSend}, so it comes after that; before it, this throws. */
  eachOfCrowds(most: number, add: (personId: number, zone: ZoneName | null, at: Instant, part: number) => void): void
}

/** A day of the autumn has an hour more. */
const LONG_DAY = DAY + DAY / 24

/** `unit`: the least difference in time that matters to who asks, in milliseconds: 1 for exact instants. */
export function aheadOf(db: Database, { now, until, unit }: { now: Instant, until: Instant, unit: number }): Ahead {
  const house = houseFacts(db)
  const shares = sharesSoFar(db)
  /** What comes to people of one version, as far as it was reckoned: who can get many in a day is known by that. */
  const seen = new Map<number, Set<readonly Coming[]>>()
  const versions = versionsInside(db)

  function asked(versionId: number, program: Program): Asked {
    const { joining, zone, grain } = dependsOf(program)
    return { versionId, until, unit: Math.min(unit, grain), joining, zone, fields: dateFieldsOf(program) }
  }

  const reckonerOf = (program: Program, alike: Waiting['alike']) => reckoner(until, program, alike, { ...house, personZone: alike.personZone, dateOf: dateOfStanding(alike, program) }, shares)

  function eachSend(to: (of: SendOf) => Add): void {
    for (const { at, people, ...of } of emailsWaiting(db, until)) to(of)(at, people, 0)
    for (const { courseId, versionId } of versions) {
      const program = programOfVersion(db, versionId)
      const steps = new Map<string, Add>()
      const lists = new Set<readonly Coming[]>()
      seen.set(versionId, lists)
      for (const { alike, people } of waitingIn(db, asked(versionId, program))) {
        const coming = reckonerOf(program, alike)
        for (const [dueAt, number] of people) {
          const list = coming(dueAt)
          lists.add(list)
          for (const { stepId, after, part } of list) {
            const at = dueAt + after
            if (at > until) continue
            let add = steps.get(stepId)
            if (!add) steps.set(stepId, add = to({ kind: 'course', thingId: courseId, stepId }))
            add(at, number * part, number * part * (1 - part))
          }
        }
      }
    }
    eachComingIn(to)
    eachOpening(to)
  }

  function eachOpening(to: (of: SendOf) => Add): void {
    for (const { offerId, bits } of openingsUntil(db, now, until)) {
      for (const { at, people } of bits) to({ kind: 'opening', thingId: offerId, stepId: STEP_OF_OPENING })(at, people, 0)
    }
  }

  function eachComingIn(to: (of: SendOf) => Add): void {
    const running = new Map(runningCourses(db).map(({ id, versionId }) => [id, versionId]))
    for (const { courseId, dueAt, occursOn, personZone, people } of comingsUntil(db, until)) {
      const versionId = running.get(courseId)
      if (versionId === undefined) continue
      const program = programOfVersion(db, versionId)
      const facts = { ...house, personZone, dateOf: dateOfStanding({ occursOn, dateOf: () => null }, program) }
      for (const { stepId, plannedAt, part } of sendsUntil(program, joiningAt(program, dueAt, facts), until, facts, shares)) to({ kind: 'course', thingId: courseId, stepId })(plannedAt, people * part, people * part * (1 - part))
    }
  }

  function eachOfCrowds(most: number, add: (personId: number, zone: ZoneName | null, at: Instant, part: number) => void): void {
    if (seen.size < versions.length) throw new Error('Who can get many in a day is known only once everything was reckoned')
    const crowding = [...seen].filter(([, lists]) => [...lists].some(list => isCrowded(list, most))).map(([versionId]) => versionId)
    const people = new Set([...peopleWaitingTwice(db, until), ...crowding.length > 0 ? peopleWaitingIn(db, crowding, until) : []])
    if (people.size === 0) return
    for (const { versionId } of versions) {
      const program = programOfVersion(db, versionId)
      const reckoners = new Map<Waiting['alike'], ReturnType<typeof reckoner>>()
      for (const { alike, dueAt, personId } of waitingOf(db, { ...asked(versionId, program), zone: true }, [...people])) {
        let coming = reckoners.get(alike)
        if (!coming) reckoners.set(alike, coming = reckonerOf(program, alike))
        for (const { after, part } of coming(dueAt)) if (dueAt + after <= until) add(personId, alike.personZone, dueAt + after, part)
      }
    }
  }

  return { eachSend, eachOfCrowds }
}

/** Whether more than so many of these emails can come within one day. */
function isCrowded(list: readonly Coming[], most: number): boolean {
  const sorted = list.toSorted((a, b) => a.after - b.after)
  return sorted.some(({ after }, from) => {
    let parts = 0
    for (let n = from; n < sorted.length && sorted[n]!.after < after + LONG_DAY; n++) parts += sorted[n]!.part
    return parts > most
  })
}
