import { handle } from '#server/http'
import { mergeInput } from '#server/schemas'
import { mergeLists } from '#usecases/know/endMarks'

export default handle({ body: mergeInput }, ({ house, id, body }) => mergeLists(house, id(), body.into))
