/** The same email as it looks, for a frame that a form fills. */
import { emailFrame } from '#server/emailFrame'
import { handle } from '#server/http'
import { previewForm } from '#server/schemas'
import { previewEmail } from '#usecases/courses/preview'

export default handle({ body: previewForm }, async ({ event, context, body }) =>
  emailFrame(event, context, (await previewEmail(context, body.content, body.listId, body.firstName, body.because)).html))
