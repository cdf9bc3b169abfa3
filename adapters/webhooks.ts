/**
 * Signing and reading webhooks by the Standard Webhooks specification, version 1:
 * three headers, and HMAC-SHA256 over identifier, time and body.
 */
import { createHmac, timingSafeEqual } from 'node:crypto'
import type { Clock, WebhookHeaders, Webhooks } from '#core/ports'
import type { Instant } from '#core/time/zone'

/** A message older or newer than this is refused: it may be an old one, sent again by somebody who overheard it. */
const TOLERANCE_MS = 5 * 60_000
const MOST_SIGNATURES = 10

/** `secret` as the specification writes it: `whsec_` and base64; the prefix may be left out. */
function keyOf(secret: string): Buffer {
  return Buffer.from(secret.replace(/^whsec_/, ''), 'base64')
}

const signatureOf = (secret: string, id: string, seconds: string, body: string): string =>
  createHmac('sha256', keyOf(secret)).update(`${id}.${seconds}.${body}`).digest('base64')

export function signWebhook(secret: string, { id, at, body }: { id: string, at: Instant, body: string }): WebhookHeaders {
  const seconds = String(Math.floor(at / 1000))
  return { 'webhook-id': id, 'webhook-timestamp': seconds, 'webhook-signature': `v1,${signatureOf(secret, id, seconds, body)}` }
}

export type ReadWebhook = { ok: true, id: string, at: Instant } | { ok: false, problem: string }

/**
 * Whether this body came from who has the secret, and now. Several secrets and
 * several signatures are for the time in which a secret is changed for another.
 * That one message is not worked off twice is for whoever keeps the identifiers.
 */
export function readWebhook(secrets: readonly string[], headers: Partial<WebhookHeaders>, body: string, now: Instant): ReadWebhook {
  const { 'webhook-id': id, 'webhook-timestamp': seconds, 'webhook-signature': signatures } = headers
  if (!id || !seconds || !signatures) {
    return { ok: false, problem: 'A webhook needs its three headers: webhook-id, webhook-timestamp and webhook-signature.' }
  }
  if (!/^\d{1,12}$/.test(seconds)) return { ok: false, problem: 'webhook-timestamp is a number of seconds.' }
  const at = Number(seconds) * 1000
  if (Math.abs(now - at) > TOLERANCE_MS) return { ok: false, problem: 'The time of this webhook is too far from now.' }
  const given = signatures.split(' ').slice(0, MOST_SIGNATURES).filter(one => one.startsWith('v1,'))
    .map(one => Buffer.from(one.slice(3), 'base64'))
  const known = secrets.some((secret) => {
    const own = Buffer.from(signatureOf(secret, id, seconds, body), 'base64')
    return given.some(one => one.length === own.length && timingSafeEqual(one, own))
  })
  return known ? { ok: true, id, at } : { ok: false, problem: 'The signature of this webhook is wrong.' }
}

/** `secrets` are asked for each time: the first signs, any of them is believed. */
export const createWebhooks = ({ secrets, system }: { secrets: () => readonly string[], system: Clock }): Webhooks => ({
  sign: message => signWebhook(secrets()[0]!, message),
  read: (headers, body) => readWebhook(secrets(), headers, body, system.now()),
  readBy: (secret, headers, body) => readWebhook([secret], headers, body, system.now()),
})

/** What is wrong with a secret that somebody typed, in a sentence; null if nothing is. 24 to 64 bytes, as the specification has it. */
export function webhookSecretProblem(secret: string): string | null {
  const written = secret.replace(/^whsec_/, '')
  const bytes = Buffer.from(written, 'base64')
  return /^[A-Za-z0-9+/]+={0,2}$/.test(written) && bytes.length >= 24 && bytes.length <= 64
    ? null
    : 'A secret is whsec_ and 24 to 64 bytes in base64.'
}
