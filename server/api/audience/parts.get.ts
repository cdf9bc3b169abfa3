/** Everything a condition can be about, to choose from. */
import { handle } from '#server/http'
import { conditionParts } from '#usecases/views/conditionParts'

export default handle({}, ({ house }) => conditionParts(house))
