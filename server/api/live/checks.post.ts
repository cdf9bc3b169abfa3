/** What must be in order before going live, without doing it. */
import { handle } from '#server/http'
import { openHouses } from '#server/houses'
import { smtpInput } from '#server/schemas'

export default handle({ body: smtpInput }, ({ body }) => openHouses().checks(body.smtpUrl))
