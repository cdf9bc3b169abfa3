import { handle } from '#server/http'
import { stopTask, taskView } from '#usecases/know/doToMany'

export default handle({}, ({ context, id }) => {
  stopTask(context, id())
  return taskView(context, id())
})
