/** Signed addresses: what was signed for one purpose cannot be used for another, or be made up. */
import { createHmac, timingSafeEqual } from 'node:crypto'
import type { Signer } from '#core/ports'

/** 128 bits of HMAC-SHA256 are plenty for an address that can only be guessed online. */
const SIGNATURE_BYTES = 16

/** `key` is the installation's; `scope` keeps practice and live, and two workspaces, apart. */
export function createSigner(key: Buffer, scope: string): Signer {
  const signatureOf = (kind: string, what: string) =>
    createHmac('sha256', key).update(`${scope}\n${kind}\n${what}`).digest().subarray(0, SIGNATURE_BYTES).toString('base64url')

  return {
    sign(kind, what) {
      return `${Buffer.from(what).toString('base64url')}.${signatureOf(kind, what)}`
    },
    digest(what) {
      return createHmac('sha256', key).update(`${scope}\nremembered\n${what}`).digest('base64url')
    },
    read(kind, token) {
      const [encoded, signature, ...rest] = token.split('.')
      if (!encoded || !signature || rest.length > 0) return null
      const what = Buffer.from(encoded, 'base64url').toString()
      // Base64 can spell the same bytes in several ways; only ours is taken, letter by letter.
      const [given, ours] = [Buffer.from(signature), Buffer.from(signatureOf(kind, what))]
      return given.length === ours.length && timingSafeEqual(given, ours) && this.sign(kind, what) === token ? what : null
    },
  }
}
