/** Entry of the reading thread: it has connections of its own and never writes. */
import pino from 'pino'
import { rehearsalSandbox } from '#runtime/rehearsalSandbox'
import { keysIn } from '#runtime/keys'
import { databaseFile, contextOn, openMigrated } from '#runtime/open'
import { overTheLine } from '#runtime/payments'
import { readSettings } from '#runtime/settings'
import type { WorkspaceContext } from '#usecases/context'
import { packed, type Packed } from '../work/packed'
import type { Question } from './views'
import { SLOW_VIEWS } from './views'

const log = pino({ name: 'web reader', level: process.env.PORCH_LOG || 'info' })
const settings = readSettings(process.env)
const open = new Map<WorkspaceContext['mode'], { context: WorkspaceContext, until: number }>()

/** A connection chooses its ways by what the tables held when it was opened. */
const OPEN_MS = 600_000

function contextOf(mode: WorkspaceContext['mode']): WorkspaceContext {
  const known = open.get(mode)
  if (known && Date.now() < known.until) return known.context
  known?.context.db.close()
  open.delete(mode)
  const db = openMigrated(databaseFile(settings, mode))
  db.pragma('query_only = ON')
  const context = Object.assign(contextOn(db, settings, keysIn(settings.data), () => {}, overTheLine(settings)), {
    trouble: (what: string, error: unknown) => log.error({ mode, err: error }, what),
  })
  open.set(mode, { context, until: Date.now() + OPEN_MS })
  return context
}

const sandbox = rehearsalSandbox(settings, keysIn(settings.data))

/** What the pool calls: the first once the thread has started. */
export const ready = (): void => {}
export const answer = ({ mode, view, input }: Question): Promise<Packed> =>
  packed(() => SLOW_VIEWS[view](contextOf(mode), input as never, sandbox))
