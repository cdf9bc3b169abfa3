import { systemClock } from '#runtime/open'
import { handle } from '#server/http'
import { keyInput } from '#server/ruleSchemas'
import { makeKey } from '#usecases/api/keys'

export default handle({ body: keyInput }, ({ house, body }) => makeKey(house, body, systemClock.now()))
