import { handle } from '#server/http'
import { mailView } from '#usecases/views/mailbox'

export default handle({}, async ({ context, id }) => {
  const { html: _, ...mail } = await mailView(context, id())
  return mail
})
