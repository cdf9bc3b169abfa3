/** Who presses a button on the page of an offer. */
import { checkAddress, tidyName, visitorNameProblem } from '#core/people/address'
import { oddVerdict } from '#core/people/oddAddress'
import type { Touch } from '#core/page/touch'
import { isZone, type Instant } from '#core/time/zone'
import type { Database } from '#data/connection'
import { findPublishedOffer, type PublishedOffer } from '#data/offers'
import { findPersonByKey, insertPerson } from '#data/people'
import { oddAddressRule } from '#data/workspace'
import type { WorkspaceContext } from '../context'
import { NotThere, type FieldProblem } from '../problem'

export interface Pressed {
  slug: string
  email: string
  firstName: string
  /** The address that the visitor has said once more is meant, though it looks like nobody's. */
  meant?: string
  code: string
  zone: string
  ip: string | null
  /** Where on the net the press came from, as limits count it. */
  origin?: string
  touch?: Touch
}

export function publishedOffer(db: Database, slug: string): PublishedOffer {
  const offer = findPublishedOffer(db, slug)
  if (!offer) throw new NotThere('There is no offer at this address. It may have been taken down, or the address is incomplete.')
  return offer
}

export type Who = {
  problems: FieldProblem[], firstName: string, zone: string | null,
} & ({ ok: true, address: { shown: string, key: string } } | { ok: false })

/** What they typed of themselves, checked. */
export function readWho(context: WorkspaceContext, typed: Pressed, asksFirstName: 'no' | 'may' | 'must'): Who {
  const checked = checkAddress(typed.email)
  const firstName = tidyName(typed.firstName)
  const problems: FieldProblem[] = []
  if (asksFirstName === 'must' && firstName === '') problems.push({ field: 'firstName', problem: 'Type your first name.' })
  const nameProblem = visitorNameProblem(firstName)
  if (nameProblem) problems.push({ field: 'firstName', problem: nameProblem })
  if (!checked.ok) problems.push({ field: 'email', problem: checked.problem })
  const odd = checked.ok ? oddVerdict(
    checked.address.key, oddAddressRule(context.db),
    context.isThrowaway(checked.address.key.slice(checked.address.key.lastIndexOf('@') + 1)),
  ) : null
  if (odd && (odd.way === 'refuse' || typed.meant !== typed.email)) {
    problems.push({ field: odd.way === 'warn' ? 'email-meant' : 'email', problem: odd.problem })
  }
  const rest = { problems, firstName, zone: isZone(typed.zone) ? typed.zone : null }
  return checked.ok && problems.length === 0 ? { ok: true, address: checked.address, ...rest } : { ok: false, ...rest }
}

/** The one with that address, or a newcomer, who is `pending` until it is theirs. */
export function personFor({ db }: WorkspaceContext, who: Who & { ok: true }, source: string, at: Instant) {
  const known = findPersonByKey(db, who.address.key)
  const personId = known?.id ?? insertPerson(db, {
    address: who.address.shown, addressKey: who.address.key, firstName: who.firstName, nameIs: 'typed', status: 'pending', zone: who.zone,
    country: null, source, createdAt: at,
  })
  return { personId, person: known ?? { address: who.address.shown } }
}
