/** At most so many within so long, per key. */
import { createHmac, randomBytes } from 'node:crypto'
import ipaddr from 'ipaddr.js'
import { RateLimiterMemory } from 'rate-limiter-flexible'

export interface LimiterOptions { most: number, perMs: number }

/** So many counters at once, whatever is asked: keys are digested, and what shares a counter by chance shares its limit. */
const COUNTERS = 65_536

export class Limiter {
  readonly #counters: RateLimiterMemory
  /** Nobody outside can work out which keys share a counter. */
  readonly #secret = randomBytes(32)
  constructor(readonly options: LimiterOptions) {
    this.#counters = new RateLimiterMemory({ points: options.most, duration: options.perMs / 1000 })
  }

  /** Counts one more for `key`; false if that is too many. Keys may be of any length. */
  async allows(key: string): Promise<boolean> {
    try {
      await this.#counters.consume(this.#counterOf(key))
      return true
    }
    catch (refused) {
      // It rejects with its count, not with an error, where that is too many.
      if (refused instanceof Error) throw refused
      return false
    }
  }

  async forget(key: string): Promise<void> {
    await this.#counters.delete(this.#counterOf(key))
  }

  #counterOf(key: string): string {
    return String(createHmac('sha256', this.#secret).update(key).digest().readUInt32BE() % COUNTERS)
  }
}

/** Whoever has one IPv6 address has its whole /64 (RFC 6177): they count as one. */
export function originOf(ip: string): string {
  if (!ipaddr.isValid(ip)) return ip
  const address = ipaddr.process(ip)
  return address.kind() === 'ipv4' ? address.toString() : (address as ipaddr.IPv6).parts.slice(
    0, 4
  ).map(part => part.toString(16)).join(':')
}
