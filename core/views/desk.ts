/** What is on the owner's desk: to-dos and notices. */
import type { Instant, LocalDate } from '#core/time/zone'

export interface TodoLine {
  id: number
  person: { id: number, name: string }
  text: string
  /** Empty for the owner. */
  helper: string
  dueOn: LocalDate
  /** How many calendar days it is late; negative if there is still time. */
  late: number
  ruleId: number | null
  doneAt: Instant | null
}

export interface NoticeLine {
  id: number, person: { id: number, name: string }, text: string, ruleId: number | null, at: Instant, seen: boolean,
}

export interface DeskView {
  open: TodoLine[]
  done: TodoLine[]
  notices: NoticeLine[]
  unseen: number
  helpers: string[]
}

/** `days`: due in so many calendar days of the workspace's zone, 0 for today. */
export interface TodoInput { personId: number, text: string, days: number, helper: string }
