/** House rules, links, webhooks, to-dos and notices. */
import type { RulesOperations } from '#core/operations/rules'
import { asManyAs } from '../asMany'
import { handle, type Operations } from '../http'
import { inReader } from '../reader/index'
import {
  firingQuery, hookInInput, hookOutInput, insideInput, linkInput, linkQuery, ruleInput, runInput, seenInput, switchInput, todoInput,
  tryInput,
} from '../ruleSchemas'
import { taskView } from '#usecases/know/doToMany'
import { allowInside, removeHookIn, removeHookOut, saveHookIn, saveHookOut, sendAgain } from '#usecases/know/hooks'
import { removeLink, saveLink } from '#usecases/know/links'
import { removeRule, runRule, saveRule, switchRule } from '#usecases/know/rules'
import { addTodo, finishTodo, reopenTodo, seeNotices } from '#usecases/know/todos'
import { tryRules } from '#usecases/know/tryRule'
import { chainOf } from '#usecases/views/rules'

export const rules: Operations<RulesOperations> = {
  'GET /rules': handle({}, ({ event, context }) => inReader(event, context.mode, 'rules')),
  'POST /rules': handle({ body: ruleInput }, ({ context, body: { evenInCircle, ...rule } }) => saveRule(context, null, rule, evenInCircle)),
  'GET /rules/:id': handle({}, ({ event, context, id }) => inReader(event, context.mode, 'rule', id())),
  'PUT /rules/:id': handle({
    body: ruleInput,
  }, ({ context, id, body: { evenInCircle, ...rule } }) => saveRule(context, id(), rule, evenInCircle)),
  'DELETE /rules/:id': handle({}, ({ context, id }) => removeRule(context, id())),
  'GET /rules/chain': handle({ query: firingQuery }, ({ context, query }) => chainOf(context, query.firing)),
  'GET /rules/parts': handle({}, ({ event, context }) => inReader(event, context.mode, 'ruleParts')),
  'POST /rules/try': handle({ body: tryInput }, ({ context, body }) => tryRules(context, body)),
  'POST /rules/:id/run': handle({ body: runInput }, async ({ event, context, id, body: { people } }) => {
    await asManyAs(event, context, { kind: 'fit-rule', ruleId: id() }, people)
    return taskView(context, runRule(context, id(), people))
  }),
  'POST /rules/:id/switch': handle({ body: switchInput }, ({ context, id, body }) => switchRule(context, id(), body.on)),
  'GET /links': handle({}, ({ event, context }) => inReader(event, context.mode, 'links')),
  'POST /links': handle({ body: linkInput }, ({ context, body }) => ({ id: saveLink(context, null, body) })),
  'GET /links/:id': handle({
    query: linkQuery,
  }, ({ event, context, id, query }) => inReader(event, context.mode, 'link', { id: id(), days: query.days })),
  'PUT /links/:id': handle({ body: linkInput }, ({ context, id, body }) => ({ id: saveLink(context, id(), body) })),
  'DELETE /links/:id': handle({}, ({ context, id }) => removeLink(context, id())),
  'GET /hooks': handle({}, ({ event, context }) => inReader(event, context.mode, 'hooks')),
  'POST /hooks/in': handle({ body: hookInInput }, ({ context, body }) => ({ id: saveHookIn(context, null, body) })),
  'PUT /hooks/inside': handle({ body: insideInput }, ({ context, body }) => allowInside(context, body.allows)),
  'POST /hooks/out': handle({ body: hookOutInput }, ({ context, body }) => ({ id: saveHookOut(context, null, body) })),
  'POST /hooks/deliveries/:id': handle({}, ({ context, id }) => sendAgain(context, id())),
  'PUT /hooks/in/:id': handle({ body: hookInInput }, ({ context, id, body }) => ({ id: saveHookIn(context, id(), body) })),
  'DELETE /hooks/in/:id': handle({}, ({ context, id }) => removeHookIn(context, id())),
  'PUT /hooks/out/:id': handle({ body: hookOutInput }, ({ context, id, body }) => ({ id: saveHookOut(context, id(), body) })),
  'DELETE /hooks/out/:id': handle({}, ({ context, id }) => removeHookOut(context, id())),
  'POST /todos': handle({ body: todoInput }, ({ context, body }) => ({ id: addTodo(context, body) })),
  'POST /todos/:id/done': handle({}, ({ context, id }) => finishTodo(context, id())),
  'DELETE /todos/:id/done': handle({}, ({ context, id }) => reopenTodo(context, id())),
  'GET /desk': handle({}, ({ event, context }) => inReader(event, context.mode, 'desk')),
  'POST /notices/seen': handle({ body: seenInput }, ({ context, body }) => seeNotices(context, body.upTo)),
}
