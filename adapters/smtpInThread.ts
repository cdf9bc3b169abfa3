/**
 * SMTP in a separate thread. Sending an email takes about as long as composing and marking it, so with a second processor both happen at
 * once. If the thread cannot start, that counts as a mail server that cannot be reached. If it dies while emails are being sent, nobody
 * knows whether they arrived, and `handOver` throws for each of them.
 */
import type Piscina from 'piscina'
import type { Carrier } from '#core/ports'
import type { SmtpOptions } from './smtp'
import type { SmtpJob, SmtpResult } from './smtpThread'

export type ThreadedOptions = Omit<SmtpOptions, 'patience'>

/** More than are ever sent at once; the engine sets the real limit. */
const MOST_AT_ONCE = 1000

export class SmtpThread {
  readonly #file: string
  #thread: Promise<Piscina> | null = null

  /** `file`: smtpThread.ts as it was built. The thread starts with the first email. */
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
          thread = await this.#started()
        }
        catch (error) {
          const text = `The thread that sends could not be started: ${(error as Error).message}`
          return { kind: 'refused', answer: { stage: 'connect', code: null, text } }
        }
        const job: SmtpJob = { url, name, width: width(), messages: messages(), mail: { from, to }, source }
        // Transferred rather than copied, unless other data shares the same memory.
        const isAlone = source.byteLength === source.buffer.byteLength
        const { answer, takesUtf8 } = await thread.run(job, {
          name: 'handOver', transferList: isAlone ? [source.buffer as ArrayBuffer] : [],
        }) as SmtpResult
        if (takesUtf8 !== null && takesUtf8 !== told) onUtf8?.(told = takesUtf8)
        return answer
      },
      close: async () => {
        await (await this.#thread)?.run(url, { name: 'close' })
      },
    }
  }

  /** Stops the thread and closes its connections. */
  async close(): Promise<void> {
    const thread = await this.#thread?.catch(() => null)
    this.#thread = null
    await thread?.destroy()
  }

  #started(): Promise<Piscina> {
    return this.#thread ??= this.#start().catch((error: unknown) => {
      this.#thread = null
      throw error
    })
  }

  async #start(): Promise<Piscina> {
    const { default: Threads } = await import('piscina')
    const thread = new Threads({
      filename: this.#file, minThreads: 1, maxThreads: 1, concurrentTasksPerWorker: MOST_AT_ONCE,
      // Keeps serving its connections while no email is being sent.
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
