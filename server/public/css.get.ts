import { defineEventHandler, setResponseHeader } from 'h3'
import { canvasCss, publicCss } from '#core/page/style'

/** The looks of the public pages; with what only the editor's canvas needs, where it asks for that. */
export default defineEventHandler((event) => {
  setResponseHeader(event, 'content-type', 'text/css; charset=utf-8')
  setResponseHeader(event, 'cache-control', 'public, max-age=3600')
  return event.path.startsWith('/canvas.css') ? `${publicCss}\n${canvasCss}` : publicCss
})
