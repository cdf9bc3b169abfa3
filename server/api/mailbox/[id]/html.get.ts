/**
 * The HTML of a practice email, for a frame of its own: nothing in it can run
 * or reach the application. Its picture is fetched like in a mail client,
 * which is what records the open.
 */
import { setResponseHeader } from 'h3'
import { handle } from '#server/http'
import { mailView } from '#usecases/views/mailbox'

export default handle({}, async ({ event, house, id }) => {
  const { html } = await mailView(house, id())
  const pictures = `'self' ${new URL(house.baseUrl).origin} https: data:`
  setResponseHeader(event, 'content-security-policy', `default-src 'none'; img-src ${pictures}; style-src 'unsafe-inline'; base-uri 'none'; sandbox allow-popups allow-popups-to-escape-sandbox`)
  setResponseHeader(event, 'content-type', 'text/html; charset=utf-8')
  // Links open beside the application, as they would from a mail program.
  return html.replaceAll('<a ', '<a target="_blank" rel="noopener" ')
})
