/** Finding anything of the workspace by a part of its name: one entry a kind of thing. */
import { fold } from '#core/audience/condition'
import { emailsOf } from '#core/sequence/draft'
import { nameOfMessage } from '#core/message/content'
import type { Found } from '#core/views/find'
import { fitOf } from '#core/fit'
import { broadcastNames } from '#data/broadcasts'
import type { Database } from '#data/connection'
import { readTogether } from '#data/connection'
import { allCourses } from '#data/courses'
import { allParts } from '#data/emailParts'
import { allFields } from '#data/fields'
import { allLinks } from '#data/links'
import { allLists, allTags } from '#data/marks'
import { allOffers } from '#data/offers'
import { allPages } from '#data/pages'
import { findPeople } from '#data/people'
import { allSegments } from '#data/segments'
import type { WorkspaceContext } from '../context'
import { namesOfRules } from '../inner/names'

/** So many are named in all, and so many people among them. */
const MOST = 24
const MOST_PEOPLE = 8

const THINGS: readonly ((db: Database) => Found[])[] = [
  db => allPages(db).map(({ id, name, slug }) => ({ kind: 'page', name, more: `/p/${slug}`, to: `/pages/${id}` })),
  db => allOffers(db).map(({ id, name, slug }) => ({ kind: 'offer', name, more: `/s/${slug}`, to: `/offers/${id}` })),
  db => broadcastNames(db).map(({ id, name }) => ({ kind: 'broadcast', name, more: '', to: `/broadcasts/${id}` })),
  db => allCourses(db).map(({ id, name }) => ({ kind: 'course', name, more: '', to: `/courses/${id}` })),
  db => allCourses(db).flatMap(course => emailsOf(course.draft).map((step): Found => ({
    kind: 'email', name: nameOfMessage(step.content), more: course.name,
    to: `/courses/${course.id}?at=step-${step.id}`,
  })).filter(({ name }) => name !== '')),
  db => allSegments(db).map(({ id, name }) => ({ kind: 'segment', name, more: '', to: `/segments/${id}` })),
  db => allTags(db).map(({ id, name }) => ({ kind: 'tag', name, more: '', to: `/tags-and-lists?at=tag-${id}` })),
  db => allLists(db).map(({ id, name }) => ({ kind: 'list', name, more: '', to: `/tags-and-lists?at=list-${id}` })),
  db => allFields(db).map(({ name }) => ({ kind: 'field', name, more: '', to: '/tags-and-lists?at=fields' })),
  db => allParts(db).map(({ id, name }) => ({ kind: 'part', name, more: '', to: `/email-parts?part=${id}` })),
  db => allLinks(db).map(({ id, name, url }) => ({ kind: 'link', name, more: url, to: `/links/${id}` })),
  db => namesOfRules(db).map(({ id, name }) => ({ kind: 'rule', name, more: '', to: `/house-rules/${id}` })),
]

/** Those that fit best first; `text` in any letters. */
export function findAnything({ db }: WorkspaceContext, text: string): Found[] {
  const sought = fold(text.trim())
  if (sought === '') return []
  return readTogether(db, () => {
    const things = THINGS.flatMap(all => all(db)).flatMap((found) => {
      const fit = fitOf(fold(found.name), sought)
      return fit === null ? [] : [{ found, fit }]
    }).sort((a, b) => a.fit - b.fit).map(({ found }) => found)
    const people = findPeople(db, sought, MOST_PEOPLE).map(({ id, firstName, address }): Found => ({
      kind: 'person', name: firstName || address, more: firstName ? address : '', to: `/subscribers/${id}`,
    }))
    return [...things.slice(0, MOST - people.length), ...people]
  })
}
