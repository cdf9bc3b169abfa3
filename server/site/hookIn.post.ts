/** Something outside calls one of our addresses about a subscriber. */
import { defineEventHandler, getHeader, setResponseHeader, setResponseStatus } from 'h3'
import { isSameSecret } from '#runtime/keys'
import { databaseTrouble } from '#runtime/problems'
import { bodyWithin } from '#server/body'
import { log } from '#server/workspaces'
import { Limiter } from '#server/limiter'
import { originOfVisitor } from '#server/visitor'
import { isHook, receiveCall, type CallOutcome } from '#usecases/know/hooks'
import { NotThere } from '#usecases/problem'
import { contextAt, tokenOf } from './page'

const MOST_BYTES = 262_144
const STATUS: Record<CallOutcome['is'], number> = { 'taken': 200, 'known': 200, 'refused': 401, 'in-vain': 422 }
/** Many more than any one service tells of people one by one. */
const byHook = new Limiter({ most: 600, perMs: 60_000 })
/** Guessing a token is hopeless, and costs us nothing. */
const misses = new Limiter({ most: 60, perMs: 60_000 })

export default defineEventHandler(async (event) => {
  setResponseHeader(event, 'cache-control', 'no-store')
  const answer = (status: number, outcome: string, problem?: string) => {
    setResponseStatus(event, status)
    return { outcome, ...problem !== undefined && { problem } }
  }
  try {
    const context = contextAt(event)
    const known = isHook(context, tokenOf(event))
    // What is nobody's address counts for whoever calls it, and is not even listened to.
    if (!(known ? await byHook.allows(`${context.mode} ${tokenOf(event)}`) : await misses.allows(originOfVisitor(event)))) {
      setResponseHeader(event, 'retry-after', 60)
      return answer(429, 'refused', 'Too many calls in a minute. Please wait.')
    }
    if (!known) throw new NotThere('There is nothing at this address.')
    const bytes = await bodyWithin(event, MOST_BYTES)
    if (bytes === null) return answer(413, 'in-vain', 'This is too large for one person.')
    const text = bytes.toString()
    const body = parsed(text)
    if (body === undefined) return answer(400, 'in-vain', 'The body is no JSON.')
    const header = (name: string) => getHeader(event, name) ?? ''
    const outcome = receiveCall(context, tokenOf(event), {
      signedBy: secret => context.webhooks.readBy(secret, {
        'webhook-id': header('webhook-id'), 'webhook-timestamp': header('webhook-timestamp'),
        'webhook-signature': header('webhook-signature'),
      }, text),
      // The scheme is in letters of either case (RFC 9110 section 11.1).
      bears: secret => isSameSecret(/^Bearer +(.*)$/i.exec(header('authorization'))?.[1] ?? '', secret),
      callId: header('idempotency-key').slice(0, 200) || null,
    }, body)
    return answer(STATUS[outcome.is], outcome.is, 'problem' in outcome ? outcome.problem : undefined)
  }
  catch (error) {
    if (error instanceof NotThere) return answer(404, 'failed', error.message)
    log.error({ err: error }, 'a webhook could not be taken')
    return answer(databaseTrouble(error) ? 503 : 500, 'failed', 'Something went wrong on our side. Please call again.')
  }
})

function parsed(text: string): unknown {
  try {
    return JSON.parse(text) as unknown
  }
  catch {
    return undefined
  }
}

