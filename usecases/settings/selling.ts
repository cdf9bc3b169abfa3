/** How the workspace sells, and what was told of payments in vain. */
import { readAddress } from '#core/message/webAddress'
import type { Selling, SellingView } from '#core/views/offers'
import { readTogether } from '#data/connection'
import { forgetInVain, toldInVain } from '#data/purchases'
import { sellingOf, setSelling } from '#data/selling'
import type { House } from '../house'
import { write } from '../inner/transaction'
import { InputProblem, NotThere, type FieldProblem } from '../problem'

const MOST_SHOWN = 50

/** `ownSecret`: what signs where none was typed. */
export function sellingView(house: House, ownSecret: string): SellingView {
  const { db } = house
  return readTogether(db, () => {
    const selling = sellingOf(db)
    return { ...selling, endpoint: `${house.baseUrl}/hooks/payments`, ownSecret, inVain: toldInVain(db, MOST_SHOWN) }
  })
}

/** `secretProblem` says what is wrong with a secret, or null. */
export function saveSelling(house: House, selling: Selling, secretProblem: (secret: string) => string | null): void {
  const { db } = house
  const problems: FieldProblem[] = []
  const paymentsUrl = selling.paymentsUrl?.trim() || null
  const paymentsSecret = selling.paymentsSecret.trim()
  const read = paymentsUrl === null ? null : readAddress(paymentsUrl)
  if (read && !read.ok) problems.push({ field: 'paymentsUrl', problem: read.problem })
  const wrong = paymentsSecret === '' ? null : secretProblem(paymentsSecret)
  if (wrong) problems.push({ field: 'paymentsSecret', problem: wrong })
  if (problems.length > 0) throw new InputProblem(problems)
  write(house, () => setSelling(db, { ...selling, seller: selling.seller.trim(), taxLine: selling.taxLine.trim(), paymentsUrl, paymentsSecret }))
}

export function forgetToldInVain(house: House, webhookId: string): void {
  const { db } = house
  write(house, () => {
    if (!forgetInVain(db, webhookId)) throw new NotThere('This is not there any more.')
  })
}
