/** What an email says to one reader: subject and text. */
import { handle } from '#server/http'
import { previewInput } from '#server/schemas'
import { previewEmail } from '#usecases/courses/preview'

export default handle({ body: previewInput }, async ({ context, body }) => {
  const { subject, text } = await previewEmail(context, body.content, body.listId, body.firstName, body.because)
  return { subject, text }
})
