import { handle } from '#server/http'
import { mailSearch } from '#server/schemas'
import { mailboxView } from '#usecases/views/mailbox'

export default handle({ query: mailSearch }, ({ context, query }) => mailboxView(context, query.search, query.page))
