/** What nothing else has answered: an error that nobody foresaw, or the server's own refusal. */
import type { H3Error, H3Event } from 'h3'
import { send, setResponseHeader } from 'h3'
import { log } from './workspaces'
import { refuse } from './noScreen'

export default async function answerError(error: H3Error, event: H3Event): Promise<void> {
  const status = error.statusCode >= 400 && error.statusCode < 500 ? error.statusCode : 500
  if (status === 500) log.error({ err: error, path: event.path.split('?')[0] }, 'a request failed')
  const body = refuse(event, status, status === 404 ? 'Nothing is at this address. It may be mistyped, or what was here no longer exists.'
    : status === 500 ? 'Something went wrong on our side; nothing was changed. Please try again.' : 'This request could not be understood.')
  if (typeof body !== 'string') setResponseHeader(event, 'content-type', 'application/json')
  await send(event, typeof body === 'string' ? body : JSON.stringify(body))
}
