/** Keys by which programs come in: shown once, kept as a digest. */
import { createHash, randomBytes } from 'node:crypto'
import { SCOPES, type KeyLine, type KeysView, type Scope } from '#core/views/keys'
import type { Instant } from '#core/time/zone'
import { allKeys, endKey, findAnswer, findKeyByDigest, insertKey, keepAnswer, markUsed } from '#data/keys'
import { DAY } from '#core/time/zone'
import type { WorkspaceContext } from '../context'
import { transact } from '../inner/reactor/transaction'
import { InputProblem, NotThere } from '../problem'

/** A last use is written down at most so often. */
const USED_EVERY = 60_000
/** For so long a repeated request gets the first answer. */
const KEPT_FOR = DAY

/** The secret has 32 random bytes: a plain digest of it says nothing to whoever reads it. */
const digestOf = (secret: string) => createHash('sha256').update(secret).digest('hex')

/** The key itself is told this once. `at`: by the system's clock. */
export function makeKey(context: WorkspaceContext, input: { name: string, scopes: Scope[] }, at: Instant): { id: number, secret: string } {
  const name = input.name.replace(/\s+/g, ' ').trim()
  if (name === '') throw new InputProblem([{ field: 'name', problem: 'Enter a name.' }])
  const scopes = SCOPES.filter(scope => input.scopes.includes(scope))
  if (scopes.length === 0) throw new InputProblem([{ field: 'scopes', problem: 'Choose at least one permission.' }])
  const secret = `porch_${context.mode}_${randomBytes(32).toString('base64url')}`
  return {
    id: transact(context, () => insertKey(context.db, { name, digest: digestOf(secret), hint: secret.slice(-4), scopes, at })), secret,
  }
}

export function removeKey(context: WorkspaceContext, id: number, at: Instant): void {
  transact(context, () => {
    if (!endKey(context.db, id, at)) throw new NotThere('This key no longer exists.')
  })
}

export const keysView = ({ db, baseUrl }: WorkspaceContext): KeysView => ({ keys: allKeys(db), url: `${baseUrl}/v1` })

/** Whose key this is, which is used now; undefined for nobody's. */
export function useKey(context: WorkspaceContext, secret: string, at: Instant): KeyLine | undefined {
  const key = findKeyByDigest(context.db, digestOf(secret))
  if (key && at - (key.lastUsedAt ?? 0) >= USED_EVERY) transact(context, () => markUsed(context.db, key.id, at))
  return key
}

export interface Answer { status: number, body: unknown }
export type Once = { is: 'new' | 'replayed', answer: Answer } | { is: 'other-request' }

/**
 * Does something once for an idempotency key: the same request again gets the first answer, another one under that key is refused. In one
 * transaction with what is done.
 */
export function once(
  context: WorkspaceContext,
  { keyId, idempotencyKey, request, at }: { keyId: number, idempotencyKey: string, request: string, at: Instant }, work: () => Answer,
): Once {
  const { db } = context
  const requestDigest = digestOf(request)
  return transact(context, (): Once => {
    const kept = findAnswer(db, keyId, idempotencyKey)
    if (kept) return kept.requestDigest === requestDigest
      ? { is: 'replayed', answer: { status: kept.status, body: JSON.parse(kept.body) as unknown } }
      : { is: 'other-request' }
    const answer = work()
    keepAnswer(
      db, { keyId, idempotencyKey, requestDigest, status: answer.status, body: JSON.stringify(answer.body ?? null), at }, at - KEPT_FOR,
    )
    return { is: 'new', answer }
  })
}
