/**
 * Standard Webhooks, version 1: "Signature scheme" of the specification
 * (github.com/standard-webhooks/standard-webhooks). The values of its signing
 * example are from memory.
 */
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { readWebhook, signWebhook } from '#adapters/webhooks'

const SECRET = 'whsec_MfKQ9r8GKYqrTwjUPD8ILPZIo2LaLaSw'
const OTHER = 'whsec_C2FVsBQIhrscChlQIMV+b5sSYspob7oD'
const EXAMPLE = { id: 'msg_p5jXN8AQM9LWM0D4loKWxJek', at: 1614265330_000, body: '{"test": 2432232314}' }
const HEADERS = {
  'webhook-id': EXAMPLE.id, 'webhook-timestamp': '1614265330', 'webhook-signature': 'v1,g0hM9SsE+OTPJTGt/tmIKtSyZlE3uFJELVlNIOLJ1OE=',
}
const read = (headers: Partial<typeof HEADERS>, {
  secrets = [SECRET], body = EXAMPLE.body, now = EXAMPLE.at,
}: { secrets?: string[], body?: string, now?: number } = {}) => readWebhook(secrets, headers, body, now)

describe('the signature of a webhook', () => {
  it('is that of the specification’s example', () => {
    expect(signWebhook(SECRET, EXAMPLE)).toEqual(HEADERS)
    expect(read(HEADERS)).toEqual({ ok: true, id: EXAMPLE.id, at: EXAMPLE.at })
  })

  it('is found among several, and by any secret that counts while one is changed', () => {
    const both = { ...HEADERS, 'webhook-signature': `v1,${Buffer.alloc(32).toString('base64')} ${HEADERS['webhook-signature']} v2,abc` }
    expect([
      read(both).ok, read(HEADERS, { secrets: [OTHER, SECRET] }).ok, read(HEADERS, { secrets: [OTHER] }).ok,
      read(HEADERS, { secrets: [] }).ok,
    ]).toEqual([true, true, false, false])
    // Another version of the scheme does not stand for this one.
    expect(read({ ...HEADERS, 'webhook-signature': HEADERS['webhook-signature'].replace('v1,', 'v1a,') }).ok).toBe(false)
  })

  it('counts for five minutes on either side of its time', () => {
    expect([-300_000, 300_000, -300_001, 300_001].map(by => read(HEADERS, { now: EXAMPLE.at + by }).ok)).toEqual([true, true, false, false])
  })

  it('is right for no other message: whatever is changed by a letter is refused', () => {
    fc.assert(fc.property(fc.string({
      unit: 'grapheme',
    }), fc.string({ minLength: 1 }), fc.integer({ min: 0, max: 2e12 }), fc.nat(), (body, id, at, n) => {
      const headers = signWebhook(SECRET, { id, at, body })
      const now = Math.floor(at / 1000) * 1000
      expect(read(headers, { body, now }).ok).toBe(true)
      const bent = (text: string) => `${text.slice(0, n % (text.length + 1))}~${text.slice(n % (text.length + 1))}`
      expect(read(headers, { body: bent(body), now }).ok).toBe(false)
      expect(read({ ...headers, 'webhook-id': bent(id) }, { body, now }).ok).toBe(false)
      expect(read({ ...headers, 'webhook-timestamp': String(Number(headers['webhook-timestamp']) + 1) }, { body, now }).ok).toBe(false)
    }))
  })

  it.each<[string, Partial<typeof HEADERS>]>([
    ['none of its headers', {}], ['no signature', { ...HEADERS, 'webhook-signature': '' }],
    ['a time that is none', { ...HEADERS, 'webhook-timestamp': 'yesterday' }], [
      'a signature that is no base64', { ...HEADERS, 'webhook-signature': 'v1,%%%' },
    ], ['ten thousand signatures', { ...HEADERS, 'webhook-signature': `${'v1,AA== '.repeat(10_000)}${HEADERS['webhook-signature']}` }],
  ])('is refused with %s', (_, headers) => expect(read(headers)).toEqual({ ok: false, problem: expect.any(String) }))
})
