import { gzipSync } from 'node:zlib'
import { defineEventHandler, getHeader, setResponseHeader } from 'h3'
import { canvasCss, publicCss } from '#core/page/style'

const forVisitors = { plain: Buffer.from(publicCss), packed: gzipSync(publicCss, { level: 9 }) }
const forCanvas = `${publicCss}\n${canvasCss}`

/** The looks of the public pages; with what only the editor's canvas needs, where it asks for that. */
export default defineEventHandler((event) => {
  setResponseHeader(event, 'content-type', 'text/css; charset=utf-8')
  setResponseHeader(event, 'cache-control', 'public, max-age=3600')
  if (event.path.startsWith('/canvas.css')) return forCanvas
  setResponseHeader(event, 'vary', 'accept-encoding')
  setResponseHeader(event, 'cross-origin-resource-policy', 'cross-origin')
  if (!/\bgzip\b/.test(getHeader(event, 'accept-encoding') ?? '')) return forVisitors.plain
  setResponseHeader(event, 'content-encoding', 'gzip')
  setResponseHeader(event, 'content-length', forVisitors.packed.length)
  return forVisitors.packed
})
