/** Requests to addresses of the web that somebody typed: bounded, and never into our own network unless that is allowed. */
import { lookup as resolve } from 'node:dns'
import { lookup as lookUp } from 'node:dns/promises'
import { request as plain, type IncomingMessage } from 'node:http'
import { request as secure } from 'node:https'
import { isIP, type LookupFunction } from 'node:net'
import ipaddr from 'ipaddr.js'

/**
 * True for whatever is not one host of the public internet (IANA's special-purpose registries, RFC 6890): private, loopback and link-local
 * addresses, and all that translate into IPv4, where they would lead anywhere. An IPv4 address in IPv6 clothes counts as what it is.
 */
export function isInside(address: string): boolean {
  // Only what is written as the standards have it: others read 010.0.0.1 in their own ways.
  if (isIP(address) === 0) return true
  const parsed = ipaddr.process(address)
  // Of IPv6 only 2000::/3 is given out as global unicast (RFC 4291 section 2.4); the library calls all else that it has no name for
  // unicast.
  return parsed.range() !== 'unicast' || (parsed.kind() === 'ipv6' && ((parsed as ipaddr.IPv6).parts[0]! & 0xE000) !== 0x2000)
}

/** How long a name is looked up before it counts as unknown. */
const LOOKUP_MS = 3000

/** Whether what this address names is inside, as far as can be found out: a name that nobody knows just now is not. */
export async function leadsInside(url: string): Promise<boolean> {
  const host = URL.parse(url)?.hostname.replace(/^\[|\]$/g, '') ?? ''
  if (host === '') return false
  if (isIP(host)) return isInside(host)
  const found = await Promise.race([
    lookUp(host, { all: true }).catch(() => []), new Promise<never[]>(resolve => setTimeout(resolve, LOOKUP_MS, []).unref()),
  ])
  return found.some(({ address }) => isInside(address))
}

export class NotOutside extends Error {}

/** Looks a name up and refuses it if any of its addresses is inside: the connection goes to what was looked at, not to a second answer. */
const guarded: LookupFunction = (hostname, options, callback) => resolve(hostname, { ...options, all: true }, (error, addresses) => {
  if (error) return callback(error, '', 0)
  const inside = addresses.find(({ address }) => isInside(address))
  if (inside) return callback(new NotOutside(`${hostname} leads into a private network, which is not allowed`), '', 0)
  if (options.all) return (callback as (error: null, addresses: { address: string, family: number }[]) => void)(null, addresses)
  callback(null, addresses[0]!.address, addresses[0]!.family)
})

export interface OutsideRequest {
  url: string, method: 'HEAD' | 'GET' | 'POST', headers?: Record<string, string>, body?: string, timeoutMs: number, allowInside: boolean,
}

/** Asks, and gives the answer over as it begins. Throws with words for what went wrong. */
function begin<Answer>(
  { url, method, headers, body, timeoutMs, allowInside }: OutsideRequest,
  take: (answer: IncomingMessage, done: (answer: Answer) => void, failed: (error: Error) => void) => void,
): Promise<Answer> {
  const address = new URL(url)
  if (address.protocol !== 'https:' && address.protocol !== 'http:') {
    return Promise.reject(new NotOutside('only addresses with https:// or http:// are called'))
  }
  const host = address.hostname.replace(/^\[|\]$/g, '')
  if (!allowInside && isIP(host) && isInside(host)) {
    return Promise.reject(new NotOutside(`${host} is in a private network, which is not allowed`))
  }
  return new Promise((done, failed) => {
    const late = () => new Error(`no answer within ${timeoutMs / 1000} seconds`)
    const fail = (error: Error) => failed(error.name === 'AbortError' || error.name === 'TimeoutError' ? late() : error)
    const request = (address.protocol === 'https:' ? secure : plain)(address, {
      method, headers: {
        'user-agent': 'Keen Porch', ...headers, ...body !== undefined && { 'content-length': String(Buffer.byteLength(body)) },
      }, timeout: timeoutMs,
      signal: AbortSignal.timeout(timeoutMs), ...!allowInside && { lookup: guarded },
    }, answer => take(answer, done, fail))
    request.on('error', fail)
    request.on('timeout', () => request.destroy(late()))
    request.end(body)
  })
}

/** The status of the answer, whose body is not read. Redirects are not followed. Throws with words for what went wrong. */
export const askOutside = (asked: OutsideRequest): Promise<{ status: number, location: string | null }> => begin(asked, (answer, done) => {
  answer.destroy()
  done({ status: answer.statusCode ?? 0, location: answer.headers.location ?? null })
})

/** The whole body of an answer, at most so many bytes. Redirects are not followed. Throws with words for what went wrong. */
export const readOutside = (asked: Omit<OutsideRequest, 'method' | 'body'> & { mostBytes: number }): Promise<Uint8Array> =>
  begin({ ...asked, method: 'GET' }, (answer, done, failed) => {
    const status = answer.statusCode ?? 0
    if (status !== 200) {
      answer.destroy()
      failed(new Error(status === 404 ? 'nothing is offered there' : `it answers with ${status}`))
      return
    }
    const parts: Buffer[] = []
    let bytes = 0
    answer.on('data', (part: Buffer) => {
      bytes += part.length
      if (bytes <= asked.mostBytes) parts.push(part)
      else answer.destroy(new Error(`it is larger than ${Math.floor(asked.mostBytes / 1_000_000)} MB`))
    })
    answer.on('error', failed)
    answer.on('end', () => done(Buffer.concat(parts)))
  })

/** What went wrong, in words for the person at the screen. */
export function sayFault(error: unknown): string {
  const { code, message } = error as NodeJS.ErrnoException
  switch (code) {
    case 'ENOTFOUND': return 'this site does not exist'
    case 'EAI_AGAIN': return 'the name could not be looked up'
    case 'ECONNREFUSED': return 'nothing answers there'
    case 'ECONNRESET': return 'the connection broke'
    case 'CERT_HAS_EXPIRED': return 'its certificate has expired'
    default: return message
  }
}
