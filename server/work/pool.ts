/**
 * Threads of a kind: so many questions at once, each with a limit of time and
 * of memory, and a row of waiting ones that is never longer than it may be.
 * What runs past its limit is ended with its thread; the next gets a new one.
 * Besides what it answers, a thread's file exports `ready`.
 */
import { join } from 'node:path'
import Piscina from 'piscina'
import { Refused } from '../refused'

export interface PoolOptions {
  /** The file in dist/, made by the build. */
  file: string
  /** Threads at once. */
  threads: number
  /** Milliseconds for one question, from when its thread has started. */
  limitMs: number
  /** So many may wait. */
  mostWaiting: number
  /** Megabytes a thread may fill. */
  memoryMb: number
}

export class Pool {
  readonly #piscina: Piscina
  readonly #options: PoolOptions
  #running = 0
  /** Those whose turn has not come; waiting takes nothing from their time. */
  readonly #waiting: (() => void)[] = []

  constructor(options: PoolOptions) {
    this.#options = options
    this.#piscina = new Piscina({
      // Built beside the server's own files; both processes run in the folder of the application.
      filename: join(process.cwd(), 'dist', options.file), minThreads: 0, maxThreads: options.threads, idleTimeout: 600_000,
      concurrentTasksPerWorker: 1, resourceLimits: { maxOldGenerationSizeMb: options.memoryMb },
    })
  }

  /** Throws a {@link Refused} where it took too long, filled too much memory, or too much waits already. */
  async run(name: string, task: unknown, transfer: ArrayBuffer[] = []): Promise<unknown> {
    const { limitMs, threads, mostWaiting } = this.#options
    if (this.#running >= threads) {
      if (this.#waiting.length >= mostWaiting) throw new Refused(503, 'The server is busy right now. Try again in a moment.')
      await new Promise<void>(resolve => this.#waiting.push(resolve))
    }
    else this.#running++
    const ending = new AbortController()
    let timer: NodeJS.Timeout | undefined
    try {
      // Starting a thread takes seconds on a slow machine, and is nothing that less at once would make shorter.
      if (this.#piscina.threads.length < threads) await this.#piscina.run(null, { name: 'ready' })
      timer = setTimeout(() => ending.abort(), limitMs)
      return await this.#piscina.run(task, { name, signal: ending.signal, transferList: transfer })
    }
    catch (error) {
      if (ending.signal.aborted) throw new Refused(
        503,
        `This took longer than ${Math.round(limitMs / 1000)} seconds and was ended. Nothing was changed by it; try with less at once.`,
      )
      if ((error as { code?: string }).code === 'ERR_WORKER_OUT_OF_MEMORY') {
        throw new Refused(413, 'This needs more memory than there is for one request. Try with less at once.')
      }
      throw error
    }
    finally {
      clearTimeout(timer)
      // Whoever waits longest takes the place; only where nobody does is it free.
      const next = this.#waiting.shift()
      if (next) next()
      else this.#running--
    }
  }

  /** Ends the threads; what is under way is given up. */
  async close(): Promise<void> {
    await this.#piscina.destroy()
  }
}
