/** Tags, lists, fields and the score. */
import type { FieldInput } from '#core/people/field'
import type { TagInput } from '#core/people/tag'
import type { ScoreRule } from '#core/score/score'
import type { FieldLine } from '#core/views/audience'
import type { ListInput, ListLine, TagLine } from '#core/views/marks'
import type { ScoreView } from '#core/views/score'
import type { TaskView } from '#core/views/tasks'
import type { Nothing } from './operation'

/** The rest begins as usual. */
type TagAsked = Pick<TagInput, 'name' | 'note' | 'follows'> & Partial<TagInput>

export interface MarksOperations {
  'GET /tags': { answer: TagLine[] }
  'POST /tags': { body: TagAsked, answer: { id: number } }
  'PUT /tags/:id': { body: TagAsked, answer: { id: number } }
  'DELETE /tags/:id': { body: { people: number }, answer: Nothing }
  'POST /tags/:id/merge': { body: { into: number }, answer: TaskView }
  'GET /lists': { answer: ListLine[] }
  'POST /lists': { body: ListInput, answer: { id: number } }
  'PUT /lists/:id': { body: ListInput, answer: { id: number } }
  'DELETE /lists/:id': { body: { people: number }, answer: Nothing }
  'POST /lists/:id/merge': { body: { into: number }, answer: TaskView }
  'GET /fields': { answer: FieldLine[] }
  'POST /fields': { body: FieldInput, answer: { id: number } }
  'PUT /fields/:id': { body: FieldInput, answer: { id: number } }
  'DELETE /fields/:id': { body: { known: number }, answer: Nothing }
  'GET /score': { answer: ScoreView }
  'PUT /score': { body: ScoreRule, answer: ScoreView }
}
