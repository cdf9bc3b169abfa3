/** Lists and tags, with how many people and where they are used. */
import type { LeavingAnswer } from '#core/people/leaving'
import type { TagInput } from '#core/people/tag'
import type { NamerKind, Place } from '#core/uses'
import type { AlsoOn } from '#core/rules/shortForms'

/** What names a thing, and how; `inForce`: not only in what is being written. */
export interface Use extends Place { kind: NamerKind, id: number, name: string, inForce: boolean }

export interface ListLine {
  id: number, name: string, publicName: string, description: string, people: number, takesEverybody: boolean, offered: boolean,
  alsoOn: AlsoOn[], uses: Use[],
}

export interface TagLine extends TagInput {
  id: number
  people: number
  /** True if people have what it is filled in to, and never itself. */
  blanks: boolean
  uses: Use[]
}

/** What people answered when asked, after leaving, why: the commonest first. */
export interface WhyTheyLeft { answer: LeavingAnswer, n: number }

export interface ListInput {
  name: string
  publicName: string
  description: string
  /** Readers who never joined it can do so on their choices page. */
  offered?: boolean
  /** Who joins it joins these, too; left out leaves what is said. */
  alsoOn?: AlsoOn[]
}
