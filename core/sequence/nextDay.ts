/** When the copy of a step goes: a day after the step it was copied from, which it stands behind. */
import type { Timing } from '../time/when'
import { addDays } from '../time/zone'

const DAY_LATER: Timing = { kind: 'elapsed', count: 1, unit: 'days', from: 'previous' }

export function aDayLater(when: Timing): Timing {
  switch (when.kind) {
    case 'at-once':
    case 'elapsed': return DAY_LATER
    case 'calendar-day': return when.from === 'joining' ? { ...when, day: when.day + 1 } : { ...when, day: 1 }
    case 'months':
    case 'next-weekday': return { kind: 'calendar-day', day: 1, time: when.time, from: 'previous' }
    // Strictly later than the one before, which goes at that time: the day after.
    case 'next-time': return when
    case 'date': return { ...when, date: addDays(when.date, 1) }
    case 'date-field': return { ...when, days: when.days + 1 }
  }
}
