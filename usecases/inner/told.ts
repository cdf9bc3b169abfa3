/** What somebody says of themselves with a form of ours, in the caller's transaction. */
import type { Database } from '#data/connection'
import { appendEvent } from '#data/events'
import { findPerson, setFirstName, setZone } from '#data/people'
import { replanFor } from './enrolments'
import type { Cause } from './marks'

/** Another first name or time zone takes the place of what was known; what was left empty says nothing. Unsent local times follow the zone. */
export function keepWhatTheyTold(db: Database, personId: number, told: { firstName: string, zone: string | null }, { at, causeId }: Cause & { causeId: number }): void {
  const { firstName, zone } = findPerson(db, personId)!
  if (told.firstName && told.firstName !== firstName) {
    setFirstName(db, personId, told.firstName)
    appendEvent(db, 'name-changed', at, { personId, causeId }, { from: firstName, to: told.firstName })
  }
  if (told.zone && told.zone !== zone) {
    setZone(db, personId, told.zone)
    replanFor(db, personId, at, appendEvent(db, 'zone-changed', at, { personId, causeId }), 'zone')
  }
}
