/** The address of the table of subscribers, as the use cases ask it. */
import type { PeopleSearch } from '#core/views/people'
import type { SubscribersQuery } from '#usecases/views/subscribers'
import type { Narrowing } from '#usecases/inner/narrowing'

export function narrowingOf(query: PeopleSearch): Narrowing {
  return {
    where: query.where, tagId: query.tag, listId: query.list, segmentId: query.segment, pageId: query.optin,
    status: query.status as Narrowing['status'],
    heldBack: query.held as Narrowing['heldBack'],
    ofBroadcast: query.broadcast && query.who ? { id: query.broadcast, key: query.who } : null,
    trouble: query.trouble as Narrowing['trouble'],
    standing: query.course && query.is ? { courseId: query.course, is: query.is } : null,
    behind: query.course && query.step && query.number
      ? { courseId: query.course, stepId: query.step, number: query.number as NonNullable<Narrowing['behind']>['number'] }
      : null,
  }
}

export const subscribersQuery = (query: PeopleSearch): SubscribersQuery => ({
  ...narrowingOf(query), search: query.search, sort: query.sort, page: query.page,
})
