import { ontoListInput } from '#server/courseSchemas'
import { handle } from '#server/http'
import { leadOntoList } from '#usecases/courses/ontoList'

export default handle({ body: ontoListInput }, ({ context, id, body }) => leadOntoList(context, id(), body))
