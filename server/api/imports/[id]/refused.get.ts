/** The refused rows of an import as CSV, written as it is read. */
import { setResponseHeader } from 'h3'
import { handle } from '#server/http'
import { refusedCsv } from '#usecases/know/importPeople'

export default handle({}, ({ event, house, id }) => {
  const lines = refusedCsv(house, id())
  const head = lines.next().value as string
  setResponseHeader(event, 'content-type', 'text/csv; charset=utf-8')
  setResponseHeader(event, 'content-disposition', 'attachment; filename="refused.csv"')
  const utf8 = new TextEncoder()
  return new ReadableStream({
    start: stream => stream.enqueue(utf8.encode(head)),
    pull(stream) {
      const { value, done } = lines.next()
      if (done) stream.close()
      else stream.enqueue(utf8.encode(value))
    },
  })
})
