/** How the workspace sells, and what was told of payments in vain. */
import { readAddress } from '#core/message/webAddress'
import type { Selling, SellingView } from '#core/views/offers'
import { readTogether } from '#data/connection'
import { forgetInVain, unmatchedPaymentEvents } from '#data/purchases'
import { sellingOf, setSelling } from '#data/selling'
import type { WorkspaceContext } from '../context'
import { transact } from '../inner/reactor/transaction'
import { InputProblem, NotThere, type FieldProblem } from '../problem'

const MOST_SHOWN = 50

/** `ownSecret`: what signs where none was typed. */
export function sellingView(context: WorkspaceContext, ownSecret: string): SellingView {
  const { db } = context
  return readTogether(db, () => {
    const selling = sellingOf(db)
    return { ...selling, endpoint: `${context.baseUrl}/hooks/payments`, ownSecret, unmatched: unmatchedPaymentEvents(db, MOST_SHOWN) }
  })
}

/** `secretProblem` says what is wrong with a secret, or null. */
export function saveSelling(context: WorkspaceContext, selling: Selling, secretProblem: (secret: string) => string | null): void {
  const { db } = context
  const problems: FieldProblem[] = []
  const paymentsUrl = selling.paymentsUrl?.trim() || null
  const paymentsSecret = selling.paymentsSecret.trim()
  const read = paymentsUrl === null ? null : readAddress(paymentsUrl)
  if (read && !read.ok) problems.push({ field: 'paymentsUrl', problem: read.problem })
  const wrong = paymentsSecret === '' ? null : secretProblem(paymentsSecret)
  if (wrong) problems.push({ field: 'paymentsSecret', problem: wrong })
  if (problems.length > 0) throw new InputProblem(problems)
  transact(context, () =>
    setSelling(db, { ...selling, seller: selling.seller.trim(), taxLine: selling.taxLine.trim(), paymentsUrl, paymentsSecret }))
}

export function forgetUnmatchedPaymentEvent(context: WorkspaceContext, webhookId: string): void {
  const { db } = context
  transact(context, () => {
    if (!forgetInVain(db, webhookId)) throw new NotThere('This no longer exists.')
  })
}
