/** Opens a workspace and chooses its clock and ports: stand-ins in practice, the outside in live. */
import { createCaller } from '#adapters/caller'
import { createEmailSigner } from '#adapters/dkim'
import { createLinkChecker } from '#adapters/linkChecker'
import { allowsInside } from '#data/hooks'
import { practiceDns } from '#data/senders'
import { createPracticeCaller } from '#standins/caller'
import { createPracticeLinkChecker } from '#standins/linkChecker'
import { createPracticeResolver } from '#standins/resolver'
import { createResolver } from '#adapters/resolver'
import { randomBytes } from 'node:crypto'
import { existsSync } from 'node:fs'
import { dirname, join } from 'node:path'
import { createComposer } from '#adapters/composer'
import { createPictureMaker } from '#adapters/pictures'
import { createSigner } from '#adapters/signer'
import { isThrowawayDomain } from '#adapters/throwaway'
import { createSmtpCarrier } from '#adapters/smtp'
import { SmtpThread } from '#adapters/smtpInThread'
import type { Carrier, Clock } from '#core/ports'
import type { WeeklySummary } from '#core/summary/email'
import type { Instant } from '#core/time/zone'
import type { Database } from '#data/connection'
import { databaseTrouble, disableSync, enableSync, leaveCheckpointsToOthers, openDatabase } from '#data/connection'
import { connectionsNow, learnTakesUtf8, sendingPace } from '#data/carrier'
import { deliver as deliverMail } from '#data/mailbox'
import { checkSchema, migrate, SchemaProblem } from '#data/migrate'
import type { Mode } from '#core/views/frame'
import { practiceClock, workspaceOf } from '#data/workspace'
import { createMailbox } from '#standins/mailbox'
import { createReaders } from '#standins/readers'
import type { Keys } from './keys'
import { liveCheckout, standinOn, webhooksOn, type Deliver } from './payments'
import { privateDatabase, privateFolder } from './private'
import type { Settings } from './settings'

export { createComposer }

export const systemClock: Clock = { now: () => Date.now() }

export const databaseFile = (settings: Settings, mode: Mode) => join(settings.data, `${mode}.db`)

export const hasLive = (settings: Settings) => existsSync(databaseFile(settings, 'live'))

/** Opens and migrates; for the one process that does, which is the one that answers people. */
export function openAndMigrate(file: string): Database {
  privateFolder(dirname(file))
  privateDatabase(file)
  return opened(file, (db) => {
    migrate(db, systemClock.now())
    leaveCheckpointsToOthers(db)
  })
}

/** Like {@link openAndMigrate}, but commits do not wait for the disk. For a file that nobody uses before {@link closeWhole}. */
export function openWithoutSync(file: string): Database {
  const db = openAndMigrate(file)
  disableSync(db)
  return db
}

/** Opens a database that the other process migrates; throws a SchemaProblem while it does not fit. */
export function openMigrated(file: string): Database {
  return opened(file, checkSchema)
}

/** A damaged file is said in one sentence with its name: starting again will not help. */
function opened(file: string, prepare: (db: Database) => void): Database {
  let db: Database | undefined
  try {
    db = openDatabase(file)
    prepare(db)
    return db
  }
  catch (error) {
    db?.close()
    const trouble = databaseTrouble(error)
    throw trouble?.kind === 'damaged' ? new SchemaProblem(`${file}: ${trouble.sentence}`) : error
  }
}

/** A workspace as the use cases need it. `deliver`: the way of the payment stand-in's webhooks to their endpoint. */
export function contextOn(db: Database, settings: Settings, keys: Keys, wake: () => void, deliver: Deliver) {
  const { mode, key } = workspaceOf(db)
  const clock: Clock = mode === 'practice' ? { now: () => practiceClock(db)!.nowAt } : systemClock
  const signer = createSigner(keys.signing, `${mode}/${key}`)
  const baseUrl = mode === 'practice' ? `${settings.baseUrl}/practice` : settings.baseUrl
  const webhooks = webhooksOn(db, keys)
  const standin = mode === 'practice' ? standinOn(db, { signer, baseUrl, clock, webhooks, deliver }) : null
  return {
    db,
    mode,
    clock,
    system: systemClock,
    composer: createComposer(),
    pictures: createPictureMaker(),
    emailSigner: createEmailSigner(),
    resolver: mode === 'practice' ? createPracticeResolver(name => practiceDns(db, name)) : createResolver(),
    linkChecker: mode === 'practice' ? createPracticeLinkChecker() : createLinkChecker(),
    isThrowaway: isThrowawayDomain,
    signer,
    get checkout() {
      return standin ?? liveCheckout(db, webhooks)
    },
    webhooks,
    standin,
    baseUrl,
    wake,
    /** Whoever opens it says where that goes. */
    trouble(_what: string, _error: unknown) {},
  }
}

/** Somebody who waits to write looks more often than that. */
const BREATH_MS = 2

/** A workspace with everything only the engine may use. `smtpThread`: the built file of the SMTP thread; null sends from this thread. */
export function engineContextOn(
  db: Database, settings: Settings, keys: Keys, owner: string, deliver: Deliver, smtpThread: string | null = null,
) {
  const context = contextOn(db, settings, keys, () => {}, deliver)
  const { standin } = context
  return {
    ...context,
    tellDuePayments: standin && ((at: Instant) => standin.tellDue(at)),
    caller: context.mode === 'practice'
      ? createPracticeCaller()
      : createCaller({ system: systemClock, allowInside: () => allowsInside(db) }),
    carrier: context.mode === 'practice'
      ? createMailbox({ deliver: mail => deliverMail(db, mail) })
      : liveCarrier(db, settings, smtpThread),
    summaryOf: null as ((until: Instant) => WeeklySummary) | null,
    readers: context.mode === 'practice' ? createReaders(workspaceOf(db).key) : null,
    owner,
    breathe: () => new Promise<void>(resolve => setTimeout(resolve, BREATH_MS)),
  }
}

/** So many mail servers are spoken to at a time: the workspace's, and those of senders. */
const MOST_SERVICES = 8

/** SMTP to wherever the sender, or the settings, point now: a changed address counts from the next email on. */
function liveCarrier(db: Database, settings: Settings, smtpThread: string | null): Carrier {
  const thread = smtpThread === null ? null : new SmtpThread(smtpThread)
  const create = (options: Parameters<SmtpThread['carrier']>[0]) => thread?.carrier(options) ?? createSmtpCarrier(options)
  /** By their addresses, what was used last at the end. */
  const carriers = new Map<string, Carrier>()
  function carrierTo(url: string): Carrier {
    const carrier = carriers.get(url) ?? create({
      url, name: new URL(settings.baseUrl).hostname, width: () => connectionsNow(db), messages: () => sendingPace(db).messages,
      onUtf8: takes => learnTakesUtf8(db, takes),
    })
    carriers.delete(url)
    carriers.set(url, carrier)
    return carrier
  }
  /** Those that nothing is handed to any more: their settings were changed. */
  async function leaveOld(): Promise<void> {
    for (const [url, carrier] of [...carriers].slice(0, Math.max(0, carriers.size - MOST_SERVICES))) {
      carriers.delete(url)
      await carrier.close()
    }
  }
  return {
    get width() {
      return connectionsNow(db)
    },
    knowsRepeats: false,
    async handOver(mail, source) {
      const url = mail.service?.url ?? settings.smtpUrl ?? workspaceOf(db).smtpUrl
      if (!url) return { kind: 'refused', answer: { stage: 'sign-in', code: 530, text: 'No mail server is set' } }
      const carrier = carrierTo(url)
      await leaveOld()
      return carrier.handOver(mail, source)
    },
    async close() {
      for (const carrier of carriers.values()) await carrier.close()
      await thread?.close()
    },
  }
}

/** Tells one workspace from another in Message-IDs and signatures. */
export const newKey = () => randomBytes(6).toString('hex')

/** Closes with everything in the one file, so that it can be moved. */
export function closeWhole(db: Database): void {
  enableSync(db)
  db.close()
}
