/** Domains known to throw mail away: a public list (CC0) that ships with us, so that nobody is asked. */
import { disposableEmailBlocklistSet } from 'disposable-email-domains-js'

/** Thousands of them: the package would put them together anew for each question. */
let domains: Set<string> | undefined

export const isThrowawayDomain = (domain: string): boolean => (domains ??= disposableEmailBlocklistSet()).has(domain.trim().toLowerCase())
