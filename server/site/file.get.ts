/** A promised file, by the address in an email. It always comes, whatever is recorded. */
import { defineEventHandler } from 'h3'
import { log } from '#server/houses'
import { promisedFile, readFileToken, recordFetch } from '#usecases/arrive/files'
import { houseAt, tokenOf, troublePage, visitOf } from './page'
import { sendFile } from './sendFile'

export default defineEventHandler((event) => {
  try {
    const house = houseAt(event)
    const outboxId = readFileToken(house, tokenOf(event))
    const file = promisedFile(house, outboxId)
    try {
      // Asking for the headers alone is no fetch.
      if (event.method === 'GET') recordFetch(house, outboxId, visitOf(event, house))
    }
    catch (error) {
      log.error({ err: error }, 'a fetch was not recorded')
    }
    return sendFile(event, file)
  }
  catch (error) {
    return troublePage(event, error)
  }
})
