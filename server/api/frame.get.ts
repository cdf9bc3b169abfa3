import { handle } from '#server/http'
import { openHouses } from '#server/houses'
import { inReader } from '#server/reader/index'

export default handle({}, async ({ event, house }) => ({ ...await inReader(event, house.mode, 'frame'), hasLive: openHouses().hasLive }))
