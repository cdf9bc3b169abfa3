/** A promised file, by the address in an email. It always comes, whatever is recorded. */
import { defineEventHandler } from 'h3'
import { log } from '#server/workspaces'
import { promisedFile, readFileToken, recordFetch } from '#usecases/arrive/files'
import { contextAt, tokenOf, troublePage, visitOf } from './page'
import { sendFile } from './sendFile'

export default defineEventHandler((event) => {
  try {
    const context = contextAt(event)
    const outboxId = readFileToken(context, tokenOf(event))
    const file = promisedFile(context, outboxId)
    try {
      // Asking for the headers alone is no fetch.
      if (event.method === 'GET') recordFetch(context, outboxId, visitOf(event, context))
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
