import { handle } from '#server/http'
import { previewInput } from '#server/schemas'
import { previewEmail } from '#usecases/courses/preview'

export default handle({ body: previewInput }, ({ house, body }) => previewEmail(house, body.content, body.listId, body.firstName))
