/** Subscribers as programs see and change them. */
import { checkAddress, tidyName } from '#core/people/address'
import { isGone } from '#core/people/status'
import { isZone } from '#core/time/zone'
import { sayEvent } from '#core/events'
import type { ToldEvent } from '#core/events'
import { readTogether } from '#data/connection'
import { insertConsent } from '#data/consents'
import { findCourse } from '#data/courses'
import { findRemembered } from '#data/erasing'
import { appendEvent, eventsOfPerson, eventsSince } from '#data/events'
import { allFields, fieldsOfPerson } from '#data/fields'
import { findList, findTag, listsOfPerson, tagsOfPerson } from '#data/marks'
import { findPerson, findPersonByKey, insertPerson, peopleAfter } from '#data/people'
import { scoreAt } from '#core/score/score'
import { scoreOf, scoreRule } from '#data/scores'
import type { WorkspaceContext } from '../context'
import { enrol, endEnrolments } from '../inner/journeys/enrolments'
import { personOnceAt } from '../inner/importing'
import { giveTag, joinList } from '../inner/facts/marks'
import { transact } from '../inner/reactor/transaction'
import { correctPerson } from '../know/byHand'
import { InputProblem, NotNow, NotThere, type FieldProblem } from '../problem'
import { iso } from './iso'


export interface ApiPerson {
  id: number
  email: string
  firstName: string
  status: string
  zone: string | null
  country: string | null
  source: string
  createdAt: string
  consentAt: string | null
  score: number
  tags: { id: number, name: string, since: string }[]
  lists: { id: number, name: string, joined: boolean }[]
  /** By the name of the field. */
  fields: Record<string, string | number>
}

export function personOut(context: WorkspaceContext, id: number): ApiPerson {
  const { db } = context
  return readTogether(db, () => {
    const person = findPerson(db, id)
    if (!person) throw new NotThere('There is no subscriber with this number.')
    const names = new Map(allFields(db).map(field => [field.id, field.name]))
    return {
      id, email: person.address, firstName: person.firstName, status: person.status, zone: person.zone, country: person.country,
      source: person.source, createdAt: iso(person.createdAt), consentAt: person.consentAt === null ? null : iso(person.consentAt),
      score: Math.round(10 * scoreAt(scoreOf(db, id), context.clock.now(), scoreRule(db).halfLifeDays)) / 10,
      tags: tagsOfPerson(db, id).map(tag => ({ id: tag.id, name: tag.name, since: iso(tag.sinceAt) })),
      lists: listsOfPerson(db, id).map(list => ({ id: list.id, name: list.name, joined: list.leftAt === null })),
      fields: Object.fromEntries(fieldsOfPerson(db, id).map(({ fieldId, value }) => [names.get(fieldId)!, value])),
    }
  })
}

/** By number from `after` on; or the one with this address. */
export function peopleOut(
  context: WorkspaceContext, { email, after, limit }: { email: string | null, after: number, limit: number },
): { people: ApiPerson[], next: number | null } {
  const { db } = context
  return readTogether(db, () => {
    if (email !== null) {
      const checked = checkAddress(email)
      const person = checked.ok ? findPersonByKey(db, checked.address.key) ?? personOnceAt(db, checked.address.key) : undefined
      return { people: person ? [personOut(context, person.id)] : [], next: null }
    }
    const ids = peopleAfter(db, after, limit)
    return { people: ids.map(id => personOut(context, id)), next: ids.length === limit ? ids.at(-1)! : null }
  })
}

export interface NewPerson {
  email: string
  firstName: string
  zone: string | null
  country: string | null
  fields: Record<string, string | number>
  tagIds: number[]
  listIds: number[]
  /** Where and to what they agreed; null where nothing is on record. */
  consent: { origin: string, wording: string } | null
}

/** Somebody new, active at once. An address that is known, or was erased, is refused: nobody comes back by a program. */
export function addPerson(context: WorkspaceContext, input: NewPerson): { id: number } {
  const { db } = context
  const checked = checkAddress(input.email)
  if (!checked.ok) throw new InputProblem([{ field: 'email', problem: checked.problem }])
  if (input.zone !== null && !isZone(input.zone)) {
    throw new InputProblem([{ field: 'zone', problem: 'A time zone looks like Europe/Lisbon.' }])
  }
  const { shown, key } = checked.address
  const id = transact(context, () => {
    const known = findPersonByKey(db, key) ?? personOnceAt(db, key)
    if (known) throw new NotNow(
      `This address is known already, as subscriber ${known.id}${isGone(known.status) ? `, who is ${known.status}: only they can come back` : ''}.`,
    )
    if (findRemembered(db, context.signer.digest(key))) throw new NotNow(
      'The person with this address was erased. Only they can come back.'
    )
    const missing = [...input.tagIds.flatMap((tagId, n): FieldProblem[] => findTag(db, tagId) ? [] : [
      { field: `tagIds.${n}`, problem: `There is no tag ${tagId}.` },
    ]), ...input.listIds.flatMap((listId, n): FieldProblem[] =>
      findList(db, listId) ? [] : [{ field: `listIds.${n}`, problem: `There is no list ${listId}.` }])]
    if (missing.length > 0) throw new InputProblem(missing)
    const at = context.clock.now()
    const personId = insertPerson(db, {
      address: shown, addressKey: key, firstName: tidyName(input.firstName), status: 'active', zone: input.zone, country: input.country,
      source: 'api', createdAt: at, consentAt: input.consent ? at : null,
    })
    const eventId = appendEvent(db, 'asked-by-program', at, { personId, detail: 'new' })
    if (input.consent) insertConsent(db, {
      personId, eventId, pageVersionId: null, origin: input.consent.origin, wording: input.consent.wording, at, confirmedAt: null, ip: null,
      zone: null,
    })
    setFields(context, personId, input.fields)
    const cause = { at, causeId: eventId, ownAct: false }
    for (const listId of input.listIds) joinList(db, personId, listId, cause)
    for (const tagId of input.tagIds) giveTag(db, personId, tagId, cause)
    return personId
  })
  context.wake()
  return { id }
}

/** What is named is changed; a field set to null is forgotten. */
export function changePerson(
  context: WorkspaceContext, id: number,
  input: Partial<Pick<NewPerson, 'firstName' | 'zone' | 'country'>> & { fields?: Record<string, string | number | null> },
): ApiPerson {
  transact(context, () => {
    const person = findPerson(context.db, id)
    if (!person) throw new NotThere('There is no subscriber with this number.')
    correctPerson(context, id, {
      firstName: input.firstName ?? person.firstName, zone: input.zone === undefined ? person.zone : input.zone,
      country: input.country === undefined ? person.country : input.country, fields: {},
    }, 'program')
    setFields(context, id, input.fields ?? {})
  })
  return personOut(context, id)
}

/** By their names, as values of their kinds; checked like what is typed. */
function setFields(context: WorkspaceContext, id: number, values: Record<string, string | number | null>): void {
  const { db } = context
  const fields = new Map(allFields(db).map(field => [field.name.toLowerCase(), field]))
  const problems: FieldProblem[] = Object.keys(values).filter(name => !fields.has(name.toLowerCase()))
    .map(name => ({ field: `fields.${name}`, problem: 'There is no field with this name.' }))
  if (problems.length > 0) throw new InputProblem(problems)
  const person = findPerson(db, id)!
  const typed = Object.fromEntries(Object.entries(values).map(([name, value]) => {
    const field = fields.get(name.toLowerCase())!
    return [field.id, value === null ? '' : field.kind === 'yes-no' && typeof value === 'number' ? (value ? 'yes' : 'no') : String(value)]
  }))
  if (Object.keys(typed).length > 0) {
    correctPerson(context, id, { firstName: person.firstName, zone: person.zone, country: person.country, fields: typed }, 'program')
  }
}

/** Somebody begins a course that runs. */
export function beginCourse(context: WorkspaceContext, id: number, courseId: number): { outcome: 'enrolled' | 'stays-out' } {
  const { db } = context
  const outcome = transact(context, () => {
    if (!findPerson(db, id)) throw new NotThere('There is no subscriber with this number.')
    const at = context.clock.now()
    if (!findCourse(db, courseId)?.versionId) throw new NotNow('No running course has this number.')
    return enrol(db, {
      courseId, personId: id, at, causeId: appendEvent(db, 'asked-by-program', at, { personId: id, courseId }), ownAct: false,
    })
  })
  context.wake()
  return { outcome }
}

export function endCourse(context: WorkspaceContext, id: number, courseId: number): void {
  const { db } = context
  transact(context, () => {
    if (!findPerson(db, id)) throw new NotThere('There is no subscriber with this number.')
    const at = context.clock.now()
    if (endEnrolments(
      db, id, at, appendEvent(db, 'asked-by-program', at, { personId: id, courseId, detail: 'end' }), 'by-program',
      row => row.courseId === courseId,
    ) === 0) throw new NotNow('They are not in this course.')
  })
  context.wake()
}

export interface ApiEvent { id: number, kind: string, at: string, personId: number | null, causeId: number | null, says: string }

const eventOut = (event: ToldEvent): ApiEvent => ({
  id: event.id, kind: event.kind, at: iso(event.at), personId: event.personId, causeId: event.causeId, says: sayEvent(event),
})

/** The history of all, in the order it was written. */
export function eventsOut(
  { db }: WorkspaceContext, { after, limit }: { after: number, limit: number },
): { events: ApiEvent[], next: number } {
  const events = eventsSince(db, after, limit)
  return { events: events.map(eventOut), next: events.at(-1)?.id ?? after }
}

export function eventsOfOne({ db }: WorkspaceContext, id: number): { events: ApiEvent[] } {
  if (!findPerson(db, id)) throw new NotThere('There is no subscriber with this number.')
  return { events: eventsOfPerson(db, id).map(eventOut) }
}

