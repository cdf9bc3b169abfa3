import { handle } from '#server/http'
import { forgetRehearsal } from '#usecases/practice/rehearse'

export default handle({}, ({ house, id }) => forgetRehearsal(house, id(), id('rehearsal')))
