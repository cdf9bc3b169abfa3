/** The results of a broadcast. Slow for many people: the server asks this in a thread of its own. */
import { cannotSay, verdictOf } from '#core/broadcast/verdict'
import { replyCodeOf } from '#core/sending/replyCode'
import { rateOf } from '#core/stats/rate'
import { DAY } from '#core/time/zone'
import type { BroadcastResults, NumberAsked, PeopleOfNumber, Split, SplitRow } from '#core/views/broadcastResults'
import { allBroadcasts } from '#data/broadcasts'
import {
  boughtBy, countComplained, heldBackOf, hoursOf, linkClicks, outcomeOf, peopleOfNumber, refusedOf, splitOf,
} from '#data/broadcastResults'
import { readTogether, type Database } from '#data/connection'
import { findLink } from '#data/links'
import { linksOfMessage } from '#data/messages'
import { sellingOf } from '#data/selling'
import { findSendById, type SendRow } from '#data/sends'
import { theBroadcast } from '../broadcasts/save'
import type { WorkspaceContext } from '../context'
import { NotNow, NotThere } from '../problem'

/** So many earlier ones are what is usual. */
const PAST = 12
const MOST_ROWS = 12
const PAGE = 100
/** First opens later than this after it began are told in one. */
const HOURS = 72

function sendOf(db: Database, id: number): SendRow {
  const { sendId } = theBroadcast(db, id)
  const send = sendId === null ? undefined : findSendById(db, sendId)
  if (!send || send.taskId === null) throw new NotNow('This has not been sent yet.')
  return send
}

export function broadcastResults({ db }: WorkspaceContext, id: number): BroadcastResults {
  return readTogether(db, () => {
    const send = sendOf(db, id)
    const { content } = theBroadcast(db, id).scheduled!
    const { sent, opened, clicked, left, silent, uncertain } = outcomeOf(db, send.id)
    const { clickDays } = sellingOf(db)
    const bought = boughtBy(db, send.id, clickDays * DAY)
    const past = allBroadcasts(db).filter(one => one.id !== id && one.sendId !== null && one.dueAt! < send.dueAt!
      && (one.state === 'sent' || one.state === 'stopped')).slice(0, PAST).map(one => ({
      id: one.id, name: one.name, at: one.dueAt!, ...pick(outcomeOf(db, one.sendId!)),
    })).filter(one => one.sent > 0)
    const clicks = new Map(linkClicks(db, send.id).map(row => [row.n, row]))
    const links = linksOfMessage(db, send.messageId!).map(({ n, label, url, linkId }) => ({
      n, label, url, linkId, now: findLink(db, linkId)?.url ?? url, key: `link-${n}`, people: clicks.get(n)?.people ?? 0,
      clicks: clicks.get(n)?.clicks ?? 0,
    }))
    const outcome = {
      sent, clicked: rateOf(clicked, sent), opened: rateOf(opened, sent), uncertain, bought: bought.people, left,
      hasLinks: links.length > 0,
      isWatched: content.unwatched !== true,
    }
    const number = (key: string, people: number) => ({ key, people })
    return {
      says: verdictOf(outcome, past.map(one => ({ clicked: rateOf(one.clicked, one.sent), opened: rateOf(one.opened, one.sent) }))),
      cannotSay: sent === 0 ? [] : cannotSay(outcome),
      sent: number('sent', sent), opened: number('opened', opened), uncertain: number('uncertain', uncertain),
      clicked: number('clicked', clicked), left: number('left', left), notClicked: number('notclicked', sent - clicked),
      notOpened: number('notopened', silent),
      complained: number('complained', countComplained(db, send.id)), bought: number('bought', bought.people), money: bought.money,
      refused: refusals(db, send.id),
      held: heldBackOf(db, send.id).map(({ reason, people }) => ({ key: `held-${reason}`, people, reason })),
      hours: hoursOf(db, send.id, send.dueAt!).filter(({ hour }) => hour < HOURS), links, past, clickDays,
    }
  })
}

/** By the code of the last answer; what no server said is told in one. */
function refusals(db: Database, sendId: number): BroadcastResults['refused'] {
  const found = new Map<string, { people: number, bounces: number, said: string }>()
  for (const { isBounce, said, people } of refusedOf(db, sendId)) {
    const code = replyCodeOf(said) ?? ''
    const known = found.get(code)
    const bounces = isBounce ? people : 0
    if (known) Object.assign(known, { people: known.people + people, bounces: known.bounces + bounces })
    else found.set(code, { people, bounces, said })
  }
  return [...found].sort(([, a], [, b]) => b.people - a.people).map(([code, { people, bounces, said }]) => ({
    key: code === '' ? 'refused' : `refused-${code}`, people, said,
    says: code === '' ? 'failed after days of trying' : `${bounces * 2 >= people ? 'bounced' : 'refused'}: ${code}`,
  }))
}

const pick = ({ sent, opened, clicked }: ReturnType<typeof outcomeOf>) => ({ sent, opened, clicked })

export const broadcastSplit = ({ db }: WorkspaceContext, { id, by }: { id: number, by: Split }): SplitRow[] =>
  readTogether(db, () => splitOf(db, sendOf(db, id).id, by, MOST_ROWS))

/** The people behind one of its numbers with their times; `more` says that there are others behind them. */
export function broadcastWho({ db }: WorkspaceContext, { id, from, ...asked }: NumberAsked & { id: number, from: number }): PeopleOfNumber {
  return readTogether(db, () => {
    const found = peopleOfNumber(db, asked, {
      sendId: sendOf(db, id).id, clickMs: sellingOf(db).clickDays * DAY, limit: PAGE + 1, offset: from,
    })
    if (!found) throw new NotThere('This number is not known.')
    return { people: found.slice(0, PAGE), more: found.length > PAGE }
  })
}
