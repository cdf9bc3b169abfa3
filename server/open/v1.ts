/** Everything under /v1: the document, and what it describes. */
import { defineEventHandler, getHeader, getQuery, setResponseHeader, setResponseStatus } from 'h3'
import { databaseTrouble } from '#runtime/problems'
import { systemClock } from '#runtime/open'
import { VERSION } from '#runtime/version'
import { NotThere } from '#usecases/problem'
import { bodyWithin } from '../body'
import { log } from '../houses'
import { visitorIp } from '../http'
import { Limiter } from '../limiter'
import { houseAt } from '../site/page'
import { answerProgram } from './answer'
import { openApi } from './openapi'

const MOST_BYTES = 262_144
const MINUTE = 60_000
const byKey = new Limiter({ most: 120, perMs: MINUTE, now: systemClock.now })
/** Guessing keys is hopeless, and costs us nothing. */
const refusals = new Limiter({ most: 60, perMs: MINUTE, now: systemClock.now })

export default defineEventHandler(async (event) => {
  setResponseHeader(event, 'cache-control', 'no-store')
  const wrong = (status: number, problem: string) => {
    setResponseStatus(event, status)
    return { problem }
  }
  try {
    const path = event.path.split('?')[0]!.replace(/^(\/practice)?\/v1/, '').replace(/\/$/, '')
    const house = houseAt(event)
    if (path === '/openapi.json' && event.method === 'GET') return openApi(house.baseUrl, VERSION)
    const text = event.method === 'GET' ? Buffer.alloc(0) : await bodyWithin(event, MOST_BYTES)
    if (text === null) return wrong(413, 'That is more than fits into one request.')
    const request = { method: event.method, path, query: getQuery(event), authorization: getHeader(event, 'authorization') ?? '', idempotencyKey: getHeader(event, 'idempotency-key') ?? null, text: text.toString() }
    const { status, body, headers } = answerProgram(house, request, { limiter: byKey, at: systemClock.now() })
    if (status === 401 && !refusals.allows(visitorIp(event))) {
      setResponseHeader(event, 'retry-after', MINUTE / 1000)
      return wrong(429, 'These are too many requests without a key. Please wait.')
    }
    for (const [name, value] of Object.entries(headers)) setResponseHeader(event, name, value)
    setResponseStatus(event, status)
    return status === 204 ? null : body
  }
  catch (error) {
    if (error instanceof NotThere) return wrong(404, error.message)
    log.error({ err: error, path: event.path.split('?')[0] }, 'a request of a program failed')
    return wrong(databaseTrouble(error) ? 503 : 500, 'Something went wrong on our side; nothing was changed. Please try again.')
  }
})
