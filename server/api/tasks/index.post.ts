import { asManyAs } from '#server/asMany'
import { handle } from '#server/http'
import { narrowingOf } from '#server/peopleQuery'
import { taskInput } from '#server/peopleSchemas'
import { doToMany, taskPeople, taskView, type Whom } from '#usecases/know/doToMany'

export default handle({ body: taskInput }, async ({ event, house, body: { whom, doing, said } }) => {
  const everybody: Whom = whom.kind === 'all' ? { kind: 'all', search: whom.query.search, narrowing: narrowingOf(whom.query) } : whom
  await asManyAs(event, house, taskPeople(everybody), said)
  return taskView(house, doToMany(house, everybody, doing, said))
})
