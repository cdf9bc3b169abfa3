/** A visitor presses the button of an opt-in page. */
import { CANNOT_REACH, checkAddress, needsUtf8Server, tidyName, visitorNameProblem } from '#core/people/address'
import { oddVerdict } from '#core/people/oddAddress'
import { readAnswers, type Typed } from '#core/page/form'
import { pickResult } from '#core/page/result'
import { NO_TOUCH, type Touch } from '#core/page/touch'
import { isZone, localOf } from '#core/time/zone'
import { takesUtf8 } from '#data/carrier'
import { appendEvent } from '#data/events'
import { allFields } from '#data/fields'
import { findPublishedPage, insertOptIn } from '#data/pages'
import { oddAddressRule, workspaceOf } from '#data/workspace'
import { touchIdOf } from '#data/sources'
import { findPersonByKey, insertPerson } from '#data/people'
import type { WorkspaceContext } from '../context'
import { transact } from '../inner/reactor/transaction'
import { ask } from '../inner/facts/confirmationRequests'
import { giveWhatPageGives, wouldUndo } from '../inner/actions/gives'
import { InputProblem, NotThere } from '../problem'
import { passedBy } from './passOn'

export interface OptIn {
  slug: string
  email: string
  firstName: string
  /** What was answered to what else the form asks, by the id of what asked. */
  answers?: Typed
  /** The address that the visitor has said once more is meant, though it looks like nobody's. */
  meant?: string
  /** What the browser says its zone is; empty or unknown is as good as nothing. */
  zone: string
  ip: string | null
  /** The signed address of the reader who passed the page on; empty if nobody did. */
  by?: string
  /** What brought them to the page. */
  touch?: Touch
}

/**
 * Makes or finds the subscriber. Where the page asks for no confirmation, the
 * consent is kept and everything is given at once, to somebody known without
 * overwriting anything; else an email asks, and nothing is given or changed
 * before they confirm. What is returned is the same whether they are known or
 * not. The same address a second time is the same subscriber with one more
 * opt-in. Throws an {@link InputProblem} for bad fields, and {@link NotThere}
 * if no page is published there.
 */
export function optIn(context: WorkspaceContext, typed: OptIn): { personId: number, awaitsYes: boolean, resultId: string | null } {
  const { db } = context
  const checked = checkAddress(typed.email)
  const firstName = tidyName(typed.firstName)
  const zone = isZone(typed.zone) ? typed.zone : null
  const result = transact(context, () => {
    const page = findPublishedPage(db, typed.slug)
    if (!page) throw new NotThere('There is no page at this address.')
    const problems = []
    const { form, confirming } = page.content
    if (form.firstName === 'must' && firstName === '') problems.push({ field: 'firstName', problem: 'Type your first name.' })
    const nameProblem = form.firstName === 'no' ? null : visitorNameProblem(firstName)
    if (nameProblem) problems.push({ field: 'firstName', problem: nameProblem })
    if (!checked.ok) problems.push({ field: 'email', problem: checked.problem })
    else if (needsUtf8Server(checked.address.shown) && takesUtf8(db) === false) problems.push({ field: 'email', problem: CANNOT_REACH })
    const { answered, problems: more } = readAnswers(form, new Map(allFields(db).map(field => [field.id, field])), typed.answers ?? {})
    problems.push(...more)
    const odd = checked.ok ? oddVerdict(
      checked.address.key, oddAddressRule(db), context.isThrowaway(checked.address.key.slice(checked.address.key.lastIndexOf('@') + 1)),
    ) : null
    if (odd && (odd.way === 'refuse' || typed.meant !== typed.email)) {
      problems.push({ field: odd.way === 'warn' ? 'email-meant' : 'email', problem: odd.problem })
    }
    if (!checked.ok || problems.length > 0) throw new InputProblem(problems)

    const at = context.clock.now()
    const known = findPersonByKey(db, checked.address.key)
    const personId = known?.id ?? insertPerson(db, {
      address: checked.address.shown, addressKey: checked.address.key, firstName, nameIs: 'typed', status: 'pending', zone, country: null,
      source: `page:${page.slug}`, createdAt: at,
    })
    const awaitsYes = confirming.who !== 'nobody'
    // What they decided themselves is not undone by whoever types their address, on a page that asks nobody either.
    const undoes = known !== undefined && wouldUndo(db, known, [...page.content.listIds, ...answered.listIds])
    const asks = awaitsYes || undoes
    const touch = typed.touch ?? NO_TOUCH
    const resultId = pickResult(page.content.resultPages, form.asks, answered, localOf(at, workspaceOf(db).zone).date)?.id ?? null
    const reader = passedBy(context, typed.by ?? '')
    const passer = reader === personId ? null : reader
    const eventId = appendEvent(db, 'opted-in', at, {
      personId, pageId: page.id, ...passer !== null && { otherId: passer, detail: 'passed-on' },
    }, {
      address: checked.address.shown, ...(firstName && { firstName }), ...(zone && { zone }), ...(typed.ip && { ip: typed.ip }),
    })
    insertOptIn(db, {
      pageId: page.id, personId, at, eventId, touchId: touchIdOf(db, touch), confirmedAt: asks ? null : at, passedBy: passer, resultId,
    })
    const wasOneOfOurs = known !== undefined && known.status !== 'pending'
    const answers = { firstName, zone, ip: typed.ip, touch, answered, known: wasOneOfOurs, resultId }
    if (asks) ask(db, { page, personId, answers, at, eventId })
    else giveWhatPageGives(db, { personId, page, answers, pressedAt: at, optInId: eventId, at, causeId: eventId, by: 'opted-in' })
    return { personId, awaitsYes, resultId }
  })
  context.wake()
  return result
}
