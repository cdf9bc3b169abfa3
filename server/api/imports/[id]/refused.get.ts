import { handle } from '#server/http'
import { streamText } from '#server/streamText'
import { oddRowsCsv } from '#usecases/know/importPeople'

export default handle({}, ({ event, context, id }) => streamText(event, oddRowsCsv(context, id()), {
  type: 'text/csv', fileName: 'rows to look at.csv',
}))
