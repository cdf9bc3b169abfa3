/** Requests to addresses of the web that somebody typed: bounded, and never into our own network unless that is allowed. */
import { lookup as resolve } from 'node:dns'
import { request as plain } from 'node:http'
import { request as secure } from 'node:https'
import { BlockList, isIP, type LookupFunction } from 'node:net'

/** Addresses that are not of the public internet: RFC 6890 (IPv4 and IPv6 special purposes), RFC 4193, RFC 4291. */
const INSIDE = new BlockList()
for (const [net, bits] of [['0.0.0.0', 8], ['10.0.0.0', 8], ['100.64.0.0', 10], ['127.0.0.0', 8], ['169.254.0.0', 16], ['172.16.0.0', 12], ['192.0.0.0', 24], ['192.0.2.0', 24], ['192.168.0.0', 16], ['198.18.0.0', 15], ['198.51.100.0', 24], ['203.0.113.0', 24], ['224.0.0.0', 4], ['240.0.0.0', 4]] as const) INSIDE.addSubnet(net, bits, 'ipv4')
for (const [net, bits] of [['::', 127], ['64:ff9b:1::', 48], ['100::', 64], ['2001:db8::', 32], ['fc00::', 7], ['fe80::', 10], ['ff00::', 8]] as const) INSIDE.addSubnet(net, bits, 'ipv6')

/** True for private, loopback and link-local addresses, and others that are nobody's on the public internet. An IPv4 address in IPv6 clothes counts as what it is. */
export function isInside(address: string): boolean {
  return INSIDE.check(address, isIP(address) === 6 ? 'ipv6' : 'ipv4')
}

export class NotOutside extends Error {}

/** Looks a name up and refuses it if any of its addresses is inside: the connection goes to what was looked at, not to a second answer. */
const guarded: LookupFunction = (hostname, options, callback) => resolve(hostname, { ...options, all: true }, (error, addresses) => {
  if (error) return callback(error, '', 0)
  const inside = addresses.find(({ address }) => isInside(address))
  if (inside) return callback(new NotOutside(`${hostname} leads into a private network, where nothing is sent`), '', 0)
  if (options.all) return (callback as (error: null, addresses: { address: string, family: number }[]) => void)(null, addresses)
  callback(null, addresses[0]!.address, addresses[0]!.family)
})

export interface Asking { url: string, method: 'HEAD' | 'GET' | 'POST', headers?: Record<string, string>, body?: string, timeoutMs: number, allowInside: boolean }

/** The status of the answer, whose body is not read. Redirects are not followed. Throws with words for what went wrong. */
export function askOutside({ url, method, headers, body, timeoutMs, allowInside }: Asking): Promise<{ status: number, location: string | null }> {
  const address = new URL(url)
  if (address.protocol !== 'https:' && address.protocol !== 'http:') return Promise.reject(new NotOutside('only addresses beginning with https:// or http:// are asked'))
  const host = address.hostname.replace(/^\[|\]$/g, '')
  if (!allowInside && isIP(host) && isInside(host)) return Promise.reject(new NotOutside(`${host} is an address of a private network, where nothing is sent`))
  return new Promise((done, failed) => {
    const request = (address.protocol === 'https:' ? secure : plain)(address, {
      method, headers: { 'user-agent': 'Keen Porch', ...headers, ...body !== undefined && { 'content-length': String(Buffer.byteLength(body)) } }, timeout: timeoutMs,
      signal: AbortSignal.timeout(timeoutMs), ...!allowInside && { lookup: guarded },
    }, (answer) => {
      answer.destroy()
      done({ status: answer.statusCode ?? 0, location: answer.headers.location ?? null })
    })
    request.on('error', error => failed(error.name === 'AbortError' || error.name === 'TimeoutError' ? new Error(`no answer within ${timeoutMs / 1000} seconds`) : error))
    request.on('timeout', () => request.destroy(new Error(`no answer within ${timeoutMs / 1000} seconds`)))
    request.end(body)
  })
}

/** What went wrong, in words for the person at the screen. */
export function sayFault(error: unknown): string {
  const { code, message } = error as NodeJS.ErrnoException
  switch (code) {
    case 'ENOTFOUND': return 'there is no such site'
    case 'EAI_AGAIN': return 'the name could not be looked up just now'
    case 'ECONNREFUSED': return 'nothing listens there'
    case 'ECONNRESET': return 'the line broke'
    case 'CERT_HAS_EXPIRED': return 'its certificate has expired'
    default: return message
  }
}
