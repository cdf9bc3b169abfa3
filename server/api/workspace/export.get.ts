import { streamText } from '#server/streamText'
import { handle } from '#server/http'
import { exportWorkspace } from '#usecases/views/exportWorkspace'

export default handle({}, ({ event, context }) => streamText(event, exportWorkspace(context), { type: 'application/json', fileName: `workspace-${context.mode}.json` }))
