/** Every email that is written, wherever it is used: one entry a place where emails stand. */
import { asksOf, linksOf } from '#core/message/blocks'
import { wordsOf } from '#core/message/checks/check'
import { nameOfMessage, readLine, type MessageContent, type OwnEmails } from '#core/message/content'
import { emailsOfOffer } from '#core/offers/offer'
import { emailsOfPage } from '#core/page/content'
import { emailsOf } from '#core/sequence/draft'
import { kindOf, type EmailKind } from '#core/sending/kinds'
import type { EmailLine } from '#core/views/email'
import { allBroadcasts } from '#data/broadcasts'
import { readTogether, type Database } from '#data/connection'
import { allCourses } from '#data/courses'
import { allEmailDrafts } from '#data/emailDrafts'
import { markNames } from '#data/marks'
import { lastSentAt } from '#data/messages'
import { allOffers } from '#data/offers'
import { allPages } from '#data/pages'
import { allRules } from '#data/rules'
import type { WorkspaceContext } from '../context'
import { namesOfRules } from '../inner/names'
import { wholeEmail } from '../inner/wordings'

interface Placed {
  /** Null for a draft that stands nowhere yet. */
  kind: EmailKind | null
  ownerId: number
  /** Null for any of its owner. */
  itemId: string | null
  of: string
  to: string
  isLive: boolean
  content: MessageContent
}

/** On which part of its owner's screen each is written. */
const PARTS: Partial<Record<EmailKind, string>> = {
  confirmation: 'yes', file: 'gives', receipt: 'after', waiting: 'waiting', opening: 'waiting',
}

function placedIn({ id, name, published }: { id: number, name: string, published: unknown }, emails: OwnEmails, at: string): Placed[] {
  return (Object.entries(emails) as [EmailKind, MessageContent | undefined][]).flatMap(([kind, content]): Placed[] => content ? [{
    kind, ownerId: id, itemId: null, of: name, to: `${at}?part=${PARTS[kind]}`, content, isLive: published !== null,
  }] : [])
}

const PLACES: readonly ((db: Database) => Placed[])[] = [
  db => allEmailDrafts(db).map(({ id, content }): Placed => ({
    kind: null, ownerId: id, itemId: null, of: 'nowhere yet', to: `/email-drafts/${id}`, content, isLive: false,
  })),
  db => allCourses(db).flatMap(course => emailsOf(course.draft).map(({ id, content }): Placed => ({
    kind: 'course', ownerId: course.id, itemId: id, of: course.name, to: `/courses/${course.id}?email=${id}`, content,
    isLive: course.published !== null && emailsOf(course.published).some(step => step.id === id),
  }))),
  db => allBroadcasts(db).map(({ id, draft, scheduled }): Placed => ({
    kind: 'broadcast', ownerId: id, itemId: null, of: 'a broadcast', to: `/broadcasts/${id}?part=email`,
    content: (scheduled ?? draft).content,
    isLive: scheduled !== null,
  })),
  db => allPages(db).flatMap(page => placedIn(page, emailsOfPage(page.draft), `/pages/${page.id}`)),
  db => allOffers(db).flatMap(offer => placedIn(offer, emailsOfOffer(offer.draft), `/offers/${offer.id}`)),
  (db) => {
    const names = new Map(namesOfRules(db).map(({ id, name }) => [id, name]))
    return allRules(db).flatMap(rule => rule.then.flatMap((action): Placed[] => action.kind === 'email' ? [{
      kind: 'rule', ownerId: rule.id, itemId: null, of: names.get(rule.id) ?? '', to: `/house-rules/${rule.id}`, content: action.content,
      isLive: rule.on,
    }] : []))
  },
]

export const emailLibrary = (context: WorkspaceContext): EmailLine[] => readTogether(context.db, () => {
  const { db } = context
  const tagNames = new Map(markNames(db).tags.map(({ id, name }) => [id, name]))
  return PLACES.flatMap(placesOf => placesOf(db)).map(({ kind, ownerId, itemId, of, to, isLive, content }, n): EmailLine => {
    const whole = wholeEmail(context, content)
    const tagIds = new Set(linksOf(whole.body).flatMap(({ tagId }) => tagId === null ? [] : [tagId]))
    return {
      id: n + 1, kind: kind === null ? 'draft' : kindOf(kind).word, sendKind: kind, of, to, isLive,
      title: nameOfMessage(content), subject: readLine(content.subject).trim(),
      asks: asksOf(whole), tags: [...tagIds].flatMap(id => tagNames.get(id) ?? []), words: whole.body.content.map(wordsOf).join('\n'),
      lastAt: kind === null ? null : lastSentAt(db, { kind, ownerId, itemId }),
    }
  })
})
