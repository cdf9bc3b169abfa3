/**
 * Transactions of several that work at once, written in one: each commit waits for the disk, and one wait is enough for all that were ready
 * by then. Each is as much a transaction of its own as before: what one throws undoes nothing of the others, and nobody is told that theirs
 * is done before the disk has it.
 */
import { savepoint } from '#data/connection'
import type { WorkspaceContext } from '../../context'
import { writeInParts } from './transaction'

interface Job {
  work: () => unknown
  done: (result: unknown) => void
  failed: (error: unknown) => void
}

type Outcome = { ok: true, result: unknown } | { ok: false, error: unknown }

/** The longest that {@link Together.writeSoon} waits for something else to commit with. */
const SOON_MS = 10

export class Together {
  readonly #context: Pick<WorkspaceContext, 'db'>
  #waiting: Job[] = []
  #timer: NodeJS.Timeout | undefined
  #isComing = false

  constructor(context: Pick<WorkspaceContext, 'db'>) {
    this.#context = context
  }

  /** Resolves with what `work` returns once it is committed; rejects with what it threw, or what kept all from being committed. */
  write<Result>(work: () => Result): Promise<Result> {
    const written = this.#wait(work)
    if (!this.#isComing) setImmediate(() => this.#writeAll())
    this.#isComing = true
    return written
  }

  /** Like `write`, when nobody waits for it: commits with the next write, or after a moment. */
  writeSoon<Result>(work: () => Result): Promise<Result> {
    const written = this.#wait(work)
    if (!this.#isComing) this.#timer ??= setTimeout(() => this.#writeAll(), SOON_MS)
    return written
  }

  #wait<Result>(work: () => Result): Promise<Result> {
    return new Promise<Result>((done, failed) => this.#waiting.push({ work, done: done as Job['done'], failed }))
  }

  #writeAll(): void {
    const { db } = this.#context
    clearTimeout(this.#timer)
    this.#timer = undefined
    this.#isComing = false
    const jobs = this.#waiting.splice(0)
    if (jobs.length === 0) return
    let outcomes: Outcome[] = []
    try {
      writeInParts(this.#context, () => {
        outcomes = jobs.map(({ work }): Outcome => {
          try {
            return { ok: true, result: savepoint(db, work) }
          }
          catch (error) {
            return { ok: false, error }
          }
        })
      })
    }
    catch (error) {
      outcomes = jobs.map(() => ({ ok: false, error }))
    }
    for (const [n, { done, failed }] of jobs.entries()) {
      const outcome = outcomes[n]!
      if (outcome.ok) done(outcome.result)
      else failed(outcome.error)
    }
  }
}
