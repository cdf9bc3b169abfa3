/** Who gets which version of an email. Slow for many people: the server asks it in a thread of its own. */
import type { Condition } from '#core/audience/condition'
import { sayCondition } from '#core/audience/say'
import { toSql } from '#core/audience/sql'
import { choicesOf } from '#core/message/blocks'
import { kindOf } from '#core/sending/kinds'
import type { EmailVersions, WrittenEmail } from '#core/views/email'
import { countVersions } from '#data/audience'
import { findBroadcast } from '#data/broadcasts'
import { readTogether } from '#data/connection'
import { findList } from '#data/marks'
import { countWhere, findPerson } from '#data/people'
import type { WorkspaceContext } from '../context'
import { broadcastPeople } from '../inner/broadcastPeople'
import { momentOf } from '../inner/moment'
import { namesOf } from '../inner/names'
import { wholeEmail } from '../inner/wordings'
import { problemInEmail } from '../know/writtenEmail'
import { InputProblem } from '../problem'

/** More are counted, but not shown one by one. */
const MOST = 60

export interface VersionsAsked extends WrittenEmail { stepId: string | null }

export function emailVersions(context: WorkspaceContext, asked: VersionsAsked): EmailVersions {
  const { db, clock } = context
  return readTogether(db, () => {
    const wrong = problemInEmail(db, asked.content)
    if (wrong) throw new InputProblem([{ field: 'content', problem: wrong }])
    const moment = momentOf(db, clock.now())
    const choices = choicesOf(wholeEmail(context, asked.content))
    const fits = choices.map(({ who }) => who.filter(one => one !== null).map(one => toSql(one, moment)))
    // Nobody waits for it: then those for whom it could be.
    const audience = audiencesOf(context, asked).find(({ who }) => countWhere(db, { search: '', where: toSql(who, moment) }) > 0)
    const versions = audience ? countVersions(db, toSql(audience.who, moment), fits) : []
    const names = namesOf(db)
    return {
      whom: audience?.said ?? 'who could get it',
      people: versions.reduce((sum, { people }) => sum + people, 0),
      different: versions.length,
      choices: choices.map(({ key, blockId, who }, n) => {
        const people = (at: number) => versions.filter(({ chosen }) => chosen[n] === at).reduce((sum, one) => sum + one.people, 0)
        return {
          key, blockId, none: who.includes(null) ? 0 : people(who.length),
          cases: who.map((one, at) => ({ says: one === null ? 'everybody else' : sayCondition(one, names), people: people(at) })),
        }
      }),
      versions: versions.slice(0, MOST).map(({ chosen, people, someone }) => {
        const { id, firstName, address } = findPerson(db, someone)!
        return { chosen, people, reader: { id, name: firstName, address } }
      }),
    }
  })
}

/** Whom it is for, the nearest first. */
function audiencesOf(context: WorkspaceContext, { kind, ownerId, listId, stepId }: VersionsAsked): { who: Condition, said: string }[] {
  const { db } = context
  const broadcast = kindOf(kind).owner === 'broadcast' && ownerId !== null ? findBroadcast(db, ownerId) : undefined
  const list = listId === null ? undefined : findList(db, listId)
  const inside = (step: string | null): Condition => ({ kind: 'course', courseId: ownerId!, is: 'inside', stepId: step })
  return [
    ...kindOf(kind).owner === 'course' && ownerId !== null ? [
      ...stepId === null ? [] : [{ who: inside(stepId), said: 'who get it next' }],
      { who: inside(null), said: 'inside the course' },
    ] : [],
    ...broadcast ? [{ who: broadcastPeople(context, broadcast.draft).get('gets')!.where, said: 'who get it' }] : [],
    ...list ? [{
      who: { kind: 'all', of: [{ kind: 'may-be-mailed' }, { kind: 'list', listId: list.id, is: 'joined' }] } as Condition,
      said: `on the list “${list.name}”`,
    }] : [],
    { who: { kind: 'may-be-mailed' }, said: 'who can be emailed' },
  ]
}
