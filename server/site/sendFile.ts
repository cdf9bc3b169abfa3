/** A file of the owner's, to be kept by who fetches it. */
import type { H3Event } from 'h3'
import { setResponseHeader } from 'h3'

export function sendFile(event: H3Event, { name, type, content }: { name: string, type: string, content: Uint8Array }): Buffer {
  setResponseHeader(event, 'content-type', type)
  // Whatever the file holds, nothing in it may act in our name.
  setResponseHeader(event, 'content-security-policy', "default-src 'none'; sandbox")
  setResponseHeader(event, 'x-content-type-options', 'nosniff')
  setResponseHeader(
    event, 'content-disposition',
    `attachment; filename="${name.replace(/[^\x20-\x7e]|["\\]/g, '_')}"; filename*=UTF-8''${encodeURIComponent(name).replace(/['()*]/g, char => `%${char.charCodeAt(0).toString(16)}`)}`,
  )
  setResponseHeader(event, 'cache-control', 'private, no-store')
  return Buffer.from(content)
}
