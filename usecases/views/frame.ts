/** What stands around every screen: the wall and the rail. */
import type { ThingKind } from '#core/rules/rule'
import { allArchived } from '#data/archive'
import { lastEventId } from '#data/events'
import { isThere } from '#data/things'
import { emailsOf } from '#core/sequence/draft'
import type { ClockView, ComingSend, FrameView, NamedSend, RailView, SendName, SendOf } from '#core/views/frame'
import { HOUR } from '#core/time/zone'
import { readTogether } from '#data/connection'
import { backlog } from '#data/due'
import { allCourses } from '#data/courses'
import { offerNames } from '#data/offers'
import { allPages } from '#data/pages'
import { countPeople } from '#data/people'
import { linkNames } from '#data/links'
import { countMarks } from '#data/marks'
import { countRules } from '#data/rules'
import { allSegments } from '#data/segments'
import { countOpenTodos } from '#data/todos'
import { practiceClock, workspaceOf } from '#data/workspace'
import type { House } from '../house'
import { forecast } from './forecast'
import { guarded } from './guarded'

export function frameView(house: House): Omit<FrameView, 'hasLive'> {
  const { db } = house
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
        offers: offerNames(db).length - away('offer'),
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

export const clockView = (house: House): ClockView => ({ now: house.clock.now(), zone: workspaceOf(house.db).zone })

/** Sends this close together share a post: closer ones could not be told apart on the rail. */
const POST_STRETCH = 2 * HOUR

export function railView(house: House): RailView {
  const { db } = house
  return readTogether(db, () => {
    const now = house.clock.now()
    const clock = practiceClock(db)
    return {
      now,
      movingTo: clock && clock.targetAt > clock.nowAt ? clock.targetAt : null,
      zone: workspaceOf(db).zone,
      backlog: backlog(db, now),
      eventId: lastEventId(db),
      posts: guarded(house, 'the coming sends of the rail', () => allNamed(house, forecast(house, POST_STRETCH))),
    }
  })
}

/** Says of coming sends what they are called. */
export function namer({ db }: House): (send: SendOf) => SendName {
  const courses = new Map(allCourses(db).map(course => [course.id, course]))
  const offers = new Map(offerNames(db).map(({ id, name }) => [id, name]))
  const titles = new Map<number, Map<string, string>>()
  const titlesOf = (courseId: number) => {
    const course = courses.get(courseId)
    // As it runs, and as it is written where it does not run.
    return new Map([course?.draft, course?.published].flatMap(one => one ? emailsOf(one) : []).map(({ id, content }) => [id, content.workingTitle]))
  }
  return ({ kind, thingId, stepId }) => {
    if (kind === 'opening') return { of: offers.get(thingId) ?? 'an offer that is gone', title: 'It can be bought', to: `/offers/${thingId}?part=waiting` }
    let known = titles.get(thingId)
    if (!known) titles.set(thingId, known = titlesOf(thingId))
    return { of: courses.get(thingId)?.name ?? 'a course that is gone', title: known.get(stepId) || 'an email that was taken out', to: `/courses/${thingId}` }
  }
}

/** Coming sends with their names. */
export function allNamed(house: House, sends: readonly ComingSend[]): NamedSend[] {
  const named = namer(house)
  return sends.map(send => ({ ...send, ...named(send) }))
}
