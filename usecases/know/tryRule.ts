/** Trying rules on a real person: the real thing, in a transaction that is taken back. */
import type { EventAbout } from '#core/events'
import { sayTrigger } from '#core/rules/say'
import { TRIGGERS, type Trigger } from '#core/rules/rule'
import { dateDetail } from '#core/rules/waking'
import { isOfSend } from '#core/sending/kinds'
import type { Instant } from '#core/time/zone'
import type { TriedView, Trying } from '#core/views/rules'
import { immediate as writeRows, type Database } from '#data/connection'
import { appendEvent, eventsOfPerson, lastEventId } from '#data/events'
import { fieldOfPerson } from '#data/fields'
import { membership } from '#data/marks'
import { findOffer } from '#data/offers'
import { emailsOfPerson } from '#data/outbox'
import { findPage } from '#data/pages'
import { findPerson } from '#data/people'
import { insertRule, updateRule } from '#data/rules'
import type { WorkspaceContext } from '../context'
import { optIn } from '../arrive/optIn'
import { linesOf, type Woken } from '../inner/chains'
import { setField } from '../inner/facts/fieldValue'
import { giveTag, joinList, leaveList, takeTag } from '../inner/facts/marks'
import { ruleNamesOf } from '../inner/names'
import { Reactor } from '../inner/reactor/reactor'
import { keepWording, makeWordings, type Wording } from '../inner/wordings'
import type { Cause } from '../inner/facts/cause'
import { reevaluatePerson } from '../time/segmentQueue'
import { InputProblem, NotThere } from '../problem'
import { nameOf } from '../inner/names'
import { problemsOf } from './rules'

/** Segments are looked at a moment later, and can wake rules that change them: so many rounds are shown. */
const ROUNDS = 20

class TakenBack extends Error {}

/** What would happen, to the letter. Nothing is changed. */
export async function tryRules(context: WorkspaceContext, { personId, when, draft }: Trying): Promise<TriedView> {
  const { db } = context
  if (!findPerson(db, personId)) throw new NotThere('This subscriber no longer exists.')
  const problems = draft ? problemsOf(db, draft.rule) : []
  if (problems.length > 0) throw new InputProblem(problems)
  if (TRIGGERS[when.kind].thing !== null && !TRIGGERS[when.kind].any && when.thingId === null) {
    throw new InputProblem([{ field: 'when', problem: 'Choose what happens.' }])
  }
  const wordings = (draft?.rule.then ?? []).map((action): Wording | null =>
    action.kind === 'email' ? { of: { kind: 'rule', ownerId: 0, itemId: 'email' }, content: action.content } : null)
  const made = await makeWordings(context, wordings.filter(wording => wording !== null))
  let view: TriedView | null = null
  try {
    writeRows(db, () => {
      const at = context.clock.now()
      if (draft) {
        const whole = { ...draft.rule, on: true, then: draft.rule.then.map((action, n) =>
          action.kind === 'email' ? { ...action, messageId: keepWording(context, wordings[n]!, made, at) } : action) }
        if (draft.id === null) insertRule(db, whole, at)
        else updateRule(db, draft.id, whole, at)
      }
      view = play(context, personId, when, at)
      throw new TakenBack()
    })
  }
  catch (error) {
    if (!(error instanceof TakenBack)) throw error
  }
  return view!
}

function play(context: WorkspaceContext, personId: number, when: Trigger, at: Instant): TriedView {
  const { db } = context
  const before = lastEventId(db)
  const woken: Woken[] = []
  // A rule that is woken again after it was cut off says nothing new.
  const reactor = new Reactor(context, (rule, event, verdict, did) => woken.push({ rule, eventId: event.id, verdict, did }))
  const came = reactor.run(() => happen(context, personId, when, at))
  for (let round = 0, from = before; round < ROUNDS && lastEventId(db) > from; round++) {
    from = lastEventId(db)
    reactor.run(() => reevaluatePerson(context, personId))
  }
  const events = eventsOfPerson(db, personId).filter(({ id }) => id > before).reverse()
  const ids = new Set(events.map(({ id }) => id))
  const roots = events.filter(({ causeId }) => causeId === null || !ids.has(causeId))
  const names = ruleNamesOf(db)
  const said = new Map(typeof came === 'number' ? [[came, sayTrigger(when, names)]] : [])
  return {
    person: nameOf(db, personId), lines: linesOf(roots, events, woken, names, said), nothing: typeof came === 'string' ? came : null,
  }
}

/**
 * Lets it happen as really as can be. A text says why it would not happen to this person at all; a number is the event that stands for what
 * cannot be done here, like following a link.
 */
function happen(context: WorkspaceContext, personId: number, when: Trigger, at: Instant): string | number | null {
  const { db } = context
  const person = findPerson(db, personId)!
  const cause: Cause = { at, causeId: null, ownAct: true }
  const id = when.thingId
  const only = (about: EventAbout = {}, personal?: Record<string, string>) => {
    return appendEvent(db, when.kind, at, { personId, ...about }, personal)
  }
  switch (when.kind) {
    case 'opted-in': {
      const page = id === null ? undefined : findPage(db, id)
      return page?.published && optsIn(context, { slug: page.slug, email: person.address })
        ? null
        : only({ ...id !== null && { pageId: id } })
    }
    case 'joined-list':
      if (id === null) return only()
      if (membership(db, id, personId) === 'joined') return 'They are already on this list, so they would not join it.'
      joinList(db, personId, id, cause)
      return null
    case 'left-list':
      if (id === null) return only()
      if (membership(db, id, personId) === 'left') return 'They have already left this list.'
      leaveList(db, personId, id, cause)
      return null
    case 'got-tag':
      return giveTag(db, personId, id!, cause) ? null : 'They already have this tag, so they would not get it.'
    case 'lost-tag':
      return takeTag(db, personId, id!, cause, when.expired ? 'expired' : undefined)
        ? null
        : 'They do not have this tag, so they would not lose it.'
    case 'field-changed': {
      const from = fieldOfPerson(db, id!, personId)
      if (when.to !== null && when.to !== undefined) {
        return setField(db, personId, id!, when.to, cause) ? null : 'It already has this value, so nothing would change.'
      }
      return only({ fieldId: id! }, { ...from !== null && { from: String(from) } })
    }
    case 'enrolled':
    case 'finished-course':
    case 'left-course':
      return only({ ...id !== null && { courseId: id } })
    case 'bought':
    case 'renewed':
    case 'refunded':
    case 'checkout-abandoned':
      return id !== null && !findOffer(db, id) ? 'This offer no longer exists.' : only({ ...id !== null && { offerId: id } })
    case 'confirmed':
    case 'visited-page': return only({ ...id !== null && { pageId: id }, detail: 'reader' })
    case 'clicked': return only({ ...id !== null && { linkId: id }, detail: 'reader' })
    case 'opened':
    case 'sent': return happensToEmail(db, personId, when, only)
    case 'entered-segment':
    case 'left-segment': return only({ segmentId: id! })
    case 'date-arrived': return only({ fieldId: id!, detail: dateDetail(when) })
    case 'became-silent': return only({ detail: String(when.days ?? 1) })
    case 'reached-score': return only({ detail: String(when.points ?? 1) })
    case 'hook-called': return only({ hookId: id! })
    default: return only()
  }
}

/** The last such email that they got; of a course it can be thought of, too, before it comes. */
function happensToEmail(
  db: Database, personId: number, { kind, which }: Trigger, happens: (about: EventAbout) => number,
): string | number {
  const email = emailsOfPerson(db, personId).find(one => one.handedOverAt !== null && (!which || isOfSend(which, one)))
  const detail = kind === 'opened' ? 'reader' : undefined
  if (email) {
    const ofCourse = email.kind === 'course' && { courseId: email.ownerId, stepId: email.itemId }
    return happens({ outboxId: email.id, ...ofCourse, detail })
  }
  if (which && which.kind !== 'course') return 'They have not been sent such an email. Try it with someone who has.'
  return happens({ ...which && { courseId: which.ownerId }, ...which?.itemId && { stepId: which.itemId }, detail })
}

/** As the page itself does it; false if its form asks for more than is known. */
function optsIn(context: WorkspaceContext, { slug, email }: { slug: string, email: string }): boolean {
  try {
    optIn(context, { slug, email, firstName: '', zone: '', ip: null })
    return true
  }
  catch (error) {
    if (error instanceof InputProblem || error instanceof NotThere) return false
    throw error
  }
}
