/** Emails as they were worded, each made once: slowly, before the transaction that stores it. */
import { createHash } from 'node:crypto'
import { choicesOf, linksOf } from '#core/message/blocks'
import type { MessageContent, RichText } from '#core/message/content'
import type { CompiledMessage } from '#core/message/fill'
import { markOfLook } from '#core/message/look'
import { complete, isLookedUp, type Sources } from '#core/message/complete'
import { sayPrice, sayPriceWith } from '#core/offers/say'
import type { Composer } from '#core/ports'
import { kindOf } from '#core/sending/kinds'
import type { Instant } from '#core/time/zone'
import { findPart } from '#data/emailParts'
import { findMessageId, insertMessage, type MessageOf, type MessageRow } from '#data/messages'
import { couponByCode, publishedOfferById } from '#data/offers'
import { emailLook } from '#data/workspace'
import type { WorkspaceContext } from '../context'

type Where = Pick<WorkspaceContext, 'db' | 'baseUrl'>

export interface Wording { of: MessageOf, content: MessageContent }

const shortHash = (text: string): string => createHash('sha256').update(text).digest('hex').slice(0, 32)

/** What emails are completed from, as it is now. */
export const sourcesOf = ({ db, baseUrl }: Where): Sources => ({
  partOf: partId => findPart(db, partId)?.body,
  offerOf(offerId, code) {
    const offer = publishedOfferById(db, offerId)
    if (!offer) return undefined
    const { name, slug, content: { price, closesAt } } = offer
    const coupon = code === '' ? undefined : couponByCode(db, offerId, code)
    return {
      name, closesAt, url: `${baseUrl}/s/${slug}${coupon ? `?code=${encodeURIComponent(coupon.code)}` : ''}`, price: sayPrice(price),
      reduced: coupon ? sayPriceWith(price, coupon) : null, code: coupon?.code ?? null, couponUntilAt: coupon?.untilAt ?? null,
    }
  },
})

/** The email as it is made now. */
export const wholeEmail = <Content extends { body: RichText }>(where: Where, content: Content): Content =>
  isLookedUp(content.body) ? complete(content, sourcesOf(where)) : content

/** What it is made with besides its words; empty for nothing of it. `body`: only where anything in it is looked up. */
export function madeWith(where: Where, { isLetter, body }: Pick<MessageRow, 'isLetter' | 'body'>): string {
  const look = isLetter ? '' : markOfLook(emailLook(where.db))
  if (look === '' && body === null) return ''
  return shortHash(JSON.stringify([look, body && wholeEmail(where, { body }).body]))
}

export const withWhat = (where: Where, { isLetter, body }: MessageContent): string =>
  madeWith(where, { isLetter: isLetter === true, body: isLookedUp(body) ? body : null })

/** The same words, made with the same, make the same email. */
export function digestOf({ of, content }: Wording, made: string): string {
  const { because } = kindOf(of.kind)
  const said = because === 'list' ? content : { content, because }
  return shortHash(made === '' ? JSON.stringify(said) : JSON.stringify([said, made]))
}

export type Made = Map<Wording, { compiled: CompiledMessage, whole: MessageContent, with: string }>

/** Makes those that are not stored yet. Throws if one cannot be made. */
export async function makeWordings(
  { db, baseUrl, composer }: Where & { composer: Composer }, wordings: readonly Wording[],
): Promise<Made> {
  const where = { db, baseUrl }
  const made: Made = new Map()
  for (const wording of wordings) {
    const now = withWhat(where, wording.content)
    if (findMessageId(db, wording.of, digestOf(wording, now)) !== undefined) continue
    const whole = wholeEmail(where, wording.content)
    const compiled = await composer.compile(whole, kindOf(wording.of.kind), emailLook(db))
    made.set(wording, { compiled, whole, with: now })
  }
  return made
}

/** The number of a wording, in the caller's transaction: stored now, if it was not. */
export function keepWording(where: Where, wording: Wording, made: Made, at: Instant): number {
  const { db } = where
  const one = made.get(wording)
  const digest = digestOf(wording, one?.with ?? withWhat(where, wording.content))
  const known = findMessageId(db, wording.of, digest)
  if (known !== undefined || !one) return known!
  const { compiled, whole } = one
  return insertMessage(db, {
    ...wording.of, digest, content: wording.content, compiled, links: linksOf(whole.body), choices: choicesOf(whole),
    madeWith: one.with, at,
  })
}
