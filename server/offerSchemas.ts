/** What may come in about offers and money, described once. */
import Joi from './joi'
import { SALE_TARGETS, type SalesSpec } from '#core/exchange/sales'
import { MOST_AMOUNT } from '#core/money/money'
import { DATE_ORDERS } from '#core/people/field'
import type { CouponInput } from '#core/offers/coupon'
import { MOST_ABANDONED_HOURS, MOST_PLACES, type OfferContent } from '#core/offers/offer'
import { MOST_PARTS, PAYINGS } from '#core/offers/price'
import { MOST_TURN_HOURS, type Waiting } from '#core/offers/waiting'
import { SOURCE_KINDS, type SourceKey } from '#core/page/touch'
import { SALE_STATES, type SaleState, type Selling, type OfferInput } from '#core/views/offers'
import { drawn, gifts, ids, ownMessage, thanks } from './pageSchemas'
import { address, id, insideMeant, text } from './schemas'
import { sayNumber } from '#core/stats/say'

/** A text is no amount: “49” could mean euros as well as cents. */
const amount = Joi.number().strict().integer().min(0).max(MOST_AMOUNT).required()
  .messages({ '*': 'An amount is a whole number of the currency’s smallest units, not below zero.' })
const instant = Joi.number().integer().allow(null).required()
const whole = (least: number, most: number) => Joi.number().integer().min(least).max(most)
  .messages({ '*': `A whole number from ${sayNumber(least)} to ${sayNumber(most)}.` })

export const offerInput = Joi.object<OfferInput>({
  name: text(120).required(),
  slug: text(80).required(),
  draft: Joi.object<OfferContent>({
    ...drawn,
    price: Joi.object({
      currency: Joi.string().length(3).required(), amount, paying: Joi.valid(...PAYINGS).required(), parts: whole(1, MOST_PARTS).required(),
    }).required(),
    form: Joi.object({
      firstName: Joi.valid('no', 'may', 'must').required(), buttonLabel: text(80).required(), consentWording: text(1000).required(),
    }).required(),
    gives: Joi.object({
      listIds: ids.required(), tagIds: ids.required(), fields: gifts, courseId: id.allow(null).required(), endsCourseIds: ids.required(),
      fileId: id.allow(null).required(), renewalFieldId: id.allow(null).required(),
    }).required(),
    takenBack: Joi.boolean().required(),
    opensAt: instant, closesAt: instant, opensAgainAt: instant,
    places: whole(1, MOST_PLACES).allow(null).required(),
    waiting: Joi.object<Waiting>({
      words: text(300).required(), buttonLabel: text(80).required(), consentWording: text(1000).required(), listIds: ids.required(),
      tagIds: ids.required(),
      asks: Joi.boolean().required(), confirm: ownMessage.required(), opening: ownMessage.required(),
      turnHours: whole(1, MOST_TURN_HOURS).required(),
    }).allow(null).required(),
    abandonedAfterHours: whole(1, MOST_ABANDONED_HOURS).required(),
    receipt: ownMessage.required(),
    thanks: thanks.required(),
  }).required(),
})

export const newOfferInput = Joi.object<{ name: string, from: number | null }>({
  name: text(120).required(), from: id.allow(null).default(null),
})

export const couponInput = Joi.object<CouponInput>({
  code: text(60).required(),
  cut: Joi.alternatives(
    Joi.object({ kind: Joi.valid('percent').required(), hundredths: Joi.number().integer().required() }),
    Joi.object({ kind: Joi.valid('amount').required(), amount: Joi.number().strict().integer().required() }),
  ).required(),
  fromAt: instant, untilAt: instant, uses: whole(1, MOST_PLACES).allow(null).required(), lasts: Joi.valid('first', 'every').required(),
})

export const salesQuery = Joi.object<{
  days: number, state: SaleState, coupon: number | null, source: SourceKey['kind'] | null, word: string, email: string | null, page: number,
}>({
  days: whole(1, 730).default(28), state: Joi.valid(...SALE_STATES).default('bought'),
  coupon: Joi.number().integer().min(0).allow(null).empty('').default(null),
  source: Joi.valid(...SOURCE_KINDS, 'elsewhere').allow(null).empty('').default(null), word: text(80).default(''),
  email: text(100).allow(null).empty('').default(null), page: Joi.number().integer().min(0).max(100_000).default(0),
})

const salesSpec = Joi.object<SalesSpec>({
  columns: Joi.array().items(Joi.valid(...SALE_TARGETS)).max(100).required(), dateOrder: Joi.valid(...DATE_ORDERS).required(),
  offerId: id.allow(null).required(), currency: Joi.string().length(3).required(),
})
export const pastSalesQuery = Joi.object<{ bring: boolean, spec: SalesSpec | null, unknown: 'leave' | 'bring', starts: boolean }>({
  bring: Joi.boolean().default(false), unknown: Joi.valid('leave', 'bring').default('leave'), starts: Joi.boolean().default(false),
  spec: Joi.string().max(5000).custom((text: string, helpers) => {
    try {
      return Joi.attempt(JSON.parse(text), salesSpec) as SalesSpec
    }
    catch {
      return helpers.message({ custom: 'The columns cannot be read.' })
    }
  }).allow(null).default(null),
})

export const giveBackInput = Joi.object<{ paymentId: number, amount: number }>({
  paymentId: id.required(), amount: Joi.number().strict().integer().required(),
})

export const sellingInput = Joi.object<Selling & { insideMeant: boolean }>({
  insideMeant,
  seller: text(400).required(), taxLine: text(300).required(), clickDays: whole(1, 90).required(),
  paymentsUrl: address('web').empty('').allow(null).default(null), paymentsSecret: text(200).required(),
})

/** The form of an offer's page. */
export const offerForm = Joi.object<{
  email: string, first_name: string, code: string, wish: string, meant: string, website: string, zone: string, touch: string,
}>({
  email: text(400).default(''), first_name: text(400).default(''), code: text(60).default(''), wish: Joi.valid('wait', '').default(''),
  meant: text(400).default(''),
  website: text(400).default(''), zone: text(64).default(''), touch: text(2000).default(''),
})

export const payForm = Joi.object<{ card: string }>({ card: text(40).default('') })
