import { handle } from '#server/http'
import { whyTheyLeft } from '#usecases/views/listsAndTags'

export default handle({}, ({ context }) => whyTheyLeft(context))
