import { asManyAs } from '#server/asMany'
import { handle } from '#server/http'
import { narrowingOf } from '#server/peopleQuery'
import { taskInput } from '#server/peopleSchemas'
import { doToMany, taskPeople, taskView, type Whom } from '#usecases/know/doToMany'

export default handle({ body: taskInput }, async ({ event, context, body: { whom, doing, said } }) => {
  const everybody: Whom = whom.kind === 'all' ? { kind: 'all', search: whom.query.search, narrowing: narrowingOf(whom.query) } : whom
  await asManyAs(event, context, taskPeople(everybody), said)
  return taskView(context, doToMany(context, everybody, doing, said))
})
