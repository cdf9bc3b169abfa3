/** Telling readers from machines. Opens are uncertain, and these rules say how they are read. */
import type { Instant } from '#core/time/zone'
import { SECOND } from '#core/time/zone'

/** How long after a click its consequences wait, so that a scanner's other clicks can show it up. */
export const JUDGING_WINDOW = 30 * SECOND

/** Fetched this soon after handing over, it was a machine: nobody is that quick. */
const TOO_QUICK = 5 * SECOND

/** Different links followed within this are followed by a machine. */
const TOGETHER = 5 * SECOND

/** Known picture proxies of mail clients: they fetch whether or not somebody looks. Common practice, no source. */
const PROXIES = /GoogleImageProxy|YahooMailProxy|ymail proxy/i

export interface Fetch {
  agent: string
  /** True if the agent is a known robot. */
  robot: boolean
  at: Instant
  /** When the email was handed over. */
  sentAt: Instant
}

export function judgeOpen(fetch: Fetch): 'reader' | 'prefetch' | 'scanner' {
  if (fetch.robot) return 'scanner'
  // A proxy that fetches late fetches because somebody looked.
  if (PROXIES.test(fetch.agent) && fetch.at - fetch.sentAt < 60 * SECOND) return 'prefetch'
  return fetch.at - fetch.sentAt < TOO_QUICK ? 'prefetch' : 'reader'
}

export interface JudgedClick { linkN: number, at: Instant }

/**
 * Whether a click was a scanner's: one known by its agent, one that came right
 * after handing over, or one of three or more different links of the email, or
 * of all that it has, followed within five seconds. `links`: how many different
 * ones the email has. Scanning follows links one right after the other; common
 * practice, no source.
 */
export function judgeClick(
  click: JudgedClick, others: readonly JudgedClick[], suspect: boolean, sentAt: Instant, links: number,
): 'reader' | 'scanner' {
  if (suspect || click.at - sentAt < TOO_QUICK) return 'scanner'
  const near = others.filter(other => Math.abs(other.at - click.at) <= TOGETHER)
  const followed = new Set([click.linkN, ...near.map(other => other.linkN)]).size
  return followed >= 3 || (followed >= 2 && followed === links) ? 'scanner' : 'reader'
}
