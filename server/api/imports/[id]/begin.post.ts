import { handle } from '#server/http'
import { importSpec } from '#server/importSchemas'
import { taskView } from '#usecases/know/doToMany'
import { beginImport } from '#usecases/know/importPeople'

export default handle({ body: importSpec }, ({ context, body, id }) => taskView(context, beginImport(context, id(), body)))
