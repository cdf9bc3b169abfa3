/** Tags, lists, courses, purchases and the clock, as programs see them. */
import { checkAddress } from '#core/people/address'
import { readPaymentEvent } from '#core/offers/paymentEvent'
import { readTogether } from '#data/connection'
import { allCourses } from '#data/courses'
import { allLists, allTags } from '#data/marks'
import { findOffer } from '#data/offers'
import { findPerson } from '#data/people'
import { paymentsOfPurchase, purchasesAfter, purchasesOfPerson, type PurchaseRow } from '#data/purchases'
import { workspaceOf } from '#data/workspace'
import type { WorkspaceContext } from '../context'
import { transact } from '../inner/reactor/transaction'
import { tell } from '../offers/tell'
import { InputProblem, NotThere } from '../problem'
import { iso } from './iso'

export const tagsOut = ({ db }: WorkspaceContext) => ({
  tags: allTags(db).map(({ id, name, note, group, people }) => ({ id, name, note, group, people })),
})

export const listsOut = ({ db }: WorkspaceContext) => ({
  lists: allLists(db).map(({ id, name, publicName, description, people }) => ({ id, name, publicName, description, people })),
})

/** `running`: people can begin it. */
export const coursesOut = ({ db }: WorkspaceContext) => ({
  courses: allCourses(db).map(({ id, name, versionId, listId }) => ({ id, name, running: versionId !== null, listId })),
})

export interface ApiPurchase {
  id: number
  order: string
  personId: number
  offer: { id: number, name: string, slug: string }
  /** Amounts are whole minor units of it. */
  currency: string
  boughtAt: string
  /** True if what was bought is not theirs any more. */
  isOver: boolean
  paidUntilAt: string | null
  paid: number
  refunded: number
  payments: { payment: string, at: string, amount: number, refunded: number, disputed: boolean }[]
}

function purchaseOut({ db }: WorkspaceContext, row: PurchaseRow): ApiPurchase {
  const { id, name, slug } = findOffer(db, row.offerId)!
  return {
    id: row.id, order: row.orderKey, personId: row.personId, offer: { id, name, slug }, currency: row.currency,
    boughtAt: iso(row.boughtAt), isOver: row.overAt !== null, paidUntilAt: row.paidUntilAt === null ? null : iso(row.paidUntilAt),
    paid: row.paid, refunded: row.refunded,
    payments: paymentsOfPurchase(
      db, row.id,
    ).map(({ ref, at, amount, refunded, disputed }) => ({ payment: ref, at: iso(at), amount, refunded, disputed: disputed === 1 })),
  }
}

/** By number from `after` on. */
export function purchasesOut(
  context: WorkspaceContext, { after, limit }: { after: number, limit: number },
): { purchases: ApiPurchase[], next: number | null } {
  return readTogether(context.db, () => {
    const rows = purchasesAfter(context.db, after, limit)
    return { purchases: rows.map(row => purchaseOut(context, row)), next: rows.length === limit ? rows.at(-1)!.id : null }
  })
}

/** The latest first. */
export function purchasesOfOne(context: WorkspaceContext, personId: number): { purchases: ApiPurchase[] } {
  return readTogether(context.db, () => {
    if (!findPerson(context.db, personId)) throw new NotThere('There is no subscriber with this number.')
    return { purchases: purchasesOfPerson(context.db, personId).map(row => purchaseOut(context, row)) }
  })
}

/** Something told of a payment, as by a webhook. What cannot be used is refused, and leaves nothing behind. */
export function tellOfPayment(
  context: WorkspaceContext, paymentEventId: string, body: unknown,
): { outcome: 'counted' | 'known' | 'waits' } {
  const read = readPaymentEvent(JSON.stringify(body))
  if (!read.ok) throw new InputProblem([{ field: 'body', problem: read.problem }])
  const { sale } = read.paymentEvent
  const checked = sale && checkAddress(sale.email)
  if (checked && !checked.ok) throw new InputProblem([{ field: 'data.email', problem: checked.problem }])
  return transact(context, () => {
    const outcome = tell(context, paymentEventId, read.paymentEvent)
    if (outcome.is === 'in-vain' || outcome.is === 'not-signed') throw new InputProblem([{ field: 'data', problem: outcome.problem }])
    return { outcome: outcome.is }
  })
}

/** `mode` says whether it can be moved. */
export function clockOut(context: WorkspaceContext): { mode: WorkspaceContext['mode'], now: string, zone: string } {
  return { mode: context.mode, now: iso(context.clock.now()), zone: workspaceOf(context.db).zone }
}
