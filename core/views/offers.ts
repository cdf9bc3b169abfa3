/** Offers for their screens. */

/** How the workspace sells. */
export interface Selling {
  /** Who sells, on several lines, as receipts say it; empty for the sender's name and postal address. */
  seller: string
  /** A line about tax under each receipt; empty for none. */
  taxLine: string
  /** The last click in an email within so many days of 24 hours before buying counts as what led to it. */
  clickDays: number
  /** Where the payment service of live is asked; null while there is none. */
  paymentsUrl: string | null
  /** What it signs with; empty for the one we made. */
  paymentsSecret: string
}
