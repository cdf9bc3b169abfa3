/** A promised file, by the address in an email. It always comes, whatever is recorded. */
import { defineEventHandler, setResponseHeader } from 'h3'
import { log } from '#server/houses'
import { promisedFile, readFileToken, recordFetch } from '#usecases/arrive/files'
import { houseAt, tokenOf, troublePage, visitOf } from './page'

export default defineEventHandler((event) => {
  try {
    const house = houseAt(event)
    const outboxId = readFileToken(house, tokenOf(event))
    const { name, type, content } = promisedFile(house, outboxId)
    try {
      // Asking for the headers alone is no fetch.
      if (event.method === 'GET') recordFetch(house, outboxId, visitOf(event, house))
    }
    catch (error) {
      log.error({ err: error }, 'a fetch was not recorded')
    }
    setResponseHeader(event, 'content-type', type)
    // Whatever the file holds, nothing in it may act in our name.
    setResponseHeader(event, 'content-security-policy', "default-src 'none'; sandbox")
    setResponseHeader(event, 'x-content-type-options', 'nosniff')
    setResponseHeader(event, 'content-disposition', `attachment; filename="${name.replace(/[^\x20-\x7e]|["\\]/g, '_')}"; filename*=UTF-8''${encodeURIComponent(name).replace(/['()*]/g, char => `%${char.charCodeAt(0).toString(16)}`)}`)
    setResponseHeader(event, 'cache-control', 'private, no-store')
    return Buffer.from(content)
  }
  catch (error) {
    return troublePage(event, error)
  }
})
