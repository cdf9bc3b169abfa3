/** How a call to one of our addresses is read: who it is about, and what it means. */
import { checkAddress, tidyName } from '#core/people/address'

export interface HookReading {
  /** How whoever calls shows that it is them: by the Standard Webhooks signature, or by the secret in the authorization header. */
  proof: 'signed' | 'bearer'
  /** Where the address of the subscriber stands in the JSON that comes, like `data.email`; each part a name or a number. */
  emailAt: string
  /** Where their first name stands; empty for nowhere. */
  nameAt: string
  /** What it means. */
  event: 'hook-called' | 'replied'
  /** Somebody unknown is left out, or becomes a subscriber. */
  unknown: 'leave' | 'bring'
}

export const newReading = (): HookReading => ({ proof: 'bearer', emailAt: 'email', nameAt: '', event: 'hook-called', unknown: 'leave' })

const PATH = /^[\w-]+(\.[\w-]+)*$/
export const isPath = (path: string): boolean => PATH.test(path) && path.length <= 120

/** What stands at a path; undefined for nothing, and for anything inherited. */
function at(body: unknown, path: string): unknown {
  return path.split('.').reduce<unknown>((part, name) =>
    typeof part === 'object' && part !== null && Object.hasOwn(part, name) ? (part as Record<string, unknown>)[name] : undefined, body)
}

export type ReadCall = { ok: true, address: { shown: string, key: string }, firstName: string } | { ok: false, problem: string }

export function readCall(body: unknown, { emailAt, nameAt }: HookReading): ReadCall {
  const email = at(body, emailAt)
  if (typeof email !== 'string') return { ok: false, problem: `There is no email address at “${emailAt}”.` }
  const checked = checkAddress(email)
  if (!checked.ok) return { ok: false, problem: `The value at “${emailAt}” is not an address: ${checked.problem}` }
  const name = nameAt === '' ? '' : at(body, nameAt)
  return { ok: true, address: checked.address, firstName: typeof name === 'string' ? tidyName(name) : '' }
}
