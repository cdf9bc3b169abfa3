/** House rules, links, webhooks, to-dos and notices. */
import type { RuleInput } from '#core/rules/rule'
import type { DeskView, TodoInput } from '#core/views/desk'
import type { HookInInput, HookOutInput, HooksView } from '#core/views/hooks'
import type { LinkInput, LinkLine, LinkView } from '#core/views/links'
import type { ChainView, RuleLine, RuleParts, RuleView, SavedRule, TriedView, Trying } from '#core/views/rules'
import type { TaskView } from '#core/views/tasks'
import type { Nothing } from './operation'

export interface RulesOperations {
  'GET /rules': { answer: RuleLine[] }
  'POST /rules': { body: RuleInput & { evenInCircle?: boolean }, answer: SavedRule }
  'GET /rules/:id': { answer: RuleView }
  'PUT /rules/:id': { body: RuleInput & { evenInCircle?: boolean }, answer: SavedRule }
  'DELETE /rules/:id': { answer: Nothing }
  'GET /rules/chain': { query: { firing: number }, answer: ChainView }
  'GET /rules/parts': { answer: RuleParts }
  'POST /rules/try': { body: Trying, answer: TriedView }
  'POST /rules/:id/run': { body: { people: number }, answer: TaskView }
  'POST /rules/:id/switch': { body: { on: boolean }, answer: Nothing }
  'GET /links': { answer: LinkLine[] }
  'POST /links': { body: LinkInput, answer: { id: number } }
  'GET /links/:id': { query: { days: number }, answer: LinkView }
  'PUT /links/:id': { body: LinkInput, answer: { id: number } }
  'DELETE /links/:id': { answer: Nothing }
  'GET /hooks': { answer: HooksView }
  'POST /hooks/in': { body: HookInInput, answer: { id: number } }
  'PUT /hooks/inside': { body: { allows: boolean }, answer: Nothing }
  'POST /hooks/out': { body: HookOutInput, answer: { id: number } }
  'POST /hooks/deliveries/:id': { answer: Nothing }
  'PUT /hooks/in/:id': { body: HookInInput, answer: { id: number } }
  'DELETE /hooks/in/:id': { answer: Nothing }
  'PUT /hooks/out/:id': { body: HookOutInput, answer: { id: number } }
  'DELETE /hooks/out/:id': { answer: Nothing }
  'POST /todos': { body: TodoInput, answer: { id: number } }
  'POST /todos/:id/done': { answer: Nothing }
  'DELETE /todos/:id/done': { answer: Nothing }
  'GET /desk': { answer: DeskView }
  'POST /notices/seen': { body: { upTo: number }, answer: Nothing }
}
