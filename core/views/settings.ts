/** The settings of a workspace, and what must be in order before going live. */
import type { DomainRates } from '#core/sending/domainPace'
import type { SendingPace } from '#core/sending/pace'
import type { WaveRule } from '#core/sending/wave'
import type { Instant } from '#core/time/zone'
import type { Mode } from './frame'

export interface WorkspaceSettings {
  name: string
  zone: string
  senderName: string
  senderAddress: string
  postalAddress: string
  /** ISO 4217: what amounts are typed in. */
  currency: string
  /** Only used in live; null where none is given. */
  smtpUrl: string | null
}

export interface SettingsView extends WorkspaceSettings {
  mode: Mode
  carrierState: 'ready' | 'stopped'
  carrierReason: string | null
  carrierSinceAt: Instant | null
  carrierPauseUntilAt: Instant | null
  /** Domains to which sending has stopped, and how many emails wait for it. */
  stoppedDomains: { domain: string, reason: string, sinceAt: Instant, waiting: number }[]
  /** Domains that put us off, until when they are left alone, and how many emails wait for that. */
  pausingDomains: { domain: string, untilAt: Instant, pauses: number, said: string, waiting: number }[]
  /** What the mail server asked us to slow down to, and in which words; null while it takes what we send. */
  slowed: { to: number, at: Instant, said: string } | null
  /** True if PORCH_SMTP_URL decides the mail server. */
  smtpFromEnvironment: boolean
  /** Where the public addresses of this workspace begin. */
  baseUrl: string
  hasLive: boolean
}

export interface LiveCheck {
  what: string
  ok: boolean
  advice: string
  /** Going live waits for it. */
  needed: boolean
}

/** A browser that is signed in. */
export interface SessionLine { madeAt: Instant, seenAt: Instant, /** The one that asks. */ isThis: boolean }

export interface SessionsView {
  /** PORCH_PASSWORD decides it, and no screen changes it. */
  passwordFromEnvironment: boolean
  sessions: SessionLine[]
}

/** How live mail is handed over, and when refusals are taken for a wave. */
export interface SendingSettings extends SendingPace, WaveRule {
  domainRates: DomainRates
}
