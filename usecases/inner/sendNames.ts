/** What a send is called, of what it is, and where that is made: the same on the rail, in lists, in results and on a person's page. */
import { kindOf, type SendKind, type SendOf } from '#core/sending/kinds'
import { nameOfMessage } from '#core/message/content'
import { emailsOf } from '#core/sequence/draft'
import type { SendName } from '#core/views/frame'
import type { Database } from '#data/connection'
import { findCourse } from '#data/courses'
import { latestTitle } from '#data/messages'
import { nameOfThing } from '#data/things'

/** Of what, and where that is made. */
const OWNERS: Record<Exclude<SendKind['owner'], null>, (db: Database, id: number) => Pick<SendName, 'of' | 'to'>> = {
  course: (db, id) => ({ of: nameOfThing(db, 'course', id) ?? 'a deleted course', to: `/courses/${id}` }),
  page: (db, id) => ({ of: nameOfThing(db, 'page', id) ?? 'a deleted page', to: `/pages/${id}` }),
  offer: (db, id) => ({ of: nameOfThing(db, 'offer', id) ?? 'a deleted offer', to: `/offers/${id}` }),
  broadcast: (_, id) => ({ of: 'a broadcast', to: `/broadcasts/${id}` }),
  rule: (_, id) => ({ of: 'a house rule', to: `/house-rules/${id}` }),
}

/** Kinds whose emails are called otherwise than their latest wording, or have a place of their own. */
const OWN: Partial<Record<SendOf['kind'], (db: Database, of: SendOf) => Partial<SendName>>> = {
  course: (db, { ownerId, itemId }) => ({ title: stepTitle(db, ownerId, itemId) }),
  // It has a title before it is made.
  broadcast: (db, { ownerId }) => ({ title: nameOfThing(db, 'broadcast', ownerId) ?? 'a deleted broadcast' }),
  again: (db, { ownerId }) => ({ of: 'a second sending', title: nameOfThing(db, 'broadcast', ownerId) ?? 'a deleted broadcast' }),
  opening: (_, { ownerId }) => ({ title: 'It can be bought', to: `/offers/${ownerId}?part=waiting` }),
}

/** As it runs, and as it is written where it does not run. */
function stepTitle(db: Database, courseId: number, stepId: string): string {
  const course = findCourse(db, courseId)
  const step = [course?.published, course?.draft].flatMap(draft => draft ? emailsOf(draft) : []).find(({ id }) => id === stepId)
  return (step && nameOfMessage(step.content)) || 'a removed email'
}

export function nameOfSend(db: Database, of: SendOf): SendName {
  const { owner, word } = kindOf(of.kind)
  return {
    ...owner === null ? { of: word, to: null } : OWNERS[owner](db, of.ownerId),
    title: OWN[of.kind] ? '' : latestTitle(db, of) || `an email without a title`,
    ...OWN[of.kind]?.(db, of),
  }
}

/** The same for many of the same few, each looked up once. */
export function sendNamer(db: Database): (of: SendOf) => SendName {
  const known = new Map<string, SendName>()
  return (of) => {
    const key = keyOfSend(of)
    let name = known.get(key)
    if (!name) known.set(key, name = nameOfSend(db, of))
    return name
  }
}

export const keyOfSend = ({ kind, ownerId, itemId }: SendOf): string => `${kind} ${ownerId} ${itemId}`

/** The other way round. */
export function sendOfKey(key: string): SendOf {
  const [kind, ownerId, ...itemId] = key.split(' ')
  return { kind: kind as SendOf['kind'], ownerId: Number(ownerId), itemId: itemId.join(' ') }
}
