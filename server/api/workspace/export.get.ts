import { streamText } from '#server/streamText'
import { handle } from '#server/http'
import { exportWorkspace } from '#usecases/views/exportWorkspace'

export default handle({}, ({ event, house }) => streamText(event, exportWorkspace(house), { type: 'application/json', fileName: `workspace-${house.mode}.json` }))
