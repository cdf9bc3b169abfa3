/** A request of a program, from its key to its answer; without HTTP, so that it can be tried alone. */
import { randomUUID } from 'node:crypto'
import type Joi from 'joi'
import { allows, type KeyLine, type Scope } from '#core/views/keys'
import type { Instant } from '#core/time/zone'
import { once, useKey, type Answer } from '#usecases/api/keys'
import type { WorkspaceContext } from '#usecases/context'
import { ChangedElsewhere, InputProblem, NotNow, NotThere } from '#usecases/problem'
import { limitsOf, measure } from '../bounds'
import { faults, TELLING } from '../check'
import { Refused } from '../refused'
import { MOST_READ, type Operation } from './operation'
import { operationAt } from './operations'

export interface ProgramRequest {
  method: string
  /** Without the version before it, like /people/7. */
  path: string
  query: Record<string, unknown>
  idempotencyKey: string | null
  bytes: Uint8Array
}

export interface ProgramAnswer extends Answer {
  headers: Record<string, string>
}

const said = (status: number, body: unknown, headers: Record<string, string> = {}): ProgramAnswer => ({ status, body, headers })
const wrong = (status: number, problem: string, headers: Record<string, string> = {}) => said(status, { problem }, headers)

/** Whose key the header Authorization brings, or why it is nobody's. `at`: by the system's clock. */
export function keyOf(context: WorkspaceContext, authorization: string, at: Instant): { key: KeyLine } | { refused: ProgramAnswer } {
  const secret = /^Bearer +(\S+)$/i.exec(authorization)?.[1] ?? ''
  const key = secret === '' ? undefined : useKey(context, secret, at)
  return key ? { key } : { refused: wrong(401, whyNoKey(context, secret), { 'www-authenticate': 'Bearer' }) }
}

/** `at` is the system's time. Throws only what nobody foresaw. */
export async function answerProgram(context: WorkspaceContext, key: KeyLine, request: ProgramRequest, at: Instant): Promise<ProgramAnswer> {
  const found = operationAt(request.method, request.path)
  if ('allowed' in found) return found.allowed.length === 0
    ? wrong(404, 'Nothing is at this address. See openapi.json for all requests.')
    : wrong(405, `This address accepts ${found.allowed.join(', ')}.`, { allow: found.allowed.join(', ') })
  if (!allows(key.scopes, found.operation.scope)) return wrong(403, `This key lacks the permission ${found.operation.scope}.`)
  try {
    return await answerFound(context, request, found, key, at)
  }
  catch (error) {
    if (error instanceof InputProblem) return said(422, { problem: error.message, fields: error.problems })
    if (error instanceof Refused) return wrong(error.status, error.message)
    if (error instanceof NotThere) return wrong(404, error.message)
    if (error instanceof NotNow || error instanceof ChangedElsewhere) return wrong(409, error.message)
    throw error
  }
}

function whyNoKey({ mode }: WorkspaceContext, secret: string): string {
  if (secret === '') return 'Send your key in the header Authorization: Bearer porch_…'
  const other = mode === 'live' ? 'practice' : 'live'
  return secret.startsWith(`porch_${other}_`)
    ? `This key is for ${other}, whose addresses begin with ${other === 'practice' ? '/practice/v1' : '/v1'}.`
    : 'This key is unknown or was revoked.'
}

async function answerFound(
  context: WorkspaceContext, { query, bytes, idempotencyKey }: ProgramRequest,
  { operation, numbers }: { operation: Operation, numbers: Record<string, number> },
  key: KeyLine, at: Instant,
): Promise<ProgramAnswer> {
  if (idempotencyKey !== null && (idempotencyKey === '' || idempotencyKey.length > 200)) {
    throw new InputProblem([{ field: 'Idempotency-Key', problem: 'An idempotency key has from 1 to 200 characters.' }])
  }
  const raw = operation.body && !operation.reads ? read(new TextDecoder().decode(bytes)) : undefined
  if (operation.body && !operation.reads && raw === undefined) return wrong(400, 'The body is no JSON.')
  const body: unknown = operation.reads ? await operation.reads(bytes) : operation.body && checked(operation.body, raw, false)
  const call = { context, key, numbers, body, query: operation.query && checked(operation.query, query, true) }
  const lacks = lackingIn(call.body, operation, key)
  if (lacks) return wrong(403, `This key may not do all of that: “${lacks.field}” needs ${lacks.scope}.`)
  const answerOf = (done: unknown): Answer => ({ status: operation.status, body: done })
  const headers: Record<string, string> = operation.file ? { 'content-type': operation.file } : {}
  if (!operation.makes || idempotencyKey === null) {
    return { ...answerOf(await operation.run({ ...call, callId: `program-${randomUUID()}` })), headers }
  }
  const request = JSON.stringify([operation.method, operation.path, numbers, call.body])
  const outcome = once(context, {
    keyId: key.id, idempotencyKey, request, at,
  }, () => answerOf(operation.run({ ...call, callId: `program-${key.id}-${idempotencyKey}` })))
  if (outcome.is === 'other-request') throw new InputProblem([
    { field: 'Idempotency-Key', problem: 'This idempotency key was used for another request. Use a new one for each request.' },
  ])
  return { ...outcome.answer, headers: outcome.is === 'replayed' ? { 'idempotent-replayed': 'true' } : {} }
}

/** How many bytes a request may bring, by its method and path. */
export function mostBytes(method: string, path: string): number {
  const found = operationAt(method, path)
  return 'operation' in found && found.operation.reads ? MOST_READ : MOST_BYTES
}

const MOST_BYTES = 262_144

/** What in the body asks for more than the key may; null if nothing does. */
function lackingIn(body: unknown, { besides = {} }: Operation, key: KeyLine): { field: string, scope: Scope } | null {
  for (const [field, scope] of Object.entries(besides)) {
    const given = (body as Record<string, unknown>)[field]
    const asks = Array.isArray(given) ? given.length > 0 : given !== undefined && given !== null
    if (asks && !allows(key.scopes, scope!)) return { field, scope: scope! }
  }
  return null
}

/** The largest request that any operation has is far below it. */
const MOST_NODES = 2000

function read(text: string): unknown {
  try {
    return JSON.parse(text) as unknown
  }
  catch {
    return undefined
  }
}

/**
 * Strictly: a name that nobody knows is a mistake, not something to pass over. What stands in an address is text, and is read as what it
 * should be.
 */
function checked(schema: Joi.ObjectSchema, raw: unknown, isText: boolean): unknown {
  const { nodes, outOfBounds } = measure(raw, limitsOf(schema))
  if (outOfBounds) throw new InputProblem([outOfBounds])
  if (nodes > MOST_NODES) throw new InputProblem([{ field: '', problem: 'This is too large for one request.' }])
  const { value, error } = schema.validate(raw, { ...TELLING, convert: isText })
  if (error) throw faults(error)
  return value as unknown
}
