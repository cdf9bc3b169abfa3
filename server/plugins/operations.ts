/** Puts every operation of the screens where it is asked for. */
import { defineNitroPlugin } from 'nitropack/runtime'
import { allOperations } from '#server/operations/index'

export default defineNitroPlugin(({ router }) => {
  for (const [method, path, { answer }] of allOperations()) router.add(`/api${path}`, answer, method.toLowerCase() as 'get')
})
