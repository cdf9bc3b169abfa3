/** Someone answers the email that asks for their yes. */
import { outcomeOf, type ConfirmOutcome } from '#core/page/confirm'
import { pickResult } from '#core/page/result'
import type { CameTo } from '#core/page/cameTo'
import { localOf } from '#core/time/zone'
import { findConfirmation, type ConfirmationRow } from '#data/confirmations'
import { appendEvent } from '#data/events'
import { findPageVersion, findPublishedPage, insertOptIn, markConfirmed, type PublishedPage } from '#data/pages'
import { findPerson } from '#data/people'
import { touchIdOf } from '#data/sources'
import { workspaceOf } from '#data/workspace'
import type { Instant } from '#core/time/zone'
import type { WorkspaceContext } from '../context'
import { transact } from '../inner/reactor/transaction'
import { ask, endConfirmationRequest } from '../inner/facts/confirmationRequests'
import { giveWhatPageGives } from '../inner/actions/gives'
import { NotNow, NotThere } from '../problem'

/** The asking that a signed address stands for. */
export function readConfirmToken(context: WorkspaceContext, token: string): number {
  const what = context.signer.read('confirm', token)
  if (what === null) {
    throw new NotThere('This link is not complete. Please use the button in the email itself.')
  }
  return Number(what)
}

function rowOf(context: WorkspaceContext, id: number): ConfirmationRow {
  const row = findConfirmation(context.db, id)
  if (!row) throw new NotThere('This confirmation is no longer known.')
  return row
}

export interface ConfirmationView {
  /** What a yes would come to now. */
  outcome: ConfirmOutcome
  page: PublishedPage
  /** Where the page is now; null while it is not published. */
  slug: string | null
  address: string
  cameTo: CameTo
  expiresAt: Instant
  endedAt: Instant | null
}

/** Looking changes nothing: machines look, too. */
export function confirmationView(context: WorkspaceContext, id: number): ConfirmationView {
  const { db } = context
  const row = rowOf(context, id)
  const page = findPageVersion(db, row.pageVersionId)!
  const person = findPerson(db, row.personId)
  return {
    outcome: person ? outcomeOf(row, context.clock.now()) : 'left-since', page, slug: findPublishedPage(db, page.slug) ? page.slug : null,
    address: person?.address ?? '', cameTo: { known: row.answers.known === true, resultId: row.answers.resultId },
    expiresAt: row.expiresAt, endedAt: row.endedAt,
  }
}

/** The button was pressed: gives everything, once. Every other outcome changes nothing. */
export function confirm(context: WorkspaceContext, id: number): ConfirmOutcome {
  const { db } = context
  const outcome = transact(context, () => {
    const row = rowOf(context, id)
    const at = context.clock.now()
    const person = findPerson(db, row.personId)
    if (!person) return 'left-since'
    const outcome = outcomeOf(row, at)
    if (outcome !== 'counts') return outcome
    const { personId, pageId, eventId } = row
    const causeId = appendEvent(db, 'confirmed', at, { personId, pageId, causeId: eventId })
    endConfirmationRequest(db, row, 'confirmed', at, causeId)
    markConfirmed(db, row, at)
    giveWhatPageGives(db, {
      personId, page: findPageVersion(db, row.pageVersionId)!, answers: row.answers, pressedAt: row.askedAt, optInId: eventId, at, causeId,
      by: 'confirmed',
    })
    return outcome
  })
  context.wake()
  return outcome
}

/** Too late, and still wanted: asks anew, by the page as it is now, with what was typed then. */
export function askAnew(context: WorkspaceContext, id: number): void {
  const { db } = context
  transact(context, () => {
    const row = rowOf(context, id)
    const at = context.clock.now()
    if (!findPerson(db, row.personId) || outcomeOf(row, at) !== 'too-late') {
      throw new NotNow('You can ask for a new email once the first one has expired.')
    }
    const page = findPublishedPage(db, findPageVersion(db, row.pageVersionId)!.slug)
    if (!page) throw new NotThere('The page you opted in on no longer exists.')
    const { personId } = row
    // The page as it is now may have other result pages.
    const resultId = pickResult(
      page.content.resultPages, page.content.form.asks, row.answers.answered, localOf(at, workspaceOf(db).zone).date,
    )?.id ?? null
    const answers = { ...row.answers, resultId }
    const eventId = appendEvent(db, 'opted-in', at, { personId, pageId: page.id, causeId: row.eventId })
    insertOptIn(db, {
      pageId: page.id, personId, at, eventId, touchId: touchIdOf(db, answers.touch), confirmedAt: null, passedBy: null, resultId,
    })
    ask(db, { page, personId, answers, at, eventId })
  })
  context.wake()
}
