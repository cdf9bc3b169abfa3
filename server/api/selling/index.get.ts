import { handle } from '#server/http'
import { openWorkspaces } from '#server/workspaces'
import { sellingView } from '#usecases/settings/selling'

export default handle({}, ({ context }) => sellingView(context, openWorkspaces().ownPaymentsSecret(context)))
