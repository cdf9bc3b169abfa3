/** Emails leave: claimed, looked at for the last time, handed over, and marked. */
import type { HandOver } from '#core/ports'
import { waitAfter } from '#core/sending/retry'
import { SECOND, type Instant } from '#core/time/zone'
import { isBusy, readKeeping } from '#data/connection'
import { nextDue } from '#data/due'
import {
  findInOutbox, giveBack, isOwnerMail, leaseEmails, markHandingOver, renewLease, takeBack, type OutboxRow, type OwnerMail,
} from '#data/outbox'
import { workspaceOf } from '#data/workspace'
import type { EngineContext } from '../context'
import { Together } from '../inner/reactor/together'
import { transact } from '../inner/reactor/transaction'
import { lastLook } from './lastLook'
import { LEASE, RENEW } from './leases'
import { renderEmail, type Letter } from './renderEmail'
import { writeOwnerMail } from './ownerMail'
import { giveUp, mayHaveArrived, settle, settleBarely } from './settle'
import { hasTurn, mayWaitForTurn } from './turn'

type Writing = Pick<Together, 'write' | 'writeSoon'>

type AnyRow = OutboxRow | OwnerMail
type Made = Letter | Pick<Letter, 'mail' | 'source'>

/** `make` may return an email made a moment ago; `meanwhile` is called while the mail server has an email. */
interface How extends Writing { make(row: AnyRow): Promise<Made>, meanwhile(): void }

/** Hands over emails due by `at`, at most `limit`; returns how many were claimed. */
export async function handOverDue(context: EngineContext, at: Instant, limit: number): Promise<number> {
  context.stage('before lease', null)
  const rows = claim(context, at, limit)
  if (rows.length > 0) context.stage('after lease', null)
  const waiting = [...rows]
  const together = new Together(context)
  // Each result is awaited here, so there is nothing else to commit it with.
  const write: Writing['write'] = work => together.write(work)
  const how: How = { write, writeSoon: write, make: row => make(context, row), meanwhile: () => undefined }
  const work = async () => {
    for (let row = waiting.shift(); row; row = waiting.shift()) await (await handOverOne(context, how, row)).ended
  }
  await Promise.all(Array.from({ length: Math.max(1, Math.min(context.carrier.width, rows.length)) }, work))
  return rows.length
}

/** So many are claimed at once at the most. They should have left after so many milliseconds: what is asked for meanwhile comes next. */
const MOST_CLAIMED = 32
const CLAIMED_FOR_MS = 500
/** An email made ahead may be this old when it is sent. */
const FRESH_MS = 1000

/**
 * Hands over due emails. Several lanes can call `next` at once, each for one email after another. A lane commits the result of an email
 * together with the mark of its next one. That is one wait for the disk per email, and never more than one unrecorded sent email per lane.
 */
export class HandingOver {
  readonly #context: EngineContext
  readonly #together: Together
  /** Claimed, and nobody's yet. */
  #claimed: AnyRow[] = []
  /** Claimed emails to subscribers that were made while the mail server had others, by id. */
  readonly #ahead = new Map<number, { at: number, made: Promise<Made | null> }>()
  #claimedAt = 0
  #size = 1
  readonly #ending = new Set<Promise<void>>()
  readonly #onEnded: () => void
  /** Why a result could not be recorded; thrown by the next call of `next`. */
  #failure: { error: unknown } | null = null

  /** `onEnded` is called once the result of an email is recorded. */
  constructor(context: EngineContext, onEnded: () => void = () => undefined) {
    this.#context = context
    this.#together = new Together(context)
    this.#onEnded = onEnded
  }

  /** Claims the next email and hands it over; false if there is none. Its result may be recorded a moment later. */
  async next(): Promise<boolean> {
    if (this.#failure) {
      const { error } = this.#failure
      this.#failure = null
      throw error
    }
    // Slowed down meanwhile, what was claimed is not held until its lease has run out and it is no longer ours.
    if (this.#context.system.now() - this.#claimedAt > RENEW) this.release()
    const row = this.#claimed.shift() ?? this.#claim()
    if (row) this.#follow((await handOverOne(this.#context, this.#how, row)).ended)
    return row !== undefined
  }

  readonly #how: How = {
    write: work => this.#together.write(work),
    writeSoon: work => this.#together.writeSoon(work),
    make: async (row) => {
      const ahead = this.#ahead.get(row.id)
      this.#ahead.delete(row.id)
      const isFresh = ahead !== undefined && this.#context.system.now() - ahead.at < FRESH_MS
      return (isFresh ? await ahead.made : null) ?? await make(this.#context, row)
    },
    meanwhile: () => this.#makeAhead(),
  }

  #makeAhead(): void {
    const next = this.#claimed.find(row => !isOwnerMail(row) && !this.#ahead.has(row.id)) as OutboxRow | undefined
    if (next) this.#ahead.set(next.id, { at: this.#context.system.now(), made: this.#tryToMake(next) })
  }

  /** Null if it may have to wait for its turn, or cannot be made; in its turn it is made anyway, and an error is recorded. */
  async #tryToMake(row: OutboxRow): Promise<Made | null> {
    try {
      return mayWaitForTurn(this.#context, row) ? null : await make(this.#context, row)
    }
    catch {
      return null
    }
  }

  /** Resolves once all results are recorded. */
  async ended(): Promise<void> {
    await Promise.all(this.#ending)
  }

  #follow(ended: Promise<void>): void {
    const followed = ended.then(this.#onEnded, (error: unknown) => {
      this.#failure = { error }
    }).finally(() => this.#ending.delete(followed))
    this.#ending.add(followed)
  }

  /** What was claimed and not begun waits again, as if it had not been. */
  release(): void {
    const { db, owner } = this.#context
    const rows = this.#claimed.splice(0)
    this.#ahead.clear()
    if (rows.length > 0) transact(this.#context, () => rows.forEach(({ id }) => giveBack(db, id, owner)))
  }

  /** More at once where they leave quickly, fewer where they do not. The first of them; undefined where nothing is due. */
  #claim(): AnyRow | undefined {
    const context = this.#context
    // Read first: nobody's writing is held up for nothing.
    const due = carrierTakes(context) ? nextDue(context.db, ['email']) : null
    if (due === null || due.at > context.clock.now()) return undefined
    const now = context.system.now()
    this.#size = now - this.#claimedAt < CLAIMED_FOR_MS ? Math.min(MOST_CLAIMED, this.#size * 2) : Math.max(1, Math.floor(this.#size / 2))
    this.#claimedAt = now
    this.#claimed = claim(context, context.clock.now(), this.#size)
    this.#ahead.clear()
    return this.#claimed.shift()
  }
}

const claim = (context: EngineContext, at: Instant, limit: number) =>
  transact(context, () => leaseEmails(context.db, context.owner, at, context.system.now() + LEASE, limit))

/** Whether the carrier is neither stopped nor pausing, and its owner lets emails leave. */
export function carrierTakes(context: EngineContext): boolean {
  const { carrierState, carrierPauseUntilAt, heldSinceAt } = readKeeping(context.db, () => workspaceOf(context.db))
  return heldSinceAt === null && carrierState === 'ready' && (carrierPauseUntilAt === null || carrierPauseUntilAt <= context.clock.now())
}

/**
 * Resolves once the email is accepted, or any other result is recorded, because a refusal may stop all sending. Errors on the way are
 * recorded, too. `ended` resolves once the result is recorded, and rejects only if it cannot be.
 */
async function handOverOne(context: EngineContext, how: How, row: AnyRow): Promise<{ ended: Promise<void> }> {
  const answered = attempt(context, how, row)
  const ended = end(context, how, row, answered)
  const said = await answered.catch(() => null)
  if (said?.answer.kind !== 'accepted') await ended
  return { ended }
}

async function end(
  context: EngineContext, how: How, row: AnyRow, answered: Promise<Answered | null>,
): Promise<void> {
  const stopRenewing = keepLease(context, row)
  try {
    const said = await answered
    if (said) await written(() => settleWholly(context, how, row, said))
    context.stage('after marking', row.id)
  }
  catch (error) {
    context.trouble('an email could not be handed over', error)
    await written(async () => leaveInOrder(context, row, error as Error))
  }
  finally {
    stopRenewing()
  }
}

/** `ownService`: the sender by whose own mail service it went; null for the workspace's. */
interface Answered { answer: HandOver, ownService: number | null }

/** What the carrier said; null if it was not asked. */
async function attempt(context: EngineContext, how: How, row: AnyRow): Promise<Answered | null> {
  if (!carrierTakes(context)) {
    giveBack(context.db, row.id, context.owner)
    return null
  }
  if (!isOwnerMail(row) && !hasTurn(context, row)) return null
  let letter: Made
  try {
    letter = await how.make(row)
  }
  catch (error) {
    if (isBusy(error)) throw error
    transact(context, () => giveUp(context, row, `It could not be made: ${(error as Error).message}`))
    return null
  }
  const { messageId } = letter.mail
  const mayGo = await how.write(() => isOwnerMail(row)
    ? markHandingOver(context.db, row.id, context.owner, messageId, context.clock.now())
    : lastLook(context, row, messageId, letter as Letter))
  if (!mayGo) return null
  context.stage('while handing over', row.id)
  const answering = context.carrier.handOver(letter.mail, letter.source)
  how.meanwhile()
  const answer = await answering
  context.stage('before marking', row.id)
  return { answer, ownService: letter.mail.service?.senderId ?? null }
}

const make = async (context: EngineContext, row: AnyRow): Promise<Made> =>
  isOwnerMail(row) ? await writeOwnerMail(context, row) : await renderEmail(context, row)

/** The email has left, or was refused: what follows from that must not undo it. */
async function settleWholly(
  context: EngineContext, how: How, row: AnyRow, { answer, ownService }: Answered,
): Promise<void> {
  try {
    const settling = () => settle(context, row, answer, ownService)
    await (answer.kind === 'accepted' ? how.writeSoon(settling) : how.write(settling))
  }
  catch (error) {
    if (isBusy(error) || answer.kind !== 'accepted') throw error
    context.trouble('what follows from sending an email could not be done', error)
    settleBarely(context, row)
  }
}

/** After something was thrown: what was only claimed is tried again, what was being handed over may have left. */
function leaveInOrder(context: EngineContext, row: AnyRow, error: Error): void {
  transact(context, () => {
    const now = findInOutbox(context.db, row.id)
    if (!now || now.leaseOwner !== context.owner) return
    const at = context.clock.now()
    if (now.status === 'leased') giveBack(context.db, row.id, context.owner, at + waitAfter(now.tries + 1))
    else if (now.status === 'handing over' && context.carrier.knowsRepeats) takeBack(context.db, row.id, at + waitAfter(now.tries))
    else if (now.status === 'handing over') mayHaveArrived(context, row, now, error.message, at)
  })
}

/** A live email can take ten minutes; others must not take it for lost meanwhile. */
function keepLease(context: EngineContext, row: AnyRow): () => void {
  const timer = setInterval(() => {
    try {
      transact(context, () => renewLease(context.db, row.id, context.owner, context.system.now() + LEASE))
    }
    catch (error) {
      // Somebody else writes: the next renewal comes long before it runs out.
      if (!isBusy(error)) context.trouble('a lease could not be renewed', error)
    }
  }, RENEW)
  timer.unref?.()
  return () => clearInterval(timer)
}

/** How long what is known of an email is tried to be written down while the database is locked. */
const WRITING_WAITS = [0.2, 0.5, 1, 2, 5, 10, 20, 20, 20, 20].map(seconds => seconds * SECOND)

/** Does it again, after growing waits, for as long as another program keeps the database locked. */
async function written(work: () => Promise<void>): Promise<void> {
  for (const wait of WRITING_WAITS) {
    try {
      return await work()
    }
    catch (error) {
      if (!isBusy(error)) throw error
      await new Promise(resolve => setTimeout(resolve, wait))
    }
  }
  await work()
}
