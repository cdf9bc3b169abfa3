/** The picture that tells of an open. It always comes, whatever is recorded. */
import { defineEventHandler, setResponseHeader } from 'h3'
import { log } from '#server/houses'
import { recordOpen } from '#usecases/reading/open'
import { houseAt, tokenOf, visitOf } from './page'

const PICTURE = Buffer.from('R0lGODlhAQABAIAAAAAAAP///yH5BAEAAAAALAAAAAABAAEAAAIBRAA7', 'base64')

export default defineEventHandler((event) => {
  try {
    const house = houseAt(event)
    const what = house.signer.read('open', tokenOf(event))
    if (what !== null && event.method === 'GET') recordOpen(house, Number(what), visitOf(event, house))
  }
  catch (error) {
    log.error({ err: error }, 'an open was not recorded')
  }
  setResponseHeader(event, 'content-type', 'image/gif')
  setResponseHeader(event, 'cache-control', 'no-store')
  return PICTURE
})
