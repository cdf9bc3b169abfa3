import { handle } from '#server/http'
import { openHouses } from '#server/houses'
import { sellingView } from '#usecases/settings/selling'

export default handle({}, ({ house }) => sellingView(house, openHouses().ownPaymentsSecret(house)))
