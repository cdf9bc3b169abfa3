/** What every handler shares: who is asking, what they may, how input is checked and how errors are told. */
import type { EventHandler, H3Event } from 'h3'
import { defineEventHandler, getHeader, getQuery, getRouterParams, setResponseHeader, setResponseStatus } from 'h3'
import type Joi from 'joi'
import type { Asking } from '#core/operations/operation'
import type { Mode } from '#core/views/frame'
import type { WorkspaceContext } from '#usecases/context'
import { ChangedElsewhere, InputProblem, NotNow, NotThere } from '#usecases/problem'
import { databaseTrouble } from '#runtime/problems'
import { bodyWithin } from './body'
import { log, openWorkspaces } from './workspaces'
import { limitsOf, measure } from './bounds'
import { checked, readBody } from './check'
import { checkElsewhere, isCheckedElsewhere } from './files/index'
import { OutOfDate } from './reader/row'
import { Refused } from './refused'
import { isSignedIn } from './session'
import { hostOf } from './visitor'

export interface Asked<Body = unknown, Query = unknown> {
  event: H3Event
  /** The workspace the screen shows. */
  context: WorkspaceContext
  body: Body
  /** Only where an upload is expected. */
  bytes: Uint8Array
  query: Query
  /** A whole number from the path. */
  id(name?: string): number
  param(name: string): string
}

export interface Expected<Body, Query> {
  body?: Joi.ObjectSchema<Body>
  query?: Joi.ObjectSchema<Query>
  /** The body is a file, of at most so many bytes. */
  upload?: number
  /** True if nobody needs to be signed in. */
  open?: boolean
  /** Asked before anything of the body is read; throws a {@link Refused}. */
  admit?: (event: H3Event) => Promise<void>
}

/** The largest request body, in bytes: a long course with all its emails is far below it. */
const MOST_BYTES = 2_000_000
/** Of whatever is not as large as that by nature; and from somebody who is not signed in. */
const MOST_ELSEWHERE = 200_000
const MOST_FROM_STRANGERS = 50_000

/** A body of more things than that is checked in a thread of its own. */
const MOST_HERE = 2000
/** In bytes. */
const MOST_READ_HERE = 200_000

/** What a screen can ask for. */
export interface Operation<Of extends Asking = Asking> {
  /** True if nobody needs to be signed in. */
  open: boolean
  answer: EventHandler
  /** Only a type: what it is sent, and answers. */
  readonly of?: Of
}

/** The operations of an area, each as it is described to the screens. */
export type Operations<Area> = { [Name in keyof Area]: Operation<Omit<Area[Name], 'file'> & { answer: unknown }> }

/** Wraps a use case: check, call, answer. */
export function handle<Answer, Body = unknown, Query extends object = object>(
  expected: Expected<Body, Query>, work: (asked: Asked<Body, Query>) => Answer | Promise<Answer>,
): Operation<{ body: Body, query: Query, answer: Answer }> {
  const answer = defineEventHandler(async (event) => {
    try {
      setResponseHeader(event, 'cache-control', 'no-store')
      if (!expected.open && !isSignedIn(event)) throw new Refused(401, 'Please sign in.')
      if (!isReading(event)) checkOrigin(event)
      await expected.admit?.(event)
      const asked: Asked<Body, Query> = {
        event,
        context: expected.open ? openWorkspaces().of('practice') : openWorkspaces().of(modeOf(event)),
        body: expected.upload ? undefined as Body : await bodyOf(event, expected.body, expected.open === true),
        bytes: expected.upload ? await fileOf(event, expected.upload) : new Uint8Array(),
        query: checked(expected.query, getQuery(event)),
        id: (name = 'id') => {
          const id = Number(getRouterParams(event)[name])
          if (!Number.isSafeInteger(id) || id < 1) throw new NotThere('There is nothing at this address.')
          return id
        },
        param: name => decodeURIComponent(getRouterParams(event)[name] ?? ''),
      }
      return await work(asked) ?? null
    }
    catch (error) {
      return answerTo(event, error as Error)
    }
  })
  return { open: expected.open === true, answer }
}

/** The revision that a change is meant for (RFC 9110, If-Match); null where none was said. */
export function seenRevision(event: H3Event): string | null {
  return /^"([^"]{1,200})"$/.exec(getHeader(event, 'if-match') ?? '')?.[1] ?? null
}

/** The one place where errors become answers. */
export function answerTo(event: H3Event, error: Error): { problem: string, fields?: unknown } {
  if (error instanceof InputProblem) {
    setResponseStatus(event, 422)
    return { problem: error.message, fields: error.problems }
  }
  const status = error instanceof Refused ? error.status : error instanceof NotThere
    ? 404
    : error instanceof ChangedElsewhere ? 412 : error instanceof NotNow || error instanceof OutOfDate ? 409 : 500
  const trouble = status === 500 ? databaseTrouble(error) : null
  setResponseStatus(event, trouble ? 503 : status)
  if (trouble) {
    log.error({ err: error, path: event.path.split('?')[0] }, trouble.sentence)
    return { problem: trouble.sentence }
  }
  if (status === 500) {
    log.error({ err: error, path: event.path.split('?')[0] }, 'a request failed')
    return { problem: 'Something went wrong on our side; nothing was changed. Please try again.' }
  }
  return { problem: error.message }
}

async function bodyOf<Body>(event: H3Event, schema: Joi.ObjectSchema<Body> | undefined, isOpen: boolean): Promise<Body> {
  if (isReading(event)) return undefined as Body
  const isLarge = schema !== undefined && isCheckedElsewhere(schema)
  const bytes = await bodyWithin(event, isOpen ? MOST_FROM_STRANGERS : isLarge ? MOST_BYTES : MOST_ELSEWHERE)
  if (bytes === null) throw new Refused(413, 'That is too large for one request.')
  if (!schema) return undefined as Body
  const type = getHeader(event, 'content-type') ?? ''
  // Nothing so large is even read in here: others would wait for it.
  if (isLarge && bytes.length > MOST_READ_HERE) return await checkElsewhere(schema, { text: bytes.toString(), type })
  const raw = readBody(bytes.toString(), type)
  // Of a size that is worth checking, and never so much in here that others would wait.
  const { nodes, outOfBounds } = measure(raw, limitsOf(schema))
  if (outOfBounds) throw new InputProblem([outOfBounds])
  if (nodes <= MOST_HERE) return checked(schema, raw)
  if (!isLarge) throw new Refused(413, 'That is too large for one request.')
  return await checkElsewhere(schema, { raw })
}

/** The whole file, read to its end also where it is too large: a browser that is cut off shows no answer. */
async function fileOf(event: H3Event, most: number): Promise<Uint8Array> {
  const bytes = await bodyWithin(event, most)
  if (bytes === null) throw new Refused(413, `This file is larger than ${Math.floor(most / 1_000_000)} MB, which is the most that fits.`)
  return bytes
}

function modeOf(event: H3Event): Mode {
  // A form that fills a frame cannot set a header, and says it in the address.
  return (getHeader(event, 'porch-workspace') ?? getQuery(event).workspace) === 'live' ? 'live' : 'practice'
}

/** The headers alone are asked for like the whole (RFC 9110 section 9.3.2). */
const isReading = (event: H3Event) => event.method === 'GET' || event.method === 'HEAD'

/** A changing request must come from a page of ours: the browser says so itself. */
function checkOrigin(event: H3Event): void {
  const origin = getHeader(event, 'origin')
  if (!origin || URL.parse(origin)?.host !== hostOf(event)) throw new Refused(403, 'This request did not come from our own pages.')
}
