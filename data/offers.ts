/** Offers, their published versions and their coupons. */
import type { Coupon, CouponInput } from '#core/offers/coupon'
import { codeKey } from '#core/offers/coupon'
import type { OfferContent } from '#core/offers/offer'
import type { Instant } from '#core/time/zone'
import type { Database } from './connection'
import { prepare } from './connection'

export interface OfferRow {
  id: number
  name: string
  slug: string
  draft: OfferContent
  versionId: number | null
  versionNumber: number | null
  published: OfferContent | null
  createdAt: Instant
}

interface RawOffer extends Omit<OfferRow, 'draft' | 'published'> { draft: string, published: string | null }

const OFFER = `
  SELECT o.id, o.name, o.slug, o.draft, o.version_id AS versionId, v.number AS versionNumber, v.content AS published,
    o.created_at AS createdAt
  FROM offers o LEFT JOIN offer_versions v ON v.id = o.version_id`

const parse = (row: RawOffer): OfferRow => ({
  ...row, draft: JSON.parse(row.draft) as OfferContent,
  published: row.published === null ? null : JSON.parse(row.published) as OfferContent,
})

export const allOffers = (db: Database): OfferRow[] =>
  prepare<RawOffer>(db, `${OFFER} WHERE o.gone_at IS NULL ORDER BY o.id`).all().map(parse)

/** Their names and addresses only. */
export function offerNames(db: Database): { id: number, name: string, slug: string }[] {
  return prepare<{ id: number, name: string, slug: string }>(
    db, 'SELECT id, name, slug FROM offers WHERE gone_at IS NULL ORDER BY id',
  ).all()
}

export const isOffer = (db: Database, id: number): boolean => prepare(
  db, 'SELECT 1 FROM offers WHERE id = ? AND gone_at IS NULL'
).get(id) !== undefined

export function findOffer(db: Database, id: number): OfferRow | undefined {
  const row = prepare<RawOffer>(db, `${OFFER} WHERE o.id = ? AND o.gone_at IS NULL`).get(id)
  return row && parse(row)
}

export function findOfferBySlug(db: Database, slug: string): OfferRow | undefined {
  const row = prepare<RawOffer>(db, `${OFFER} WHERE o.slug = ?`).get(slug)
  return row && parse(row)
}

/** What a public visit needs, and nothing more. */
export interface PublishedOffer {
  id: number
  name: string
  slug: string
  versionId: number
  number: number
  content: OfferContent
  receiptMessageId: number
  /** The emails of its waiting list; null without one, and in versions from before they were written. */
  openingMessageId: number | null
  waitConfirmMessageId: number | null
}
type RawVersion = Omit<PublishedOffer, 'content'> & { content: string }
const VERSION = `o.id, o.name, o.slug, v.id AS versionId, v.number, v.content, v.receipt_message_id AS receiptMessageId,
  v.opening_message_id AS openingMessageId, v.wait_confirm_message_id AS waitConfirmMessageId`
const parseVersion = (row: RawVersion): PublishedOffer => ({ ...row, content: JSON.parse(row.content) as OfferContent })

export function findPublishedOffer(db: Database, slug: string): PublishedOffer | undefined {
  const row = prepare<RawVersion>(
    db, `SELECT ${VERSION} FROM offers o JOIN offer_versions v ON v.id = o.version_id WHERE o.slug = ?`,
  ).get(slug)
  return row && parseVersion(row)
}

export function publishedOfferById(db: Database, id: number): PublishedOffer | undefined {
  const row = prepare<RawVersion>(db, `SELECT ${VERSION} FROM offers o JOIN offer_versions v ON v.id = o.version_id WHERE o.id = ?`).get(id)
  return row && parseVersion(row)
}

/** A version as it was published, whether or not the public still sees it. */
export function findOfferVersion(db: Database, versionId: number): PublishedOffer | undefined {
  const row = prepare<RawVersion>(
    db, `SELECT ${VERSION} FROM offer_versions v JOIN offers o ON o.id = v.offer_id WHERE v.id = ?`,
  ).get(versionId)
  return row && parseVersion(row)
}

export function insertOffer(db: Database, row: { name: string, slug: string, draft: OfferContent, at: Instant }): number {
  return Number(prepare(db, 'INSERT INTO offers (name, slug, draft, created_at, changed_at) VALUES (@name, @slug, @draft, @at, @at)').run({
    ...row, draft: JSON.stringify(row.draft),
  }).lastInsertRowid)
}

export function updateOffer(db: Database, id: number, row: { name: string, slug: string, draft: OfferContent, at: Instant }): void {
  prepare(db, 'UPDATE offers SET name = @name, slug = @slug, draft = @draft, changed_at = @at WHERE id = @id').run({
    ...row, id, draft: JSON.stringify(row.draft),
  })
}

export type OfferMessages = Pick<PublishedOffer, 'receiptMessageId' | 'openingMessageId' | 'waitConfirmMessageId'>

export function insertOfferVersion(
  db: Database, offerId: number, content: OfferContent, messages: OfferMessages, at: Instant,
): { id: number, number: number } {
  const row = prepare<{ id: number, number: number }>(db, `
    INSERT INTO offer_versions (offer_id, number, content, receipt_message_id, opening_message_id, wait_confirm_message_id, published_at)
    VALUES (@offerId, (SELECT coalesce(max(number), 0) + 1 FROM offer_versions WHERE offer_id = @offerId), @content,
      @receiptMessageId, @openingMessageId, @waitConfirmMessageId, @at)
    RETURNING id, number`).get({ offerId, content: JSON.stringify(content), ...messages, at })!
  prepare(db, 'UPDATE offers SET version_id = ? WHERE id = ?').run(row.id, offerId)
  return row
}

export function findOfferVersionByNumber(db: Database, offerId: number, number: number): PublishedOffer | undefined {
  const row = prepare<RawVersion>(
    db, `SELECT ${VERSION} FROM offer_versions v JOIN offers o ON o.id = v.offer_id WHERE v.offer_id = ? AND v.number = ?`,
  ).get(offerId, number)
  return row && parseVersion(row)
}

/** It is sold as in that version again. */
export function showOffer(db: Database, offerId: number, versionId: number): void {
  prepare(db, 'UPDATE offers SET version_id = ? WHERE id = ?').run(versionId, offerId)
}

/** Takes the offer off the web; its versions and purchases stay. */
export function unpublishOffer(db: Database, offerId: number): void {
  prepare(db, 'UPDATE offers SET version_id = NULL WHERE id = ?').run(offerId)
}

/** Nothing finds it any more, and its address is free; who bought it has it, with its receipts and its file. */
export function endOffer(db: Database, offerId: number, at: Instant): void {
  prepare(db, `UPDATE offers SET gone_at = ?, version_id = NULL, slug = 'gone ' || id WHERE id = ?`).run(at, offerId)
}

/* Coupons */

type RawCoupon = Omit<Coupon, 'cut'> & { hundredths: number | null, amount: number | null }
const COUPON = `
  SELECT id, offer_id AS offerId, code, cut_hundredths_pct AS hundredths, cut_amount AS amount, currency, from_at AS fromAt,
    until_at AS untilAt, uses, lasts
  FROM coupons`
const parseCoupon = ({ hundredths, amount, ...row }: RawCoupon): Coupon => ({
  ...row, cut: hundredths === null ? { kind: 'amount', amount: amount! } : { kind: 'percent', hundredths },
})

/** Those that were not taken away, in the order in which they were made. */
export function couponsOf(db: Database, offerId: number): Coupon[] {
  return prepare<RawCoupon>(db, `${COUPON} WHERE offer_id = ? AND gone_at IS NULL ORDER BY id`).all(offerId).map(parseCoupon)
}

/** One by its number, also one that was taken away. */
export function findCoupon(db: Database, id: number): Coupon | undefined {
  const row = prepare<RawCoupon>(db, `${COUPON} WHERE id = ?`).get(id)
  return row && parseCoupon(row)
}

/** Codes that have not ended yet. */
export const usableCoupons = (db: Database, now: Instant): { code: string, offer: string }[] =>
  prepare<{ code: string, offer: string }>(db, `
  SELECT c.code, o.name AS offer FROM coupons c JOIN offers o ON o.id = c.offer_id
  WHERE c.gone_at IS NULL AND o.gone_at IS NULL AND coalesce(c.until_at, @now + 1) > @now ORDER BY c.code_key, c.id`).all({ now })

/** Every code that ends at some time, with the offer it belongs to. */
export const endingCoupons = (db: Database): { code: string, offer: string, untilAt: Instant, closesAt: Instant | null }[] =>
  prepare<{ code: string, offer: string, untilAt: Instant, closesAt: Instant | null }>(db, `
    SELECT c.code, o.name AS offer, c.until_at AS untilAt, o.draft ->> '$.closesAt' AS closesAt
    FROM coupons c JOIN offers o ON o.id = c.offer_id WHERE c.until_at IS NOT NULL AND c.gone_at IS NULL AND o.gone_at IS NULL
    ORDER BY c.id`).all()

/** The coupon of a code: this offer's, else another's that has it. */
export function couponByCode(db: Database, offerId: number, code: string): Coupon | undefined {
  const row = prepare<RawCoupon>(db, `${COUPON} WHERE code_key = ? AND gone_at IS NULL ORDER BY offer_id <> ?, id LIMIT 1`).get(
    codeKey(code), offerId,
  )
  return row && parseCoupon(row)
}

const values = ({ code, cut, currency, fromAt, untilAt, uses, lasts }: CouponInput & Pick<Coupon, 'currency'>) => ({
  code, currency, key: codeKey(code), hundredths: cut.kind === 'percent' ? cut.hundredths : null,
  amount: cut.kind === 'amount' ? cut.amount : null, fromAt, untilAt, uses, lasts,
})

export function insertCoupon(db: Database, offerId: number, coupon: CouponInput & Pick<Coupon, 'currency'>, at: Instant): number {
  return Number(prepare(db, `INSERT INTO coupons (offer_id, code, code_key, cut_hundredths_pct, cut_amount, currency, from_at, until_at,
    uses, lasts, created_at)
    VALUES (@offerId, @code, @key, @hundredths, @amount, @currency, @fromAt, @untilAt, @uses, @lasts, @at)`).run({
      ...values(coupon), offerId, at,
    }).lastInsertRowid)
}

export function updateCoupon(db: Database, id: number, coupon: CouponInput & Pick<Coupon, 'currency'>): void {
  prepare(db, `UPDATE coupons SET code = @code, code_key = @key, cut_hundredths_pct = @hundredths, cut_amount = @amount,
    currency = @currency, from_at = @fromAt, until_at = @untilAt, uses = @uses, lasts = @lasts
    WHERE id = @id`).run({ ...values(coupon), id })
}

/** Nobody can use it any more; who has bought with it keeps their price. */
export function endCoupon(db: Database, id: number, at: Instant): void {
  prepare(db, 'UPDATE coupons SET gone_at = ? WHERE id = ?').run(at, id)
}

export function reviveCoupon(db: Database, id: number): void {
  prepare(db, 'UPDATE coupons SET gone_at = NULL WHERE id = ?').run(id)
}
