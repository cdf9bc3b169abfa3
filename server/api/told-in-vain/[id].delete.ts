import { handle } from '#server/http'
import { forgetToldInVain } from '#usecases/settings/selling'

export default handle({}, ({ house, param }) => {
  forgetToldInVain(house, param('id'))
  return {}
})
