/** Offers for their screens. */
import type { SalesSpec, SaleTarget } from '#core/exchange/sales'
import type { Money } from '#core/money/money'
import type { Coupon } from '#core/offers/coupon'
import type { OfferContent, Standing, Taken } from '#core/offers/offer'
import type { OpeningPlan } from '#core/offers/opening'
import type { PictureView } from '#core/page/picture'
import type { SourceKey } from '#core/page/touch'
import type { Rate } from '#core/stats/rate'
import type { Instant } from '#core/time/zone'

/** How the workspace sells. */
export interface Selling {
  /** Who sells, on several lines, as receipts say it; empty for the sender's name and postal address. */
  seller: string
  /** A line about tax under each receipt; empty for none. */
  taxLine: string
  /** The last click in an email within so many days (24 hours) before buying counts as what led to it. */
  clickDays: number
  /** Where the payment service of live is asked; null while there is none. */
  paymentsUrl: string | null
  /** What it signs with; empty for the one we made. */
  paymentsSecret: string
}

export interface OfferLine {
  id: number
  name: string
  slug: string
  url: string
  status: 'draft' | 'published'
  hasChanges: boolean
  versionNumber: number | null
  /** In words: of what is published, else of the draft. */
  price: string
  /** Of the same. */
  closesAt: Instant | null
  /** How it stands now, in words. */
  stands: string
  standing: Standing['is']
  /** Purchases that are not given back. */
  sold: number
  /** Paid less given back, each currency apart. */
  money: Money[]
}

export interface CouponLine extends Coupon {
  /** Purchases made with it. */
  used: number
  /** Kept just now for somebody who is paying. */
  kept: number
  /** Why it does not count now; null if it does. */
  problem: string | null
}

export interface OfferView extends OfferLine {
  draft: OfferContent
  /** Which state of name, address and draft this is; saving sends it along. */
  revision: string
  missing: { field: string, problem: string }[]
  pictures: PictureView[]
  /** The file it gives. */
  file: { id: number, name: string, bytes: number } | null
  coupons: CouponLine[]
  /** Running courses that buyers come into, by the offer itself or by its tags. */
  leadsTo: { id: number, name: string }[]
  /** Places sold or kept. */
  taken: Taken
  /** Null where there is no waiting list, and nobody waits. */
  waiting: WaitingView | null
  /** More were sold than there are places: paid in time, and told too late. */
  oversold: number
}

/** Who waits for an offer, and how its opening will go if nobody buys by another way. */
export interface WaitingView {
  people: number
  /** People who were told, since ever. */
  told: number
  /** When the turns end of those whose turn it is just now, the earliest first. */
  turnEnds: Instant[]
  ahead: OpeningPlan
  /** False while what is published has no email for them: it is a draft, or older than that email. */
  canTell: boolean
}

/** Which purchases and checkouts a list shows. */
export const SALE_STATES = ['bought', 'owned', 'refunded', 'disputed', 'refused', 'over', 'began', 'abandoned'] as const
export type SaleState = typeof SALE_STATES[number]

export interface SalesQuery {
  id: number
  /** Days of the workspace's zone, today included. */
  days: number
  state: SaleState
  couponId: number | null
  source: SourceKey | null
  /** An email as `kind thing step`, or `none`. */
  email: string | null
  page: number
}

export interface SaleRow {
  /** Null for who went to pay and has not. */
  purchaseId: number | null
  personId: number
  person: string
  at: Instant
  /** Paid less given back; what was to pay, where nothing was paid. */
  amount: Money
  /** In a few words. */
  says: string
  couponCode: string | null
  source: string
  email: string | null
}

/** A part of the sales: by coupon, by source, by email. `bought`: purchases. */
export interface SalesPart { key: string, says: string, bought: number, money: Money[] }

export interface SalesView {
  id: number
  name: string
  days: number
  from: Instant
  /** Not included. */
  to: Instant
  clickDays: number
  visits: number
  /** People. */
  began: number
  counts: Record<SaleState, number>
  /** Buyers among those who were shown the page; people of visits. */
  rate: Rate
  paid: Money[]
  refunded: Money[]
  byCoupon: SalesPart[]
  bySource: SalesPart[]
  byEmail: SalesPart[]
  rows: SaleRow[]
  rowCount: number
  pageSize: number
}

export interface PaymentOfPurchase { id: number, at: Instant, amount: number, refunded: number, disputed: boolean, receipt: string | null }

/** What somebody bought, for a screen of the owner's. */
export interface PurchaseOfPerson {
  id: number
  offerId: number
  offerName: string
  currency: string
  boughtAt: Instant
  cameBy: 'checkout' | 'http' | 'csv'
  says: string[]
  isOver: boolean
  couponCode: string | null
  payments: PaymentOfPurchase[]
  canEnd: boolean
  /** The buyer's own page. */
  buyerUrl: string
  /** What a refund of the unused part of the last stretch would be; null where nothing is renewed. */
  unused: number | null
}

/** Something told of a payment that could not be used. */
export interface UnmatchedPaymentEvent {
  webhookId: string, orderKey: string | null, problem: string, firstAt: Instant, lastAt: Instant, times: number,
}

export interface SellingView extends Selling {
  /** Whole address at which payments are told. */
  endpoint: string
  /** Signs where no secret was typed. */
  ownSecret: string
  unmatched: UnmatchedPaymentEvent[]
}

/** What a file of past sales comes to. */
export interface PastSalesView {
  /** As it was read: as asked for, or as guessed. */
  spec: SalesSpec
  columns: { name: string, sample: string[] }[]
  /** What no column says yet. */
  lacks: readonly SaleTarget[]
  rows: number
  /** Would come in. */
  ready: number
  /** Are here already, by their order number. */
  known: number
  /** Left out because nobody here has that address. */
  unknown: number
  /** People who would come in with their sales. */
  newcomers: number
  wrong: number
  money: Money[]
  /** The first of them; rows as counted in the file. */
  problems: { row: number, problem: string }[]
}

export interface OfferInput { name: string, slug: string, draft: OfferContent }
