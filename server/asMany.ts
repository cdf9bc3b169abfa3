/** The number that the owner was shown, and the number of people by now. */
import type { H3Event } from 'h3'
import type { WorkspaceContext } from '#usecases/context'
import { mustBeAsMany } from '#usecases/inner/beginTask'
import type { AskedPeople } from '#usecases/inner/taskPeople'
import { inReader } from './reader/index'

/**
 * Counted in a reading thread: among very many people that takes longer than
 * a request may keep others waiting. Throws NotNow where it is another number.
 */
export const asManyAs = async (event: H3Event, context: WorkspaceContext, whom: AskedPeople, said: number): Promise<void> =>
  mustBeAsMany(await inReader(event, context.mode, 'howMany', whom), said)
