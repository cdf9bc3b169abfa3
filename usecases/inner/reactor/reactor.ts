/** Lets everything follow that follows from the events of a transaction. */
import type { Instant } from '#core/time/zone'
import { listen, writingAs, type RawEvent } from '#data/events'
import type { WorkspaceContext } from '../../context'
import { reactBy, type Reacting } from '../facts/reacting'
import { doDueBefore, doNextAt } from '../journeys/advancing'
import { CONSEQUENCES, IN_TURN } from './consequences'
import { Story, type RuleObserver } from './rules'

/**
 * Events in the order in which they were written, each twice: first what follows at once, like the courses that a tag begins; then, in its
 * turn, points, rules and what waits for it. What these write is looked at in its own turn. When nothing follows any more, journeys go on
 * through what is due at that instant. A part of all this can be settled before the rest: what was written last, with all that follows
 * from it.
 */
export class Reactor implements Reacting {
  readonly #context: Pick<WorkspaceContext, 'db' | 'clock'>
  readonly #observer: RuleObserver | undefined
  /** What was written and has not had its turn yet; null where it has. */
  readonly #written: (RawEvent | null)[] = []
  /** As far as this, what follows at once has followed. */
  #followed = 0
  readonly #goingOn: { enrolmentId: number, at: Instant, causeId: number }[] = []
  #story: Story | null = null

  constructor(context: Pick<WorkspaceContext, 'db' | 'clock'>, observer?: RuleObserver) {
    this.#context = context
    this.#observer = observer
  }

  /** Does `work` in the open transaction, and all that follows from it. */
  run<Result>(work: () => Result): Result {
    const { db } = this.#context
    const before = listen(db, event => this.#written.push(event))
    try {
      return reactBy(db, this, () => this.settled(work))
    }
    finally {
      listen(db, before)
    }
  }

  settled<Result>(work: () => Result): Result {
    const [from, goingFrom] = [this.#written.length, this.#goingOn.length]
    const result = work()
    for (;;) {
      this.#takeTurns(from)
      const next = this.#goingOn[goingFrom]
      if (!next) break
      const { db } = this.#context
      const went = writingAs(db, { ruleId: null, quiet: null }, () => doNextAt(db, next.enrolmentId, next.at, next.causeId))
      if (!went) this.#goingOn.splice(goingFrom, 1)
    }
    this.#written.length = from
    this.#followed = Math.min(this.#followed, from)
    return result
  }

  followAtOnce(): void {
    const { db } = this.#context
    // What is done here is done in its own turn where it calls for the same again.
    while (this.#followed < this.#written.length) {
      const event = this.#written[this.#followed++]
      const consequences = event && CONSEQUENCES[event.kind]
      if (!consequences) continue
      const { ruleId, quiet } = event
      writingAs(db, { ruleId, quiet }, () => {
        for (const { does, starts } of consequences) if (!starts || quiet === null) does(db, event)
      })
    }
  }

  catchUp(personId: number, before: Instant): void {
    doDueBefore(this.#context.db, personId, before)
  }

  goOn(enrolmentId: number, at: Instant, causeId: number): void {
    this.#goingOn.push({ enrolmentId, at, causeId })
  }

  #takeTurns(from: number): void {
    const { db } = this.#context
    for (let n = from; this.followAtOnce(), n < this.#written.length; n++) {
      const event = this.#written[n]
      // It has had its turn, or is having it.
      if (!event) continue
      this.#written[n] = null
      if (event.quiet === 'wakes-nothing') continue
      const story = this.#story ??= new Story(this.#context, this.#observer)
      writingAs(db, { ruleId: null, quiet: null }, () => {
        for (const does of IN_TURN) does(db, event, story)
      })
    }
  }
}
