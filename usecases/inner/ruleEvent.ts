/** What rules can ask of an event. */
import type { FieldKind } from '#core/people/field'
import type { RuleEvent } from '#core/rules/waking'
import type { Database } from '#data/connection'
import { personalIn, type RawEvent } from '#data/events'
import { findField } from '#data/fields'
import { findTodo } from '#data/todos'

export function ruleEventOf(db: Database, event: RawEvent): RuleEvent {
  const { kind, pageId, listId, tagId, tagFromId, courseId, stepId, linkId, fieldId, offerId, segmentId, hookId, detail } = event
  const said = kind === 'field-changed' ? personalIn(db, event.id) : {}
  const field = kind === 'field-changed' && fieldId !== null ? findField(db, fieldId)?.kind : undefined
  return {
    kind, pageId, listId, courseId, stepId, linkId, fieldId, offerId, segmentId, hookId, detail,
    tagIds: [tagId, tagFromId].filter(id => id !== null),
    from: valueOf(field, said.from), to: valueOf(field, said.to),
    text: event.todoId === null ? null : findTodo(db, event.todoId)?.text ?? null,
  }
}

/** Events keep values as texts. */
function valueOf(kind: FieldKind | undefined, text: string | undefined): string | number | null {
  if (text === undefined) return null
  return kind === 'number' || kind === 'yes-no' ? Number(text) : text
}
