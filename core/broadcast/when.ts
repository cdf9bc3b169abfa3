/** When a broadcast is to be sent. */
import { AT_ONCE, beginsAt, type SendTiming } from '#core/sending/timing'
import { HOUR, instantOf, type Instant, type LocalDate, type LocalTime, type ZoneName } from '#core/time/zone'

export type BroadcastWhen =
  | { kind: 'now' }
  /** On that date at that time: of the workspace's zone, or of every reader's own. */
  | { kind: 'at', date: LocalDate, time: LocalTime, zone: 'workspace' | 'reader' }

/** How it is laid out in time; `zones`: those of its readers, the workspace's among them. */
export function timingOf(
  { when, spreadHours }: { when: BroadcastWhen, spreadHours: number }, now: Instant, zone: ZoneName, zones: readonly ZoneName[],
): { dueAt: Instant, timing: SendTiming } {
  const timing = { ...AT_ONCE, spreadMs: spreadHours * HOUR }
  if (when.kind === 'now') return { dueAt: now, timing }
  const { date, time } = when
  if (when.zone === 'workspace') return { dueAt: instantOf(date, time, zone), timing }
  return { dueAt: beginsAt({ date, time }, [zone, ...zones]), timing: { ...timing, clock: { date, time } } }
}
