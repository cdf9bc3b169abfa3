import { setResponseHeader } from 'h3'
import { handle } from '#server/http'
import { exportPerson } from '#usecases/views/exportPerson'

export default handle({}, ({ event, context, id }) => {
  const everything = exportPerson(context, id())
  setResponseHeader(event, 'content-disposition', `attachment; filename="subscriber-${id()}.json"`)
  setResponseHeader(event, 'content-type', 'application/json; charset=utf-8')
  return `${JSON.stringify(everything, null, 2)}\n`
})
