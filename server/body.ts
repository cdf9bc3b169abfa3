/** Reading what a request brings, however much that is: never more of it is kept than may be. */
import type { H3Event } from 'h3'
import { getHeader } from 'h3'

/** So much of what is too long is still listened to, because a browser that is cut off shows no answer; then the line is cut. */
const PATIENCE_BYTES = 32_000_000

/** The bytes of the body; null if they are more than `most`. What the headers say of its length is not relied on. */
export async function bodyWithin(event: H3Event, most: number): Promise<Buffer | null> {
  const chunks: Buffer[] = []
  let size = 0
  for await (const chunk of event.node.req as AsyncIterable<Buffer>) {
    size += chunk.length
    if (size <= most) chunks.push(chunk)
    else chunks.length = 0
    // Leaving the loop ends the stream.
    if (size > Math.max(PATIENCE_BYTES, 2 * most)) break
  }
  return size > most ? null : Buffer.concat(chunks)
}

/** The fields of a form of either encoding (RFC 8058 allows both); null if they are more than `most` bytes. */
export async function formWithin(event: H3Event, most: number): Promise<URLSearchParams | null> {
  const bytes = await bodyWithin(event, most)
  if (bytes === null) return null
  const type = getHeader(event, 'content-type') ?? ''
  // Names of media types are in letters of either case (RFC 9110 section 8.3.1); what follows, like the boundary, is not.
  if (!/^multipart\/form-data\b/i.test(type)) return new URLSearchParams(bytes.toString())
  const parts = await new Response(new Uint8Array(bytes), { headers: { 'content-type': type } }).formData().catch(() => new FormData())
  return new URLSearchParams([...parts].filter((part): part is [string, string] => typeof part[1] === 'string'))
}
