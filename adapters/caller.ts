/** Calls to addresses outside, live: signed by the Standard Webhooks specification, never into our own network unless that is allowed. */
import type { Caller, Clock } from '#core/ports'
import { askOutside, sayFault } from './outside'
import { signWebhook } from './webhooks'

/** How long an answer is waited for; the specification asks for 15 to 30 seconds. */
const PATIENCE_MS = 20_000

/** `allowInside` is asked for each call: the owner may change it. */
export function createCaller({ system, allowInside }: { system: Clock, allowInside: () => boolean }): Caller {
  return {
    async call({ url, secret }, { id, body }) {
      try {
        const headers = { ...signWebhook(secret, { id, at: system.now(), body }), 'content-type': 'application/json' }
        const { status } = await askOutside({ url, method: 'POST', headers, body, timeoutMs: PATIENCE_MS, allowInside: allowInside() })
        return status >= 200 && status < 300
          ? { ok: true, status }
          : { ok: false, status, problem: `it answers with ${status}`, gone: status === 410 }
      }
      catch (error) {
        return { ok: false, status: null, problem: sayFault(error), gone: false }
      }
    },
  }
}
