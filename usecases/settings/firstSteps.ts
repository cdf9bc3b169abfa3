/** The first steps of a workspace, as far as they are not seen by what was made: see today/setup.ts. */
import { hideSetup, markRehearsed, setupMarks } from '#data/workspace'
import type { WorkspaceContext } from '../context'
import { transact } from '../inner/reactor/transaction'

/** Puts the list of them away, or shows it again. */
export const showSetup = (context: WorkspaceContext, hidden: boolean): void =>
  transact(context, () => hideSetup(context.db, hidden ? context.clock.now() : null))

/** That a course was rehearsed is written nowhere else. */
export function noteRehearsed(context: WorkspaceContext): void {
  if (setupMarks(context.db).rehearsedAt === null) transact(context, () => markRehearsed(context.db, context.clock.now()))
}
