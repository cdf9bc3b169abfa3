/** A picture of a page or an email, in one of the forms it is kept in. It never changes under its address. */
import { defineEventHandler, getRouterParam, setResponseHeader } from 'h3'
import { pictureContent, pictureForMail } from '#usecases/arrive/pictures'
import { NotThere } from '#usecases/problem'
import { contextAt, troublePage } from './page'

/** By how a picture begins. */
const TYPES: [number, string][] = [[0xFF, 'image/jpeg'], [0x89, 'image/png'], [0x47, 'image/gif'], [0x52, 'image/webp']]

export default defineEventHandler(async (event) => {
  try {
    const parts = /^(\d{1,12})-(?:(\d{1,5})\.webp|(share)\.jpg|(mail))$/.exec(getRouterParam(event, 'name') ?? '')
    if (!parts) throw new NotThere('There is no picture at this address.')
    const [id, context] = [Number(parts[1]), contextAt(event)]
    const content = parts[4] ? await pictureForMail(context, id) : pictureContent(context, id, parts[3] ? 'share' : Number(parts[2]))
    setResponseHeader(event, 'content-type', TYPES.find(([first]) => first === content[0])?.[1] ?? 'application/octet-stream')
    setResponseHeader(event, 'cache-control', 'public, max-age=31536000, immutable')
    setResponseHeader(event, 'x-content-type-options', 'nosniff')
    return Buffer.from(content)
  }
  catch (error) {
    return troublePage(event, error)
  }
})
