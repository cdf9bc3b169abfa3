/** A visitor presses the button of an opt-in page. */
import { checkAddress, tidyName } from '#core/people/address'
import type { PageContent } from '#core/page/content'
import { NO_TOUCH, type Touch } from '#core/page/touch'
import { isZone } from '#core/time/zone'
import { write } from '#data/connection'
import { appendEvent } from '#data/events'
import { findPublishedPage, insertOptIn } from '#data/pages'
import { touchIdOf } from '#data/sources'
import { findPersonByKey, insertPerson, setFirstName, setZone } from '#data/people'
import { insertConsent } from '#data/consents'
import type { House } from '../house'
import { changeStatus, giveTag, joinList } from '../inner/marks'
import { replanFor } from '../inner/enrolments'
import { InputProblem, NotThere } from '../problem'

export interface OptIn {
  slug: string
  email: string
  firstName: string
  /** What the browser says its zone is; empty or unknown is as good as nothing. */
  zone: string
  ip: string | null
  /** What brought them to the page. */
  touch?: Touch
}

/**
 * Makes or finds the subscriber, keeps the consent as it was given, and gives
 * what the page gives. The same address a second time is the same subscriber
 * with one more opt-in. Throws an {@link InputProblem} for bad fields, and
 * {@link NotThere} if no page is published there.
 */
export function optIn(house: House, typed: OptIn): { personId: number, page: PageContent } {
  const { db } = house
  const checked = checkAddress(typed.email)
  const firstName = tidyName(typed.firstName)
  const zone = isZone(typed.zone) ? typed.zone : null
  const result = write(db, () => {
    const page = findPublishedPage(db, typed.slug)
    if (!page) throw new NotThere('There is no page at this address.')
    const problems = []
    if (page.content.asksFirstName && page.content.firstNameRequired && firstName === '') problems.push({ field: 'firstName', problem: 'Type your first name.' })
    if (!checked.ok) problems.push({ field: 'email', problem: checked.problem })
    if (!checked.ok || problems.length > 0) throw new InputProblem(problems)

    const at = house.clock.now()
    const known = findPersonByKey(db, checked.address.key)
    const personId = known?.id ?? insertPerson(db, {
      address: checked.address.shown, addressKey: checked.address.key, firstName, status: 'pending', zone, country: null, source: `page:${page.slug}`, createdAt: at,
    })
    const eventId = appendEvent(db, 'opted-in', at, { personId, pageId: page.id }, {
      address: checked.address.shown, ...(firstName && { firstName }), ...(zone && { zone }), ...(typed.ip && { ip: typed.ip }),
    })
    insertOptIn(db, { pageId: page.id, personId, at, eventId, touchId: touchIdOf(db, typed.touch ?? NO_TOUCH) })
    const cause = { at, causeId: eventId, ownAct: true }
    insertConsent(db, { personId, eventId, pageVersionId: page.versionId, origin: '', wording: page.content.consentWording, at, ip: typed.ip, zone })
    changeStatus(db, personId, 'opted-in', cause)
    if (known && firstName && firstName !== known.firstName) {
      setFirstName(db, personId, firstName)
      appendEvent(db, 'name-changed', at, { personId, causeId: eventId }, { from: known.firstName, to: firstName })
    }
    if (known && zone && zone !== known.zone) {
      setZone(db, personId, zone)
      replanFor(db, personId, at, appendEvent(db, 'zone-changed', at, { personId, causeId: eventId }))
    }
    for (const listId of page.content.listIds) joinList(db, personId, listId, cause)
    for (const tagId of page.content.tagIds) giveTag(db, personId, tagId, cause)
    return { personId, page: page.content }
  })
  house.wake()
  return result
}
