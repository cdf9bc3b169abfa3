/** Whether the addresses in an email answer, while it is written. */
import { isTracked } from '#core/message/webAddress'
import type { WorkspaceContext } from '../context'
import { findOfferBySlug } from '#data/offers'
import { findPageBySlug } from '#data/pages'
import { MINUTE, type Instant } from '#core/time/zone'

/** So many are asked for one email. */
export const MOST_URLS = 30
const KEPT = 10 * MINUTE
const MOST_KEPT = 500

const known = new WeakMap<object, Map<string, { at: Instant, problem: string | null }>>()

/** Those that do not answer, with what is wrong in words. What was asked a moment ago is not asked again. */
export async function checkUrls(context: WorkspaceContext, urls: readonly string[]): Promise<{ url: string, problem: string }[]> {
  const asked = [...new Set(urls)].filter(url => isTracked(url) && URL.canParse(url)).slice(0, MOST_URLS)
  const answers = await Promise.all(asked.map(async url => ({ url, problem: await problemOf(context, url) })))
  return answers.flatMap(({ url, problem }) => problem === null ? [] : [{ url, problem }])
}

async function problemOf(context: WorkspaceContext, url: string): Promise<string | null> {
  const own = problemOfOwn(context, url)
  if (own !== undefined) return own
  const { linkChecker, system } = context
  let kept = known.get(linkChecker)
  if (!kept) known.set(linkChecker, kept = new Map())
  const at = system.now()
  const before = kept.get(url)
  if (before && at - before.at < KEPT && at >= before.at) return before.problem
  const problem = await linkChecker.check(url)
  if (kept.size >= MOST_KEPT) kept.delete(kept.keys().next().value!)
  kept.set(url, { at, problem })
  return problem
}

/** Of a page of ours; undefined for another's. */
function problemOfOwn({ db, baseUrl }: WorkspaceContext, url: string): string | null | undefined {
  if (!url.startsWith(`${baseUrl}/`)) return undefined
  const [, kind, slug] = /^\/([ps])\/([^/?#]+)/.exec(url.slice(baseUrl.length)) ?? []
  if (!kind) return null
  const is = kind === 'p' ? findPageBySlug(db, slug!)?.published : findOfferBySlug(db, slug!)?.published
  return is ? null : 'nothing of yours is published there'
}
