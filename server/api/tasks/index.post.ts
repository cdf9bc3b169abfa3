import { handle } from '#server/http'
import { narrowingOf } from '#server/peopleQuery'
import { taskInput } from '#server/peopleSchemas'
import { doToMany, taskView } from '#usecases/know/doToMany'

export default handle({ body: taskInput }, ({ house, body: { whom, doing, said } }) => {
  const everybody = whom.kind === 'all' ? { kind: 'all' as const, search: whom.query.search, narrowing: narrowingOf(whom.query) } : whom
  return taskView(house, doToMany(house, everybody, doing, said))
})
