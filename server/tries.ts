/** Guessing the owner's password, or the code of the first visit. */
import type { H3Event } from 'h3'
import { originOfVisitor } from './visitor'
import { openWorkspaces } from './workspaces'
import { Refused } from './refused'

export async function limitTries(event: H3Event): Promise<void> {
  if (!await openWorkspaces().signIns.allows(originOfVisitor(event))) throw new Refused(
    429, 'Too many tries. Wait ten minutes, then try again.'
  )
}
