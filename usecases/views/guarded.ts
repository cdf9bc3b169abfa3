/** One faulty part of a screen must not take the screen with it. */
import type { WorkspaceContext } from '../context'

/** What `work` makes; null where it throws, which goes into the log. */
export function guarded<Part>({ trouble }: Pick<WorkspaceContext, 'trouble'>, what: string, work: () => Part): Part | null {
  try {
    return work()
  }
  catch (error) {
    trouble(`${what} could not be worked out`, error)
    return null
  }
}
