/** What can be done to many people at once. It runs bit by bit in the engine, and says of everybody what was done. */
import type { ImportSpec } from '#core/exchange/importing'
import type { Condition } from '../audience/condition'
import type { FieldValue } from './field'

export type TaskSpec =
  | { kind: 'give-tag' | 'take-tag', tagId: number }
  | { kind: 'put-on-list' | 'take-off-list', listId: number }
  /** Null forgets what was known. */
  | { kind: 'set-field', fieldId: number, value: FieldValue | null }
  /**
   * `comesIn` left out: now. Spread: evenly over so many days (24 hours), 1 to 90. By joining: where they would stand had they come in
   * when they got what starts the course. By date: with the next return of their date.
   */
  | { kind: 'enrol', courseId: number, comesIn?: { kind: 'spread', days: number } | { kind: 'by-joining' } | { kind: 'by-date' } }
  /** Who has come to the end of a course goes on before this step of its new end. */
  | { kind: 'go-on', courseId: number, toId: string }
  | { kind: 'erase' }
  /** What a house rule does, for those whose moment has come already. */
  | { kind: 'rule', ruleId: number }
  /** The rows of a table that came in, which may be of people not known yet. */
  | { kind: 'import', importId: number, spec: ImportSpec }
  /** Those who have the one tag, or are on the one list, have or are on the other instead. */
  | { kind: 'merge-tags', fromId: number, intoId: number }
  | { kind: 'merge-lists', fromId: number, intoId: number }
  /** An email of a send to everybody of its audience. */
  | { kind: 'send', sendId: number }
  /** Takes back what another task did, where nothing else has changed it since. */
  | { kind: 'undo', taskId: number }

export type TaskKind = TaskSpec['kind']

/** Whom a task is for, as it was said when it began; the people themselves are put down some at a time. */
export type TaskPeople =
  | { kind: 'picked', ids: number[] }
  /** Those whom the table of subscribers shows, searched and narrowed. */
  | { kind: 'fitting', search: string, condition: Condition }
  /** They have what starts a course, and are not in it. */
  | { kind: 'outside', courseId: number }
  | { kind: 'with-field', fieldId: number }
  | { kind: 'finished', courseId: number }
  /** Those whom a send is for; whom it leaves out is marked, as they are then. */
  | { kind: 'audience', sendId: number }
  /** Those whom a house rule would have acted on. */
  | { kind: 'fit-rule', ruleId: number }
  /** Those whom another task changed, with what was there before. */
  | { kind: 'changed-by', taskId: number }

export const CAN_BE_TAKEN_BACK: readonly TaskKind[] = ['give-tag', 'take-tag', 'put-on-list', 'take-off-list', 'set-field']

/** Half of a merge would leave people with both. */
export const CANNOT_BE_STOPPED: readonly TaskKind[] = ['merge-tags', 'merge-lists']

/** What was done to one person. Which of them are changes says CHANGES. */
export const OUTCOMES = [
  'given', 'had-it',
  'taken', 'did-not-have-it',
  'put-on', 'was-on-it', 'left-it-themselves',
  'taken-off', 'was-not-on-it',
  'set', 'was-so-already',
  'enrolled', 'stays-out', 'will-come-in', 'past-its-end', 'goes-on', 'is-not-at-the-end',
  'erased',
  'acted', 'acted-before', 'does-not-fit',
  'queued', 'held-back', 'was-queued',
  'new', 'updated', 'unchanged', 'refused',
  'taken-back', 'changed-since',
  'moved',
  'gone',
] as const
export type Outcome = typeof OUTCOMES[number]

const CHANGES: readonly Outcome[] = [
  'given', 'taken', 'put-on', 'taken-off', 'set', 'enrolled', 'will-come-in', 'goes-on', 'erased', 'acted', 'queued', 'new', 'updated',
  'taken-back',
]
export const isChange = (outcome: Outcome): boolean => CHANGES.includes(outcome)

export const OUTCOME_WORDS: Record<Outcome, string> = {
  'given': 'got it', 'had-it': 'had it already',
  'taken': 'lost it', 'did-not-have-it': 'did not have it',
  'put-on': 'were added', 'was-on-it': 'were on it already',
  'left-it-themselves': 'had left it and were left out; only they can come back',
  'taken-off': 'were removed', 'was-not-on-it': 'were not on it',
  'set': 'were changed', 'was-so-already': 'already were',
  'enrolled': 'started it', 'stays-out': 'were left out, each for a reason shown in their history',
  'will-come-in': 'join when it is their turn', 'past-its-end': 'would have finished by now, and were left out', 'goes-on': 'continue',
  'is-not-at-the-end': 'are no longer at its end',
  'erased': 'were erased',
  'queued': 'get it', 'held-back': 'are held back, each with a reason', 'was-queued': 'had it already',
  'acted': 'had the rule applied', 'acted-before': 'had it applied before, and it does not act that often',
  'does-not-fit': 'no longer match',
  'new': 'are new', 'updated': 'were updated', 'unchanged': 'were unchanged', 'refused': 'were refused',
  'taken-back': 'are unchanged', 'changed-since': 'had changed since and were left as they are',
  'moved': 'now have the other one',
  'gone': 'no longer existed',
}
