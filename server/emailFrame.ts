/** An email's HTML as a page of its own, for a frame: nothing in it can run or reach the application. */
import type { H3Event } from 'h3'
import { setResponseHeader } from 'h3'
import type { WorkspaceContext } from '#usecases/context'

/** As a mail program shows it that is light, or dark, or fetches no pictures. */
export type Look = 'light' | 'dark' | 'plain'
export const LOOKS = ['light', 'dark', 'plain'] as const

export function emailFrame(event: H3Event, context: WorkspaceContext, html: string, look: Look = 'light'): string {
  const pictures = `'self' ${new URL(context.baseUrl).origin} https: data:`
  setResponseHeader(
    event, 'content-security-policy',
    `default-src 'none'; img-src ${pictures}; style-src 'unsafe-inline'; base-uri 'none'; frame-ancestors 'self'; sandbox allow-popups allow-popups-to-escape-sandbox`,
  )
  setResponseHeader(event, 'content-type', 'text/html; charset=utf-8')
  // Links open beside the application, as they would from a mail program.
  const shown = look === 'plain' ? html.replace(/(<img\b[^>]*?\ssrc=")[^"]*"/g, '$1data:,"') : html
  return shown.replaceAll('<a ', '<a target="_blank" rel="noopener" ')
    // What this computer prefers must not decide how it is shown here.
    .replace(/@media \(prefers-color-scheme:\s*dark\)/g, look === 'dark' ? '@media all' : '@media not all')
}
