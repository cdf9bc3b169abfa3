import { handle } from '#server/http'
import { mailView } from '#usecases/views/mailbox'

export default handle({}, async ({ house, id }) => {
  const { html: _, ...mail } = await mailView(house, id())
  return mail
})
