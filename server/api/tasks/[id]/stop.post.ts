import { handle } from '#server/http'
import { stopTask, taskView } from '#usecases/know/doToMany'

export default handle({}, ({ house, id }) => {
  stopTask(house, id())
  return taskView(house, id())
})
