import { handle } from '#server/http'
import { importSpec } from '#server/importSchemas'
import { inReader } from '#server/reader/index'

export default handle({ body: importSpec }, ({ event, house, body, id }) => inReader(event, house.mode, 'importPlan', { id: id(), spec: body }))
