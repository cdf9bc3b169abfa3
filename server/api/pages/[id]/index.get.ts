import { handle } from '#server/http'
import { pageView } from '#usecases/views/pages'

export default handle({}, ({ context, id }) => pageView(context, id()))
