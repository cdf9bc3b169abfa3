/**
 * The payment stand-in: a payment service of our own for practice, with books
 * of its own, at which no money moves. What happens here is told to us as any
 * service would tell it, and in no other way.
 */
import { isRenewed } from '#core/offers/price'
import { dueAt, paymentsOf } from '#core/offers/price'
import { writePaymentEvent, type PaymentEvent } from '#core/offers/paymentEvent'
import type { Checkout, OrderToPay } from '#core/ports'
import { CheckoutProblem } from '#core/ports'
import { DAY, type Instant } from '#core/time/zone'

/** Named by what becomes of them. */
export const PRACTICE_CARDS = {
  'works': 'A card that works',
  'refused': 'A card that is refused',
  'disputed': 'A card whose owner disputes the payment a week later',
  'works-once': 'A card that works now and is refused at the next payment',
} as const
export type PracticeCard = keyof typeof PRACTICE_CARDS

/** The page of an order in the stand-in's own books. */
export interface PracticeOrder {
  given: OrderToPay
  card: PracticeCard | null
  /** How many have been made. */
  payments: number
  /** What has gone back, by the word for the wish. */
  givenBack: Record<string, { payment: string, amount: number }>
  firstPaidAt: Instant | null
  nextAt: Instant | null
  disputeAt: Instant | null
  endedAt: Instant | null
}

export interface PracticeBooks {
  find(order: string): PracticeOrder | undefined
  keep(page: PracticeOrder): void
  /** Those with a payment or a dispute due by `at`, earliest first. */
  due(at: Instant): PracticeOrder[]
}

export interface CheckoutStandin extends Checkout {
  find(order: string): PracticeOrder | undefined
  /** The buyer presses the button of our page with one of the cards. */
  pay(order: string, card: PracticeCard): Promise<'paid' | 'refused' | 'too-late'>
  /** Tells what is due by `at`: later payments, disputes. */
  tellDue(at: Instant): Promise<void>
}

export function createCheckoutStandin({ books, report, pageOf, now }: {
  books: PracticeBooks
  /** Brings a webhook to its endpoint; throws if it is not taken. */
  report(id: string, body: string): Promise<void>
  /** Whole address of the page on which an order is paid. */
  pageOf(order: string): string
  now(): Instant
}): CheckoutStandin {
  const paymentRef = (order: string, n: number) => `${order}.p${n}`
  /** The books are closed after the telling: what breaks off between is told again under the same identifier. */
  const tell = (id: string, paymentEvent: PaymentEvent) => report(id, writePaymentEvent(paymentEvent))
  const amountOf = ({ firstPrice, laterPrice }: OrderToPay, n: number): number =>
    (n > 0 && laterPrice ? laterPrice.amount : paymentsOf(firstPrice)[n] ?? 0)

  async function charge(page: PracticeOrder, at: Instant): Promise<void> {
    const { given } = page
    const { order, firstPrice } = given
    const n = page.payments
    const ref = paymentRef(order, n + 1)
    await tell(ref, { order, fact: { kind: 'paid', ref, at, amount: amountOf(given, n) }, currency: firstPrice.currency, sale: null })
    const goesOn = isRenewed(firstPrice) || (firstPrice.paying === 'parts' && n + 1 < firstPrice.parts)
    const firstPaidAt = page.firstPaidAt ?? at
    books.keep({
      ...page, payments: n + 1, firstPaidAt,
      nextAt: goesOn && firstPrice.paying !== 'once' ? dueAt(firstPaidAt, n + 1, firstPrice.paying, given.zone) : null,
    })
  }

  const pageOfOrder = (order: string): PracticeOrder => {
    const page = books.find(order)
    if (!page) throw new CheckoutProblem('The payment service does not know this order.')
    return page
  }

  async function end(order: string): Promise<void> {
    const page = pageOfOrder(order)
    if (page.endedAt !== null) return
    const at = now()
    await tell(`${order}.ended`, { order, fact: { kind: 'ended', at }, currency: null, sale: null })
    books.keep({ ...page, endedAt: at, nextAt: null })
  }

  return {
    async open(given) {
      books.keep({ given, card: null, payments: 0, givenBack: {}, firstPaidAt: null, nextAt: null, disputeAt: null, endedAt: null })
      return { url: pageOf(given.order) }
    },
    find: order => books.find(order),
    async pay(order, card) {
      const page = pageOfOrder(order)
      if (page.payments > 0) return 'paid'
      const at = now()
      if (at >= page.given.until) return 'too-late'
      if (card === 'refused') {
        const ref = `${order}.r${at}`
        await tell(ref, { order, fact: { kind: 'refused', ref, at }, currency: null, sale: null })
        return 'refused'
      }
      await charge({ ...page, card, disputeAt: card === 'disputed' ? at + 7 * DAY : null }, at)
      return 'paid'
    },
    async refund({ order, payment, ref, amount, currency }) {
      const page = pageOfOrder(order)
      if (page.givenBack[ref]) return
      const n = Array.from({ length: page.payments }, (_, index) => paymentRef(order, index + 1)).indexOf(payment)
      if (n < 0) throw new CheckoutProblem('The payment service does not know this payment.')
      const before = Object.values(page.givenBack).filter(one => one.payment === payment).reduce((sum, one) => sum + one.amount, 0)
      if (before + amount > amountOf(page.given, n)) throw new CheckoutProblem('The payment service refunds no more than was paid.')
      await tell(ref, { order, fact: { kind: 'refunded', ref, of: payment, at: now(), amount }, currency, sale: null })
      books.keep({ ...page, givenBack: { ...page.givenBack, [ref]: { payment, amount } } })
    },
    end,
    async tellDue(at) {
      for (const page of books.due(at)) {
        const { order, firstPrice } = page.given
        if (page.disputeAt !== null && page.disputeAt <= at && (page.nextAt === null || page.disputeAt <= page.nextAt)) {
          await tell(`${order}.disputed`, {
            order, fact: { kind: 'disputed', of: paymentRef(order, 1), at: page.disputeAt }, currency: firstPrice.currency, sale: null,
          })
          books.keep({ ...page, disputeAt: null })
        }
        else if (page.card === 'works-once') {
          const ref = `${order}.r${page.nextAt!}`
          await tell(ref, { order, fact: { kind: 'refused', ref, at: page.nextAt! }, currency: null, sale: null })
          books.keep({ ...page, nextAt: null })
        }
        else {
          await charge(page, page.nextAt!)
        }
      }
    },
  }
}
