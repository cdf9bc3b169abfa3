/** The one way to the server. */
import { navigateTo } from '#imports'
import type { Mode } from '#core/views/frame'
import { mode } from '~/stores/mode'

/** What the server refuses, in its words; `fields` name what is wrong where. */
export class ApiProblem extends Error {
  constructor(readonly status: number, message: string, readonly fields: { field: string, problem: string }[]) {
    super(message)
  }

  /** The problem of one field, if it has one. */
  of(field: string): string | undefined {
    return this.fields.find(entry => entry.field === field)?.problem
  }
}

interface ApiOptions {
  method?: 'GET' | 'POST' | 'PUT' | 'DELETE'
  body?: unknown
  file?: Blob
  /** Who asks: of its questions that wait, only the newest is answered. */
  asker?: string
  /** The revision that was seen. */
  ifMatch?: string
  /** The workspace that is asked, where it is not the one on screen. */
  mode?: Mode
}

function here(): { to?: string } {
  const { pathname, search } = location
  return ['/', '/sign-in'].includes(pathname) ? {} : { to: pathname + search }
}

export async function api<Answer>(path: string, options: ApiOptions = {}): Promise<Answer> {
  let response: Response
  try {
    response = await fetch(`/api/${path}`, {
      method: options.method ?? 'GET',
      headers: {
        'porch-workspace': options.mode ?? mode.value,
        ...(options.body !== undefined && { 'content-type': 'application/json' }),
        ...(options.asker && { 'porch-asker': options.asker }),
        ...(options.ifMatch && { 'if-match': `"${options.ifMatch}"` }),
      },
      ...(options.body !== undefined && { body: JSON.stringify(options.body) }),
      ...(options.file && { body: options.file }),
    })
  }
  catch {
    throw new ApiProblem(0, 'The server cannot be reached. What you typed is still here; it will be saved once the server answers.', [])
  }
  const answer = await response.json().catch(() => null) as { problem?: string, fields?: { field: string, problem: string }[] } | null
  if (response.ok) return answer as Answer
  // The session ended meanwhile: signed in again, one is back where one was.
  if (response.status === 401) await navigateTo({ path: '/sign-in', query: here() })
  throw new ApiProblem(response.status, answer?.problem ?? 'Something went wrong on our side. Please try again.', answer?.fields ?? [])
}
