/** Leaving: by a button of the choices page, or by a mail program's one press (RFC 8058 section 3.2). */
import { defineEventHandler, readMultipartFormData, getHeader, readRawBody, sendRedirect, setResponseHeader } from 'h3'
import type { H3Event } from 'h3'
import type { Leaving } from '#usecases/arrive/leave'
import { leave, readChoicesToken } from '#usecases/arrive/leave'
import { choicesForm } from '#server/schemas'
import { InputProblem } from '#usecases/problem'
import { formOf, houseAt, pathAt, tokenOf, troublePage } from './page'

export default defineEventHandler(async (event) => {
  try {
    const house = houseAt(event)
    const outboxId = readChoicesToken(house, tokenOf(event))
    const form = formOf(choicesForm, await sentForm(event))
    if (form['List-Unsubscribe'] === 'One-Click') {
      leave(house, outboxId, { what: 'everything' })
      // No page, no redirect, no cookie: a machine is waiting for nothing but the status.
      setResponseHeader(event, 'content-type', 'text/plain; charset=utf-8')
      return 'Done.'
    }
    if (form.leave === null) throw new InputProblem([{ field: 'leave', problem: 'Nothing was chosen. Please go back and press one of the buttons.' }])
    leave(house, outboxId, leavingOf(form.leave))
    return sendRedirect(event, `${pathAt(event, `/m/${tokenOf(event)}`)}?done=1`, 303)
  }
  catch (error) {
    return troublePage(event, error)
  }
})

/** RFC 8058 allows both encodings. */
async function sentForm(event: H3Event): Promise<URLSearchParams> {
  if (!getHeader(event, 'content-type')?.startsWith('multipart/form-data')) return new URLSearchParams(await readRawBody(event) ?? '')
  const parts = await readMultipartFormData(event) ?? []
  return new URLSearchParams(parts.map(part => [part.name ?? '', part.data.toString()] as [string, string]))
}

function leavingOf(chosen: string): Leaving {
  return chosen === 'course' || chosen === 'everything' ? { what: chosen } : { what: 'list', listId: Number(chosen.slice('list-'.length)) }
}
