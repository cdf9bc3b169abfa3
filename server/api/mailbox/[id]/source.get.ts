/** The email as it went over the line, as a file. */
import { setResponseHeader } from 'h3'
import { handle } from '#server/http'
import { mailSource } from '#usecases/views/mailbox'

export default handle({}, ({ event, context, id }) => {
  setResponseHeader(event, 'content-type', 'message/rfc822')
  setResponseHeader(event, 'content-disposition', `attachment; filename="practice-${id()}.eml"`)
  return mailSource(context, id())
})
