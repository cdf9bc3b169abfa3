/**
 * Asks a reading thread. One question is worked on at a time; of the
 * questions of one asker that wait only the newest is: nobody wants the others
 * any more, and they are answered as out of date.
 */
import type { H3Event } from 'h3'
import { getHeader } from 'h3'
import { Refused } from '../refused'
import { Pool } from '../work/pool'
import { unpacked, type Packed } from '../work/packed'
import type { Question, SlowView } from './views'
import type { SLOW_VIEWS } from './views'

interface Waiting { question: Question, asker: string, resolve(answer: unknown): void, reject(error: Error): void }

/** Told to whoever asks what an asker has meanwhile replaced by another question. */
export class OutOfDate extends Error {}

const SECOND = 1000
const MOST_WAITING = 200
const MEMORY_MB = 1024

class Reader {
  readonly #pool: Pool
  #working: Waiting | null = null
  #waiting: Waiting[] = []

  constructor(limitMs: number) {
    this.#pool = new Pool({ file: 'reader.mjs', threads: 1, limitMs, mostWaiting: 1, memoryMb: MEMORY_MB })
  }

  ask(question: Question, asker: string): Promise<unknown> {
    return new Promise((resolve, reject) => {
      if (asker !== '') {
        for (const older of this.#waiting.filter(waiting => waiting.asker === asker)) {
          older.reject(new OutOfDate('A newer request replaced this one.'))
        }
        this.#waiting = this.#waiting.filter(waiting => waiting.asker !== asker)
      }
      if (this.#waiting.length >= MOST_WAITING) {
        reject(new Refused(503, 'The server is busy right now. Try again in a moment.'))
        return
      }
      this.#waiting.push({ question, asker, resolve, reject })
      void this.#next()
    })
  }

  async #next(): Promise<void> {
    if (this.#working) return
    const next = this.#working = this.#waiting.shift() ?? null
    if (!next) return
    try {
      next.resolve(unpacked(await this.#pool.run('answer', next.question) as Packed))
    }
    catch (error) {
      next.reject(error as Error)
    }
    this.#working = null
    void this.#next()
  }
}

/**
 * What takes seconds on a big workspace has a thread of its own, so that a
 * table never waits behind it; and so has what every open screen asks for
 * again and again. What plays courses waits behind neither.
 */
const [quick, patient, steady, playing] = [
  new Reader(20 * SECOND), new Reader(60 * SECOND), new Reader(20 * SECOND), new Reader(30 * SECOND),
]
const PLACES: Record<SlowView, Reader> = {
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
    { mode, view, input: input[0] }, getHeader(event, 'porch-asker') ?? '',
  ) as Promise<Awaited<ReturnType<typeof SLOW_VIEWS[View]>>>
}
