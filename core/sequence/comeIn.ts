/** Coming into a course otherwise than at its beginning: by the date one would have joined on, or by a date of one's own. */
import { addDays, addMonthsTo, dayNumber, localOf, type Instant, type LocalDate } from '#core/time/zone'
import { targetOf, type When } from '#core/time/when'
import { advance, zoneOf, type Enrolment, type Facts } from './advance'
import { allSteps, type Program, type Step } from './program'

/**
 * Where somebody stands at `now` who would have joined at `joinedAt`: before
 * the first step that is still ahead. What lies behind is neither sent nor
 * done; forks ask as things are now. `finished` where nothing is ahead.
 */
export function standingSince(program: Program, joinedAt: Instant, now: Instant, facts: Facts): Enrolment {
  let { enrolment } = advance(program, null, { kind: 'joined', at: joinedAt, ownAct: false }, facts)
  while (enrolment.status === 'open' && enrolment.dueAt !== null && enrolment.dueAt <= now) enrolment = advance(program, enrolment, { kind: 'due', at: enrolment.dueAt }, facts).enrolment
  return { ...enrolment, doneStepIds: [] }
}

/** A return of somebody's date, and when they come in with it. */
export interface Occurrence { occursOn: LocalDate, at: Instant }

/**
 * The next return of a date with which its bearer comes in: the first whose
 * first step is still ahead of `after`, and they come in at its moment. Of a
 * date that comes once the first step may be past, as long as another that
 * goes by the date is ahead: then they come in right after `after`. Null where
 * nothing is ahead.
 */
export function nextOccurrence(program: Program, date: LocalDate, after: Instant, facts: Pick<Facts, 'workspaceZone' | 'personZone'>): Occurrence | null {
  const { fieldId, everyMonths } = program.dates!
  const byDate = allSteps<Step>(program.steps).filter(({ when }) => when.kind === 'date-field' && when.fieldId === fieldId)
  const [first] = byDate
  if (!first) return null
  const moment = (step: Step, occursOn: LocalDate): Instant => targetOf({ ...step.when, everyMonths: 0 } as When, { joinedAt: after, previousAt: after }, zoneOf(step, facts), () => occursOn)!
  if (everyMonths === 0) {
    const at = moment(first, date)
    return at > after ? { occursOn: date, at } : byDate.some(step => moment(step, date) > after) ? { occursOn: date, at: after + 1 } : null
  }
  // Counted from the date itself, never from the return before it.
  for (let n = Math.max(0, returnsBefore(date, everyMonths, localOf(after, facts.workspaceZone).date) - 1); ; n++) {
    const occursOn = addMonthsTo(date, n * everyMonths)
    const at = moment(first, occursOn)
    if (at > after) return { occursOn, at }
  }
}

/** The return of a date that lies nearest to an earlier one: what became of it when the date was changed. */
export function nearestReturn(date: LocalDate, everyMonths: number, to: LocalDate): LocalDate {
  if (everyMonths === 0) return date
  const about = Math.floor((dayNumber(to) - dayNumber(date)) / (30.44 * everyMonths))
  const near = [about - 1, about, about + 1, about + 2].filter(n => n >= 0).map(n => addMonthsTo(date, n * everyMonths))
  const away = (one: LocalDate) => Math.abs(dayNumber(one) - dayNumber(to))
  return near.reduce((best, one) => away(one) < away(best) ? one : best, near[0] ?? date)
}

/** So many returns lie a year or more before that day, roughly: some too few, never too many. A step can lie ten years from its date. */
const returnsBefore = (date: LocalDate, everyMonths: number, day: LocalDate): number => Math.max(0, Math.floor((dayNumber(addDays(day, -3700)) - dayNumber(date)) / (31 * everyMonths)))
