/** What one reader brings to the places of an email, and which of its versions they get. */
import { mapIds } from '#core/mentions'
import { holds } from '#core/audience/meaning'
import { sayCondition, type Names } from '#core/audience/say'
import { caseFor, type Choice } from '#core/message/blocks'
import type { Filled } from '#core/message/fill'
import { readFact } from '#core/message/placeholders'
import { sayInFull, sayLeft } from '#core/time/say'
import { addDays, localOf, type Instant, type LocalDate } from '#core/time/zone'
import { sayField } from '#core/people/field'
import type { Person } from '#core/views/people'
import { lazyFacts } from '#data/audience'
import type { Database } from '#data/connection'
import { fieldOfPerson, findField } from '#data/fields'
import { standsFor } from '#data/markEnds'
import { nameInMail } from '#data/people'
import type { SenderRow } from '#data/senders'
import { workspaceOf } from '#data/workspace'
import { momentOf } from './moment'
import { factsOfSender } from './senderOf'

export interface Reader {
  /** Null for a stranger, who is told nothing of anybody. */
  person: Pick<Person, 'id' | 'address' | 'zone'> | null
  /** What the list is called in public. */
  listName: string
  /** When they joined the course that it is an email of. */
  joinedAt: Instant | null
  at: Instant
  /** Who writes. */
  sender: Pick<SenderRow, 'name'> | undefined
}

/** The facts that are asked for, as far as they are known. */
export function factsOfReader(db: Database, needed: ReadonlySet<string>, reader: Reader): Filled['facts'] {
  const { person, listName, joinedAt, at, sender } = reader
  const workspace = workspaceOf(db)
  const zone = person?.zone ?? workspace.zone
  const always: Record<string, string | undefined> = {
    ...factsOfSender(workspace, sender), list_name: listName, workspace_name: workspace.name, email: person?.address,
    first_name: person && needed.has('first_name') ? nameInMail(db, person.id) : undefined,
  }
  const days: Partial<Record<string, () => LocalDate | null>> = {
    today: () => localOf(at, zone).date,
    began: () => joinedAt === null ? null : localOf(joinedAt, zone).date,
  }
  const known = (fact: string): string | null => {
    if (Object.hasOwn(always, fact)) return always[fact] ?? null
    const [name, instant] = fact.split(' ')
    if (name === 'moment') return sayInFull(Number(instant), zone)
    if (name === 'left') return sayLeft(Number(instant) - at)
    const read = readFact(fact)
    if (read?.field === 'own') return person && ownValue(db, read.n, person.id)
    const date = read && days[read.field]?.()
    return date ? addDays(date, read.n) : null
  }
  const facts: Filled['facts'] = {}
  for (const fact of needed) {
    const value = known(fact)
    if (value !== null) facts[fact] = value
  }
  return facts
}

function ownValue(db: Database, fieldId: number, personId: number): string | null {
  const value = fieldOfPerson(db, fieldId, personId)
  const kind = findField(db, fieldId)?.kind
  return value === null || !kind ? null : sayField(kind, value)
}

/** Tags and lists may have been merged into others since it was written. */
const asOfToday = (db: Database, who: Choice['who'][number]): Choice['who'][number] => who && mapIds(who, (kind, id) =>
  (kind === 'tag' ? standsFor(db, 'tags', id) : kind === 'list' ? standsFor(db, 'lists', id) : id) ?? id)

/** Of each choice the first case that fits this person now. */
export function chooseFor(db: Database, choices: readonly Choice[], personId: number, now: Instant): Filled['chosen'] {
  if (choices.length === 0) return {}
  const facts = lazyFacts(db, personId)
  const moment = momentOf(db, now)
  return Object.fromEntries(choices.map(({ key, who }) =>
    [key, caseFor(who, one => facts !== undefined && holds(asOfToday(db, one)!, facts, moment))]))
}

/** Why a reader gets the case with that number; less than 0 for none. */
export function sayCase(who: Choice['who'], n: number, names: Names): string {
  const fits = who[n]
  if (fits) return `Is among people ${sayCondition(fits, names)}.`
  const others = who.filter(one => one !== null).map(one => sayCondition(one, names)).join(', nor among people ')
  return fits === null ? `Is not among people ${others}.` : `Gets nothing here: is not among people ${others}.`
}

/** What somebody gets of whom nothing is known: what is for everybody, else the first. */
export const elseOf = ({ who }: Pick<Choice, 'who'>): number => Math.max(0, who.indexOf(null))
