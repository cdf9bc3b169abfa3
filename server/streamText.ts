/** A text that is written as it is read: nobody waits for the whole of it. */
import type { H3Event } from 'h3'
import { setResponseHeader } from 'h3'

/** The first piece is made at once, so that a refusal can still be told. */
export function streamText(
  event: H3Event, chunks: Iterator<string>, { type, fileName }: { type: string, fileName: string },
): ReadableStream {
  const first = chunks.next()
  setResponseHeader(event, 'content-type', `${type}; charset=utf-8`)
  setResponseHeader(event, 'content-disposition', `attachment; filename="${fileName}"`)
  const utf8 = new TextEncoder()
  let next: IteratorResult<string> | null = first
  return new ReadableStream({
    async pull(stream) {
      // Between two pieces others are served.
      await new Promise(resolve => setImmediate(resolve))
      const { value, done } = next ?? chunks.next()
      next = null
      if (done) stream.close()
      else stream.enqueue(utf8.encode(value))
    },
  })
}
