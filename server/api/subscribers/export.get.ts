/** The people of the table as it is narrowed, or those picked in it, as CSV; written as it is read, so that nobody waits for it. */
import { setResponseHeader } from 'h3'
import { handle } from '#server/http'
import { narrowingOf } from '#server/peopleQuery'
import { exportQuery } from '#server/peopleSchemas'
import { inReader } from '#server/reader/index'
import { exportWriter } from '#usecases/views/exportPeople'

const CHUNK = 500

export default handle({ query: exportQuery }, async ({ event, house, query }) => {
  const ids = query.ids === '' ? null : query.ids.split(',').filter(Boolean).map(Number)
  const people = await inReader(event, house.mode, 'idsToExport', { search: query.search, narrowing: narrowingOf(query), ids })
  const writer = exportWriter(house, query.columns.split(','))
  setResponseHeader(event, 'content-type', 'text/csv; charset=utf-8')
  setResponseHeader(event, 'content-disposition', 'attachment; filename="subscribers.csv"')
  const utf8 = new TextEncoder()
  let at = 0
  return new ReadableStream({
    start: line => line.enqueue(utf8.encode(writer.head)),
    pull(line) {
      if (at >= people.length) return line.close()
      line.enqueue(utf8.encode(writer.lines(people.slice(at, at += CHUNK))))
    },
  })
})
