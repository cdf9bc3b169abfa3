/** Making a workspace and changing what it says about itself. */
import { isCurrency } from '#core/money/money'
import type { ConsentRule } from '#core/people/country'
import { isZone } from '#core/time/zone'
import type { Instant } from '#core/time/zone'
import { immediate, type Database } from '#data/connection'
import { allCourses } from '#data/courses'
import { appendEvent } from '#data/events'
import { releaseCarrier, releaseSenders } from '#data/outboxAside'
import { defaultSenderId, findSender, senderByAddress, setDefaultSender } from '#data/senders'
import type { SenderInput } from '#core/senders/sender'
import { countPeople } from '#data/people'
import { allSegments, emptySegments } from '#data/segments'
import type { OddAddressRule } from '#core/people/oddAddress'
import {
  findWorkspace, insertPracticeClock, insertWorkspace, oddAddressRule, resumeCarrier, setConsentRule, setOddAddressRule, updateWorkspace,
  workspaceOf,
} from '#data/workspace'
import type { Mode } from '#core/views/frame'
import type { WorkspaceSettings } from '#core/views/settings'
import type { WorkspaceContext } from '../context'
import { transact } from '../inner/reactor/transaction'
import { planSummary } from '../sending/weeklySummary'
import { replanEverybody } from '../time/replanning'
import { makeReadySegments } from '../know/segments'
import { InputProblem } from '../problem'
import { keepSender, senderAddressProblem } from './senders'

export interface NewWorkspace { mode: Mode, key: string, name: string, zone: string, at: Instant }

/** Makes the one workspace of a file, with a practice clock at `at` if it is a practice one. Does nothing if there is one. */
export function foundWorkspace(db: Database, fresh: NewWorkspace): void {
  immediate(db, () => {
    makeReadySegments(db, fresh.at)
    if (findWorkspace(db)) return
    insertWorkspace(db, { mode: fresh.mode, key: fresh.key, name: fresh.name, zone: fresh.zone, createdAt: fresh.at })
    if (fresh.mode === 'practice') insertPracticeClock(db, fresh.at)
  })
}

/** The mail server's address is checked by whoever knows what one looks like. */
export function saveSettings(context: WorkspaceContext, settings: WorkspaceSettings): void {
  const { db } = context
  const problems = []
  if (settings.name.trim() === '') problems.push({ field: 'name', problem: 'Give the workspace a name.' })
  if (!isZone(settings.zone)) problems.push({ field: 'zone', problem: 'Choose a time zone like Europe/Lisbon.' })
  if (!isCurrency(settings.currency)) problems.push({ field: 'currency', problem: 'Choose a currency like EUR.' })
  if (settings.senderAddress !== '') {
    const problem = senderAddressProblem(settings.senderAddress.trim())
    if (problem !== null) problems.push({ field: 'senderAddress', problem })
  }
  if (problems.length > 0) throw new InputProblem(problems)
  transact(context, () => {
    const before = workspaceOf(db)
    updateWorkspace(db, {
      ...settings, name: settings.name.trim(), postalAddress: settings.postalAddress.trim(),
    })
    saveDefaultSender(context, { name: settings.senderName.trim(), address: settings.senderAddress.trim() })
    if (before.zone === settings.zone) return
    // Unsent local times follow the new zone, and so does what is a day for a field with a date.
    emptySegments(db, allSegments(db).map(({ id }) => id))
    const at = context.clock.now()
    planSummary(db, at)
    const causeId = appendEvent(db, 'zone-changed', at, { detail: settings.zone })
    replanEverybody(db, 'zone', at, causeId)
  })
  context.wake()
}

/** The one from which everything goes that nothing else is said of; another address that is there already becomes it. */
function saveDefaultSender(context: WorkspaceContext, { name, address }: Pick<SenderInput, 'name' | 'address'>): void {
  const { db } = context
  const id = defaultSenderId(db)
  const before = id === null ? undefined : findSender(db, id)
  if ((before?.name ?? '') === name && (before?.address ?? '') === address) return
  const other = address === '' ? undefined : senderByAddress(db, address)
  if (other && other.id !== id) {
    keepSender(context, other.id, { ...other, name })
    setDefaultSender(db, other.id)
  }
  else keepSender(context, id, { replyTo: before?.replyTo ?? '', serviceUrl: before?.serviceUrl ?? null, name, address })
  releaseSenders(db, context.clock.now())
}

/** The zone of whoever sits before the screen, while nothing has begun: later a zone is only changed on purpose. */
export function adoptZone(context: WorkspaceContext, zone: string): void {
  const { db } = context
  transact(context, () => {
    const workspace = workspaceOf(db)
    const people = countPeople(db)
    if (isZone(zone) && Object.values(people).every(count => count === 0) && allCourses(db).length === 0) {
      updateWorkspace(db, { ...workspace, zone })
      planSummary(db, context.clock.now())
    }
  })
}

/** Sending goes on after the owner has looked at why it stopped. */
export function resumeSending(context: WorkspaceContext): void {
  transact(context, () => {
    if (workspaceOf(context.db).carrierState === 'ready' && workspaceOf(context.db).carrierPauseUntilAt === null) return
    resumeCarrier(context.db)
    releaseCarrier(context.db, context.clock.now())
    appendEvent(context.db, 'carrier-resumed', context.clock.now())
  })
  context.wake()
}

/** Where consent must be on record. Who is in which segment may change by it, and is looked at anew. */
export function saveConsentRule(context: WorkspaceContext, rule: ConsentRule): void {
  const { db } = context
  transact(context, () => {
    setConsentRule(db, { countries: [...rule.countries].sort(), unknownNeeds: rule.unknownNeeds })
    emptySegments(db, allSegments(db).map(({ id }) => id))
    appendEvent(db, 'consent-rule-changed', context.clock.now())
  })
  context.wake()
}

export const oddAddressRuleOf = ({ db }: WorkspaceContext): OddAddressRule => oddAddressRule(db)

/** Counts for whoever opts in from now on. */
export function saveOddAddressRule(context: WorkspaceContext, rule: OddAddressRule): void {
  const { db } = context
  transact(context, () => setOddAddressRule(db, rule))
}
