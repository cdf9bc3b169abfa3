/** What tests of the built application ask it again and again. */
import { readFileSync } from 'node:fs'
import type { MailboxView, MailView } from '#core/views/mailbox'
import type { SubscribersView, SubscriberView } from '#core/views/people'
import { type Porch, until } from './porch'

/** `porchOf`: it is started only before the tests. */
export function askers(porchOf: () => Porch) {
  let visitors = 0
  const subscribers = (search: string) => porchOf().do<SubscribersView>('GET', `subscribers?search=${encodeURIComponent(search)}`)
  const mailbox = (address: string) => porchOf().do<MailboxView>('GET', `mailbox?search=${address}`)
  const mail = (id: number) => porchOf().do<MailView>('GET', `mailbox/${id}`)
  return {
    /** Bytes that the processes hold in memory at most (`VmRSS` of proc_pid_status(5)). */
    memory: () => Math.max(
      ...porchOf().children().map(pid => 1024 * Number(/VmRSS:\s+(\d+) kB/.exec(readFileSync(`/proc/${pid}/status`, 'utf8'))![1])),
    ),
    /** Each visitor from an address of their own, so that the limit of one does not stop another. */
    from: () => ({ 'x-forwarded-for': `192.0.2.1, 198.51.100.${++visitors % 250}` }),
    subscribers,
    countOf: async (query: string) => (await porchOf().do<{ total: number }>('GET', `subscribers/count?${query}`)).total,
    personOf: async (search: string) => porchOf().do<SubscriberView>('GET', `subscribers/${(await subscribers(search)).rows[0]!.id}`),
    mailTo: (address: string, n = 1) => until(async () => {
      const box = await mailbox(address)
      return box.total >= n && Promise.all(box.rows.map(row => mail(row.id)))
    }, `mail to ${address}`),
    /** The newest email with this subject: others may arrive before it, in any number. */
    mailWith: (address: string, subject: string) => until(async () => {
      const row = (await mailbox(address)).rows.find(row => row.subject === subject)
      return row && mail(row.id)
    }, `“${subject}” to ${address}`),
  }
}
