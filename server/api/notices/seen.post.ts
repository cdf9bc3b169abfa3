import { handle } from '#server/http'
import { seenInput } from '#server/ruleSchemas'
import { seeNotices } from '#usecases/know/todos'

export default handle({ body: seenInput }, ({ context, body }) => seeNotices(context, body.upTo))
