/** Domains known to throw mail away: a public list (CC0) that ships with us, so that nobody is asked. */
import { isDisposableEmailDomain } from 'disposable-email-domains-js'

export const isThrowawayDomain = (domain: string): boolean => isDisposableEmailDomain(domain)
