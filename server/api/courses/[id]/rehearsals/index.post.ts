import { handle } from '#server/http'
import { keptInput } from '#server/rehearsalSchemas'
import { keepRehearsal } from '#usecases/practice/rehearse'

export default handle({ body: keptInput }, ({ context, id, body }) => ({ id: keepRehearsal(context, id(), body.reader, body.lines) }))
