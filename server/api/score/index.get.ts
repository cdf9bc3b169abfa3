import { handle } from '#server/http'
import { scoreView } from '#usecases/settings/score'

export default handle({}, ({ context }) => scoreView(context))
