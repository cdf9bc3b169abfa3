/** How live mail is handed over, how fast, and when refusals are taken for a wave. */
import { domainOf } from '#core/message/headers'
import { checkAddress } from '#core/people/address'
import type { DomainRates } from '#core/sending/domainPace'
import type { SendingSettings } from '#core/views/settings'
import { learnTakesUtf8, sendingPace, setSendingPace, setWaveRule, waveRule } from '#data/carrier'
import { domainRates, endPause, forgetTurns, setDomainRates } from '#data/domainPace'
import { releaseTurns } from '#data/outboxAside'
import type { WorkspaceContext } from '../context'
import { transact } from '../inner/reactor/transaction'
import { InputProblem, NotThere } from '../problem'

export const sendingSettingsOf = ({ db }: WorkspaceContext): SendingSettings => ({
  ...sendingPace(db), ...waveRule(db), domainRates: domainRates(db),
})

/** Counts from the next email on; what waits for its turn by other numbers gets another one. */
export function saveSendingSettings(
  context: WorkspaceContext, { connections, messages, aMinute, domainRates: typed, ...rule }: SendingSettings,
): void {
  if (rule.refusedOfDomain > rule.lastOfDomain) {
    throw new InputProblem([{ field: 'refusedOfDomain', problem: 'Refusals cannot be more than the emails counted.' }])
  }
  const rates = tidyRates(typed)
  const { db, clock } = context
  transact(context, () => {
    setSendingPace(db, { connections, messages, aMinute })
    setWaveRule(db, rule)
    if (JSON.stringify(rates) === JSON.stringify(domainRates(db))) return
    setDomainRates(db, rates)
    forgetTurns(db)
    releaseTurns(db, ['domain pace'], clock.now())
  })
  context.wake()
}

/** Domains as they stand in addresses. Throws an InputProblem for what is none, or stands there twice. */
function tidyRates({ everyDomain, domains }: DomainRates): DomainRates {
  const problems: { field: string, problem: string }[] = []
  const seen = new Set<string>()
  const tidied = domains.map(({ domain: typed, aMinute }, n) => {
    const problem = (words: string) => problems.push({ field: `domainRates.domains.${n}.domain`, problem: words })
    const checked = checkAddress(`someone@${typed.trim().replace(/^.*@/, '')}`)
    const domain = checked.ok ? domainOf(checked.address.shown) : typed
    if (!checked.ok) problem('This is no domain. Type what comes after the @, like example.com.')
    else if (seen.has(domain)) problem(`${domain} is there twice.`)
    seen.add(domain)
    return { domain, aMinute }
  })
  if (problems.length > 0) throw new InputProblem(problems)
  return { everyDomain, domains: tidied.sort((a, b) => a.domain.localeCompare(b.domain, 'en')) }
}

/** A domain that put us off is tried again now. */
export function endDomainPause(context: WorkspaceContext, domain: string): void {
  const { db, clock } = context
  transact(context, () => {
    const at = clock.now()
    if (!endPause(db, domain, at)) throw new NotThere('Nothing pauses for this domain.')
    releaseTurns(db, ['domain pauses'], at, domain)
  })
  context.wake()
}

/** What the mail server says of itself: whether it takes letters beyond ASCII before the @. */
export const learnLetters = ({ db }: WorkspaceContext, takes: boolean): void => learnTakesUtf8(db, takes)
