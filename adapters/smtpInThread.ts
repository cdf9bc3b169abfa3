/**
 * SMTP in a thread of its own: an email of some size takes about as long to go over the line as to be made and marked, and with a second
 * processor both go on at once. A thread that cannot begin is as a server that cannot be reached. Where it ends with emails under way,
 * nobody knows whether those have arrived: their handing over throws.
 */
import type Piscina from 'piscina'
import type { Carrier } from '#core/ports'
import type { SmtpOptions } from './smtp'
import type { Handed, Handing } from './smtpThread'

export type ThreadedOptions = Omit<SmtpOptions, 'patience'>

/** More than are ever under way at once: how many are is the engine's to say. */
const MOST_AT_ONCE = 1000

export class SmtpThread {
  readonly #file: string
  #thread: Promise<Piscina> | null = null

  /** `file`: smtpThread.ts as it was built. The thread begins with the first email. */
  constructor(file: string) {
    this.#file = file
  }

  carrier({ url, name, width, messages, onUtf8 }: ThreadedOptions): Carrier {
    let told: boolean | null = null
    return {
      get width() {
        return width()
      },
      knowsRepeats: false,
      handOver: async ({ from, to }, source) => {
        let thread: Piscina
        try {
          thread = await this.#begun()
        }
        catch (error) {
          const text = `The thread that sends could not be started: ${(error as Error).message}`
          return { kind: 'refused', answer: { stage: 'connect', code: null, text } }
        }
        const handing: Handing = { url, name, width: width(), messages: messages(), mail: { from, to }, source }
        // Given away, not copied, where nothing else lies in the same memory.
        const isAlone = source.byteLength === source.buffer.byteLength
        const { answer, takesUtf8 } = await thread.run(handing, {
          name: 'handOver', transferList: isAlone ? [source.buffer as ArrayBuffer] : [],
        }) as Handed
        if (takesUtf8 !== null && takesUtf8 !== told) onUtf8?.(told = takesUtf8)
        return answer
      },
      close: async () => {
        await (await this.#thread)?.run(url, { name: 'close' })
      },
    }
  }

  /** Ends it with all its connections. */
  async close(): Promise<void> {
    const thread = await this.#thread?.catch(() => null)
    this.#thread = null
    await thread?.destroy()
  }

  #begun(): Promise<Piscina> {
    return this.#thread ??= this.#begin().catch((error: unknown) => {
      this.#thread = null
      throw error
    })
  }

  async #begin(): Promise<Piscina> {
    const { default: Threads } = await import('piscina')
    const thread = new Threads({
      filename: this.#file, minThreads: 1, maxThreads: 1, concurrentTasksPerWorker: MOST_AT_ONCE,
      // Its connections are heard while nothing is handed to it, too.
      atomics: 'disabled',
    })
    try {
      await thread.run(null, { name: 'ready' })
      return thread
    }
    catch (error) {
      await thread.destroy()
      throw error
    }
  }
}
