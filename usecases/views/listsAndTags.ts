/** Lists and tags, with how many people and where they are used. */
import { hasBlanks } from '#core/people/tag'
import { alsoOnOf, followsOf } from '#core/rules/shortForms'
import type { ListLine, TagLine, WhyTheyLeft } from '#core/views/marks'
import { readTogether } from '#data/connection'
import { leavingAnswers } from '#data/choices'
import { allLists, allTags } from '#data/marks'
import { allRules } from '#data/rules'
import type { WorkspaceContext } from '../context'
import { readNamers, usesIn } from '../inner/uses'

export function listLines({ db }: WorkspaceContext): ListLine[] {
  const [namers, rules, lists] = readTogether(db, () => [readNamers(db), allRules(db), allLists(db)] as const)
  return lists.map(({ createdAt: _, ...list }) => ({
    ...list, takesEverybody: list.takesEverybody === 1, offered: list.offered === 1, alsoOn: alsoOnOf(list.id, rules),
    uses: usesIn(namers, { kind: 'list', id: list.id }),
  }))
}

export function tagLines({ db }: WorkspaceContext): TagLine[] {
  const [namers, rules, tags] = readTogether(db, () => [readNamers(db), allRules(db), allTags(db)] as const)
  return tags.map(({ createdAt: _, ...tag }) => ({
    ...tag, blanks: hasBlanks(tag.name), follows: followsOf(tag.id, rules), uses: usesIn(namers, { kind: 'tag', id: tag.id }),
  }))
}

export const whyTheyLeft = ({ db }: WorkspaceContext): WhyTheyLeft[] => leavingAnswers(db)
