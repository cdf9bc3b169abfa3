/** Where rehearsals are played: the engine's house on a copy in memory. Nothing leaves it, and nothing is waited for. */
import type { Readers } from '#core/ports'
import type { RehearsedReader } from '#core/sequence/rehearsal'
import type { Database } from '#data/connection'
import { createRehearsedReader, rehearsedComposer } from '#standins/rehearsed'
import type { Keys } from './keys'
import { engineHouseOn } from './open'
import type { Deliver } from './payments'
import type { Settings } from './settings'

/** `reader` null for a house in which nobody reads yet. */
export type Hall = (db: Database, deliver: Deliver, reader: { script: RehearsedReader, courseId: number } | null) => ReturnType<typeof engineHouseOn> & { readers: Readers, stage(): void }

export function rehearsalHall(settings: Settings, keys: Keys): Hall {
  return (db, deliver, reader) => ({
    ...engineHouseOn(db, settings, keys, 'rehearsal', deliver),
    composer: rehearsedComposer,
    readers: reader ? createRehearsedReader(reader.script, reader.courseId) : { actsFor: () => [] },
    breathe: async () => {},
    stage() {},
  })
}
