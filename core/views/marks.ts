/** Lists and tags, with how many people and where they are used. */
import type { TagInput } from '#core/people/tag'

export interface Use { kind: 'page' | 'course' | 'segment' | 'tag', id: number, name: string, how: string }

export interface ListLine { id: number, name: string, publicName: string, description: string, people: number, takesEverybody: boolean, uses: Use[] }

export interface TagLine extends TagInput {
  id: number
  people: number
  /** True if people have what it is filled in to, and never itself. */
  blanks: boolean
  uses: Use[]
}
