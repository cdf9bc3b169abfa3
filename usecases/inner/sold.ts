/** What an email sells, and what that is to somebody. */
import { linksOf } from '#core/message/blocks'
import type { MessageContent } from '#core/message/content'
import { slugSoldBy } from '#core/offers/selling'
import type { Database } from '#data/connection'
import { findLink } from '#data/links'
import { linksOfMessage, messageOf } from '#data/messages'
import { offerNames } from '#data/offers'
import { owns, saidNoMore } from '#data/purchases'
import type { WorkspaceContext } from '../context'
import { wholeEmail } from './wordings'

/** The offers that a stored wording sells: by where its links lead now, which is where a reader would come to. */
export function soldBy({ db, baseUrl }: Pick<WorkspaceContext, 'db' | 'baseUrl'>, messageId: number): { id: number, name: string }[] {
  if (messageOf(db, messageId).sells === 0) return []
  return behind(db, baseUrl, linksOfMessage(db, messageId).map(({ linkId, url }) => findLink(db, linkId) ?? { url }))
}

/** The same of an email as it is being written. */
export const soldIn = ({ db, baseUrl }: Pick<WorkspaceContext, 'db' | 'baseUrl'>, {
  body,
}: Pick<MessageContent, 'body'>): { id: number, name: string }[] =>
  behind(db, baseUrl, linksOf(wholeEmail({ db, baseUrl }, { body }).body))

function behind(db: Database, baseUrl: string, links: readonly { url: string }[]): { id: number, name: string }[] {
  const slugs = new Set(links.map(({ url }) => slugSoldBy(url, baseUrl)).filter(slug => slug !== null))
  return slugs.size === 0 ? [] : offerNames(db).filter(({ slug }) => slugs.has(slug)).map(({ id, name }) => ({ id, name }))
}

/** Whether they want to hear no more of any of these, and whether they have all of them. */
export function standingWith(db: Database, personId: number, sold: readonly { id: number }[]): { saidNoMore: boolean, ownsIt: boolean } {
  if (sold.length === 0) return { saidNoMore: false, ownsIt: false }
  const noMore = saidNoMore(db, personId)
  return {
    saidNoMore: sold.some(({ id }) => noMore.some(({ offerId }) => offerId === id)), ownsIt: sold.every(({ id }) => owns(db, personId, id)),
  }
}
