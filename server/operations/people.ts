/** Subscribers, and what is done to many of them. */
import { setResponseHeader } from 'h3'
import type { PeopleOperations } from '#core/operations/people'
import { asManyAs } from '../asMany'
import { keepImport } from '../files/index'
import { handle, type Operations } from '../http'
import { importSpec, uploadQuery } from '../importSchemas'
import { narrowingOf, subscribersQuery } from '../peopleQuery'
import { addressInput, exportQuery, mergeInput, peopleSearch, personInput, taskInput, whyQuery } from '../peopleSchemas'
import { inReader } from '../reader/index'
import { markInput } from '../schemas'
import { streamText } from '../streamText'
import { correctPerson, giveTagByHand, joinListByHand, leaveListByHand, markUnreachable, takeTagByHand } from '#usecases/know/byHand'
import { doToMany, stopTask, takeBack, taskPeople, taskView, taskViews, type Whom } from '#usecases/know/doToMany'
import { erasePerson } from '#usecases/know/erase'
import { importView } from '#usecases/know/importFile'
import { beginImport, oddRowsCsv } from '#usecases/know/importPeople'
import { changeAddress, mergePeople } from '#usecases/know/sameness'
import { noteReply } from '#usecases/know/todos'
import { exportWriter } from '#usecases/views/exportPeople'
import { exportPerson } from '#usecases/views/exportPerson'
import { whyTheyLeft } from '#usecases/views/listsAndTags'
import { subscriberView } from '#usecases/views/subscriber'
import { whyView } from '#usecases/views/why'

const CHUNK = 500

/** Room for 500,000 rows with a dozen columns. */
const MOST_BYTES = 100_000_000

export const people: Operations<PeopleOperations> = {
  'GET /subscribers': handle({
    query: peopleSearch,
  }, ({ event, context, query }) => inReader(event, context.mode, 'subscribers', subscribersQuery(query))),
  'GET /subscribers/:id': handle({}, ({ context, id }) => subscriberView(context, id())),
  'PUT /subscribers/:id': handle({ body: personInput }, ({ context, id, body }) => {
    correctPerson(context, id(), body)
    return subscriberView(context, id())
  }),
  'DELETE /subscribers/:id': handle({}, ({ context, id }) => erasePerson(context, id())),
  'GET /subscribers/count': handle({
    query: peopleSearch,
  }, ({ event, context, query }) => inReader(event, context.mode, 'subscribersCount', subscribersQuery(query))),
  /** The people of the table as it is narrowed, or those picked in it, as CSV; written as it is read, so that nobody waits for it. */
  'GET /subscribers/export': handle({ query: exportQuery }, async ({ event, context, query }) => {
    const ids = query.ids === '' ? null : query.ids.split(',').filter(Boolean).map(Number)
    const people = await inReader(event, context.mode, 'idsToExport', { search: query.search, narrowing: narrowingOf(query), ids })
    const writer = exportWriter(context, query.columns.split(','))
    function* chunks() {
      yield writer.head
      for (let at = 0; at < people.length; at += CHUNK) yield writer.lines(people.slice(at, at + CHUNK))
    }
    return streamText(event, chunks(), { type: 'text/csv', fileName: 'subscribers.csv' })
  }),
  'PUT /subscribers/:id/address': handle({ body: addressInput }, ({ context, id, body }) => {
    changeAddress(context, id(), body.address)
    return subscriberView(context, id())
  }),
  'GET /subscribers/:id/export': handle({}, ({ event, context, id }) => {
    const everything = exportPerson(context, id())
    setResponseHeader(event, 'content-disposition', `attachment; filename="subscriber-${id()}.json"`)
    setResponseHeader(event, 'content-type', 'application/json; charset=utf-8')
    return `${JSON.stringify(everything, null, 2)}\n`
  }),
  'POST /subscribers/:id/mark': handle({ body: markInput }, ({ context, body, id }) => {
    markUnreachable(context, id(), body.as, body.reason)
    return subscriberView(context, id())
  }),
  'POST /subscribers/:id/merge': handle({ body: mergeInput }, ({ context, id, body }) => {
    mergePeople(context, id(), body.otherId, body.address)
    return subscriberView(context, id())
  }),
  'POST /subscribers/:id/replied': handle({}, ({ context, id }) => noteReply(context, id())),
  'GET /subscribers/:id/why': handle({
    query: whyQuery,
  }, ({ context, id, query }) => whyView(context, id(), { kind: query.kind, ownerId: query.owner, itemId: query.item })),
  'POST /subscribers/:id/lists/:listId': handle({}, ({ context, id }) => {
    joinListByHand(context, id(), id('listId'))
    return subscriberView(context, id())
  }),
  'DELETE /subscribers/:id/lists/:listId': handle({}, ({ context, id }) => {
    leaveListByHand(context, id(), id('listId'))
    return subscriberView(context, id())
  }),
  'POST /subscribers/:id/tags/:tagId': handle({}, ({ context, id }) => {
    giveTagByHand(context, id(), id('tagId'))
    return subscriberView(context, id())
  }),
  'DELETE /subscribers/:id/tags/:tagId': handle({}, ({ context, id }) => {
    takeTagByHand(context, id(), id('tagId'))
    return subscriberView(context, id())
  }),
  'POST /imports': handle({ upload: MOST_BYTES, query: uploadQuery }, async ({ context, bytes, query: { name, encoding, delimiter } }) =>
    importView(context, await keepImport(context, { fileName: name, bytes, encoding, delimiter }))),
  'POST /imports/:id/begin': handle({ body: importSpec }, ({ context, body, id }) => taskView(context, beginImport(context, id(), body))),
  'POST /imports/:id/plan': handle({
    body: importSpec,
  }, ({ event, context, body, id }) => inReader(event, context.mode, 'importPlan', { id: id(), spec: body })),
  'GET /imports/:id/refused': handle({}, ({ event, context, id }) => streamText(event, oddRowsCsv(context, id()), {
    type: 'text/csv', fileName: 'rows to look at.csv',
  })),
  'GET /tasks': handle({}, ({ context }) => taskViews(context)),
  'POST /tasks': handle({ body: taskInput }, async ({ event, context, body: { whom, doing, said } }) => {
    const everybody: Whom = whom.kind === 'all' ? { kind: 'all', search: whom.query.search, narrowing: narrowingOf(whom.query) } : whom
    await asManyAs(event, context, taskPeople(context, everybody), said)
    return taskView(context, doToMany(context, everybody, doing, said))
  }),
  'GET /tasks/:id': handle({}, ({ context, id }) => taskView(context, id())),
  'POST /tasks/:id/back': handle({}, ({ context, id }) => taskView(context, takeBack(context, id()))),
  'POST /tasks/:id/stop': handle({}, ({ context, id }) => {
    stopTask(context, id())
    return taskView(context, id())
  }),
  'GET /leaving': handle({}, ({ context }) => whyTheyLeft(context)),
}
