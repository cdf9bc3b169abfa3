import { handle } from '#server/http'
import { againInput } from '#server/courseSchemas'
import { tryAgain } from '#usecases/sending/tryAgain'

export default handle({ body: againInput }, ({ context, body }) => ({ queued: tryAgain(context, body.outboxId) }))
