/** Coupons of an offer. They count at once, and from then on: what somebody has bought or is just paying for keeps its price. */
import type { CouponInput } from '#core/offers/coupon'
import { MOST_AMOUNT } from '#core/money/money'
import { isRenewed } from '#core/offers/price'
import type { Database } from '#data/connection'
import { couponByCode, couponsOf, endCoupon, findCoupon, insertCoupon, reviveCoupon, updateCoupon, usableCoupons } from '#data/offers'
import type { WorkspaceContext } from '../context'
import { transact } from '../inner/reactor/transaction'
import { InputProblem, NotNow, NotThere, type FieldProblem } from '../problem'
import { offerOf } from './save'

/** Null makes a new one. */
export function saveCoupon(context: WorkspaceContext, offerId: number, id: number | null, input: CouponInput): number {
  const { db, clock } = context
  return transact(context, () => {
    const { draft } = offerOf(db, offerId)
    const coupon = { ...input, code: input.code.trim(), currency: draft.price.currency }
    const problems: FieldProblem[] = []
    const want = (is: boolean, field: string, problem: string) => {
      if (!is) problems.push({ field, problem })
    }
    want(/^[\p{L}\p{N}_-]{2,40}$/u.test(coupon.code), 'code', 'A code is 2 to 40 letters and digits without spaces, like EARLY.')
    const other = couponByCode(db, offerId, coupon.code)
    want(!other || other.offerId !== offerId || other.id === id, 'code', 'This offer already has that code.')
    if (coupon.cut.kind === 'percent') want(
      coupon.cut.hundredths >= 1 && coupon.cut.hundredths <= 10_000, 'cut', 'Enter 0.01 to 100 percent.',
    )
    else want(coupon.cut.amount >= 1 && coupon.cut.amount <= MOST_AMOUNT, 'cut', 'Enter an amount above zero.')
    want(coupon.fromAt === null || coupon.untilAt === null || coupon.fromAt < coupon.untilAt, 'untilAt', 'It would end before it starts.')
    want(coupon.uses === null || coupon.uses >= 1, 'uses', 'Enter at least 1, or no limit.')
    want(coupon.lasts === 'every' || isRenewed(draft.price), 'lasts', 'Only a monthly or yearly price has later payments.')
    if (problems.length > 0) throw new InputProblem(problems)
    if (id === null) return insertCoupon(db, offerId, coupon, clock.now())
    mustBeOf(db, offerId, id)
    updateCoupon(db, id, coupon)
    return id
  })
}

export function removeCoupon(context: WorkspaceContext, offerId: number, id: number): void {
  const { db, clock } = context
  transact(context, () => {
    mustBeOf(db, offerId, id)
    endCoupon(db, id, clock.now())
  })
}

/** One that was ended can be used again, unless another has its code by now. */
export function restoreCoupon(context: WorkspaceContext, offerId: number, id: number): void {
  const { db } = context
  transact(context, () => {
    const coupon = findCoupon(db, id)
    if (coupon?.offerId !== offerId) throw new NotThere('This coupon no longer exists.')
    const holder = couponByCode(db, offerId, coupon.code)
    if (holder?.id === id) return
    if (holder?.offerId === offerId) throw new NotNow(`Another coupon has the code ${coupon.code} now.`)
    reviveCoupon(db, id)
  })
}

function mustBeOf(db: Database, offerId: number, id: number): void {
  if (findCoupon(db, id)?.offerId !== offerId || !couponsOf(db, offerId).some(coupon => coupon.id === id)) {
    throw new NotThere('This coupon no longer exists.')
  }
}

/** Codes that have not ended, with the offer of each. */
export const usableCodes = ({ db, clock }: Pick<WorkspaceContext, 'db' | 'clock'>): { code: string, offer: string }[] =>
  usableCoupons(db, clock.now())
