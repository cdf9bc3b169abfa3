/** Emails that their owner shares with everybody: a page of them, and each as nobody in particular reads it. */
import type { SharedLetter } from '#core/broadcast/archive'
import { readLine } from '#core/message/content'
import { fillMessage } from '#core/message/fill'
import { factsIn, linkKey, readyIn } from '#core/message/template'
import { allBroadcasts, findBroadcast, setShared, type BroadcastRow } from '#data/broadcasts'
import { findLink } from '#data/links'
import { findList } from '#data/marks'
import { linksOfMessage, messageOf } from '#data/messages'
import { findSendById } from '#data/sends'
import { emailLook } from '#data/workspace'
import { theBroadcast } from '../broadcasts/save'
import type { WorkspaceContext } from '../context'
import { transact } from '../inner/reactor/transaction'
import { factsOfReader } from '../inner/readerFacts'
import { readyForNobody } from '../inner/ready'
import { senderOf } from '../inner/senderOf'
import { wholeEmail } from '../inner/wordings'
import { NotNow, NotThere } from '../problem'

/** So many stand on the page, and in its feed. */
const MOST = 100

/** On the public page, or taken from it. What has not begun to be sent is not shared. */
export function shareBroadcast(context: WorkspaceContext, id: number, shared: boolean): void {
  transact(context, () => {
    const { state } = theBroadcast(context.db, id)
    if (shared && (state === 'draft' || state === 'scheduled')) throw new NotNow('This has not been sent yet.')
    setShared(context.db, id, shared ? context.clock.now() : null)
  })
}

const isShared = ({ sharedAt, scheduled }: BroadcastRow) => sharedAt !== null && scheduled !== null

/** The latest first. */
export const sharedLetters = ({ db }: Pick<WorkspaceContext, 'db'>): SharedLetter[] => allBroadcasts(db).filter(isShared)
  .sort((a, b) => b.dueAt! - a.dueAt! || b.id - a.id).slice(0, MOST).map(({ id, scheduled, dueAt }) => ({
    id, title: readLine(scheduled!.content.subject).trim(), preview: readLine(scheduled!.content.preview).trim(), at: dueAt!,
  }))

/**
 * As somebody reads it of whom nothing is known: what is only for some is left out, and its links lead straight to where they lead now.
 * `moreUrl`: where all of them stand. Throws {@link NotThere} for what is not shared.
 */
export async function sharedEmail(context: WorkspaceContext, id: number, moreUrl: string): Promise<{ title: string, html: string }> {
  const { db, baseUrl, composer } = context
  const broadcast = findBroadcast(db, id)
  const send = broadcast && isShared(broadcast) ? findSendById(db, broadcast.sendId!) : undefined
  if (!broadcast || !send) throw new NotThere('This email is not shared here.')
  const { content } = broadcast.scheduled!
  const message = messageOf(db, send.messageId!)
  const { inBrowser: _, ...shown } = content
  const templates = await composer.compile(wholeEmail(context, shown), { because: 'public', isWatched: false }, emailLook(db))
  const [facts, ready] = [new Set<string>(), new Set<string>()]
  for (const template of [templates.subject, templates.html, templates.text]) {
    factsIn(template, facts)
    readyIn(template, ready)
  }
  const at = send.dueAt!
  const links = linksOfMessage(db, message.id)
  const { subject, html } = fillMessage(templates, {
    facts: {
      ...factsOfReader(db, facts, {
        person: null, at, sender: senderOf(db, { senderId: content.senderId ?? null, listId: send.listId, personId: null }), joinedAt: at,
        listName: findList(db, send.listId!)?.publicName ?? '',
      }), first_name: '', email: '',
    },
    chosen: Object.fromEntries(message.choices.map(({ key, who }) => [key, who.indexOf(null)])),
    ready: {
      ...readyForNobody({ baseUrl }, links, ready), choices_url: moreUrl,
      ...Object.fromEntries(links.map(({ n, linkId, url, answers }) => [linkKey(n), answers ? moreUrl : findLink(db, linkId)?.url ?? url])),
    },
  })
  return { title: subject, html }
}
