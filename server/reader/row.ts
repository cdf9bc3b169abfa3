/**
 * Questions that wait for a reading thread. One is worked on at a time; of those of one asker that wait only the newest is: nobody wants
 * the others any more, and they are answered as out of date.
 */
import { Refused } from '../refused'

/** Told to whoever asks what an asker has meanwhile replaced by another question. */
export class OutOfDate extends Error {}

/**
 * Who asks, and the number of their question, which grows: two that are on their way together may come in the other order. Nobody in
 * particular where the name is empty.
 */
export interface Asker { name: string, nth: number }

export const NOBODY: Asker = { name: '', nth: 0 }

/** From a header like `table-17 3`; without a number each is newer than the last. */
export function askerOf(header: string): Asker {
  const [, name, nth] = /^(.*) (\d{1,15})$/.exec(header) ?? []
  return name === undefined ? { name: header, nth: Number.POSITIVE_INFINITY } : { name, nth: Number(nth) }
}

interface Waiting<Question> { question: Question, asker: Asker, resolve(answer: unknown): void, reject(error: Error): void }

export class ReadingRow<Question> {
  readonly #answer: (question: Question) => Promise<unknown>
  readonly #most: number
  #working = false
  #waiting: Waiting<Question>[] = []

  constructor(answer: (question: Question) => Promise<unknown>, most: number) {
    this.#answer = answer
    this.#most = most
  }

  ask(question: Question, asker: Asker): Promise<unknown> {
    return new Promise((resolve, reject) => {
      if (asker.name !== '') {
        const others = this.#waiting.filter(waiting => waiting.asker.name === asker.name)
        const outOfDate = () => new OutOfDate('A newer request replaced this one.')
        if (others.some(other => other.asker.nth > asker.nth)) return reject(outOfDate())
        for (const other of others) other.reject(outOfDate())
        this.#waiting = this.#waiting.filter(waiting => !others.includes(waiting))
      }
      if (this.#waiting.length >= this.#most) {
        return reject(new Refused(503, 'The server is busy right now. Try again in a moment.'))
      }
      this.#waiting.push({ question, asker, resolve, reject })
      void this.#next()
    })
  }

  async #next(): Promise<void> {
    const next = this.#working ? undefined : this.#waiting.shift()
    if (!next) return
    this.#working = true
    try {
      next.resolve(await this.#answer(next.question))
    }
    catch (error) {
      next.reject(error as Error)
    }
    this.#working = false
    void this.#next()
  }
}
