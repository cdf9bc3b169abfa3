/** What every use case is given: one workspace's database and clock, and the ports it may need. */
import type { Database } from '#data/connection'
import type { Mode } from '#core/views/frame'
import type { WeeklySummary } from '#core/summary/email'
import type { Instant } from '#core/time/zone'
import type {
  Caller, Carrier, Checkout, Clock, Composer, EmailSigner, LinkChecker, PictureMaker, Readers, Resolver, Signer, Webhooks,
} from '#core/ports'

export interface WorkspaceContext {
  db: Database
  mode: Mode
  /** The workspace's time: the practice clock or the system's. */
  clock: Clock
  /** Of the computer, also in practice: leases run by it, and what somebody writes is kept by it. */
  system: Clock
  composer: Composer
  pictures: PictureMaker
  /** Signs emails in the name of their sender's domain. */
  emailSigner: EmailSigner
  resolver: Resolver
  /** Looks whether destinations of links answer. */
  linkChecker: LinkChecker
  signer: Signer
  /** Where buyers pay; null in live until a payment service is set. */
  checkout: Checkout | null
  /** Signs and reads what a payment service tells. */
  webhooks: Webhooks
  /** Whether a domain, in small letters, is known to throw mail away. */
  isThrowaway(domain: string): boolean
  /** Where the public addresses of this workspace begin, without a slash at the end. */
  baseUrl: string
  /** Tells the engine that something may be due at once. Losing a call costs at most a second. */
  wake(): void
  /** Told of what was thrown and dealt with, for the log. */
  trouble(what: string, error: unknown): void
}

/** Points of an email's way out, in order; the engine reports each as it passes it. */
export type HandOverStage = 'before lease' | 'after lease' | 'while handing over' | 'before marking' | 'after marking'

/** What the engine has besides. */
export interface EngineContext extends WorkspaceContext {
  carrier: Carrier
  /** Calls addresses outside for house rules. */
  caller: Caller
  /** The invented readers; null in live. */
  readers: Readers | null
  /** Later payments and disputes of the payment stand-in, told once they are due; null in live. */
  tellDuePayments: ((at: Instant) => Promise<void>) | null
  /** What the owner's summary of the week that ended then says: a view, of which use cases know nothing. Null in a rehearsal. */
  summaryOf: ((until: Instant) => WeeklySummary) | null
  /** Who holds the leases of this run of the engine. */
  owner: string
  /** Lets other processes write for a moment, between two bits of long work. */
  breathe(): Promise<void>
  /** Told of every stage an email passes, for the log. */
  stage(stage: HandOverStage, outboxId: number | null): void
}
