/** What a payment service tells, signed by the Standard Webhooks specification. */
import { defineEventHandler, getHeader, setResponseHeader, setResponseStatus } from 'h3'
import { databaseTrouble } from '#runtime/problems'
import { bodyWithin } from '#server/body'
import { log } from '#server/workspaces'
import { receiveWebhook, type TellOutcome } from '#usecases/offers/tell'
import { NotThere } from '#usecases/problem'
import { contextAt } from './page'

const MOST_BYTES = 65_536
const STATUS: Record<TellOutcome['is'], number> = { 'counted': 200, 'known': 200, 'waits': 202, 'in-vain': 422, 'not-signed': 401 }

export default defineEventHandler(async (event) => {
  setResponseHeader(event, 'cache-control', 'no-store')
  try {
    const body = await bodyWithin(event, MOST_BYTES)
    if (body === null) {
      setResponseStatus(event, 413)
      return { outcome: 'in-vain', problem: 'This is too large for a payment.' }
    }
    const header = (name: string) => getHeader(event, name) ?? ''
    const outcome = receiveWebhook(contextAt(event), {
      'webhook-id': header('webhook-id'), 'webhook-timestamp': header('webhook-timestamp'),
      'webhook-signature': header('webhook-signature'),
    }, body.toString())
    setResponseStatus(event, STATUS[outcome.is])
    return { outcome: outcome.is, ...'problem' in outcome && { problem: outcome.problem } }
  }
  catch (error) {
    if (!(error instanceof NotThere)) log.error({ err: error }, 'what a payment service told could not be counted')
    setResponseStatus(event, error instanceof NotThere ? 404 : databaseTrouble(error) ? 503 : 500)
    return {
      outcome: 'failed', problem: error instanceof NotThere ? error.message : 'Something went wrong on our side. Please tell it again.',
    }
  }
})
