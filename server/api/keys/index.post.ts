import { systemClock } from '#runtime/open'
import { handle } from '#server/http'
import { keyInput } from '#server/ruleSchemas'
import { makeKey } from '#usecases/api/keys'

export default handle({ body: keyInput }, ({ context, body }) => makeKey(context, body, systemClock.now()))
