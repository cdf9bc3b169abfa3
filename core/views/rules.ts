/** House rules as they are listed, opened and tried. */
import type { ConditionParts } from './audience'
import type { MomentName, Rule, RuleInput, Trigger } from '#core/rules/rule'
import type { Thing } from '#core/things'
import type { SaidRule } from '#core/rules/say'
import type { Permission } from '#core/rules/waking'
import type { Instant } from '#core/time/zone'

export interface RuleLine {
  id: number
  moment: MomentName
  said: SaidRule
  on: boolean
  /** What it names and no longer exists; it stands still while there is anything. */
  missing: Thing['kind'][]
  /** It stands on a tag as what follows from it. */
  shortForm: boolean
  note: string
  /** In the last 30 days: how often it acted, and on how many people. */
  times30: number
  people30: number
  lastAt: Instant | null
  /** Everything it names: beside these it is shown, too. */
  about: Thing[]
  /** The thing whose event wakes it. */
  place: Thing | null
}

export interface FiringLine {
  id: number
  at: Instant
  person: { id: number, name: string }
  /** What woke it. */
  woke: string
  did: string[]
  changed: boolean
  /** How often it was woken again by the same beginning, and cut off. */
  cut: number
}

export interface RuleView {
  line: RuleLine
  rule: Rule
  firings: FiringLine[]
  /** Whose moment has come already, in words and number; `standing` is false where only the condition can tell. */
  fits: { people: number, says: string, standing: boolean }
}

/** `circle` is the path on which it would feed itself, in words: said once, and saved all the same if that is wanted. */
export type SavedRule = { saved: true, id: number } | { saved: false, circle: string }

export type Verdict = Permission | 'does-not-fit'

/** One line of what came of what: indented by its level. */
export type ChainLine =
  | { kind: 'event', level: number, says: string, at: Instant }
  | { kind: 'rule', level: number, ruleId: number, says: string, verdict: Verdict, did: string[] }

export interface ChainView { person: { id: number, name: string }, lines: ChainLine[] }

/** What would happen. `nothing` says why the event itself would not happen to this person. */
export interface TriedView extends ChainView { nothing: string | null }

/** Everything a rule can be about, to choose from. */
export interface RuleParts extends ConditionParts {
  hooksIn: { id: number, name: string }[]
  hooksOut: { id: number, name: string }[]
  helpers: string[]
  thresholds: number[]
}

export interface Trying {
  personId: number
  /** What happens to them. */
  when: Trigger
  /** A rule as it is being written, instead of the one with this number, or besides all others if it has none yet. */
  draft: { id: number | null, rule: RuleInput } | null
}
