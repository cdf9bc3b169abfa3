/**
 * Asks a reading thread. One question is worked on at a time; of the
 * questions of one asker that wait only the newest is: nobody wants the others
 * any more, and they are answered as out of date.
 */
import { join } from 'node:path'
import { Worker } from 'node:worker_threads'
import type { H3Event } from 'h3'
import { getHeader } from 'h3'
import { InputProblem, NotNow, NotThere } from '#usecases/problem'
import type { Answer, Question, SlowView } from './views'
import type { SLOW_VIEWS } from './views'

interface Waiting { question: Question, asker: string, resolve(answer: unknown): void, reject(error: Error): void }

/** Told to whoever asks what an asker has meanwhile replaced by another question. */
export class OutOfDate extends Error {}

class Reader {
  #worker: Worker | null = null
  #working: Waiting | null = null
  #waiting: Waiting[] = []
  #asked = 0

  ask(mode: Question['mode'], view: SlowView, input: unknown, asker: string): Promise<unknown> {
    return new Promise((resolve, reject) => {
      if (asker !== '') {
        for (const older of this.#waiting.filter(waiting => waiting.asker === asker)) older.reject(new OutOfDate('A newer question was asked meanwhile.'))
        this.#waiting = this.#waiting.filter(waiting => waiting.asker !== asker)
      }
      this.#waiting.push({ question: { id: ++this.#asked, mode, view, input }, asker, resolve, reject })
      this.#next()
    })
  }

  #next(): void {
    if (this.#working) return
    this.#working = this.#waiting.shift() ?? null
    if (!this.#working) return
    this.#worker ??= this.#start()
    this.#worker.postMessage(this.#working.question)
  }

  #start(): Worker {
    // Built beside the server's own files; both processes run in the folder of the application.
    const worker = new Worker(join(process.cwd(), 'dist', 'reader.mjs'))
    worker.unref()
    worker.on('message', (answer: Answer) => {
      const { resolve, reject } = this.#working!
      this.#working = null
      if (answer.kind === 'answer') resolve(answer.answer)
      else reject(errorOf(answer))
      this.#next()
    })
    worker.on('error', error => this.#died(worker, error))
    worker.on('exit', () => this.#died(worker, new Error('The reading thread ended')))
    return worker
  }

  /** The question it died of is refused; the next one starts a new thread. */
  #died(worker: Worker, error: Error): void {
    if (this.#worker !== worker) return
    this.#worker = null
    this.#working?.reject(error)
    this.#working = null
    this.#next()
  }
}

function errorOf(answer: Exclude<Answer, { kind: 'answer' }>): Error {
  if (answer.kind === 'input') return new InputProblem(answer.problems)
  return answer.kind === 'not-there' ? new NotThere(answer.message) : answer.kind === 'not-now' ? new NotNow(answer.message) : new Error(answer.message)
}

/**
 * What takes seconds on a big workspace has a thread of its own, so that a
 * table never waits behind it; and so has what every open screen asks for
 * again and again.
 */
const [quick, patient, steady] = [new Reader(), new Reader(), new Reader()]
const PLACES: Record<SlowView, Reader> = {
  subscribers: quick, subscribersCount: quick, audience: quick, idsToExport: quick,
  audienceMore: patient, importPlan: patient,
  frame: steady, rail: steady, today: steady, courses: steady, course: steady, courseStanding: patient, courseNumbers: patient, whoBehind: patient, calendar: patient, engine: steady, rehearsal: patient, keptRehearsals: patient, startOutlook: patient, changeOutlook: patient, pages: steady, pageResults: steady, lists: steady, tags: steady, conditionParts: steady, rules: steady, desk: steady, hooks: steady, links: steady, link: steady, rule: steady, ruleParts: steady, sources: steady, offers: steady, offerSales: steady,
}

/** What a view is asked besides its workspace. */
type Input<View extends SlowView> = Parameters<typeof SLOW_VIEWS[View]> extends [unknown, infer Only, ...unknown[]] ? [input: Only] : []

/** A screen that asks again and again names itself in a header. */
export function inReader<View extends SlowView>(event: H3Event, mode: Question['mode'], view: View, ...input: Input<View>): Promise<Awaited<ReturnType<typeof SLOW_VIEWS[View]>>> {
  return PLACES[view].ask(mode, view, input[0], getHeader(event, 'porch-asker') ?? '') as Promise<Awaited<ReturnType<typeof SLOW_VIEWS[View]>>>
}
