import { handle } from '#server/http'
import { againInput } from '#server/courseSchemas'
import { tryAgain } from '#usecases/sending/tryAgain'

export default handle({ body: againInput }, ({ house, body }) => ({ queued: tryAgain(house, body.outboxId) }))
