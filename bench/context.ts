/** A practice workspace on one file, with the ports that the people part needs. */
import { migrate } from '#data/migrate'
import { openDatabase } from '#data/connection'
import { practiceClock } from '#data/workspace'
import { createComposer } from '#adapters/composer'
import { createEmailSigner } from '#adapters/dkim'
import { createPracticeLinkChecker } from '#standins/linkChecker'
import { createPracticeResolver } from '#standins/resolver'
import { createPictureMaker } from '#adapters/pictures'
import { createSigner } from '#adapters/signer'
import { createWebhooks } from '#adapters/webhooks'
import type { WorkspaceContext } from '#usecases/context'
import { foundWorkspace } from '#usecases/settings/workspace'

/** Made if there is none. */
export function benchContext(file: string, mode: 'practice' | 'live' = 'practice'): WorkspaceContext {
  const db = openDatabase(file)
  migrate(db, 0)
  foundWorkspace(db, { mode, key: 'k1', name: 'Big bindery', zone: 'Europe/Lisbon', at: Date.UTC(2024, 10, 1) })
  return {
    db, mode, system: { now: () => Date.now() }, clock: {
      now: () => practiceClock(db)!.nowAt,
    }, composer: createComposer(), pictures: createPictureMaker(), emailSigner: createEmailSigner(),
    resolver: createPracticeResolver(() => null), linkChecker: createPracticeLinkChecker(),
    isThrowaway: () => false,
    signer: createSigner(Buffer.from('a signing key for benchmarks, 32'), 'practice/k1'), checkout: null, webhooks: createWebhooks({
      secrets: () => [], system: { now: () => Date.now() },
    }), baseUrl: 'http://localhost:3000/practice', wake() {},
    trouble() {},
  }
}
