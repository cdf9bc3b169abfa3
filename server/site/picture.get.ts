/** A picture of a page, in one of the sizes it is kept in. It never changes under its address. */
import { defineEventHandler, getRouterParam, setResponseHeader } from 'h3'
import { pictureContent } from '#usecases/arrive/pictures'
import { NotThere } from '#usecases/problem'
import { contextAt, troublePage } from './page'

export default defineEventHandler((event) => {
  try {
    const parts = /^(\d{1,12})-(?:(\d{1,5})\.webp|share\.jpg)$/.exec(getRouterParam(event, 'name') ?? '')
    if (!parts) throw new NotThere('There is no picture at this address.')
    const content = pictureContent(contextAt(event), Number(parts[1]), parts[2] === undefined ? 'share' : Number(parts[2]))
    setResponseHeader(event, 'content-type', parts[2] === undefined ? 'image/jpeg' : 'image/webp')
    setResponseHeader(event, 'cache-control', 'public, max-age=31536000, immutable')
    setResponseHeader(event, 'x-content-type-options', 'nosniff')
    return Buffer.from(content)
  }
  catch (error) {
    return troublePage(event, error)
  }
})
