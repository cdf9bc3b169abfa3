/** Everything under /v1: the document, and what it describes. */
import { defineEventHandler, getHeader, getQuery, setResponseHeader, setResponseStatus } from 'h3'
import { databaseTrouble } from '#runtime/problems'
import { systemClock } from '#runtime/open'
import { VERSION } from '#runtime/version'
import { NotThere } from '#usecases/problem'
import { bodyWithin } from '../body'
import { log } from '../workspaces'
import { originOfVisitor } from '../visitor'
import { Limiter } from '../limiter'
import { contextAt } from '../site/page'
import { answerProgram, keyOf, mostBytes, type ProgramAnswer } from './answer'

const MINUTE = 60_000
const byKey = new Limiter({ most: 120, perMs: MINUTE })
/** Guessing keys is hopeless, and costs us nothing. */
const refusals = new Limiter({ most: 60, perMs: MINUTE })

export default defineEventHandler(async (event) => {
  setResponseHeader(event, 'cache-control', 'no-store')
  const wrong = (status: number, problem: string) => {
    setResponseStatus(event, status)
    return { problem }
  }
  try {
    const path = event.path.split('?')[0]!.replace(/^(\/practice)?\/v1/, '').replace(/\/$/, '')
    const context = contextAt(event)
    const isReading = ['GET', 'HEAD'].includes(event.method)
    if (path === '/openapi.json' && isReading) return (await import('./openapi')).openApi(context.baseUrl, VERSION)
    const tooMany = (problem: string) => {
      setResponseHeader(event, 'retry-after', MINUTE / 1000)
      return wrong(429, problem)
    }
    const answer = ({ status, body, headers }: ProgramAnswer) => {
      for (const [name, value] of Object.entries(headers)) setResponseHeader(event, name, value)
      setResponseStatus(event, status)
      return status === 204 ? null : body instanceof Uint8Array ? Buffer.from(body) : body
    }
    const at = systemClock.now()
    const found = keyOf(context, getHeader(event, 'authorization') ?? '', at)
    // Without a key nothing of the body is even listened to.
    if ('refused' in found) {
      const mayTry = await refusals.allows(originOfVisitor(event))
      return mayTry ? answer(found.refused) : tooMany('Too many requests without a key. Please wait.')
    }
    if (!await byKey.allows(`${context.mode} ${found.key.id}`)) return tooMany('Too many requests in a minute. Please wait.')
    const method = isReading ? 'GET' : event.method
    const bytes = isReading ? Buffer.alloc(0) : await bodyWithin(event, mostBytes(method, path))
    if (bytes === null) return wrong(413, 'That is too large for one request.')
    const request = {
      method, path, query: getQuery(event), idempotencyKey: getHeader(event, 'idempotency-key') ?? null, bytes,
    }
    return answer(await answerProgram(context, found.key, request, at))
  }
  catch (error) {
    if (error instanceof NotThere) return wrong(404, error.message)
    log.error({ err: error, path: event.path.split('?')[0] }, 'a request of a program failed')
    return wrong(databaseTrouble(error) ? 503 : 500, 'Something went wrong on our side; nothing was changed. Please try again.')
  }
})
