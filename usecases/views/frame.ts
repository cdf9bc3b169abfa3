/** What stands around every screen: the wall and the rail. */
import type { ThingKind } from '#core/things'
import { allArchived } from '#data/archive'
import { lastEventId } from '#data/events'
import { lastMailId } from '#data/mailbox'
import { isThere } from '#data/things'
import type { ClockView, ComingSend, FrameView, NamedSend, RailView } from '#core/views/frame'
import { HOUR } from '#core/time/zone'
import { readTogether } from '#data/connection'
import { backlog } from '#data/due'
import { allCourses } from '#data/courses'
import { offerNames } from '#data/offers'
import { allPages } from '#data/pages'
import { countBroadcasts } from '#data/broadcasts'
import { countPeople } from '#data/people'
import { linkNames } from '#data/links'
import { countMarks } from '#data/marks'
import { countRules } from '#data/rules'
import { allSegments } from '#data/segments'
import { countOpenTodos } from '#data/todos'
import { practiceClock, workspaceOf } from '#data/workspace'
import type { WorkspaceContext } from '../context'
import { sendNamer } from '../inner/sendNames'
import { forecast } from './forecast'
import { guarded } from './guarded'

export function frameView(context: WorkspaceContext): Omit<FrameView, 'hasLive'> {
  const { db } = context
  return readTogether(db, () => {
    const { name, zone, mode } = workspaceOf(db)
    const people = countPeople(db)
    const archived = allArchived(db).filter(({ kind, id }) => isThere(db, kind, id))
    /** How many of these kinds are put away. */
    const away = (...kinds: ThingKind[]) => archived.filter(({ kind }) => kinds.includes(kind)).length
    return {
      workspace: { name, zone, mode },
      counts: {
        pages: allPages(db).length - away('page'),
        offers: offerNames(db).length - away('offer'), broadcasts: countBroadcasts(db) - away('broadcast'),
        subscribers: people.pending + people.active + people.resting,
        segments: allSegments(db).length - away('segment'),
        tagsAndLists: countMarks(db) - away('tag', 'list'),
        links: linkNames(db).length - away('link'),
        houseRules: countRules(db) - away('rule'),
        toDos: countOpenTodos(db),
        courses: allCourses(db).length - away('course'),
      },
      archived,
    }
  })
}

export function clockView({ db, clock }: WorkspaceContext): ClockView {
  const now = clock.now()
  const { zone, heldSinceAt } = workspaceOf(db)
  return { now, zone, backlog: backlog(db, now, heldSinceAt === null), eventId: lastEventId(db), mailId: lastMailId(db) }
}

/** Sends this close together share a post: closer ones could not be told apart on the rail. */
const POST_STRETCH = 2 * HOUR

export function railView(context: WorkspaceContext): RailView {
  const { db } = context
  return readTogether(db, () => {
    const clock = practiceClock(db)
    return {
      ...clockView(context),
      movingTo: clock && clock.targetAt > clock.nowAt ? clock.targetAt : null,
      posts: guarded(context, 'the coming sends of the rail', () => allNamed(context, forecast(context, POST_STRETCH))),
    }
  })
}

/** Coming sends with their names. */
export function allNamed(context: WorkspaceContext, sends: readonly ComingSend[]): NamedSend[] {
  const named = sendNamer(context.db)
  return sends.map(send => ({ ...send, ...named(send) }))
}
