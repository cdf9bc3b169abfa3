/** An email as it was written earlier: kept while it is changed, to be compared and taken again. */
import { dequal } from 'dequal'
import { isWritten } from '#core/message/blocks'
import type { MessageContent } from '#core/message/content'
import { earlierKey } from '#core/message/earlier'
import type { OwnEmails } from '#core/message/content'
import type { EmailKind, SendOf } from '#core/sending/kinds'
import { MINUTE, type Instant } from '#core/time/zone'
import { earlierOf, findEarlier, keepEarlier, latestEarlier } from '#data/earlierEmails'
import type { WorkspaceContext } from '../context'
import { NotThere } from '../problem'

/** While somebody writes, it is kept so often. */
export const EVERY = 10 * MINUTE
/** So many are kept of an email. */
export const MOST_EARLIER = 60

/** In the caller's transaction, before it is changed: what stood there until now, if it has stood for a while. */
export function keepBefore({ db, system }: WorkspaceContext, of: SendOf, before: MessageContent, now: MessageContent): void {
  if (!isWritten(before) || dequal(before, now)) return
  const at = system.now()
  const latest = latestEarlier(db, of)
  // A clock that was set back keeps nothing from being kept.
  if (latest !== null && at >= latest && at - latest < EVERY) return
  keepEarlier(db, of, before, at, MOST_EARLIER)
}

/** The same of all emails that stand in something of the owner's, one of each kind. */
export function keepAllBefore(
  context: WorkspaceContext, ownerId: number, before: OwnEmails, now: OwnEmails,
): void {
  for (const [kind, content] of Object.entries(before) as [EmailKind, MessageContent | undefined][]) {
    const next = now[kind]
    if (content && next) keepBefore(context, earlierKey(kind, ownerId), content, next)
  }
}

export const earlierVersions = ({ db }: WorkspaceContext, of: SendOf): { id: number, at: Instant }[] => earlierOf(db, of)

export function earlierVersion({ db }: WorkspaceContext, id: number): { at: Instant, content: MessageContent } {
  const version = findEarlier(db, id)
  if (!version) throw new NotThere('This version is no longer kept.')
  return version
}
