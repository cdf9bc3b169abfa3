import { handle } from '#server/http'
import { insideInput } from '#server/ruleSchemas'
import { allowInside } from '#usecases/know/hooks'

export default handle({ body: insideInput }, ({ context, body }) => allowInside(context, body.allows))
