/** Where an opt-in leads, by what it came to. */
import { hrefOf } from '#core/message/webAddress'
import type { PageContent } from './content'
import type { Thanks } from './thanks'

/** What an opt-in came to: the result page that its answers picked, if any, and whether they were one of ours before. */
export interface CameTo { resultId: string | null, known: boolean }

/**
 * A result comes before the words for who is known. `redirectUrl`: they are sent there instead of reading `thanks`; encoded, as it goes
 * into a header.
 */
export function endingOf(
  { resultPages, redirectUrl, forKnown, thanks }: Pick<PageContent, 'resultPages' | 'redirectUrl' | 'forKnown' | 'thanks'>,
  { resultId, known }: CameTo,
): { thanks: Thanks, redirectUrl: string | null } {
  const result = resultPages.find(({ id }) => id === resultId)
  const ending = result ?? { redirectUrl, thanks: known && forKnown ? forKnown.thanks : thanks }
  return { thanks: ending.thanks, redirectUrl: ending.redirectUrl && hrefOf(ending.redirectUrl) }
}

/** Every address elsewhere that the page may send people on to. */
export const redirectsOf = ({ redirectUrl, resultPages }: Pick<PageContent, 'resultPages' | 'redirectUrl'>): string[] =>
  [redirectUrl, ...resultPages.map(result => result.redirectUrl)].filter(url => url !== null)
