/** The picture that tells of an open. It always comes, whatever is recorded. */
import { defineEventHandler, setResponseHeader } from 'h3'
import { log } from '#server/workspaces'
import { recordOpen } from '#usecases/reading/open'
import { contextAt, tokenOf, visitOf } from './page'

const PICTURE = Buffer.from('R0lGODlhAQABAIAAAAAAAP///yH5BAEAAAAALAAAAAABAAEAAAIBRAA7', 'base64')

export default defineEventHandler((event) => {
  try {
    const context = contextAt(event)
    const what = context.signer.read('open', tokenOf(event))
    if (what !== null && event.method === 'GET') recordOpen(context, Number(what), visitOf(event, context))
  }
  catch (error) {
    log.error({ err: error }, 'an open was not recorded')
  }
  setResponseHeader(event, 'content-type', 'image/gif')
  setResponseHeader(event, 'cache-control', 'no-store')
  return PICTURE
})
