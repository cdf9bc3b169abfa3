import { handle } from '#server/http'
import { forgetRehearsal } from '#usecases/practice/rehearse'

export default handle({}, ({ context, id }) => forgetRehearsal(context, id(), id('rehearsal')))
