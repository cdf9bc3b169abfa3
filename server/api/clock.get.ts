/** Where a workspace's clock stands: asked before the first screen, since none can be drawn without. */
import { handle } from '#server/http'
import { clockView } from '#usecases/views/frame'

export default handle({}, ({ context }) => clockView(context))
