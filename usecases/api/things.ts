/** Tags, lists, courses, purchases and the clock, as programs see them. */
import { checkAddress } from '#core/people/address'
import { readTelling } from '#core/offers/telling'
import { readTogether } from '#data/connection'
import { allCourses } from '#data/courses'
import { allLists, allTags } from '#data/marks'
import { findOffer } from '#data/offers'
import { findPerson } from '#data/people'
import { paymentsOfPurchase, purchasesAfter, purchasesOfPerson, type PurchaseRow } from '#data/purchases'
import { workspaceOf } from '#data/workspace'
import type { House } from '../house'
import { write } from '../inner/transaction'
import { tell } from '../offers/tell'
import { InputProblem, NotThere } from '../problem'
import { iso } from './iso'

export const tagsOut = ({ db }: House) => ({ tags: allTags(db).map(({ id, name, note, group, people }) => ({ id, name, note, group, people })) })

export const listsOut = ({ db }: House) => ({ lists: allLists(db).map(({ id, name, publicName, description, people }) => ({ id, name, publicName, description, people })) })

/** `running`: people can begin it. */
export const coursesOut = ({ db }: House) => ({ courses: allCourses(db).map(({ id, name, versionId, listId }) => ({ id, name, running: versionId !== null, listId })) })

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

function purchaseOut({ db }: House, row: PurchaseRow): ApiPurchase {
  const { id, name, slug } = findOffer(db, row.offerId)!
  return {
    id: row.id, order: row.orderKey, personId: row.personId, offer: { id, name, slug }, currency: row.currency, boughtAt: iso(row.boughtAt), isOver: row.overAt !== null, paidUntilAt: row.paidUntilAt === null ? null : iso(row.paidUntilAt), paid: row.paid, refunded: row.refunded,
    payments: paymentsOfPurchase(db, row.id).map(({ ref, at, amount, refunded, disputed }) => ({ payment: ref, at: iso(at), amount, refunded, disputed: disputed === 1 })),
  }
}

/** By number from `after` on. */
export function purchasesOut(house: House, { after, limit }: { after: number, limit: number }): { purchases: ApiPurchase[], next: number | null } {
  return readTogether(house.db, () => {
    const rows = purchasesAfter(house.db, after, limit)
    return { purchases: rows.map(row => purchaseOut(house, row)), next: rows.length === limit ? rows.at(-1)!.id : null }
  })
}

/** The latest first. */
export function purchasesOfOne(house: House, personId: number): { purchases: ApiPurchase[] } {
  return readTogether(house.db, () => {
    if (!findPerson(house.db, personId)) throw new NotThere('There is no subscriber with this number.')
    return { purchases: purchasesOfPerson(house.db, personId).map(row => purchaseOut(house, row)) }
  })
}

/** Something told of a payment, as by a webhook. What cannot be used is refused, and leaves nothing behind. */
export function tellOfPayment(house: House, tellingId: string, body: unknown): { outcome: 'counted' | 'known' | 'waits' } {
  const read = readTelling(JSON.stringify(body))
  if (!read.ok) throw new InputProblem([{ field: 'body', problem: read.problem }])
  const { sale } = read.telling
  const checked = sale && checkAddress(sale.email)
  if (checked && !checked.ok) throw new InputProblem([{ field: 'data.email', problem: checked.problem }])
  return write(house, () => {
    const outcome = tell(house, tellingId, read.telling)
    if (outcome.is === 'in-vain' || outcome.is === 'not-signed') throw new InputProblem([{ field: 'data', problem: outcome.problem }])
    return { outcome: outcome.is }
  })
}

/** `mode` says whether it can be moved. */
export function clockOut(house: House): { mode: House['mode'], now: string, zone: string } {
  return { mode: house.mode, now: iso(house.clock.now()), zone: workspaceOf(house.db).zone }
}
