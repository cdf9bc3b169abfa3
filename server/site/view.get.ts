/** An email in a browser, as its reader got it. Nothing in it can run. */
import { defineEventHandler, setResponseHeader } from 'h3'
import { log } from '#server/workspaces'
import { NotThere } from '#usecases/problem'
import { emailInBrowser } from '#usecases/reading/browserView'
import { recordOpen } from '#usecases/reading/open'
import { contextAt, emailPage, tokenOf, troublePage, visitOf } from './page'

export default defineEventHandler((event) => {
  try {
    const context = contextAt(event)
    const what = context.signer.read('view', tokenOf(event))
    if (what === null) throw new NotThere('This link is not complete.')
    const { html } = emailInBrowser(context, Number(what))
    try {
      // Whoever reads it here reads it, though no picture of it was fetched.
      if (event.method === 'GET') recordOpen(context, Number(what), visitOf(event, context))
    }
    catch (error) {
      log.error({ err: error }, 'an open was not recorded')
    }
    setResponseHeader(event, 'cache-control', 'private, no-store')
    setResponseHeader(event, 'x-robots-tag', 'noindex')
    return emailPage(event, html)
  }
  catch (error) {
    return troublePage(event, error)
  }
})
