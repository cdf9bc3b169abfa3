/** The way from an empty workspace to a course that somebody gets: one entry a step, in the order in which they are done. */
import type { Mode } from '#core/views/frame'
import type { SetupKey, SetupStep } from '#core/views/today'
import type { Database } from '#data/connection'
import { allCourses } from '#data/courses'
import { allLists } from '#data/marks'
import { allPages } from '#data/pages'
import { countPeople } from '#data/people'
import { setupMarks, workspaceOf } from '#data/workspace'
import type { WorkspaceContext } from '../context'
import { inSight } from './inSight'

interface Entry {
  key: SetupKey
  /** Only where it can be done. */
  in?: Mode
  done(context: WorkspaceContext, hasLive: boolean): boolean
  /** The very control: the screen, and what on it the reader is led to. */
  to(context: WorkspaceContext): string
}

const pages = (db: Database) => inSight(db, 'page', allPages(db))
const courses = (db: Database) => inSight(db, 'course', allCourses(db))
const published = (db: Database) => pages(db).find(page => page.published !== null)
const running = (db: Database) => courses(db).find(({ status }) => status === 'running')

const SETUP: readonly Entry[] = [
  {
    key: 'sender',
    done({ db }) {
      const { senderAddress, postalAddress } = workspaceOf(db)
      return senderAddress !== '' && postalAddress.trim() !== ''
    },
    to({ db }) {
      const { senderAddress } = workspaceOf(db)
      return `/settings?at=${senderAddress === '' ? 'sender-name' : 'postal'}`
    },
  },
  {
    key: 'page', done: ({ db }) => published(db) !== undefined,
    to({ db }) {
      const [first] = pages(db)
      return first ? `/pages/${first.id}?at=publish` : '/pages?at=new-page'
    },
  },
  // After the page: whoever makes it with its course has a list by then.
  { key: 'list', done: ({ db }) => allLists(db).length > 0, to: () => '/tags-and-lists?at=new-list' },
  {
    key: 'course', done: ({ db }) => running(db) !== undefined,
    to({ db }) {
      const [first] = courses(db)
      return first ? `/courses/${first.id}?at=start` : '/courses?at=new-course'
    },
  },
  {
    key: 'tried', in: 'practice', done: ({ db }) => Object.values(countPeople(db)).some(people => people > 0),
    to(context) {
      const page = published(context.db)
      return page ? `${context.baseUrl}/p/${page.slug}` : '/pages'
    },
  },
  {
    key: 'rehearsed', in: 'practice', done: ({ db }) => setupMarks(db).rehearsedAt !== null,
    to({ db }) {
      const course = running(db) ?? courses(db)[0]
      return course ? `/courses/${course.id}?part=rehearsal` : '/courses?at=new-course'
    },
  },
  { key: 'live', in: 'practice', done: (_, hasLive) => hasLive, to: () => '/settings?at=go-live' },
]

/** What of it is done; null once all of it is, or the owner has put the list away. */
export function setupOf(context: WorkspaceContext, hasLive: boolean): SetupStep[] | null {
  if (setupMarks(context.db).hiddenAt !== null) return null
  const steps = SETUP.filter(entry => entry.in === undefined || entry.in === context.mode)
    .map(({ key, done, to }) => ({ key, done: done(context, hasLive), to: to(context) }))
  return steps.every(({ done }) => done) ? null : steps
}
