/** The settings of an installation, from the environment. docs/settings.md says the same in prose. */
import { resolve } from 'node:path'
import { leadsInside } from '#adapters/outside'
import { connectionOf, hidePassword, tryConnection, withHiddenPassword } from '#adapters/smtp'

export interface Settings {
  port: number
  /** The network address the web server listens on. */
  host: string
  /** Folder of everything that is kept. */
  data: string
  /** Overrides the owner's password, if given. */
  password: string | null
  /** Where readers reach us; no slash at the end. */
  baseUrl: string
  /** Overrides the mail server in the live settings, if given. */
  smtpUrl: string | null
  /** How many proxies of the owner's stand in front of us, each adding a hop to X-Forwarded-For. */
  proxies: number
}

/** A setting that makes no sense, in one sentence. */
export class SettingProblem extends Error {}

export function readSettings(env: Record<string, string | undefined>): Settings {
  const port = Number(env.PORT || 3000)
  if (!Number.isInteger(port) || port < 1 || port > 65_535) {
    throw new SettingProblem(`PORT must be a number from 1 to 65535; it is ${env.PORT}.`)
  }
  const baseUrl = (env.PORCH_BASE_URL || `http://localhost:${port}`).replace(/\/+$/, '')
  if (!/^https?:\/\/[^/?#\s]+(\/[^?#\s]*)?$/.test(baseUrl)) {
    throw new SettingProblem(`PORCH_BASE_URL must be a web address like https://porch.example.com; it is ${env.PORCH_BASE_URL}.`)
  }
  const host = env.PORCH_HOST || '127.0.0.1'
  if (!/^[A-Za-z0-9.:-]+$/.test(host)) {
    throw new SettingProblem(`PORCH_HOST must be a network address of this machine, like 0.0.0.0 for all of them; it is ${host}.`)
  }
  const proxies = env.PORCH_TRUST_PROXY || '0'
  if (!/^\d$/.test(proxies)) {
    throw new SettingProblem(`PORCH_TRUST_PROXY is the number of your own proxies in front, 0 to 9; it is ${proxies}.`)
  }
  if (env.PORCH_PASSWORD && env.PORCH_PASSWORD.length < 8) throw new SettingProblem('PORCH_PASSWORD needs at least 8 characters.')
  const smtpProblem = env.PORCH_SMTP_URL ? smtpUrlProblem(env.PORCH_SMTP_URL) : null
  if (smtpProblem) throw new SettingProblem(`PORCH_SMTP_URL: ${smtpProblem}`)
  return {
    port, host, data: resolve(env.PORCH_DATA || 'var/porch'), password: env.PORCH_PASSWORD || null, baseUrl,
    smtpUrl: env.PORCH_SMTP_URL || null, proxies: Number(proxies),
  }
}

const THIS_MACHINE = /^(localhost|127(\.\d+){3}|::1|\[::1\])$/

/** Whether a host name, without its port, is this very machine. */
export const isThisMachine = (host: string): boolean => THIS_MACHINE.test(host)

/** Nobody elsewhere reaches a server that listens like that, and no proxy brings them. */
export function isOnlyHere({ host, baseUrl, proxies }: Pick<Settings, 'host' | 'baseUrl' | 'proxies'>): boolean {
  return isThisMachine(host) && isThisMachine(new URL(baseUrl).hostname) && proxies === 0
}

/**
 * Whether a request that names this host means us (RFC 9110, section 7.2). A page that lets its own name
 * point at this machine (DNS rebinding) names its own.
 */
export function isOurHost({ host, baseUrl }: Pick<Settings, 'host' | 'baseUrl'>, named: string): boolean {
  const url = /^[^\s/?#@\\]+$/.test(named) ? URL.parse(`http://${named}`) : null
  if (!url) return false
  const base = new URL(baseUrl)
  // Whatever port a tunnel or a proxy gave it: the name is what counts.
  return url.hostname === base.hostname || isThisMachine(url.hostname) || url.hostname === host || url.hostname === `[${host}]`
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

export const shownSmtpUrl = (url: string | null): string | null => url && hidePassword(url)

/** The address that is meant by what was typed on a screen that hides the password of `kept`. Throws a {@link SettingProblem}. */
export function meantSmtpUrl(typed: string | null, kept: string | null): string | null {
  try {
    return typed && withHiddenPassword(typed, kept)
  }
  catch (error) {
    throw new SettingProblem(`${(error as Error).message}.`)
  }
}

export { leadsInside }

/** Connects and signs in to a mail server without sending anything; returns what is wrong, or null. */
export const tryMailServer = (url: string, onUtf8?: (takes: boolean) => void): Promise<string | null> => tryConnection(url, 10_000, onUtf8)
