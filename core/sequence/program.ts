/** The program of a course: its steps, each with its own *when*. */
import type { WeekHours } from '#core/time/hours'
import type { When } from '#core/time/when'

export interface EmailStep {
  /** Stays the same through every edit, so that people keep their place. */
  id: string
  kind: 'email'
  when: When
  /** What to do when the moment is already past as someone comes to it. */
  ifPast: 'at-once' | 'skip'
  /** Whose clock decides calendar days and clock times. */
  zone: 'workspace' | 'subscriber'
  /** Goes at its time, whatever the sending hours. */
  ignoresHours?: boolean
  /** The email to send; null while it is still empty: people then stand before this step. */
  messageId: number | null
  /** After so many days of 24 h without a click, give a tag. */
  ifNotClicked: { days: number, tagId: number } | null
}

export type Step = EmailStep

/** The date fields by which a program goes. */
export const dateFieldsOf = ({ steps }: { steps: readonly Pick<Step, 'when'>[] }): number[] => [...new Set(steps.flatMap(({ when }) => when.kind === 'date-field' ? [when.fieldId] : []))]

export interface Program {
  /** Sending hours of this course, within those of the workspace; null for the workspace's. */
  hours?: WeekHours | null
  steps: Step[]
}
