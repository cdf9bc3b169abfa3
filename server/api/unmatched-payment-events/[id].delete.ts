import { handle } from '#server/http'
import { forgetUnmatchedPaymentEvent } from '#usecases/settings/selling'

export default handle({}, ({ context, param }) => {
  forgetUnmatchedPaymentEvent(context, param('id'))
  return {}
})
