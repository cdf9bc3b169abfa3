/** Rehearsals as they are shown. */
import type { RehearsedReader, Story, StoryLine } from '#core/sequence/rehearsal'
import type { Instant } from '#core/time/zone'

export interface RehearsalView {
  /** In the order of the readers. */
  stories: Story[]
  /** Steps that nobody can come to. */
  unreachable: string[]
}

export interface KeptRehearsal {
  id: number
  reader: RehearsedReader
  keptAt: Instant
  outcome: { kind: 'same' } | { kind: 'differs', gone: StoryLine[], fresh: StoryLine[] } | { kind: 'cannot', why: string }
}
