/** A file that stands in an email, by an address of its reader's. */
import { defineEventHandler } from 'h3'
import { NotThere } from '#usecases/problem'
import { sentFile } from '#usecases/reading/browserView'
import { contextAt, tokenOf, troublePage } from './page'
import { sendFile } from './sendFile'

export default defineEventHandler((event) => {
  try {
    const context = contextAt(event)
    const what = context.signer.read('sent-file', tokenOf(event))
    if (what === null) throw new NotThere('This link is not complete.')
    const [outboxId, fileId] = what.split('.').map(Number) as [number, number]
    return sendFile(event, sentFile(context, outboxId, fileId))
  }
  catch (error) {
    return troublePage(event, error)
  }
})
