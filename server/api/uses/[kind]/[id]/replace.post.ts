import { thingOf } from '#server/asThing'
import { handle } from '#server/http'
import { replaceInput } from '#server/schemas'
import { replaceThing } from '#usecases/know/replaceThing'

export default handle({ body: replaceInput }, (asked) => {
  const { kind, id } = thingOf(asked)
  return replaceThing(asked.context, kind, id, asked.body.into)
})
