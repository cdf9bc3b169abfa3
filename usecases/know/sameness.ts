/** Another address for someone, and two records that turn out to be one person. */
import { checkAddress } from '#core/people/address'
import { isGone, strictest } from '#core/people/status'
import { immediate } from '#data/connection'
import { openEnrolmentsOfPerson, visitsOf } from '#data/enrolments'
import { findPersonKey } from '#data/erasing'
import { appendEvent, writingAs } from '#data/events'
import { listsOfPerson } from '#data/marks'
import { findPerson, findPersonByKey } from '#data/people'
import { insertFormerAddress, setAddress, takeOver } from '#data/sameness'
import type { WorkspaceContext } from '../context'
import { withdrawConfirmationRequests } from '../inner/facts/confirmationRequests'
import { endEnrolments } from '../inner/journeys/enrolments'
import { leaveList } from '../inner/facts/marks'
import { replanFor } from '../inner/journeys/replanning'
import { withdrawEmails } from '../inner/facts/withdraw'
import { standOrGo } from '../inner/journeys/standing'
import { settled } from '../inner/facts/reacting'
import { transact } from '../inner/reactor/transaction'
import { InputProblem, NotNow, NotThere } from '../problem'

/** What waits to be sent goes to the new address. The old one is kept as theirs: an import that names it means them. */
export function changeAddress(context: WorkspaceContext, id: number, typed: string): void {
  const { db } = context
  const checked = checkAddress(typed)
  immediate(db, () => {
    const person = findPerson(db, id)
    if (!person) throw new NotThere('This subscriber no longer exists.')
    if (!checked.ok) throw new InputProblem([{ field: 'address', problem: checked.problem }])
    const { address } = checked
    if (address.shown === person.address) return
    const other = findPersonByKey(db, address.key)
    if (other && other.id !== id) throw new InputProblem([
      { field: 'address', problem: `${other.address} is a subscriber already. Merge the two, if they are the same person.` },
    ])
    const at = context.clock.now()
    const key = findPersonKey(db, id)
    const eventId = appendEvent(db, 'address-changed', at, { personId: id, detail: 'by-hand' }, { from: person.address, to: address.shown })
    if (key !== address.key) insertFormerAddress(db, { personId: id, address: person.address, addressKey: key, untilAt: at, eventId })
    setAddress(db, id, address)
  })
  context.wake()
}

/**
 * Everything of `otherId` becomes that of `id`, who keeps their address and
 * what is known of them; gaps are filled. The stricter status counts, and a
 * list or a course that either has left is left. Nobody gets a course a second
 * time by being merged. `address` is the other's, as it was shown.
 */
export function mergePeople(context: WorkspaceContext, id: number, otherId: number, address: string): void {
  const { db } = context
  // As they stand by both records: that is nothing for courses to begin by, or rules to wake on.
  transact(context, () => writingAs(db, { quiet: 'wakes-nothing' }, () => {
    const [person, other] = [findPerson(db, id), findPerson(db, otherId)]
    if (!person || !other) throw new NotThere('This subscriber no longer exists.')
    if (id === otherId) throw new InputProblem([{ field: 'address', problem: 'That is the same record. Choose the other one.' }])
    if (other.address !== address) throw new NotNow('The other record now has another address. Check again.')
    const at = context.clock.now()
    const eventId = appendEvent(db, 'merged', at, {
      personId: id, otherId,
    }, { address: other.address, ...(other.firstName && { firstName: other.firstName }) })
    const cause = { at, causeId: eventId, ownAct: false }
    settled(db, () => {
      for (const list of listsOfPerson(db, otherId)) if (list.leftAt !== null) leaveList(db, id, list.id, cause)
      for (const list of listsOfPerson(db, id)) if (list.leftAt !== null) leaveList(db, otherId, list.id, cause)
    })
    const known = new Set(
      openEnrolmentsOfPerson(db, otherId).map(row => row.courseId).filter(courseId => visitsOf(db, courseId, id).length > 0),
    )
    endEnrolments(db, otherId, at, eventId, 'merged', row => known.has(row.courseId))
    // Their yes was to be to what came to that address.
    withdrawConfirmationRequests(db, otherId, at, eventId, 'unconfirmed')
    insertFormerAddress(db, { personId: otherId, address: other.address, addressKey: findPersonKey(db, otherId), untilAt: at, eventId })
    const status = strictest(person.status, other.status)
    takeOver(db, otherId, id, status)
    if (status !== person.status) appendEvent(db, 'status-changed', at, { personId: id, causeId: eventId, detail: status })
    // What came with the other record is as this one, too.
    if (isGone(status)) {
      endEnrolments(db, id, at, eventId, status)
      withdrawConfirmationRequests(db, id, at, eventId)
      withdrawEmails(db, id, {}, at, eventId, status)
    }
    else {
      standOrGo(db, id, at, eventId)
      const zone = findPerson(db, id)!.zone
      if (zone !== person.zone || zone !== other.zone) replanFor(db, id, at, eventId, 'zone')
    }
  }))
  context.wake()
}
