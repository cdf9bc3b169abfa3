/** What the end of a thing would mean, told before it is deleted. */
import type { Use } from './marks'

export interface UseLine extends Use {
  /** In it now; null for what nobody is in. */
  people: number | null
  /** What becomes of it, as the rest of a sentence that begins with its name. */
  without: string
}

export interface EndingView {
  uses: UseLine[]
  /** Something could not do without it. */
  blocked: boolean
  /** What could take its place. */
  others: { id: number, name: string }[]
}
