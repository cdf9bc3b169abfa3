/** Headers of every page and answer, and the content security policy of the application. */
import { createHash, randomBytes } from 'node:crypto'
import { setResponseHeader } from 'h3'
import { defineNitroPlugin } from 'nitropack/runtime'

export default defineNitroPlugin((nitro) => {
  nitro.hooks.hook('request', (event) => {
    setResponseHeader(event, 'x-content-type-options', 'nosniff')
    setResponseHeader(event, 'referrer-policy', 'strict-origin-when-cross-origin')
  })
  // The application's page: its own scripts, known by their digest, and styles that carry this page's number.
  nitro.hooks.hook('render:response', (response, { event }) => {
    if (typeof response.body !== 'string') return
    const nonce = randomBytes(16).toString('base64')
    const digests = [...response.body.matchAll(/<script(?![^>]*\bsrc=)[^>]*>([\s\S]*?)<\/script>/g)]
      .map(([, script]) => `'sha256-${createHash('sha256').update(script!).digest('base64')}'`)
    response.body = response.body.replace('</head>', `<meta name="style-nonce" content="${nonce}"></head>`).replaceAll('<style', `<style nonce="${nonce}"`)
    setResponseHeader(event, 'content-security-policy', [
      `default-src 'none'`, `script-src 'self' ${digests.join(' ')}`, `style-src 'self' 'nonce-${nonce}'`, `img-src 'self' data:`,
      `font-src 'self'`, `connect-src 'self'`, `frame-src 'self'`, `form-action 'self'`, `base-uri 'none'`, `frame-ancestors 'none'`,
    ].join('; '))
    setResponseHeader(event, 'cache-control', 'no-store')
  })
})
