/** Tags, lists, fields and points. */
import type { MarksOperations } from '#core/operations/marks'
import { handle, type Operations } from '../http'
import { fieldInput, knownInput } from '../peopleSchemas'
import { inReader } from '../reader/index'
import { scoreInput } from '../ruleSchemas'
import { listInput, mergeInput, peopleInput, tagChange, tagInput } from '../schemas'
import { taskView } from '#usecases/know/doToMany'
import { deleteList, deleteTag, mergeLists, mergeTags } from '#usecases/know/endMarks'
import { removeField, saveField } from '#usecases/know/fields'
import { saveList, saveTag } from '#usecases/know/listsAndTags'
import { saveScoreRule, scoreView } from '#usecases/settings/score'
import { fieldLines } from '#usecases/views/fields'

export const marks: Operations<MarksOperations> = {
  'GET /tags': handle({}, ({ event, context }) => inReader(event, context.mode, 'tags')),
  'POST /tags': handle({ body: tagInput }, ({ context, body }) => ({ id: saveTag(context, null, body) })),
  'PUT /tags/:id': handle({ body: tagChange }, ({ context, id, body }) => ({ id: saveTag(context, id(), body) })),
  'DELETE /tags/:id': handle({ body: peopleInput }, ({ context, id, body }) => deleteTag(context, id(), body.people)),
  'POST /tags/:id/merge': handle({ body: mergeInput }, ({ context, id, body }) => taskView(context, mergeTags(context, id(), body.into))),
  'GET /lists': handle({}, ({ event, context }) => inReader(event, context.mode, 'lists')),
  'POST /lists': handle({ body: listInput }, ({ context, body }) => ({ id: saveList(context, null, body) })),
  'PUT /lists/:id': handle({ body: listInput }, ({ context, id, body }) => ({ id: saveList(context, id(), body) })),
  'DELETE /lists/:id': handle({ body: peopleInput }, ({ context, id, body }) => deleteList(context, id(), body.people)),
  'POST /lists/:id/merge': handle({ body: mergeInput }, ({ context, id, body }) => taskView(context, mergeLists(context, id(), body.into))),
  'GET /fields': handle({}, ({ context }) => fieldLines(context)),
  'POST /fields': handle({ body: fieldInput }, ({ context, body }) => ({ id: saveField(context, null, body) })),
  'PUT /fields/:id': handle({ body: fieldInput }, ({ context, id, body }) => ({ id: saveField(context, id(), body) })),
  'DELETE /fields/:id': handle({ body: knownInput }, ({ context, id, body }) => removeField(context, id(), body.known)),
  'GET /score': handle({}, ({ context }) => scoreView(context)),
  'PUT /score': handle({ body: scoreInput }, ({ context, body }) => {
    saveScoreRule(context, body)
    return scoreView(context)
  }),
}
