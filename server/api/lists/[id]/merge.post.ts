import { handle } from '#server/http'
import { mergeInput } from '#server/schemas'
import { taskView } from '#usecases/know/doToMany'
import { mergeLists } from '#usecases/know/endMarks'

export default handle({ body: mergeInput }, ({ house, id, body }) => taskView(house, mergeLists(house, id(), body.into)))
