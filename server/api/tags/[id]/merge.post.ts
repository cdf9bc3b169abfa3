import { handle } from '#server/http'
import { mergeInput } from '#server/schemas'
import { mergeTags } from '#usecases/know/endMarks'

export default handle({ body: mergeInput }, ({ house, id, body }) => mergeTags(house, id(), body.into))
