import { handle } from '#server/http'
import { removeLink } from '#usecases/know/links'

export default handle({}, ({ context, id }) => removeLink(context, id()))
