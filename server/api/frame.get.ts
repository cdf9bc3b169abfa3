import { handle } from '#server/http'
import { frameView } from '#usecases/views/frame'
import { openHouses } from '#server/houses'

export default handle({}, ({ house }) => ({ ...frameView(house), hasLive: openHouses().hasLive }))
