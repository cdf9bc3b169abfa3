/** A chooser: answers pick the page that people come to. The first whose condition is true is theirs. */
import type { FieldTest } from '#core/audience/condition'
import { passes } from '#core/audience/meaning'
import type { LocalDate } from '#core/time/zone'
import type { Answered, Ask } from './form'
import { newThanks, type Thanks } from './thanks'

/** What is asked of one answer. */
export type AnswerTest =
  /** Any of these was chosen; or none of them was. */
  | { askId: string, is: 'chosen' | 'not-chosen', optionIds: string[] }
  /** What was typed passes as the field would. Nothing typed never passes. */
  | { askId: string, is: 'field', test: FieldTest }

export interface ResultPage {
  id: string
  /** For its maker. */
  name: string
  when: { kind: 'all' | 'any', of: AnswerTest[] }
  /** Whoever comes to it gets these, besides what the page gives. */
  tagIds: number[]
  thanks: Thanks
  /** Where they are sent instead of reading `thanks`; null for nowhere else. */
  redirectUrl: string | null
}

export const newResultPage = (id: string, test: AnswerTest | null): ResultPage => ({
  id, name: '', when: { kind: 'all', of: test ? [test] : [] }, tagIds: [], thanks: { ...newThanks(), headline: '' }, redirectUrl: null,
})

export const nameOfResult = ({ name, thanks }: ResultPage): string => name.trim() || thanks.headline.trim() || 'a result page'

/** The page that these answers pick, or null if no condition is true; one that asks nothing never is. `today`: the workspace's. */
export function pickResult(
  pages: readonly ResultPage[], asks: readonly Ask[], answered: Pick<Answered, 'chosen' | 'fields'>, today: LocalDate,
): ResultPage | null {
  const holds = (test: AnswerTest): boolean => {
    if (test.is !== 'field') return test.optionIds.some(id => answered.chosen[test.askId]?.includes(id)) === (test.is === 'chosen')
    const ask = asks.find(({ id }) => id === test.askId)
    const typed = ask?.kind === 'field' && answered.fields.find(({ fieldId }) => fieldId === ask.fieldId)
    return typed ? passes(typed.value, test.test, today) : false
  }
  return pages.find(page => isTrue(page, holds)) ?? null
}

function isTrue({ when }: ResultPage, holds: (test: AnswerTest) => boolean): boolean {
  return when.of.length > 0 && (when.kind === 'all' ? when.of.every(holds) : when.of.some(holds))
}

/** Above this many ways to answer nobody waits for the answer. */
const MOST_WAYS = 20_000

/**
 * Result pages that no way of answering leads to, because an earlier one
 * always comes first or their condition contradicts itself. What is typed into
 * a field may pass a test or not; tests of one field are not compared.
 * Null where there are too many ways to go through.
 */
export function neverPicked(pages: readonly ResultPage[], asks: readonly Ask[]): string[] | null {
  const tests = pages.flatMap(page => page.when.of)
  const ways: Record<string, string[][]> = {}
  for (const ask of asks) {
    if (ask.kind === 'choice' && tests.some(({ askId }) => askId === ask.id)) ways[ask.id] = waysToAnswer(ask)
  }
  const typed = [...new Set(tests.flatMap(test => test.is === 'field' ? JSON.stringify(test) : []))]
  let count = 2 ** typed.length
  for (const of of Object.values(ways)) count *= of.length
  if (count > MOST_WAYS) return null
  const never = new Set(pages.map(({ id }) => id))
  const ids = Object.keys(ways)
  const chosen: Record<string, string[]> = {}
  const passed = new Set<string>()
  const holds = (test: AnswerTest) => test.is === 'field'
    ? passed.has(JSON.stringify(test))
    : test.optionIds.some(id => chosen[test.askId]?.includes(id)) === (test.is === 'chosen')
  const go = (n: number): void => {
    if (n < ids.length) {
      for (const way of ways[ids[n]!]!) {
        chosen[ids[n]!] = way
        go(n + 1)
      }
    }
    else if (n < ids.length + typed.length) {
      const test = typed[n - ids.length]!
      go(n + 1)
      passed.add(test)
      go(n + 1)
      passed.delete(test)
    }
    else {
      const picked = pages.find(page => isTrue(page, holds))
      if (picked) never.delete(picked.id)
    }
  }
  go(0)
  return [...never]
}

/** Every set of answers that can be chosen, by ids. */
function waysToAnswer({ many, required, options }: Extract<Ask, { kind: 'choice' }>): string[][] {
  const ids = options.map(({ id }) => id)
  const some = many ? ids.reduce<string[][]>(
    (sets, id) => sets.length > MOST_WAYS ? sets : [...sets, ...sets.map(set => [...set, id])], [[]],
  ).filter(set => set.length > 0) : ids.map(id => [id])
  return required ? some : [[], ...some]
}
