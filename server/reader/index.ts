/** Asks the reading threads. */
import type { H3Event } from 'h3'
import { getHeader } from 'h3'
import { Pool } from '../work/pool'
import { unpacked, type Packed } from '../work/packed'
import { askerOf, ReadingRow } from './row'
import type { Question, SlowView } from './views'
import type { SLOW_VIEWS } from './views'

const SECOND = 1000
const MOST_WAITING = 200
const MEMORY_MB = 1024

/** A thread of its own, and the row of those who wait for it. */
function reader(limitMs: number): ReadingRow<Question> {
  const pool = new Pool({ file: 'reader.mjs', threads: 1, limitMs, mostWaiting: 1, memoryMb: MEMORY_MB })
  return new ReadingRow(async question => unpacked(await pool.run('answer', question) as Packed), MOST_WAITING)
}

/**
 * What takes seconds on a big workspace has a thread of its own, so that a
 * table never waits behind it; and so has what every open screen asks for
 * again and again. What plays courses waits behind neither.
 */
const [quick, patient, steady, playing] = [
  reader(20 * SECOND), reader(60 * SECOND), reader(20 * SECOND), reader(30 * SECOND),
]
const PLACES: Record<SlowView, ReadingRow<Question>> = {
  find: quick, subscribers: quick, subscribersCount: quick, audience: quick, idsToExport: quick,
  emailVersions: quick, emailLibrary: patient, pastSubjects: patient, answers: quick, lacking: quick,
  audienceMore: patient, importPlan: patient, howMany: patient, courseStanding: patient, courseNumbers: patient, whoBehind: patient,
  calendar: patient, weeks: patient, coursesAhead: patient, startOutlook: patient, changeOutlook: patient,
  broadcasts: patient, broadcastReach: patient, againReach: patient, broadcastResults: patient, broadcastSplit: patient,
  broadcastWho: patient,
  rehearsal: playing, keptRehearsals: playing,
  frame: steady, rail: steady, today: steady, courses: steady, course: steady, engine: steady, pages: steady, pageResults: steady,
  lists: steady, tags: steady,
  conditionParts: steady, rules: steady, desk: steady, hooks: steady, links: steady, link: steady, rule: steady, ruleParts: steady,
  sources: steady, offers: steady,
  offerSales: steady, ending: steady,
}

/** What a view is asked besides its workspace. */
type Input<View extends SlowView> = Parameters<typeof SLOW_VIEWS[View]> extends [unknown, infer Only, ...unknown[]] ? [input: Only] : []

/** A screen that asks again and again names itself in a header. */
export function inReader<View extends SlowView>(
  event: H3Event, mode: Question['mode'], view: View, ...input: Input<View>
): Promise<Awaited<ReturnType<typeof SLOW_VIEWS[View]>>> {
  return PLACES[view].ask(
    { mode, view, input: input[0] }, askerOf(getHeader(event, 'porch-asker') ?? ''),
  ) as Promise<Awaited<ReturnType<typeof SLOW_VIEWS[View]>>>
}
