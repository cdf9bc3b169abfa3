/** The people of the table as it is narrowed, or those picked in it, as CSV; written as it is read, so that nobody waits for it. */
import { handle } from '#server/http'
import { narrowingOf } from '#server/peopleQuery'
import { exportQuery } from '#server/peopleSchemas'
import { inReader } from '#server/reader/index'
import { streamText } from '#server/streamText'
import { exportWriter } from '#usecases/views/exportPeople'

const CHUNK = 500

export default handle({ query: exportQuery }, async ({ event, context, query }) => {
  const ids = query.ids === '' ? null : query.ids.split(',').filter(Boolean).map(Number)
  const people = await inReader(event, context.mode, 'idsToExport', { search: query.search, narrowing: narrowingOf(query), ids })
  const writer = exportWriter(context, query.columns.split(','))
  function* chunks() {
    yield writer.head
    for (let at = 0; at < people.length; at += CHUNK) yield writer.lines(people.slice(at, at + CHUNK))
  }
  return streamText(event, chunks(), { type: 'text/csv', fileName: 'subscribers.csv' })
})
