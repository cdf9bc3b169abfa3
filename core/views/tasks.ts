/** Tasks as they are shown: how far, and what was done. */
import type { Outcome, TaskKind, TaskSpec } from '#core/people/task'
import type { Instant } from '#core/time/zone'
import type { PeopleSearch } from './people'

export type TaskState = 'waiting' | 'running' | 'done' | 'stopped' | 'failed'

export interface TaskView {
  id: number
  kind: TaskKind
  /** A phrase: add the tag “likes: coptic”. */
  title: string
  state: TaskState
  /** People (of an import: rows) it is for, people it has come to, and people it changed something about. */
  total: number
  done: number
  changed: number
  /** Once it is over: how many each was true of. */
  outcomes: { outcome: Outcome, people: number }[]
  problem: string | null
  /** The file whose rows it works off. */
  importId: number | null
  /** Of its rows: how many came in without a cell that could not be read. */
  leftOut: number
  /** The source its new people have. */
  source: string | null
  madeAt: Instant
  endedAt: Instant | null
  canBeStopped: boolean
  /** True while it can be taken back. */
  canBeTakenBack: boolean
  takenBackBy: number | null
}

/** What is done to many by hand. */
export type Done = Extract<TaskSpec, { kind: 'give-tag' | 'take-tag' | 'put-on-list' | 'take-off-list' | 'set-field' | 'enrol' | 'erase' }>

/** A field is given as it is typed; nothing typed forgets what was known. */
export type Doing = Exclude<Done, { kind: 'set-field' }> | { kind: 'set-field', fieldId: number, typed: string }

export interface TaskInput {
  whom: { kind: 'all', query: PeopleSearch } | { kind: 'picked', ids: number[] }
  doing: Doing
  said: number
}
