/** Going live: definitions are copied to a database of their own, invented people never. */
import { domainOf } from '#core/message/headers'
import { isFreeMailbox, isReservedHost } from '#core/people/address'
import type { LiveCheck } from '#core/views/settings'
import type { Database } from '#data/connection'
import { immediate } from '#data/connection'
import { copyDefinitions } from '#data/copy'
import { sendingLimits, setSendingLimits } from '#data/limits'
import { appendEvent } from '#data/events'
import { mailDomainOf } from '#core/senders/mailDomain'
import { allSenders, defaultSenderId, setDefaultSender } from '#data/senders'
import { sellingOf, setSelling } from '#data/selling'
import {
  consentRule, oddAddressRule, sendingHours, setConsentRule, setOddAddressRule, setSendingHours, updateWorkspace, workspaceOf,
} from '#data/workspace'
import type { WorkspaceContext } from '../context'
import { keepWatches } from '../know/rules'
import { NotNow } from '../problem'
import { watchMailDomain } from './mailDomains'
import { askToConfirm } from './senders'
import { foundWorkspace } from './workspace'

/** What must and what should be in order first. `smtpGiven`: by settings or by the environment. */
export function liveChecks(practice: WorkspaceContext, smtpGiven: boolean, liveBaseUrl: string): LiveCheck[] {
  const { senderAddress, postalAddress, senderName } = workspaceOf(practice.db)
  const isLocal = /^https:\/\/(localhost|127\.|\[::1\])/.test(liveBaseUrl)
  return [
    {
      what: 'A sender with a name', ok: senderName !== '' && senderAddress !== '', needed: true,
      advice: 'Fill in the sender’s name and address.',
    },
    {
      what: 'A sender that receivers accept',
      ok: senderAddress !== '' && !isFreeMailbox(senderAddress) && !isReservedHost(domainOf(senderAddress)), needed: false,
      advice: 'Use an address at your own domain. Mail in the name of a free mail service is refused, and invented addresses get no replies.',
    },
    {
      what: 'A postal address', ok: postalAddress !== '', needed: true,
      advice: 'Fill in a postal address; the law asks for it in most countries.',
    },
    { what: 'A mail server', ok: smtpGiven, needed: true, advice: 'Give an SMTP address here or in PORCH_SMTP_URL.' },
    {
      what: 'A public address for links', ok: liveBaseUrl.startsWith('https://') && !isLocal, needed: true,
      advice: `Links in emails will begin with ${liveBaseUrl}. Set PORCH_BASE_URL to the https address under which readers reach you.`,
    },
  ]
}

/** Makes the live workspace in the empty, migrated database `live`. */
export function goLive(
  practice: WorkspaceContext, live: Database, options: { key: string, at: number, smtpUrl: string | null, checks: LiveCheck[] },
): void {
  const failed = options.checks.filter(check => check.needed && !check.ok)
  if (failed.length > 0) throw new NotNow(failed.map(check => check.advice).join(' '))
  const { name, zone, currency, postalAddress } = workspaceOf(practice.db)
  immediate(live, () => {
    foundWorkspace(live, { mode: 'live', key: options.key, name, zone, at: options.at })
    updateWorkspace(live, { name, zone, currency, postalAddress, smtpUrl: options.smtpUrl })
    setConsentRule(live, consentRule(practice.db))
    setOddAddressRule(live, oddAddressRule(practice.db))
    setSendingHours(live, sendingHours(practice.db))
    setSendingLimits(live, sendingLimits(practice.db))
    // Who takes the money in live is still to be said.
    setSelling(live, { ...sellingOf(practice.db), paymentsUrl: null, paymentsSecret: '' })
    copyDefinitions(practice.db, live, options.at)
    setDefaultSender(live, defaultSenderId(practice.db)!)
    for (const { id, address } of allSenders(live)) {
      const context = { db: live, mode: 'live', clock: { now: () => options.at } } as const
      askToConfirm(context, id)
      watchMailDomain(context, mailDomainOf(address))
    }
    keepWatches(live, options.at)
    appendEvent(live, 'went-live', options.at)
  })
}
