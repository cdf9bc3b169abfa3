/** Addresses outside that rules call, and addresses of ours that something outside calls. */
import { randomBytes } from 'node:crypto'
import { isPath, readCall } from '#core/hooks/reading'
import { readAddress } from '#core/message/webAddress'
import type { HooksView, HookInInput, HookOutInput } from '#core/views/hooks'
import { readTogether } from '#data/connection'
import { appendEvent } from '#data/events'
import {
  allHooksIn, allHooksOut, allowsInside, deliverAgain, endHookIn, endHookOut, findDelivery, findHookByToken, findHookIn, findHookOut,
  insertCall, insertHookIn, insertHookOut, latestCalls, latestDeliveries, setAllowsInside, updateHookIn, updateHookOut,
} from '#data/hooks'
import { findRemembered } from '#data/erasing'
import { findPersonByKey, insertPerson } from '#data/people'
import type { WorkspaceContext } from '../context'
import { personOnceAt } from '../inner/importing'
import { transact } from '../inner/reactor/transaction'
import { refuseIfNeeded } from '../inner/uses'
import type { FieldProblem } from '../problem'
import { InputProblem, NotNow, NotThere } from '../problem'
import { nameOf } from '../inner/names'

const tidy = (text: string) => text.replace(/\s+/g, ' ').trim()
/** So many of the last calls are shown. */
const LAST = 50

/** 24 bytes, as the Standard Webhooks specification writes a secret. */
const newSecret = () => `whsec_${randomBytes(24).toString('base64')}`

export function saveHookOut(context: WorkspaceContext, id: number | null, input: HookOutInput): number {
  const { db } = context
  const [name, url] = [tidy(input.name), input.url.trim()]
  const problems: FieldProblem[] = []
  if (name === '') problems.push({ field: 'name', problem: 'Enter a name.' })
  const read = readAddress(url)
  if (!read.ok) problems.push({ field: 'url', problem: read.problem })
  if (problems.length > 0) throw new InputProblem(problems)
  return transact(context, () => {
    if (id === null) return insertHookOut(db, { name, url, secret: newSecret() }, context.clock.now())
    if (findHookOut(db, id)?.ended !== false) throw new NotThere('This address no longer exists.')
    updateHookOut(db, { id, name, url })
    return id
  })
}

export function removeHookOut(context: WorkspaceContext, id: number): void {
  const { db } = context
  transact(context, () => {
    if (findHookOut(db, id)?.ended !== false) throw new NotThere('This address no longer exists.')
    refuseIfNeeded(db, { kind: 'hookOut', id })
    endHookOut(db, id, context.clock.now())
  })
}

/** Whether calls may go into private networks, where this machine stands. */
export function allowInside(context: WorkspaceContext, allows: boolean): void {
  transact(context, () => setAllowsInside(context.db, allows))
}

/** Once more from the beginning, under the same identifier. */
export function sendAgain(context: WorkspaceContext, deliveryId: number): void {
  const { db } = context
  transact(context, () => {
    const delivery = findDelivery(db, deliveryId)
    if (!delivery) throw new NotThere('This call no longer exists.')
    if (findHookOut(db, delivery.hookId)?.ended !== false) throw new NotNow('Its address was deleted.')
    if (delivery.state === 'waiting') throw new NotNow('It is already waiting for its next try.')
    deliverAgain(db, deliveryId, context.clock.now())
  })
  context.wake()
}

export function saveHookIn(context: WorkspaceContext, id: number | null, input: HookInInput): number {
  const { db } = context
  const [name, { emailAt, nameAt }] = [tidy(input.name), input.reading]
  const problems: FieldProblem[] = []
  if (name === '') problems.push({ field: 'name', problem: 'Enter a name: who calls, and why.' })
  if (!isPath(emailAt)) problems.push({ field: 'reading.emailAt', problem: 'Names with dots between them, like data.email.' })
  if (nameAt !== '' && !isPath(nameAt)) {
    problems.push({ field: 'reading.nameAt', problem: 'Names with dots between them, like data.name, or nothing.' })
  }
  if (problems.length > 0) throw new InputProblem(problems)
  return transact(context, () => {
    if (id === null) return insertHookIn(
      db, { name, reading: input.reading, token: randomBytes(18).toString('base64url'), secret: newSecret() }, context.clock.now(),
    )
    if (!findHookIn(db, id)) throw new NotThere('This address no longer exists.')
    updateHookIn(db, { id, name, reading: input.reading })
    return id
  })
}

export function removeHookIn(context: WorkspaceContext, id: number): void {
  const { db } = context
  transact(context, () => {
    if (!findHookIn(db, id)) throw new NotThere('This address no longer exists.')
    refuseIfNeeded(db, { kind: 'hookIn', id })
    endHookIn(db, id, context.clock.now())
  })
}

/** What shows that a call is from who may make it; the server has read it from the request. */
export interface Proof { signedBy(
  secret: string,
): { ok: true, id: string } | { ok: false, problem: string }, bears(secret: string): boolean, callId: string | null }
export type CallOutcome = { is: 'taken' | 'known' } | { is: 'refused' | 'in-vain', problem: string }

/** Whether one of our addresses carries this token. */
export const isHook = ({ db }: WorkspaceContext, token: string): boolean => findHookByToken(db, token) !== undefined

/** A call to one of our addresses. The same call twice, by its identifier, is one. */
export function receiveCall(context: WorkspaceContext, token: string, proof: Proof, body: unknown): CallOutcome {
  const { db } = context
  const hook = findHookByToken(db, token)
  if (!hook) throw new NotThere('There is nothing at this address.')
  const { reading } = hook
  const shown = reading.proof === 'signed' ? proof.signedBy(hook.secret) : proof.bears(hook.secret)
    ? { ok: true as const, id: proof.callId ?? randomBytes(12).toString('hex') }
    : { ok: false as const, problem: 'The authorization header must say Bearer and the secret of this address.' }
  if (!shown.ok) return { is: 'refused', problem: shown.problem }
  const outcome = transact(context, (): CallOutcome => {
    const at = context.clock.now()
    const read = readCall(body, reading)
    const person = read.ok ? findPersonByKey(db, read.address.key) ?? personOnceAt(db, read.address.key) : undefined
    const erased = read.ok && !person && findRemembered(db, context.signer.digest(read.address.key)) !== undefined
    const problem = !read.ok ? read.problem : person ? null : erased
      ? 'The person with this address was erased. Only they can come back.'
      : reading.unknown === 'leave' ? 'Nobody has this address, and this webhook adds nobody.' : null
    if (problem !== null || !read.ok) {
      insertCall(db, { hookId: hook.id, callId: shown.id, at, personId: null, problem })
      return { is: 'in-vain', problem: problem! }
    }
    const personId = person?.id ?? insertPerson(db, {
      address: read.address.shown, addressKey: read.address.key, firstName: read.firstName, status: 'active', zone: null, country: null,
      source: `hook:${hook.name}`, createdAt: at, consentAt: null,
    })
    if (!insertCall(db, { hookId: hook.id, callId: shown.id, at, personId, problem: null })) return { is: 'known' }
    appendEvent(db, reading.event, at, { personId, hookId: hook.id })
    return { is: 'taken' }
  })
  context.wake()
  return outcome
}

export function hooksView({ db, baseUrl }: WorkspaceContext): HooksView {
  return readTogether(db, () => {
    const person = (id: number | null) => id === null ? null : nameOf(db, id)
    const names = new Map(allHooksIn(db).map(({ id, name }) => [id, name]))
    return {
      allowsInside: allowsInside(db), out: allHooksOut(db),
      deliveries: latestDeliveries(db, LAST).map(({ id, hookId, personId, state, tries, madeAt, nextAt, status, problem, body }) => ({
        id, hook: findHookOut(db, hookId)!.name, person: person(personId), state, tries, madeAt, nextAt, status, problem, body,
      })),
      in: allHooksIn(db).map(({ id, name, token, secret, reading }) => ({
        id, name, secret, reading, url: `${baseUrl}/hooks/in/${token}`,
      })),
      calls: latestCalls(db, LAST).map(({ hookId, at, personId, problem }) => ({
        hook: names.get(hookId) ?? 'one that was deleted', at, person: person(personId), problem,
      })),
    }
  })
}
