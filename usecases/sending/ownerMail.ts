/** What the owner gets by email: notices, gathered, the weekly summary, and tests of emails; sent like every email. */
import { escapeHtml } from '#core/message/escape'
import { domainOf } from '#core/message/headers'
import type { Mail } from '#core/ports'
import { sayMoment } from '#core/time/say'
import type { Instant } from '#core/time/zone'
import type { OwnerMailKind } from '#core/sending/kinds'
import { occasionOf } from '#core/sending/occasion'
import { noticesOfEmail, noticesToMail, setNoticeEmail } from '#data/notices'
import { insertOwnerMail, ownerMailWaiting, type OwnerMail } from '#data/outbox'
import { workspaceOf } from '#data/workspace'
import type { EngineContext, WorkspaceContext } from '../context'
import { transact } from '../inner/reactor/transaction'
import { nameOf } from '../inner/names'
import { keyFor, signed } from './renderEmail'
import { writeCode } from './senderCode'
import { writeTest } from './testMail'
import { writeSummary } from './weeklySummary'

/** So many fit into one email; the next goes right after it. */
const MOST = 200

/**
 * Puts what is due into one email; into one that waits already, where there is one. They go to the sender's own address, which is the
 * owner's.
 */
export function gatherNotices(context: WorkspaceContext, at: Instant): number {
  const { db } = context
  return transact(context, () => {
    const due = noticesToMail(db, at, MOST)
    const [first] = due
    if (!first) return 0
    const { senderAddress } = workspaceOf(db)
    // Without an address there is nobody to write to: what is told can be read here.
    const outboxId = senderAddress === '' ? null : ownerMailWaiting(db, 'notice', senderAddress)
      ?? insertOwnerMail(
        db, { kind: 'notice', toAddress: senderAddress, occasion: occasionOf(first.id), causeId: first.eventId, plannedAt: at }
      )
    setNoticeEmail(db, due.map(({ id }) => id), outboxId)
    return due.length
  })
}

const WRITERS: Record<OwnerMailKind, (context: EngineContext, row: OwnerMail) => Mail> = {
  notice: writeNotices, summary: writeSummary, test: writeTest, code: writeCode,
}

export async function writeOwnerMail(context: EngineContext, row: OwnerMail): Promise<{ mail: Mail, source: Uint8Array }> {
  const mail = WRITERS[row.kind](context, row)
  return { mail, source: await signed(context, keyFor(context.db, mail.from.address), await context.composer.compose(mail)) }
}

function writeNotices({ db, clock, baseUrl }: WorkspaceContext, { id, toAddress, messageRef }: OwnerMail): Mail {
  const notices = noticesOfEmail(db, id)
  const { senderAddress, name, zone, key } = workspaceOf(db)
  const lines = notices.map(({ personId, text, at }) => ({
    text, who: nameOf(db, personId).name, when: sayMoment(at, zone), url: `${new URL(baseUrl).origin}/subscribers/${personId}`,
  }))
  const subject = lines.length === 1 ? `${lines[0]!.text}: ${lines[0]!.who}` : `${lines.length} notices from ${name}`
  const body = lines.map(({ text, who, when, url }) =>
    `<p>${escapeHtml(text)}: <a href="${escapeHtml(url)}">${escapeHtml(who)}</a>, ${escapeHtml(when)}</p>`).join('\n')
  return {
    messageId: messageRef ?? `<notice.${id}.${key}@${domainOf(senderAddress)}>`,
    from: { name, address: senderAddress }, to: { name: '', address: toAddress }, subject,
    text: lines.map(({ text, who, when, url }) => `${text}: ${who}, ${when}\n${url}`).join('\n\n'),
    html: `<!doctype html>\n<html lang="en"><head><meta charset="utf-8"><meta name="color-scheme" content="light dark"><title>${escapeHtml(subject)}</title></head>\n<body>\n${body}\n</body></html>`,
    headers: { 'Auto-Submitted': 'auto-generated' },
    at: clock.now(),
  }
}
