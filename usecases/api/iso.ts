/** Instants as programs read them. */
import type { Instant } from '#core/time/zone'

/** RFC 3339, in UTC. */
export const iso = (at: Instant): string => new Date(at).toISOString()
