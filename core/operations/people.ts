/** Subscribers, imports, and what is done to many at once. */
import type { ImportSpec } from '#core/exchange/importing'
import type { EmailKind } from '#core/sending/kinds'
import type { ImportPlan, ImportView, UploadQuery } from '#core/views/imports'
import type { WhyTheyLeft } from '#core/views/marks'
import type { PeopleSearch, PersonInput, SubscriberView, SubscribersCount, SubscribersView } from '#core/views/people'
import type { TaskInput, TaskView } from '#core/views/tasks'
import type { Download, Nothing } from './operation'

/** Everybody as the table is narrowed, or those who were picked in it. */
type TaskAsked = Pick<TaskInput, 'doing' | 'said'> & {
  whom: { kind: 'all', query: Partial<Record<keyof PeopleSearch, unknown>> } | { kind: 'picked', ids: number[] }
}

export interface PeopleOperations {
  'GET /subscribers': { query: PeopleSearch, answer: SubscribersView }
  'GET /subscribers/:id': { answer: SubscriberView }
  'PUT /subscribers/:id': { body: PersonInput, answer: SubscriberView }
  'DELETE /subscribers/:id': { answer: Nothing }
  'GET /subscribers/count': { query: PeopleSearch, answer: SubscribersCount }
  'GET /subscribers/export': { query: PeopleSearch & { columns: string, ids: string }, answer: Download }
  'PUT /subscribers/:id/address': { body: { address: string }, answer: SubscriberView }
  'GET /subscribers/:id/export': { answer: Download }
  'POST /subscribers/:id/mark': { body: { as: 'bounced' | 'complained', reason: string }, answer: SubscriberView }
  'POST /subscribers/:id/merge': { body: { otherId: number, address: string }, answer: SubscriberView }
  'POST /subscribers/:id/replied': { answer: Nothing }
  'GET /subscribers/:id/why': { query: { kind: EmailKind, owner: number, item: string }, answer: string[] }
  'POST /subscribers/:id/lists/:listId': { answer: SubscriberView }
  'DELETE /subscribers/:id/lists/:listId': { answer: SubscriberView }
  'POST /subscribers/:id/tags/:tagId': { answer: SubscriberView }
  'DELETE /subscribers/:id/tags/:tagId': { answer: SubscriberView }
  'POST /imports': { query: UploadQuery, file: true, answer: ImportView }
  'POST /imports/:id/begin': { body: ImportSpec, answer: TaskView }
  'POST /imports/:id/plan': { body: ImportSpec, answer: ImportPlan }
  'GET /imports/:id/refused': { answer: Download }
  'GET /tasks': { answer: TaskView[] }
  'POST /tasks': { body: TaskAsked, answer: TaskView }
  'GET /tasks/:id': { answer: TaskView }
  'POST /tasks/:id/back': { answer: TaskView }
  'POST /tasks/:id/stop': { answer: TaskView }
  'GET /leaving': { answer: WhyTheyLeft[] }
}
