/** The settings of an installation, from the environment. docs/settings.md says the same in prose. */
import { resolve } from 'node:path'
import { connectionOf, tryConnection } from '#adapters/smtp'

export interface Settings {
  port: number
  /** Folder of everything that is kept. */
  data: string
  /** Overrides the owner's password, if given. */
  password: string | null
  /** Where readers reach us; no slash at the end. */
  baseUrl: string
  /** Overrides the mail server in the live settings, if given. */
  smtpUrl: string | null
  /** True if a proxy in front of us tells the visitor's address in X-Forwarded-For. */
  trustProxy: boolean
}

/** A setting that makes no sense, in one sentence. */
export class SettingProblem extends Error {}

export function readSettings(env: Record<string, string | undefined>): Settings {
  const port = Number(env.PORT || 3000)
  if (!Number.isInteger(port) || port < 1 || port > 65_535) throw new SettingProblem(`PORT must be a number from 1 to 65535; it is ${env.PORT}.`)
  const baseUrl = (env.PORCH_BASE_URL || `http://localhost:${port}`).replace(/\/+$/, '')
  if (!/^https?:\/\/[^/?#\s]+(\/[^?#\s]*)?$/.test(baseUrl)) throw new SettingProblem(`PORCH_BASE_URL must be a web address like https://porch.example.com; it is ${env.PORCH_BASE_URL}.`)
  const trust = env.PORCH_TRUST_PROXY || ''
  if (!['', '0', '1'].includes(trust)) throw new SettingProblem(`PORCH_TRUST_PROXY is 1 or 0; it is ${trust}.`)
  if (env.PORCH_PASSWORD && env.PORCH_PASSWORD.length < 8) throw new SettingProblem('PORCH_PASSWORD needs at least 8 characters.')
  const smtpProblem = env.PORCH_SMTP_URL ? smtpUrlProblem(env.PORCH_SMTP_URL) : null
  if (smtpProblem) throw new SettingProblem(`PORCH_SMTP_URL: ${smtpProblem}`)
  return { port, data: resolve(env.PORCH_DATA || 'var/porch'), password: env.PORCH_PASSWORD || null, baseUrl, smtpUrl: env.PORCH_SMTP_URL || null, trustProxy: trust === '1' }
}

/** What is wrong with an SMTP address, in a sentence; null if nothing is. */
export function smtpUrlProblem(url: string): string | null {
  try {
    connectionOf(url)
    return null
  }
  catch (error) {
    return `${(error as Error).message}.`
  }
}

/** Connects and signs in to a mail server without sending anything; returns what is wrong, or null. */
export const tryMailServer = (url: string, onUtf8?: (takes: boolean) => void): Promise<string | null> => tryConnection(url, 10_000, onUtf8)
