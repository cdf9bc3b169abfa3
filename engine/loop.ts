/**
 * One workspace's engine: plays what is due, then sleeps until woken or for a
 * second. In practice everything goes by one lane, since its clock stands
 * while things are done. In live, what the database alone decides, what is
 * handed over, and what is asked outside have lanes of their own, so that none
 * waits for the slowest of another.
 */
import { refreshStatistics } from '#data/connection'
import { forgetOldAnswers } from '#data/carrier'
import { beat, practiceClock } from '#data/workspace'
import type { EngineContext } from '#usecases/context'
import { HandingOver } from '#usecases/sending/handOver'
import { sweepLeases } from '#usecases/sending/leases'
import { play, playOutside } from '#usecases/time/play'
import type { Log } from './log'
import { Pacer } from './pacer'
import { Signal } from './signal'
import { Troubles } from './troubles'

/** The longest a missed wake can cost. */
export const ROUND_MS = 1000

const BEAT_MS = 1000
const HOUSEKEEPING_MS = 3_600_000
/** At most so many connections can be set. */
const MOST_LANES = 20
/** After something was thrown, the next try of a lane waits so long; from the last on always that long. */
const WAITS_MS = [250, 500, 1000, 2000, 5000, 15_000]

export class Engine {
  readonly #context: EngineContext
  readonly #log: Log
  readonly #version: string
  readonly #startedAt: number
  /** That there may be work again: for everything, and for the lanes of mail alone. A lane never raises what it waits for itself. */
  readonly #signal = new Signal()
  readonly #mail = new Signal()
  readonly #troubles: Troubles
  readonly #pacer: Pacer
  readonly #handing: HandingOver
  #stopping = false
  #beatAt = 0
  #keptAt = 0

  constructor(context: EngineContext, log: Log, version: string) {
    this.#context = context
    this.#log = log
    this.#version = version
    this.#startedAt = context.system.now()
    this.#troubles = new Troubles(context, log)
    this.#pacer = new Pacer(context)
    // An email that waited for this one of its journey may go now.
    this.#handing = new HandingOver(context, () => this.#mail.raise())
  }

  wake(): void {
    this.#signal.raise()
    this.#mail.raise()
  }

  stop(): void {
    this.#stopping = true
    this.wake()
  }

  /** Runs until stopped; what is under way is finished first. */
  async run(): Promise<void> {
    if (this.#context.mode === 'practice') return this.#lane('practice', () => this.#round({ outside: true }))
    await Promise.all([
      this.#lane('due', () => this.#round({ outside: false })),
      this.#lane('outside', () => playOutside(this.#context, this.#context.clock.now())),
      ...Array.from({ length: MOST_LANES }, (_, n) => this.#lane('mail', () => this.#handOver(n), this.#mail)),
    ])
    await this.#handing.ended()
    this.#handing.release()
  }

  /** Does `work` again and again: at once where it did something, else when there may be something again. */
  async #lane(name: string, work: () => Promise<boolean>, signal = this.#signal): Promise<void> {
    let failures = 0
    while (!this.#stopping) {
      try {
        const seen = signal.seen()
        const didSomething = await work()
        failures = 0
        this.#troubles.over(name)
        if (!didSomething && !this.#stopping) await signal.after(seen, ROUND_MS)
        // However much there is to do, timers and answers get their turn.
        await new Promise(setImmediate)
      }
      catch (error) {
        this.#troubles.met(name, error)
        failures += 1
        await signal.never(WAITS_MS[Math.min(failures, WAITS_MS.length) - 1]!, () => this.#stopping)
      }
    }
  }

  async #round({ outside }: { outside: boolean }): Promise<boolean> {
    const context = this.#context
    this.#beat()
    this.#keepOpen()
    const swept = sweepLeases(context)
    if (swept.givenBack + swept.repeats > 0) this.#log.info(swept, 'expired leases were released')
    const until = context.mode === 'practice' ? practiceClock(context.db)!.targetAt : context.clock.now()
    await play(context, until, {
      outside,
      goOn: () => {
        this.#beat()
        // What was decided just now may be to hand over at once.
        if (!outside) this.#mail.raise()
        return !this.#stopping
      },
    })
    return false
  }

  async #handOver(lane: number): Promise<boolean> {
    if (!this.#pacer.isWithin(lane)) return false
    await this.#pacer.turn()
    return this.#handing.next()
  }

  #beat(): void {
    const now = this.#context.system.now()
    if (now - this.#beatAt < BEAT_MS) return
    this.#beatAt = now
    beat(this.#context.db, { process: 'engine', seenAt: now, startedAt: this.#startedAt, version: this.#version })
  }

  #keepOpen(): void {
    const now = this.#context.system.now()
    if (now - this.#keptAt < HOUSEKEEPING_MS) return
    this.#keptAt = now
    refreshStatistics(this.#context.db)
    forgetOldAnswers(this.#context.db, this.#context.clock.now())
  }
}
