import { handle } from '#server/http'
import { todayView } from '#usecases/views/today'

export default handle({}, ({ house }) => todayView(house))
