import { handle } from '#server/http'
import { mergeInput } from '#server/schemas'
import { taskView } from '#usecases/know/doToMany'
import { mergeTags } from '#usecases/know/endMarks'

export default handle({ body: mergeInput }, ({ context, id, body }) => taskView(context, mergeTags(context, id(), body.into)))
