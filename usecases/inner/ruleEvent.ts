/** What rules can ask of an event. */
import type { EventKind } from '#core/events'
import type { FieldKind } from '#core/people/field'
import { TRIGGERS, TRIGGER_KINDS } from '#core/rules/rule'
import type { RuleEvent } from '#core/rules/waking'
import type { SendOf } from '#core/sending/kinds'
import type { Database } from '#data/connection'
import { personalIn, type RawEvent } from '#data/events'
import { findField } from '#data/fields'
import { findEmail } from '#data/outbox'
import { findTodo } from '#data/todos'

export function ruleEventOf(db: Database, event: RawEvent): RuleEvent {
  const { kind, pageId, listId, tagId, tagFromId, courseId, stepId, linkId, fieldId, offerId, segmentId, hookId, detail } = event
  const said = kind === 'field-changed' ? personalIn(db, event.id) : {}
  const field = kind === 'field-changed' && fieldId !== null ? findField(db, fieldId)?.kind : undefined
  return {
    kind, pageId, listId, courseId, stepId, linkId, fieldId, offerId, segmentId, hookId, detail,
    tagIds: [tagId, tagFromId].filter(id => id !== null),
    from: valueOf(field, said.from), to: valueOf(field, said.to),
    send: IS_OF_SEND.has(kind) ? sendOf(db, event) : null,
    text: event.todoId === null ? null : findTodo(db, event.todoId)?.text ?? null,
  }
}

/** Of every one of these the email is looked up; other kinds are far more, and no rule asks it of them. */
const IS_OF_SEND: ReadonlySet<EventKind> = new Set(TRIGGER_KINDS.filter(kind => TRIGGERS[kind].ofSend))

/** One that is only tried has no email, but says which step of a course it would be. */
function sendOf(db: Database, { outboxId, courseId, stepId }: RawEvent): SendOf | null {
  const email = outboxId === null ? undefined : findEmail(db, outboxId)
  return email ?? (courseId === null ? null : { kind: 'course', ownerId: courseId, itemId: stepId ?? '' })
}

/** Events keep values as texts. */
function valueOf(kind: FieldKind | undefined, text: string | undefined): string | number | null {
  if (text === undefined) return null
  return kind === 'number' || kind === 'yes-no' ? Number(text) : text
}
