/** What an address outside is told when a rule calls it. */
import { sayEvent } from '#core/events'
import type { Database } from '#data/connection'
import { toldEvent } from '#data/events'
import { fieldsOfPerson, findField } from '#data/fields'
import { listsOfPerson, tagsOfPerson } from '#data/marks'
import { findPerson } from '#data/people'
import type { ActionCause } from '../facts/cause'

/** JSON, as the Standard Webhooks specification shapes it: a type, a time, the data. */
export function calledBody(db: Database, personId: number, { at, causeId, ruleId, courseId }: ActionCause): string {
  const person = findPerson(db, personId)!
  const event = toldEvent(db, causeId)!
  return JSON.stringify({
    type: courseId === undefined ? 'rule.acted' : 'course.acted',
    timestamp: new Date(at).toISOString(),
    data: {
      ...ruleId !== null && { rule: { id: ruleId } }, ...courseId !== undefined && { course: { id: courseId } },
      event: { id: causeId, kind: event.kind, at: new Date(event.at).toISOString(), says: sayEvent(event) },
      subscriber: {
        id: personId, email: person.address, firstName: person.firstName, status: person.status, zone: person.zone, country: person.country,
        tags: tagsOfPerson(db, personId).map(({ name }) => name),
        lists: listsOfPerson(db, personId).filter(({ leftAt }) => leftAt === null).map(({ name }) => name),
        fields: Object.fromEntries(fieldsOfPerson(db, personId).map(({ fieldId, value }) => [findField(db, fieldId)!.name, value])),
      },
    },
  })
}
