/** What the owner, or a program with a key of theirs, does to one subscriber. It is written down as such: nothing else brought it about. */
import { tidyName } from '#core/people/address'
import { readField } from '#core/people/field'
import { statusAfter } from '#core/people/status'
import { isZone } from '#core/time/zone'
import { appendEvent, wasTakenOff } from '#data/events'
import type { Person, PersonInput } from '#core/views/people'
import { findField } from '#data/fields'
import { findPerson, setCountry, setFirstName, setZone } from '#data/people'
import { findList, findTag, membership } from '#data/marks'
import type { WorkspaceContext } from '../context'
import { transact } from '../inner/reactor/transaction'
import { changeStatus, giveTag, joinList, leaveList, takeTag } from '../inner/facts/marks'
import type { FieldProblem } from '../problem'
import { InputProblem, NotNow, NotThere } from '../problem'
import { setField } from '../inner/facts/fieldValue'
import { type Cause, how } from '../inner/facts/cause'

export type By = 'hand' | 'program'

/** Corrects what is known about someone. Another zone plans their unsent emails anew. */
export function correctPerson(context: WorkspaceContext, id: number, input: PersonInput, by: By = 'hand'): void {
  const firstName = tidyName(input.firstName)
  const problems: FieldProblem[] = []
  if (input.zone !== null && !isZone(input.zone)) problems.push({ field: 'zone', problem: 'Choose a time zone like Europe/Lisbon.' })
  act(context, id, by, (person, cause) => {
    const { at } = cause
    const detail = how(cause)
    const { db } = context
    const read = Object.entries(input.fields).map(([fieldId, typed]) => {
      const field = findField(db, Number(fieldId))
      if (!field) throw new NotThere('A field no longer exists. Reload the page.')
      const value = typed.trim() === '' ? null : readField(field, typed)
      if (value && !value.ok) problems.push({ field: `fields.${fieldId}`, problem: value.problem })
      return { field, value: value?.ok ? value.value : null }
    })
    if (problems.length > 0) throw new InputProblem(problems)
    for (const { field, value } of read) setField(db, id, field.id, value, cause)
    if (input.country !== person.country) {
      setCountry(db, id, input.country)
      appendEvent(db, 'country-changed', at, {
        personId: id, detail,
      }, { ...(person.country && { from: person.country }), ...(input.country && { to: input.country }) })
    }
    if (firstName !== person.firstName) {
      setFirstName(db, id, firstName, 'theirs')
      appendEvent(db, 'name-changed', at, { personId: id, detail }, { from: person.firstName, to: firstName })
    }
    if (input.zone !== person.zone) {
      setZone(db, id, input.zone)
      appendEvent(db, 'zone-changed', at, { personId: id, detail })
    }
  })
}

/** Gives a tag; the courses that begin with it begin. */
export function giveTagByHand(context: WorkspaceContext, id: number, tagId: number, by: By = 'hand'): void {
  if (!findTag(context.db, tagId)) throw new NotThere('This tag no longer exists.')
  act(context, id, by, (_person, cause) => giveTag(context.db, id, tagId, cause))
}

/** Takes a tag away. A course that began with it goes on. */
export function takeTagByHand(context: WorkspaceContext, id: number, tagId: number, by: By = 'hand'): void {
  act(context, id, by, (_person, cause) => takeTag(context.db, id, tagId, cause))
}

/** Puts someone on a list they have not left themselves: to one they left, only they can come back. */
export function joinListByHand(context: WorkspaceContext, id: number, listId: number, by: By = 'hand'): void {
  if (!findList(context.db, listId)) throw new NotThere('This list no longer exists.')
  act(context, id, by, (_person, cause) => {
    if (membership(context.db, listId, id) === 'left' && !wasTakenOff(context.db, id, listId)) {
      throw new NotNow('They have left this list. Only they can come back, by opting in again.')
    }
    joinList(context.db, id, listId, cause)
  })
}

/** Takes someone off a list, which ends its courses for them. */
export function leaveListByHand(context: WorkspaceContext, id: number, listId: number, by: By = 'hand'): void {
  act(context, id, by, (_person, cause) => {
    if (membership(context.db, listId, id) === 'joined') leaveList(context.db, id, listId, cause)
  })
}

/** They told the owner so, or a report came back: from then on they get nothing. The reason stays in their history. */
export function markUnreachable(context: WorkspaceContext, id: number, as: 'bounced' | 'complained', reason: string): void {
  const why = reason.replace(/\s+/g, ' ').trim()
  if (why === '') throw new InputProblem([{ field: 'reason', problem: 'Enter a reason. Only you see it.' }])
  act(context, id, 'hand', (person, { at }) => {
    if (statusAfter(person.status, as) === person.status) throw new NotNow(`They are ${person.status} already, which is as strict.`)
    const causeId = appendEvent(context.db, as, at, { personId: id, detail: 'by-hand' }, { said: why })
    changeStatus(context.db, id, as, { at, causeId, ownAct: false })
  })
}

function act(context: WorkspaceContext, id: number, by: By, work: (person: Person, cause: Cause) => void): void {
  transact(context, () => {
    const person = findPerson(context.db, id)
    if (!person) throw new NotThere('This subscriber no longer exists.')
    work(person, { at: context.clock.now(), causeId: null, ownAct: false, ...by === 'program' && { byProgram: true } })
  })
  context.wake()
}
