import { setResponseHeader } from 'h3'
import { handle } from '#server/http'
import { salesCsv } from '#usecases/views/exportSales'

export default handle({}, ({ event, context, id }) => {
  const text = salesCsv(context, id())
  setResponseHeader(event, 'content-type', 'text/csv; charset=utf-8')
  setResponseHeader(event, 'content-disposition', `attachment; filename="sales-${id()}.csv"`)
  return text
})
