/** Addresses that this server calls for its owner: where one leads into a private network, the owner is asked whether that is meant. */
import { leadsInside } from '#runtime/settings'
import { InputProblem } from '#usecases/problem'

const hostOf = (url: string | null) => url === null ? null : URL.parse(url)?.host ?? null

/**
 * Throws an {@link InputProblem} that asks, unless it was said to be meant or is where calls go already. The screen answers by
 * `insideMeant`.
 */
export async function askIfInside(field: string, url: string | null, { kept, meant }: {
  kept: string | null, meant: boolean,
}): Promise<void> {
  if (url === null || meant || hostOf(url) === hostOf(kept) || !await leadsInside(url)) return
  throw new InputProblem([{
    field: `${field}-inside`, problem: `${URL.parse(url)!.hostname} is this machine or within a private network. Is that what you mean?`,
  }])
}
