/** How the workspace sells: what receipts say, which click counts as what led to a purchase, and the payment service of live. */
import type { Selling } from '#core/views/offers'
import type { Database } from './connection'
import { prepare } from './connection'

export function sellingOf(db: Database): Selling {
  return prepare<Selling>(db, `
    SELECT seller, tax_line AS taxLine, click_days AS clickDays, payments_url AS paymentsUrl, payments_secret AS paymentsSecret
    FROM workspace WHERE id = 1`).get()!
}

export function setSelling(db: Database, selling: Selling): void {
  prepare(db, `
    UPDATE workspace
    SET seller = @seller, tax_line = @taxLine, click_days = @clickDays, payments_url = @paymentsUrl, payments_secret = @paymentsSecret
    WHERE id = 1`).run(selling)
}
