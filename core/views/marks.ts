/** Lists and tags, with how many people and where they are used. */
import type { LeavingAnswer } from '#core/people/leaving'
import type { TagInput } from '#core/people/tag'
import type { AlsoOn } from '#core/rules/shortForms'

export interface Use { kind: 'page' | 'offer' | 'course' | 'segment' | 'rule', id: number, name: string, how: string }

export interface ListLine { id: number, name: string, publicName: string, description: string, people: number, takesEverybody: boolean, offered: boolean, alsoOn: AlsoOn[], uses: Use[] }

export interface TagLine extends TagInput {
  id: number
  people: number
  /** True if people have what it is filled in to, and never itself. */
  blanks: boolean
  uses: Use[]
}

/** What people answered when asked, after leaving, why: the commonest first. */
export interface WhyTheyLeft { answer: LeavingAnswer, n: number }
