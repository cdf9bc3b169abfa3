import { handle } from '#server/http'
import { keptInput } from '#server/rehearsalSchemas'
import { keepRehearsal } from '#usecases/practice/rehearse'

export default handle({ body: keptInput }, ({ house, id, body }) => ({ id: keepRehearsal(house, id(), body.reader, body.lines) }))
