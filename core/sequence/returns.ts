/** Coming into a course otherwise than at its beginning: by the date one would have joined on, or by a date of one's own. */
import { addDays, addMonthsTo, dayNumber, localOf, type Instant, type LocalDate } from '#core/time/zone'
import { targetOf, type Returning } from '#core/time/when'
import { advance } from './advance'
import type { Enrolment, Facts } from './journey'
import { whenIn, zoneOf } from './standing'
import { allSteps, type Program, type Step } from './program'

/**
 * Where somebody stands at `now` who would have joined at `joinedAt`: before
 * the first step that is still ahead. What lies behind is neither sent nor
 * done; forks ask as things are now. `finished` where nothing is ahead.
 */
export function standingSince(program: Program, joinedAt: Instant, now: Instant, facts: Facts): Enrolment {
  let { enrolment } = advance(program, null, { kind: 'joined', at: joinedAt, ownAct: false }, facts)
  while (enrolment.status === 'open' && enrolment.dueAt !== null && enrolment.dueAt <= now) enrolment = advance(
    program, enrolment, { kind: 'due', at: enrolment.dueAt }, facts,
  ).enrolment
  return { ...enrolment, doneStepIds: [] }
}

/** A return of somebody's date, and when they come in with it. */
export interface Occurrence { occursOn: LocalDate, at: Instant }

/**
 * The next return of a date with which its bearer comes in. Of a date that
 * comes round, the first whose first step is still ahead of `after`, and they
 * come in at its moment. Of one that comes once, the date itself: with its
 * first step, or right after `after` where that is past; each step then does
 * what it says of being past. Null where no step goes by the date.
 */
export function nextOccurrence(
  program: Program, date: LocalDate, after: Instant, facts: Pick<Facts, 'workspaceZone' | 'personZone'>,
): Occurrence | null {
  const { fieldId, everyMonths } = program.dates!
  const first = allSteps<Step>(program.steps).find(({ when }) => when.kind === 'date-field' && when.fieldId === fieldId)
  if (!first) return null
  const moment = (occursOn: LocalDate): Instant =>
    targetOf(whenIn(program, first), { joinedAt: after, previousAt: after }, zoneOf(first, facts), () => occursOn)!
  if (everyMonths === 0) return { occursOn: date, at: Math.max(moment(date), after + 1) }
  // Counted from the date itself, never from the return before it.
  for (let n = Math.max(
    firstReturn(program.dates!), returnsBefore(date, everyMonths, localOf(after, facts.workspaceZone).date) - 1,
  ); ; n++) {
    const occursOn = addMonthsTo(date, n * everyMonths)
    const at = moment(occursOn)
    if (at > after) return { occursOn, at }
  }
}

/** The first return of a date that counts: the date itself, unless it was said not to. */
const firstReturn = ({ fromFirst }: Returning): number => fromFirst ? 1 : 0

/** The return of a date that lies nearest to an earlier one: what became of it when the date was changed. */
export function nearestReturn(date: LocalDate, returning: Returning, to: LocalDate): LocalDate {
  const { everyMonths } = returning
  if (everyMonths === 0) return date
  const about = Math.floor((dayNumber(to) - dayNumber(date)) / (30.44 * everyMonths))
  const counted = [about - 1, about, about + 1, about + 2].map(n => Math.max(firstReturn(returning), n))
  const near = counted.map(n => addMonthsTo(date, n * everyMonths))
  const away = (one: LocalDate) => Math.abs(dayNumber(one) - dayNumber(to))
  return near.reduce((best, one) => away(one) < away(best) ? one : best)
}

/** So many returns lie a year or more before that day, roughly: some too few, never too many. A step can lie ten years from its date. */
const returnsBefore = (date: LocalDate, everyMonths: number, day: LocalDate): number =>
  Math.max(0, Math.floor((dayNumber(addDays(day, -3700)) - dayNumber(date)) / (31 * everyMonths)))
