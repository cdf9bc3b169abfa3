/** The program of a course: its steps, each with its own *when*. */
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
  /** The email to send; null while it is still empty: people then stand before this step. */
  messageId: number | null
  /** After so many days of 24 h without a click, give a tag. */
  ifNotClicked: { days: number, tagId: number } | null
}

export type Step = EmailStep

export interface Program {
  steps: Step[]
}
