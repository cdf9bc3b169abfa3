/** Domains known to throw mail away: a public list (CC0) that ships with us, so that nobody is asked. */
import { disposableEmailBlocklistSet } from 'disposable-email-domains-js'

/** Kept, because the package would build this set of thousands again for every lookup. */
let domains: Set<string> | undefined

export const isThrowawayDomain = (domain: string): boolean => (domains ??= disposableEmailBlocklistSet()).has(domain.trim().toLowerCase())
