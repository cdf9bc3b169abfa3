import { handle } from '#server/http'
import { sendAgain } from '#usecases/know/hooks'

export default handle({}, ({ house, id }) => sendAgain(house, id()))
