/** DKIM (RFC 6376) by nodemailer: emails signed in the name of a domain. */
import { createPrivateKey, generateKeyPair, type KeyObject } from 'node:crypto'
import { promisify } from 'node:util'
import { buffer } from 'node:stream/consumers'
import DKIM from 'nodemailer/lib/dkim'
import type { EmailSigner } from '#core/ports'

/**
 * Besides what RFC 6376 section 5.4.1 names: one-click unsubscribing is believed only where both of its headers are signed (RFC 8058
 * section 4).
 */
const SIGNED = [
  'From', 'Reply-To', 'Subject', 'Date', 'To', 'Message-ID', 'MIME-Version', 'Content-Type', 'List-ID', 'List-Unsubscribe',
  'List-Unsubscribe-Post',
].join(':')

const generate = promisify(generateKeyPair)

/** Reading a key takes longer than looking it up; an installation has a few. */
const keys = new Map<string, KeyObject>()
function keyOf(pem: string): KeyObject {
  const known = keys.get(pem)
  if (known) return known
  const key = createPrivateKey(pem)
  if (key.asymmetricKeyType !== 'rsa') throw new Error('Only RSA keys sign')
  if (keys.size > 50) keys.clear()
  keys.set(pem, key)
  return key
}

export function createEmailSigner(): EmailSigner {
  return {
    async makeKey() {
      const { privateKey, publicKey } = await generate('rsa', { modulusLength: 2048 })
      return {
        privateKey: privateKey.export({ type: 'pkcs8', format: 'pem' }) as string,
        publicKey: (publicKey.export({ type: 'spki', format: 'der' }) as Buffer).toString('base64'),
      }
    },

    async sign(source, { domain, selector, privateKey }) {
      const signer = new DKIM({ domainName: domain, keySelector: selector, privateKey: keyOf(privateKey), headerFieldNames: SIGNED })
      const signed = await buffer(signer.sign(Buffer.from(source)))
      // Where a key is of no use it hands the email back unsigned, and says nothing.
      if (signed.subarray(0, 15).toString('latin1') !== 'DKIM-Signature:') throw new Error(`The key of ${domain} does not sign`)
      return signed
    },
  }
}
