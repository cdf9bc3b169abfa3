/** Addresses that this server calls for its owner: where one leads into a private network, the owner is asked whether that is meant. */
import { leadsInside } from '#runtime/settings'
import { InputProblem } from '#usecases/problem'

const hostOf = (url: string | null) => url === null ? null : URL.parse(url)?.host ?? null

interface Known {
  /** Where calls go already. */
  kept: string | null
  /** The owner was asked, and said yes: the screen sends it as `insideMeant`. */
  meant: boolean
}

/** Throws an {@link InputProblem} that asks, unless the answer is known. */
export async function askIfInside(field: string, url: string | null, { kept, meant }: Known): Promise<void> {
  if (url === null || meant || hostOf(url) === hostOf(kept) || !await leadsInside(url)) return
  throw new InputProblem([{
    field: `${field}-inside`, problem: `${URL.parse(url)!.hostname} is this machine or in a private network. Is that right?`,
  }])
}
