/** A practice email as it looks. Its picture is fetched like in a mail program, which is what records the open. */
import { emailFrame } from '#server/emailFrame'
import { handle } from '#server/http'
import { mailView } from '#usecases/views/mailbox'

export default handle({}, async ({ event, context, id }) => emailFrame(event, context, (await mailView(context, id())).html))
