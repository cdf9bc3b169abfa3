import { handle } from '#server/http'
import { peopleSearch } from '#server/schemas'
import type { SubscribersQuery } from '#usecases/views/subscribers'
import { subscribersView } from '#usecases/views/subscribers'

export default handle({ query: peopleSearch }, ({ house, query }) => subscribersView(house, {
  search: query.search, sort: query.sort, page: query.page, tagId: query.tag, listId: query.list, pageId: query.optin,
  status: query.status as SubscribersQuery['status'],
  trouble: query.trouble as SubscribersQuery['trouble'],
  standing: query.course && query.is ? { courseId: query.course, is: query.is } : null,
  behind: query.course && query.step && query.number
    ? { courseId: query.course, stepId: query.step, number: query.number as NonNullable<SubscribersQuery['behind']>['number'] }
    : null,
}))
