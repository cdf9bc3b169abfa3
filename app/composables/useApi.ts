/** The one way to the server. */
import { navigateTo } from '#imports'
import type { AllOperations, OperationName } from '#core/operations/index'
import { pathOf, type NamesIn } from '#core/operations/operation'
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

/** What is asked, whatever the operation. */
interface Loose { at?: Record<string, string | number>, query?: Record<string, Value>, body?: unknown, file?: Blob }

type Value = string | number | boolean | null | undefined

/** What stands in the place of the names of its path. */
type At<Name> = [NamesIn<Name>] extends [never] ? { at?: undefined } : { at: Record<NamesIn<Name>, string | number> }

/** What is narrowed by; nothing typed is left out. */
type Query<Of> = Of extends { query: infer Asked } ? { query?: Partial<Record<keyof Asked, Value>> } : { query?: undefined }

type Sent<Of> = (Of extends { body: infer Body } ? { body: Body } : { body?: undefined })
  & (Of extends { file: true } ? { file: Blob } : { file?: undefined })

interface How {
  /** Who asks: of its questions that wait, only the newest is answered. */
  asker?: string
  /** The revision that was seen. */
  ifMatch?: string
  /** The workspace that is asked, where it is not the one on screen. */
  mode?: Mode
}

type Options<Name extends OperationName> = How & At<Name> & Query<AllOperations[Name]> & Sent<AllOperations[Name]>

/** Those of which nothing need be said but their name. */
type PlainName = { [Name in OperationName]: object extends Options<Name> ? Name : never }[OperationName]

export type Answer<Name extends OperationName> = AllOperations[Name]['answer']

function here(): { to?: string } {
  const { pathname, search } = location
  return ['/', '/sign-in'].includes(pathname) ? {} : { to: pathname + search }
}

function sayQuery(query: Record<string, Value> = {}): string {
  const said = Object.entries(query).filter(([, value]) => value !== null && value !== undefined && value !== '')
  return said.length === 0 ? '' : `?${new URLSearchParams(said.map(([name, value]) => [name, String(value)]))}`
}

/** Where something stands that is taken by its address: a file, a page of its own. */
export function hrefOf<Name extends OperationName>(name: Name, which: At<Name> & Query<AllOperations[Name]>): string {
  const { at, query } = which as Pick<Loose, 'at' | 'query'>
  return `/api/${pathOf(name, at)}${sayQuery({ ...query, workspace: mode.value })}`
}

/** How many were asked: two that are on their way together may come in the other order, and the newest is told by this. */
let questions = 0

/** Asks the server, by the name of the operation. Throws an {@link ApiProblem} where it refuses or cannot be reached. */
export function api<Name extends PlainName>(name: Name, options?: Options<Name>): Promise<Answer<Name>>
export function api<Name extends OperationName>(name: Name, options: Options<Name>): Promise<Answer<Name>>
export async function api(
  name: OperationName, { at, query, body, file, asker, ifMatch, mode: asked }: Loose & How = {},
): Promise<unknown> {
  let response: Response
  try {
    response = await fetch(`/api/${pathOf(name, at)}${sayQuery(query)}`, {
      method: name.slice(0, name.indexOf(' ')),
      headers: {
        'porch-workspace': asked ?? mode.value,
        ...(body !== undefined && { 'content-type': 'application/json' }),
        ...(asker && { 'porch-asker': `${asker} ${++questions}` }),
        ...(ifMatch && { 'if-match': `"${ifMatch}"` }),
      },
      ...(body !== undefined && { body: JSON.stringify(body) }),
      ...(file && { body: file }),
    })
  }
  catch {
    throw new ApiProblem(0, 'The server cannot be reached. What you typed is still here; it will be saved once the server answers.', [])
  }
  const answer = await response.json().catch(() => null) as { problem?: string, fields?: { field: string, problem: string }[] } | null
  if (response.ok) return answer
  // The session ended meanwhile: signed in again, one is back where one was.
  if (response.status === 401) await navigateTo({ path: '/sign-in', query: here() })
  throw new ApiProblem(response.status, answer?.problem ?? 'Something went wrong on our side. Please try again.', answer?.fields ?? [])
}
