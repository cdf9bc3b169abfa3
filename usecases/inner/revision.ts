/** What somebody edits may be changed from another window meanwhile; a revision says which state of it they saw. */
import type { House } from '../house'
import { ChangedElsewhere } from '../problem'

/** The same for the same content, and for no other. It says nothing of the content itself. */
export const revisionOf = ({ signer }: House, content: { name: string, slug?: string, draft: unknown }): string =>
  signer.digest(JSON.stringify([content.name, content.slug ?? null, content.draft]))

/** Throws a {@link ChangedElsewhere} if it is not what was `seen`; null asks nothing. */
export function mustBe(house: House, seen: string | null, content: { name: string, slug?: string, draft: unknown }): void {
  if (seen !== null && seen !== revisionOf(house, content)) throw new ChangedElsewhere('This was changed in another window meanwhile.')
}
