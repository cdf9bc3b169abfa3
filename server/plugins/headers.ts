/** Headers of every page and answer, and the content security policy of the application. */
import { createHash, randomBytes } from 'node:crypto'
import { setResponseHeader } from 'h3'
import { defineNitroPlugin } from 'nitropack/runtime'
import { SCREENS } from '#screens'
import { beginningOf } from '#server/beginning'
import { openWorkspaces } from '#server/workspaces'
import { answerWithoutScreen } from '#server/noScreen'

const parameters = (path: string) => path.split(':').length
/** Those whose address is fixed come before those that take any. */
const screens = [...SCREENS].sort((a, b) => parameters(a.path) - parameters(b.path)).map(({ path, parts }) => ({
  is: new RegExp(`^${path.replace(/:\w+(\(\))?/g, '[^/]+')}/?$`),
  // All at once with the page: else they would be asked for one after the other, each by the one before.
  ahead: parts.map(part => part.endsWith('.css')
    ? `<link rel="preload" as="style" crossorigin href="${part}">`
    : `<link rel="modulepreload" as="script" crossorigin href="${part}">`).join(''),
}))
const screenAt = (path: string) => screens.find(({ is }) => is.test(path.split('?')[0]!))

/** Nothing of ours asks for any of these. */
const POWERS = ['camera', 'microphone', 'geolocation', 'payment', 'usb', 'display-capture']
const YEAR_SECONDS = 31_536_000

export default defineNitroPlugin((nitro) => {
  nitro.hooks.hook('request', (event) => {
    setResponseHeader(event, 'x-content-type-options', 'nosniff')
    setResponseHeader(event, 'referrer-policy', 'strict-origin-when-cross-origin')
    setResponseHeader(event, 'cross-origin-opener-policy', 'same-origin')
    setResponseHeader(event, 'permissions-policy', POWERS.map(power => `${power}=()`).join(', '))
    // RFC 6797: only where readers reach us by https, and not heard of over anything else.
    if (openWorkspaces().settings.baseUrl.startsWith('https:')) {
      setResponseHeader(event, 'strict-transport-security', `max-age=${YEAR_SECONDS}`)
    }
  })
  nitro.hooks.hook('render:before', async (rendered) => {
    const answer = await answerWithoutScreen(rendered.event, path => screenAt(path) !== undefined)
    if (!answer) return
    rendered.event.context.isNoScreen = true
    rendered.response = answer
  })
  // The application's page: its own scripts, known by their digest, and styles that carry this page's number.
  nitro.hooks.hook('render:response', (response, { event }) => {
    if (event.context.isNoScreen || typeof response.body !== 'string') return
    // Which framework it is made with is nobody's business.
    delete response.headers?.['x-powered-by']
    const nonce = randomBytes(16).toString('base64')
    const digests = [...response.body.matchAll(/<script(?![^>]*\bsrc=)[^>]*>([\s\S]*?)<\/script>/g)]
      .map(([, script]) => `'sha256-${createHash('sha256').update(script!).digest('base64')}'`)
    const head = `${screenAt(event.path)?.ahead ?? ''}${beginningOf(event)}<meta name="style-nonce" content="${nonce}">`
    response.body = response.body.replace('</head>', () => `${head}</head>`).replaceAll(
      '<style', `<style nonce="${nonce}"`,
    )
    setResponseHeader(event, 'content-security-policy', [
      `default-src 'none'`, `script-src 'self' ${digests.join(' ')}`, `style-src 'self' 'nonce-${nonce}'`, `img-src 'self' data:`,
      `font-src 'self'`, `connect-src 'self'`, `frame-src 'self'`, `form-action 'self'`, `base-uri 'none'`, `frame-ancestors 'none'`,
    ].join('; '))
    setResponseHeader(event, 'cache-control', 'no-store')
  })
})
