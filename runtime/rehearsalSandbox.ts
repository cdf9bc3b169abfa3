/** The sandbox of rehearsals: the engine's context on a copy in memory. Nothing leaves it, and nothing is waited for. */
import type { Readers } from '#core/ports'
import type { RehearsedReader } from '#core/sequence/rehearsal'
import type { Database } from '#data/connection'
import { createRehearsedReader, rehearsedComposer } from '#standins/rehearsed'
import type { Keys } from './keys'
import { engineContextOn } from './open'
import type { Deliver } from './payments'
import type { Settings } from './settings'

/** `reader` null for a sandbox in which nobody reads yet. */
export type RehearsalSandbox = (
  db: Database, deliver: Deliver, reader: { script: RehearsedReader, courseId: number } | null,
) => ReturnType<typeof engineContextOn> & { readers: Readers, stage(): void }

export function rehearsalSandbox(settings: Settings, keys: Keys): RehearsalSandbox {
  return (db, deliver, reader) => ({
    ...engineContextOn(db, settings, keys, 'rehearsal', deliver),
    composer: rehearsedComposer,
    readers: reader ? createRehearsedReader(reader.script, reader.courseId) : { actsFor: () => [] },
    breathe: async () => {},
    stage() {},
  })
}
