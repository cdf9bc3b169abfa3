/** What somebody edits may be changed from another window meanwhile; a revision says which state of it they saw. */
import type { WorkspaceContext } from '../context'
import { ChangedElsewhere } from '../problem'

/** Why something is not undone. */
export const CHANGED_SINCE = 'It has been changed since, so nothing was undone.'

/** Which version the public sees, and which it shall see instead; null for none. */
export interface ShownChange { from: number | null, to: number | null }

interface Content { name: string, slug?: string, draft: unknown }

/** The same for the same content, and for no other. It says nothing of the content itself. */
export const revisionOf = ({ signer }: WorkspaceContext, content: Content): string =>
  signer.digest(JSON.stringify([content.name, content.slug ?? null, content.draft]))

/**
 * Throws a {@link ChangedElsewhere} if what stands there is not what was
 * `seen`; null asks nothing. What is `wanted` already is no conflict: an answer
 * can be lost on its way, and the same is then sent again.
 */
export function mustBe(context: WorkspaceContext, seen: string | null, there: Content, wanted: Content | null = null): void {
  const now = revisionOf(context, there)
  if (seen !== null && seen !== now && (wanted === null || revisionOf(context, wanted) !== now)) {
    throw new ChangedElsewhere('This was changed in another window.')
  }
}
