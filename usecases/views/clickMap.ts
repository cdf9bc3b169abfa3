/** The email of a broadcast as it was sent, each of its links marked with how many followed it. */
import { fillMessage } from '#core/message/fill'
import { linkKey } from '#core/message/template'
import { rateOf } from '#core/stats/rate'
import { sayPeople, sayRate } from '#core/stats/say'
import { linkClicks, outcomeOf } from '#data/broadcastResults'
import { readTogether } from '#data/connection'
import { findList } from '#data/marks'
import { linksOfMessage, messageOf } from '#data/messages'
import { findSendById } from '#data/sends'
import { theBroadcast } from '../broadcasts/save'
import type { WorkspaceContext } from '../context'
import { readyForNobody } from '../inner/ready'
import { elseOf, factsOfReader } from '../inner/readerFacts'
import { senderOf } from '../inner/senderOf'
import { NotNow } from '../problem'

/** Where a link of the map leads: to nowhere, and no two to the same. */
const placeOf = (n: number) => `#link-${n}`

/** As somebody gets it of whom nothing is known. */
export function clickMap({ db, baseUrl }: WorkspaceContext, id: number): string {
  return readTogether(db, () => {
    const { sendId } = theBroadcast(db, id)
    const send = sendId === null ? undefined : findSendById(db, sendId)
    if (!send || send.taskId === null) throw new NotNow('This has not been sent yet.')
    const message = messageOf(db, send.messageId!)
    const links = linksOfMessage(db, message.id)
    const at = send.dueAt!
    const { html } = fillMessage(message, {
      facts: {
        ...factsOfReader(db, message.facts, {
          person: null, at, sender: senderOf(db, { senderId: message.senderId, listId: send.listId, personId: null }), joinedAt: at,
          listName: findList(db, send.listId!)?.publicName ?? '',
        }), first_name: '', email: 'reader@example.com',
      },
      chosen: Object.fromEntries(message.choices.map(choice => [choice.key, elseOf(choice)])),
      ready: {
        ...readyForNobody({ baseUrl }, links, message.ready), ...Object.fromEntries(links.map(({ n }) => [linkKey(n), placeOf(n)])),
      },
    })
    const { sent } = outcomeOf(db, send.id)
    const clicks = new Map(linkClicks(db, send.id).map(row => [row.n, row.people]))
    const most = Math.max(1, ...clicks.values())
    const marks = links.map(({ n }) => {
      const people = clicks.get(n) ?? 0
      // The more followed it, the stronger its mark.
      const strength = Math.round(20 + 80 * people / most)
      return `a[href="${placeOf(n)}"] { outline: 2px solid color-mix(in srgb, #2F6C9E ${strength}%, transparent); outline-offset: 2px; }
a[href="${placeOf(n)}"]::after { content: "${sayRate(rateOf(people, sent))}, ${sayPeople(people)}"; display: inline-block; margin-left: 8px;
  padding: 1px 7px; border-radius: 9px; background: #2F6C9E; color: #fff; font: 600 12px/1.5 sans-serif; text-decoration: none; }`
    })
    return html.replace('</head>', `<style>${marks.join('\n')}</style></head>`)
  })
}
