import { ontoListInput } from '#server/courseSchemas'
import { handle } from '#server/http'
import { leadOntoList } from '#usecases/courses/ontoList'

export default handle({ body: ontoListInput }, ({ house, id, body }) => leadOntoList(house, id(), body))
