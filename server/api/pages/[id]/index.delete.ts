import { handle } from '#server/http'
import { removePage } from '#usecases/arrive/pages'

export default handle({}, ({ context, id }) => removePage(context, id()))
