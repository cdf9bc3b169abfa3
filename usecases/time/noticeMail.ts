/** Notices that their owner wants by email: each by itself, or gathered once a day. */
import { escapeHtml } from '#core/message/escape'
import { domainOf } from '#core/message/headers'
import type { Mail } from '#core/ports'
import { sayMoment } from '#core/time/say'
import { MINUTE, type Instant } from '#core/time/zone'
import { noticesToMail, setMailed, type NoticeRow } from '#data/notices'
import { workspaceOf } from '#data/workspace'
import type { EngineHouse } from '../house'
import { write } from '../inner/transaction'
import { nameOf } from '../views/rules'

/** When one that the mail server did not take is tried again. */
const AGAIN = 15 * MINUTE
/** So many fit into one email; the next goes right after it. */
const MOST = 200

/** Mails what is due. They go to the sender's own address, which is the owner's. */
export async function mailNotices(house: EngineHouse, at: Instant): Promise<void> {
  const { db } = house
  const due = noticesToMail(db, at, MOST)
  const daily = due.filter(({ email }) => email === 'daily')
  const letters = [...due.filter(({ email }) => email === 'at-once').map(notice => [notice]), ...daily.length > 0 ? [daily] : []]
  for (const notices of letters) {
    const ids = notices.map(({ id }) => id)
    const mail = letterOf(house, notices)
    // Without an address there is nobody to write to: what is told stands here.
    const answer = mail === null ? { kind: 'accepted' as const } : await house.carrier.handOver(mail, await house.composer.compose(mail))
    write(house, () => setMailed(db, ids, answer.kind === 'accepted' ? house.clock.now() : null, answer.kind === 'accepted' ? null : house.clock.now() + AGAIN))
  }
}

function letterOf({ db, clock, baseUrl }: EngineHouse, notices: NoticeRow[]): Mail | null {
  const { senderAddress, name, zone, key } = workspaceOf(db)
  if (senderAddress === '') return null
  const lines = notices.map(({ personId, text, at }) => ({ text, who: nameOf(db, personId).name, when: sayMoment(at, zone), url: `${new URL(baseUrl).origin}/subscribers/${personId}` }))
  const subject = lines.length === 1 ? `${lines[0]!.text}: ${lines[0]!.who}` : `${lines.length} notices of ${name}`
  return {
    // The same notices make the same email: a repeat is known by it.
    messageId: `<notice-${notices[0]!.id}-${notices.at(-1)!.id}.${key}@${domainOf(senderAddress)}>`,
    from: { name, address: senderAddress }, to: { name: '', address: senderAddress }, subject,
    text: lines.map(({ text, who, when, url }) => `${text}: ${who}, ${when}\n${url}`).join('\n\n'),
    html: `<!doctype html><html lang="en"><head><meta charset="utf-8"><title>${escapeHtml(subject)}</title></head><body>${lines.map(({ text, who, when, url }) => `<p>${escapeHtml(text)}: <a href="${escapeHtml(url)}">${escapeHtml(who)}</a>, ${escapeHtml(when)}</p>`).join('')}</body></html>`,
    headers: { 'Auto-Submitted': 'auto-generated' },
    at: clock.now(),
  }
}
