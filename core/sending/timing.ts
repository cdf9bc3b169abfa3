/** When each reader of a send to an audience gets it. */
import { instantOf, type Instant, type LocalDate, type LocalTime, type ZoneName } from '#core/time/zone'

export interface SendTiming {
  /** At this time of every reader's own zone; null where it goes to all as the send begins. */
  clock: { date: LocalDate, time: LocalTime } | null
  /** Milliseconds over which it is spread evenly, counted from each reader's time; 0 for not at all. */
  spreadMs: number
}

export const AT_ONCE: SendTiming = { clock: null, spreadMs: 0 }

/**
 * When one reader gets it. `share`: a stable part of 1 that is theirs alone, from 0 up to 1; with it they lie evenly over the spread. Whose
 * time has passed already gets it as the send begins.
 */
export function timeOfReader(
  { clock, spreadMs }: SendTiming, beganAt: Instant, zone: ZoneName, share: number,
): Instant {
  const at = clock === null ? beganAt : instantOf(clock.date, clock.time, zone)
  return Math.max(beganAt, at + Math.floor(share * spreadMs))
}

/** When such a send begins: as the first of these zones comes to that time. */
export const beginsAt = ({ date, time }: { date: LocalDate, time: LocalTime }, zones: readonly ZoneName[]): Instant =>
  Math.min(...zones.map(zone => instantOf(date, time, zone)))

/** Stable and even over people, another for each send; a bit mixer of splitmix32 (Steele, Lea and Flood 2014, from memory). */
export function shareOf(sendId: number, personId: number): number {
  let mixed = (Math.imul(personId, 0x9E3779B9) ^ Math.imul(sendId, 0x85EBCA6B)) >>> 0
  mixed = Math.imul(mixed ^ mixed >>> 16, 0x21F0AAAD)
  mixed = Math.imul(mixed ^ mixed >>> 15, 0x735A2D97)
  return ((mixed ^ mixed >>> 15) >>> 0) / 2 ** 32
}
