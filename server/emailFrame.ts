/** An email's HTML as a page of its own, for a frame: nothing in it can run or reach the application. */
import type { H3Event } from 'h3'
import { setResponseHeader } from 'h3'
import type { WorkspaceContext } from '#usecases/context'

export function emailFrame(event: H3Event, context: WorkspaceContext, html: string): string {
  const pictures = `'self' ${new URL(context.baseUrl).origin} https: data:`
  setResponseHeader(
    event, 'content-security-policy',
    `default-src 'none'; img-src ${pictures}; style-src 'unsafe-inline'; base-uri 'none'; frame-ancestors 'self'; sandbox allow-popups allow-popups-to-escape-sandbox`,
  )
  setResponseHeader(event, 'content-type', 'text/html; charset=utf-8')
  // Links open beside the application, as they would from a mail program.
  return html.replaceAll('<a ', '<a target="_blank" rel="noopener" ')
}
