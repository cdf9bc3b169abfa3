/**
 * Signatures of emails, read by another library (mailauth), and what domains say of their mail.
 *
 * Sources: DKIM, RFC 6376 (sections 3.2, 3.4, 3.6.1, 5.4); DMARC, RFC 7489 (sections 6.3, 6.6.3); SPF, RFC 7208 (section 4.5); one-click
 * unsubscribing, RFC 8058 (section 4). The examples of records are those of RFC 7489 appendix B.2 and RFC 6376 section 3.6.1.2, from
 * memory.
 */
import { generateKeyPairSync } from 'node:crypto'
import fc from 'fast-check'
import { dkimVerify } from 'mailauth/lib/dkim/verify.js'
import { describe, expect, it } from 'vitest'
import { createEmailSigner } from '#adapters/dkim'
import { writeMime } from '#adapters/mime'
import { listHeaders } from '#core/message/headers'
import {
  dkimRecord, holdsOurKey, isSpf, mailDomainOf, readDmarc, registeredDomain, remarksOn, type DmarcPolicy, type MailDomain,
} from '#core/senders/mailDomain'

const signer = createEmailSigner()
const made = signer.makeKey()
const DOMAIN = 'saltmarsh.example.com'

const mail = (subject: string, text: string) => writeMime({
  messageId: '<a.1@saltmarsh.example.com>', from: { name: 'Inês Façanha', address: `ines@${DOMAIN}` }, replyTo: `shop@${DOMAIN}`,
  to: { name: '', address: 'ada@example.com' }, subject, html: `<p>${text}</p>`, text, at: 1_800_000_000_000,
  headers: listHeaders({ oneClickUrl: 'https://porch.example.com/m/1', listSlug: 'letters', listName: 'Cartas', senderDomain: DOMAIN }),
})
async function verified(source: Uint8Array, publicKey: string) {
  const { results } = await dkimVerify(Buffer.from(source), { resolver: async () => {
    const { value } = dkimRecord({ domain: DOMAIN, key: { selector: 'porch', publicKey } })
    return [[...value.match(/.{1,255}/g)!]]
  } })
  return results.map(({ status }) => status.result)
}

describe('a signature', () => {
  const letters = fc.constantFrom('fold ', 'Açúcar', '綴じ', '.', '\n', ' ', 'From ', '=20', '\t', 'x'.repeat(200))
  const words = fc.array(letters, { maxLength: 12 }).map(all => all.join(''))

  it('holds for any email, and for no other', async () => {
    const { privateKey, publicKey } = await made
    await fc.assert(fc.asyncProperty(words, words, async (subject, text) => {
      const signed = await signer.sign(mail(subject.replace(/[\n\t]/g, ' '), text), { domain: DOMAIN, selector: 'porch', privateKey })
      expect(await verified(signed, publicKey)).toEqual(['pass'])
      const changed = Buffer.from(Buffer.from(signed).toString('latin1').replace('<p>', '<b>'), 'latin1')
      expect(await verified(changed, publicKey)).not.toEqual(['pass'])
    }), { seed: 6376, numRuns: 40 })
  })

  it('covers who it is from, what it says it is, and both headers of one-click unsubscribing', async () => {
    const { privateKey, publicKey } = await made
    const signed = await signer.sign(mail('s', 't'), { domain: DOMAIN, selector: 'porch', privateKey })
    for (const name of [
      'From', 'Subject', 'To', 'Date', 'Message-ID', 'Reply-To', 'List-Unsubscribe', 'List-Unsubscribe-Post', 'List-ID',
    ]) {
      const text = Buffer.from(signed).toString('latin1')
      const other = text.replace(new RegExp(`^${name}: `, 'm'), `${name}: x`)
      expect(other, name).not.toBe(text)
      expect(await verified(Buffer.from(other, 'latin1'), publicKey), name).not.toEqual(['pass'])
    }
  })

  it('is refused by a key that cannot sign, instead of going out unsigned', async () => {
    const pem = (type: 'ed25519') => generateKeyPairSync(type).privateKey.export({ type: 'pkcs8', format: 'pem' }) as string
    for (const privateKey of [pem('ed25519'), 'no key at all']) {
      await expect(signer.sign(mail('s', 't'), { domain: DOMAIN, selector: 'porch', privateKey })).rejects.toThrow()
    }
  })

  it('is of 2048 bits', async () => {
    // Of its DER, 294 bytes are those of a modulus of 2048 bits and the exponent 65537.
    expect(Buffer.from((await made).publicKey, 'base64')).toHaveLength(294)
  })
})

describe('what a domain publishes', () => {
  it.each<[record: string, policy: DmarcPolicy | null, asSubdomain?: DmarcPolicy | null]>([
    ['v=DMARC1; p=none; rua=mailto:dmarc-feedback@example.com', 'none'],
    ['v=DMARC1; p=none; rua=mailto:dmarc-feedback@example.com; ruf=mailto:auth-reports@example.com', 'none'],
    ['v=DMARC1;p=reject', 'reject'], ['v=DMARC1; p=Quarantine; pct=100', 'quarantine'],
    ['v=DMARC1; p=none; sp=reject', 'none', 'reject'], ['v=DMARC1; p=reject; sp=none', 'reject', 'none'],
    // Without a policy that can be read but with an address for reports it counts as none.
    ['v=DMARC1; rua=mailto:a@example.com', 'none'], ['v=DMARC1; p=refuse', null], ['v=DMARC1', null],
    ['v=DMARC1; p=reject; p=none', null], ['v=DMARC2; p=reject', null], ['v=spf1 -all', null], ['p=reject; v=DMARC1', null], ['', null],
  ])('%s', (record, policy, asSubdomain = policy) => {
    expect([readDmarc(record, false), readDmarc(record, true)]).toEqual([policy, asSubdomain])
  })

  it('counts as our key only where it is ours, and not said to be a test', () => {
    expect(holdsOurKey('v=DKIM1; p=MIGfMA0GCSqGSIb3', 'MIGfMA0GCSqGSIb3')).toBe(true)
    expect(holdsOurKey('k=rsa; p=MIGf MA0G\tCSqGSIb3', 'MIGfMA0GCSqGSIb3')).toBe(true)
    for (const text of [
      'v=DKIM1; p=other', 'v=DKIM1; p=', 'v=DKIM1; t=y; p=MIGfMA0GCSqGSIb3', 'v=DKIM1; p=MIGfMA0GCSqGSIb3; p=x', '', null,
    ]) {
      expect(holdsOurKey(text, 'MIGfMA0GCSqGSIb3'), String(text)).toBe(false)
    }
    expect([isSpf('v=spf1 include:_spf.example.com ~all'), isSpf('v=spf1'), isSpf('v=spf10 -all'), isSpf('spf2.0/pra')])
      .toEqual([true, true, false, false])
  })

  it('is asked by its name in letters of ASCII (RFC 5890)', () => {
    expect(['ines@bücher.example', 'INES@Saltmarsh.Example.com', 'ines@מודפס.example'].map(mailDomainOf))
      .toEqual(['xn--bcher-kva.example', 'saltmarsh.example.com', 'xn--7dbd0aoo.example'])
  })

  it('is asked of the domain that somebody registered, by the public suffix list', () => {
    expect(['news.example.com', 'example.com', 'a.b.example.co.uk', 'letters.someone.github.io', 'localhost'].map(registeredDomain))
      .toEqual(['example.com', 'example.com', 'example.co.uk', 'someone.github.io', 'localhost'])
  })

  it('is said in one remark after another, the most pressing first, and in none where all is well', () => {
    const domain = (published: MailDomain['published'], key = { selector: 'porch', publicKey: 'AAAA' } as MailDomain['key']): MailDomain =>
      ({ domain: DOMAIN, key, published, checkedAt: 1, trouble: null })
    const says = (one: MailDomain, isFree = false) => remarksOn(one, isFree).map(({ weight, says: text }) => `${weight}: ${text}`)
    const dmarc = (policy: DmarcPolicy) => ({ policy, at: DOMAIN })
    expect(says(domain({ dkim: 'v=DKIM1; p=AAAA', dmarc: dmarc('reject'), spf: 'v=spf1' }))).toEqual([])
    expect(says(domain({ dkim: null, dmarc: dmarc('reject'), spf: 'v=spf1' }))).toEqual([`wrong: Emails from ${DOMAIN} may be refused`])
    expect(says(domain({ dkim: 'v=DKIM1; p=BBBB', dmarc: dmarc('quarantine'), spf: 'v=spf1' }))).toEqual([
      `wrong: Emails from ${DOMAIN} may be refused`,
    ])
    expect(says(domain({ dkim: null, dmarc: null, spf: null }, null)))
      .toEqual(['look: Emails are not signed', 'look: There is no DMARC record', 'look: There is no SPF record'])
    expect(says(domain(null), true)).toEqual([`wrong: ${DOMAIN} belongs to a free mail service`])
    // Before it was looked at nothing is claimed.
    expect(says(domain(null))).toEqual([])
  })
})
