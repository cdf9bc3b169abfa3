/** A tracked link: sends the reader on at once, and only to where the email pointed. */
import { defineEventHandler, sendRedirect, setResponseHeader } from 'h3'
import { renderNotice } from '#core/page/render'
import { hrefOf } from '#core/message/webAddress'
import { isReservedHost } from '#core/people/address'
import { log } from '#server/workspaces'
import { NotThere } from '#usecases/problem'
import { asksFirst, destinationOf, isAnswer, recordClick } from '#usecases/reading/click'
import { publicFace } from '#usecases/views/publicPages'
import { FILES, contextAt, page, pathAt, tokenOf, troublePage, visitOf } from './page'

export default defineEventHandler((event) => {
  try {
    const context = contextAt(event)
    const what = context.signer.read('link', tokenOf(event))
    if (what === null) throw new NotThere('This link is not complete.')
    const [outboxId, linkN] = what.split('.').map(Number) as [number, number]
    const answers = isAnswer(context, outboxId, linkN)
    const url = answers ? pathAt(event, `/q/${context.signer.sign('answer', what)}`) : hrefOf(destinationOf(context, outboxId, linkN))
    if (url === null) throw new NotThere('This link is not complete.')
    try {
      // Asking for the headers alone is no click.
      if (event.method === 'GET') recordClick(context, outboxId, linkN, visitOf(event, context))
    }
    catch (error) {
      log.error({ err: error }, 'a click was not recorded')
    }
    setResponseHeader(event, 'cache-control', 'no-store')
    if (answers) return sendRedirect(event, url, 302)
    if (asksFirst(context, outboxId, linkN)) return sendRedirect(event, pathAt(event, `/k/${context.signer.sign('ask', what)}`), 302)
    if (context.mode === 'practice' && isReservedHost(new URL(url).hostname)) {
      return page(event, renderNotice({
        title: 'The link works',
        text: `In practice this made-up site does not exist. A reader would now be at ${url}, and the click is recorded.`,
        senderName: publicFace(context).senderName, files: FILES,
      }))
    }
    setResponseHeader(event, 'referrer-policy', 'no-referrer')
    return sendRedirect(event, url, 302)
  }
  catch (error) {
    return troublePage(event, error)
  }
})
