/** The code that shows that somebody reads what is sent to a sender's address. */
import { escapeHtml } from '#core/message/escape'
import { domainOf } from '#core/message/headers'
import { CODE_MINUTES } from '#core/senders/sender'
import type { Mail } from '#core/ports'
import type { OwnerMail } from '#data/outbox'
import { senderByAddress } from '#data/senders'
import { workspaceOf } from '#data/workspace'
import type { WorkspaceContext } from '../context'
import { fromOf } from '../inner/senderOf'

/** It leaves from the address itself, and by its own mail service where it has one: so that is tried at once, too. */
export function writeCode({ db, clock, baseUrl }: WorkspaceContext, { id, toAddress, messageRef }: OwnerMail): Mail {
  const sender = senderByAddress(db, toAddress)
  if (!sender?.code) throw new Error('A newer code was asked for, or none is needed any more')
  const { key, name } = workspaceOf(db)
  const { from, service } = fromOf(db, sender)
  const subject = `${sender.code} is your code for ${name}`
  const url = `${new URL(baseUrl).origin}/senders?at=sender-${sender.id}`
  const lines = [
    `Type ${sender.code} where you added ${toAddress} as a sender, within ${CODE_MINUTES} minutes of asking for it.`,
    'If you did not, you need not do anything: nothing is sent from this address.',
  ]
  return {
    messageId: messageRef ?? `<code.${id}.${key}@${domainOf(toAddress)}>`,
    from, service, to: { name: '', address: toAddress }, subject,
    text: `${lines.join('\n\n')}\n\n${url}`,
    html: `<!doctype html>\n<html lang="en"><head><meta charset="utf-8"><meta name="color-scheme" content="light dark"><title>${escapeHtml(subject)}</title></head>\n<body>\n<p style="font-size:28px">${sender.code}</p>\n${lines.map(line => `<p>${escapeHtml(line)}</p>`).join('\n')}\n<p><a href="${escapeHtml(url)}">${escapeHtml(url)}</a></p>\n</body></html>`,
    headers: { 'Auto-Submitted': 'auto-generated' },
    at: clock.now(),
  }
}
