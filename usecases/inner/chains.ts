/** What came of what, as lines of a tree: events, the rules they woke, and what these did. */
import { sayEvent, type ToldEvent } from '#core/events'
import { sayDid } from '#core/rules/outcome'
import type { Rule } from '#core/rules/rule'
import { sayAction, sayRule, type RuleNames } from '#core/rules/say'
import type { ChainLine, Verdict } from '#core/views/rules'
import type { Did } from '#data/rules'

export interface Woken { rule: Rule, eventId: number, verdict: Verdict, did: Did[] }

/**
 * From these roots down. Every event stands once, below what brought it about; rules in the order in which they were woken. `said`: words
 * of events that did not happen as they would really.
 */
export function linesOf(
  roots: readonly ToldEvent[], events: readonly ToldEvent[], woken: readonly Woken[], names: RuleNames,
  said: ReadonlyMap<number, string> = new Map(),
): ChainLine[] {
  const lines: ChainLine[] = []
  const seen = new Set<number>()
  const tell = (event: ToldEvent, level: number): void => {
    if (seen.has(event.id)) return
    seen.add(event.id)
    lines.push({ kind: 'event', level, says: said.get(event.id) ?? sayEvent(event), at: event.at })
    const caused = events.filter(({ causeId, id }) => causeId === event.id && id !== event.id)
    for (const one of caused.filter(({ ruleId, kind }) => (ruleId === null || ruleId === event.ruleId) && kind !== 'rules-cut')) {
      tell(one, level + 1)
    }
    for (const { rule, verdict, did } of woken.filter(({ eventId }) => eventId === event.id)) {
      lines.push({ kind: 'rule', level: level + 1, ruleId: rule.id, says: sayRule(rule, names), verdict, did: sayAllDid(rule, did, names) })
      for (const one of caused.filter(({ ruleId, kind }) => ruleId === rule.id && rule.id !== event.ruleId && kind !== 'rules-cut')) {
        tell(one, level + 2)
      }
    }
  }
  for (const root of roots) tell(root, 0)
  return lines
}

/** What each action came to. A rule that says something else by now is told by what it did. */
export function sayAllDid(rule: Rule | undefined, did: readonly Did[], names: RuleNames): string[] {
  return did.map(({ kind, outcome }, n) => {
    const action = rule?.then[n]?.kind === kind ? rule.then[n] : undefined
    return sayDid(action ? sayAction(action, names) : kind.replaceAll('-', ' '), outcome)
  })
}
