import { handle } from '#server/http'
import { streamText } from '#server/streamText'
import { refusedCsv } from '#usecases/know/importPeople'

export default handle({}, ({ event, house, id }) => streamText(event, refusedCsv(house, id()), { type: 'text/csv', fileName: 'refused.csv' }))
