/** The workspaces this server has open, and what belongs to the installation. */
import { renameSync, rmSync } from 'node:fs'
import pino from 'pino'
import { sayWebIsAlive } from '#runtime/alive'
import { Owner, keysIn } from '#runtime/keys'
import { closeWhole, databaseFile, hasLive, contextOn, newKey, openAndMigrate, systemClock } from '#runtime/open'
import { overTheLine, ownPaymentsSecret, type CheckoutStandin } from '#runtime/payments'
import { readSettings, smtpUrlProblem } from '#runtime/settings'
import { socketPath, wakeEngine } from '#runtime/wake'
import type { Mode } from '#core/views/frame'
import type { WorkspaceContext } from '#usecases/context'
import { InputProblem, NotNow, NotThere } from '#usecases/problem'
import type { LiveCheck } from '#core/views/settings'
import { goLive, liveChecks } from '#usecases/settings/goLive'
import { foundWorkspace } from '#usecases/settings/workspace'
import { composerInThread } from './emails'
import { Limiter } from './limiter'

export const log = pino({ name: 'web', level: process.env.PORCH_LOG || 'info' })

const MINUTES = 60_000

class Workspaces {
  readonly settings = readSettings(process.env)
  readonly keys = keysIn(this.settings.data)
  readonly owner = new Owner(this.settings.data, this.settings.password)
  readonly signIns = new Limiter({ most: 10, perMs: 10 * MINUTES })
  readonly optIns = new Limiter({ most: 20, perMs: 10 * MINUTES })
  /** Presses of an offer's button to buy, by origin and by address. */
  readonly buys = new Limiter({ most: 10, perMs: 10 * MINUTES })
  /** Coupon codes typed or brought along. */
  readonly codes = new Limiter({ most: 30, perMs: 10 * MINUTES })
  readonly #open = new Map<Mode, ReturnType<typeof contextOn>>()

  constructor() {
    sayWebIsAlive(this.settings.data)
    const practice = openAndMigrate(databaseFile(this.settings, 'practice'))
    const zone = Intl.DateTimeFormat().resolvedOptions().timeZone || 'UTC'
    foundWorkspace(practice, {
      mode: 'practice', key: newKey(), name: 'My porch', zone, at: Math.floor(systemClock.now() / MINUTES) * MINUTES,
    })
    this.#open.set('practice', this.#contextOn('practice', practice))
    if (hasLive(this.settings)) this.#open.set('live', this.#contextOn('live', openAndMigrate(databaseFile(this.settings, 'live'))))
  }

  #contextOn(mode: Mode, db: WorkspaceContext['db']): ReturnType<typeof contextOn> {
    const context = contextOn(
      db, this.settings, this.keys, () => wakeEngine(socketPath(this.settings.data, mode)), overTheLine(this.settings),
    )
    return Object.assign(context, {
      composer: composerInThread(), trouble: (what: string, error: unknown) => log.error({ mode, err: error }, what),
    })
  }

  /** The payment stand-in, at which practice pays. */
  get standin(): CheckoutStandin {
    return this.#open.get('practice')!.standin!
  }

  /** What a payment service signs with where the owner has typed nothing. */
  ownPaymentsSecret(context: WorkspaceContext): string {
    return ownPaymentsSecret(context.db, this.keys)
  }

  of(mode: Mode): WorkspaceContext {
    const context = this.#open.get(mode)
    if (!context) throw new NotThere('There is no live workspace yet. Go live in Settings first.')
    return context
  }

  get hasLive(): boolean {
    return this.#open.has('live')
  }

  checks(smtpUrl: string | null): LiveCheck[] {
    return liveChecks(this.of('practice'), Boolean(this.settings.smtpUrl ?? smtpUrl), this.settings.baseUrl)
  }

  /** Makes live.db beside practice.db: whole, or not at all. */
  goLive(smtpUrl: string | null): void {
    if (this.hasLive) throw new NotNow('There is already a live workspace.')
    const problem = smtpUrl ? smtpUrlProblem(smtpUrl) : null
    if (problem) throw new InputProblem([{ field: 'smtpUrl', problem }])
    const file = databaseFile(this.settings, 'live')
    const building = `${file}.new`
    rmSync(building, { force: true })
    const db = openAndMigrate(building)
    try {
      goLive(this.of('practice'), db, { key: newKey(), at: systemClock.now(), smtpUrl, checks: this.checks(smtpUrl) })
    }
    catch (error) {
      db.close()
      rmSync(building, { force: true })
      throw error
    }
    closeWhole(db)
    renameSync(building, file)
    this.#open.set('live', this.#contextOn('live', openAndMigrate(file)))
    wakeEngine(socketPath(this.settings.data, 'live'))
  }

  close(): void {
    for (const context of this.#open.values()) context.db.close()
  }
}

let workspaces: Workspaces | null = null

/** Opened once, at the start: see plugins/open.ts. */
export function openWorkspaces(): Workspaces {
  return workspaces ??= new Workspaces()
}
