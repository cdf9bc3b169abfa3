import { handle } from '#server/http'
import { mailView } from '#usecases/views/mailbox'

export default handle({}, ({ house, id }) => mailView(house, id()))
