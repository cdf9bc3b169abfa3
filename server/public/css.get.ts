import { defineEventHandler, setResponseHeader } from 'h3'
import { publicCss } from '#core/page/style'

export default defineEventHandler((event) => {
  setResponseHeader(event, 'content-type', 'text/css; charset=utf-8')
  setResponseHeader(event, 'cache-control', 'public, max-age=3600')
  return publicCss
})
