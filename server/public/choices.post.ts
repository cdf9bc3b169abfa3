/** Leaving: by a button of the choices page, or by a mail program's one press (RFC 8058 section 3.2). */
import { defineEventHandler, readMultipartFormData, getHeader, readRawBody, sendRedirect, setResponseHeader, setResponseStatus } from 'h3'
import type { H3Event } from 'h3'
import type { Leaving } from '#usecases/arrive/leave'
import { leave, readChoicesToken } from '#usecases/arrive/leave'
import { houseAt, pathAt, tokenOf, troublePage } from './page'

export default defineEventHandler(async (event) => {
  try {
    const house = houseAt(event)
    const outboxId = readChoicesToken(house, tokenOf(event))
    const form = await formOf(event)
    if (form.get('List-Unsubscribe') === 'One-Click') {
      leave(house, outboxId, { what: 'everything' })
      // No page, no redirect, no cookie: a machine is waiting for nothing but the status.
      setResponseHeader(event, 'content-type', 'text/plain; charset=utf-8')
      return 'Done.'
    }
    const leaving = leavingOf(form.get('leave'))
    if (!leaving) {
      setResponseStatus(event, 400)
      setResponseHeader(event, 'content-type', 'text/plain; charset=utf-8')
      return 'Nothing was chosen.'
    }
    leave(house, outboxId, leaving)
    return sendRedirect(event, `${pathAt(event, `/m/${tokenOf(event)}`)}?done=1`, 303)
  }
  catch (error) {
    return troublePage(event, error)
  }
})

/** RFC 8058 allows both encodings. */
async function formOf(event: H3Event): Promise<URLSearchParams> {
  if (!getHeader(event, 'content-type')?.startsWith('multipart/form-data')) return new URLSearchParams(await readRawBody(event) ?? '')
  const parts = await readMultipartFormData(event) ?? []
  return new URLSearchParams(parts.map(part => [part.name ?? '', part.data.toString()] as [string, string]))
}

function leavingOf(chosen: string | null): Leaving | null {
  if (chosen === 'course' || chosen === 'everything') return { what: chosen }
  const list = /^list-(\d+)$/.exec(chosen ?? '')
  return list ? { what: 'list', listId: Number(list[1]) } : null
}
