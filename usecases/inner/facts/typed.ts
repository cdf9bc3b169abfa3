/** What somebody says of themselves with a form of ours, in the caller's transaction. */
import type { Database } from '#data/connection'
import { appendEvent } from '#data/events'
import { findPerson, setFirstName, setZone } from '#data/people'
import type { Cause } from './cause'

/**
 * How far what was typed is theirs. `confirmed`: they have shown that the address is theirs, and it takes the place of what was known.
 * `typed`: nobody has, of a newcomer. `gaps`: nobody has, of somebody known: it fills what is empty and overwrites nothing.
 */
export type Trust = 'confirmed' | 'typed' | 'gaps'

/** What was left empty says nothing. Unsent local times follow the zone. */
export function keepWhatTheyTyped(
  db: Database, personId: number, told: { firstName: string, zone: string | null }, how: Trust,
  { at, causeId, ownAct }: Cause & { causeId: number },
): void {
  const { firstName, zone } = findPerson(db, personId)!
  const takes = (now: string | null) => how !== 'gaps' || !now
  if (told.firstName && takes(firstName)) {
    // Said again and confirmed, it is theirs now.
    setFirstName(db, personId, told.firstName, how === 'confirmed' ? 'theirs' : 'typed')
    if (told.firstName !== firstName) {
      appendEvent(db, 'name-changed', at, { personId, causeId, ownAct }, { from: firstName, to: told.firstName })
    }
  }
  if (told.zone && told.zone !== zone && takes(zone)) {
    setZone(db, personId, told.zone)
    appendEvent(db, 'zone-changed', at, { personId, causeId, ownAct })
  }
}
