/** The practice mailbox, read from the very bytes that were delivered. */
import type { MailboxView, MailView } from '#core/views/mailbox'
import { readTogether } from '#data/connection'
import { attachedFiles } from '#data/files'
import { findMail, searchMailbox, wholeSource } from '#data/mailbox'
import type { WorkspaceContext } from '../context'
import { NotThere } from '../problem'

const PAGE_SIZE = 50

export function mailboxView(context: WorkspaceContext, search: string, page: number): MailboxView {
  return readTogether(context.db, () => ({ ...searchMailbox(context.db, search, PAGE_SIZE, page * PAGE_SIZE), pageSize: PAGE_SIZE }))
}

export async function mailView(context: WorkspaceContext, id: number): Promise<MailView & { html: string }> {
  const mail = findMail(context.db, id)
  if (!mail) throw new NotThere('This email is not in the practice mailbox.')
  // What went along is told by its name; its bytes come with the file.
  const { default: PostalMime } = await import('postal-mime')
  const parsed = await PostalMime.parse(mail.source)
  const person = (address: { name?: string, address?: string } | undefined) =>
    address?.name ? `${address.name} <${address.address}>` : address?.address ?? ''
  return {
    id, personId: mail.personId, at: mail.at, openedAt: mail.openedAt, clickedAt: mail.clickedAt,
    from: person(parsed.from), to: person(parsed.to?.[0]), subject: parsed.subject ?? '',
    isWatched: (parsed.html ?? '').includes(`${context.baseUrl}/o/`), html: parsed.html ?? '', text: parsed.text ?? '',
    source: mail.source.toString('utf8'),
    attached: attachedFiles(context.db, mail.cuts.map(({ fileId }) => fileId))
      .map(({ name, encoded }) => ({ name, bytes: encoded.length })),
  }
}

export function mailSource(context: WorkspaceContext, id: number): Buffer {
  const mail = findMail(context.db, id)
  if (!mail) throw new NotThere('This email is not in the practice mailbox.')
  return wholeSource(context.db, mail)
}
