/** Rehearsals of a course: an invented reader, what happens to them, what looks wrong about it, and whether it is still so. */
import type { EventKind } from '#core/events'
import { isOpen, type WeekHours } from '#core/time/hours'
import { weekdayOf } from '#core/time/when'
import { HOUR, instantOf, localOf, type Instant, type LocalDate, type LocalTime, type ZoneName } from '#core/time/zone'
import { allSteps, waysOf, type Program, type Span, type Step } from './program'

/**
 * Which emails of the course somebody does something with, and how long after: opening after the sending, following the first link after
 * the opening.
 */
export interface Reading { which: 'all' | 'none' | 'some', stepIds: string[], after: Span }

export interface RehearsedReader {
  name: string
  joins: { date: LocalDate, time: LocalTime }
  /** By which page or offer; none said: by the first page that leads there. Null: they are on the list already, and get what starts it. */
  by?: { kind: 'page' | 'offer', id: number } | null
  /** Their own zone; null where it is not known. */
  zone: ZoneName | null
  /** Tags they have before they come. */
  tagIds: number[]
  /** What is in their date fields, by the number of the field. */
  dates: Record<number, LocalDate>
  opens: Reading
  clicks: Reading
  /** On the Nth day after joining (0 is that day), at a time of their own clock. */
  buys: { offerId: number, day: number, time: LocalTime } | null
  /** The day on which they leave everything. */
  leaves: { day: number } | null
}

/** So long a rehearsal plays. */
export const REHEARSED_DAYS = 90

const NONE: Reading = { which: 'none', stepIds: [], after: { count: 1, unit: 'hours' } }
const keen = (after: Span): Reading => ({ which: 'all', stepIds: [], after })

/**
 * Three who stand side by side: one who reads everything, one who reads nothing, one who buys on the second day. `offerId` null where
 * nothing is sold.
 */
export function readyReaders(joins: RehearsedReader['joins'], zone: ZoneName | null, offerId: number | null): RehearsedReader[] {
  const base = { joins, zone, tagIds: [], dates: {}, buys: null, leaves: null }
  const reads = { opens: keen({ count: 2, unit: 'hours' }), clicks: keen({ count: 5, unit: 'minutes' }) }
  return [
    { ...base, name: 'Keen', ...reads },
    { ...base, name: 'Silent', opens: NONE, clicks: NONE },
    ...offerId === null ? [] : [{ ...base, name: 'Buyer', ...reads, buys: { offerId, day: 2, time: '20:00' } }],
  ]
}

/** Something that happened, in the words of the history. */
export interface StoryLine {
  at: Instant
  kind: EventKind
  says: string
  /** What it is about, whatever words that is told in. Stories that were kept before this was have none. */
  about?: string
  /** Of what is about one course. */
  courseId: number | null
  stepId: string | null
  /** What it is: mail that left, mail that did not, what the reader does, or what follows. */
  sort: 'mail' | 'held' | 'reader' | 'else'
}

export interface Story { lines: StoryLine[], warnings: Warning[] }

export type Warning =
  | { kind: 'outside-hours' | 'weekend', at: Instant, stepId: string }
  | { kind: 'close', at: Instant, stepId: string, before: Instant }
  | { kind: 'closed', at: Instant, stepId: string, offer: string, closedAt: Instant }

/** Two emails closer than this are pointed at. */
export const CLOSE = 6 * HOUR

/** What looks wrong about the emails of a story, in its order. `closes` says when offers that an email sells close. */
export function warningsOf(lines: readonly StoryLine[], { hours, zoneOfStep, closes }: { hours: WeekHours, zoneOfStep(
  stepId: string,
): ZoneName, closes(stepId: string): { name: string, at: Instant }[] }): Warning[] {
  const mails = lines.filter(line => line.sort === 'mail')
  return mails.flatMap(({ at, stepId }, n): Warning[] => {
    if (stepId === null) return []
    const zone = zoneOfStep(stepId)
    const before = mails[n - 1]?.at
    return [
      ...isOpen(at, hours, zone) ? [] : [{ kind: 'outside-hours' as const, at, stepId }],
      ...weekdayOf(localOf(at, zone).date) >= 6 ? [{ kind: 'weekend' as const, at, stepId }] : [],
      ...before !== undefined && at - before < CLOSE ? [{ kind: 'close' as const, at, stepId, before }] : [],
      ...closes(stepId).filter(offer => at >= offer.at)
        .map(offer => ({ kind: 'closed' as const, at, stepId, offer: offer.name, closedAt: offer.at })),
    ]
  })
}

/** Steps that nobody can come to, whatever happens: those behind an end, or behind a jump that leads elsewhere. */
export function unreachable({ steps }: Pick<Program, 'steps'>): string[] {
  const rows = new Map<string, { step: Step, next: string | null }>()
  const lay = (row: readonly Step[], after: string | null) => row.forEach((step, n) => {
    const next = row[n + 1]?.id ?? after
    rows.set(step.id, { step, next })
    for (const way of waysOf(step)) lay(way.steps as Step[], next)
  })
  lay(steps, null)
  const seen = new Set<string>()
  const walk = (id: string | null | undefined): void => {
    if (id === null || id === undefined || seen.has(id) || !rows.has(id)) return
    seen.add(id)
    const { step, next } = rows.get(id)!
    if (step.kind === 'end') return
    if (step.kind === 'jump') return walk(step.toId)
    if (step.kind === 'email') for (const { skipToId } of step.reactions ?? []) walk(skipToId)
    const ways = waysOf(step)
    if (ways.length === 0) return walk(next)
    for (const way of ways) walk((way.steps[0] as Step | undefined)?.id ?? next)
  }
  walk(steps[0]?.id)
  return allSteps<Step>(steps).map(({ id }) => id).filter(id => !seen.has(id))
}

/** What a kept story and the one that is told now do not share. The words they are told in may differ. */
export function differences(kept: readonly StoryLine[], now: readonly StoryLine[]): { gone: StoryLine[], fresh: StoryLine[] } {
  const rest = new Map<string, number>()
  const knowAbout = kept.every(({ about }) => about !== undefined)
  const keyOf = ({ at, kind, about, courseId, stepId }: StoryLine) => JSON.stringify([at, kind, courseId, stepId, knowAbout ? about : null])
  for (const line of now) rest.set(keyOf(line), (rest.get(keyOf(line)) ?? 0) + 1)
  const take = (line: StoryLine) => {
    const left = rest.get(keyOf(line)) ?? 0
    if (left > 0) rest.set(keyOf(line), left - 1)
    return left > 0
  }
  const gone = kept.filter(line => !take(line))
  return { gone, fresh: now.filter(line => {
    const left = rest.get(keyOf(line)) ?? 0
    if (left > 0) rest.set(keyOf(line), left - 1)
    return left > 0
  }) }
}

export const joinsAt = ({ joins, zone }: Pick<RehearsedReader, 'joins' | 'zone'>, workspaceZone: ZoneName): Instant =>
  instantOf(joins.date, joins.time, zone ?? workspaceZone)
