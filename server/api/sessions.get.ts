import { handle } from '#server/http'
import { sessionsView } from '#server/session'

export default handle({}, ({ event }) => sessionsView(event))
