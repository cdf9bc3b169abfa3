import { handle } from '#server/http'
import { importSpec } from '#server/importSchemas'
import { inReader } from '#server/reader/index'

export default handle({ body: importSpec }, ({ event, context, body, id }) => inReader(event, context.mode, 'importPlan', { id: id(), spec: body }))
