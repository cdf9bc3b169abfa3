/** Whom a condition holds for, as it is shown while it is edited; and the saved segments. */
import type { Condition } from '#core/audience/condition'
import type { HeldBackReason } from '#core/sending/reasons'
import type { ReadyCode } from '#core/audience/segment'
import type { SourceKey } from '#core/page/touch'
import type { ConsentRule } from '#core/people/country'
import type { Field } from '#core/people/field'
import type { Use } from './marks'
import type { Instant } from '#core/time/zone'

export interface AudienceView {
  /** What *now* was for the counting. */
  at: Instant
  /** In words. */
  says: string
  people: number
  /** Of these, who could not be sent anything now: each counted once, under the first reason in the fixed order. */
  heldBack: { reason: HeldBackReason, people: number }[]
  five: { id: number, name: string, address: string }[]
}

/** What takes longer to count, and is asked for after the number. */
export interface AudienceMore {
  /** How many it held for 30 days ago. */
  then: { at: Instant, people: number }
  /** People in both, for each saved segment with anybody in both; largest first. */
  overlap: { id: number, name: string, people: number, both: number }[]
}

export interface SegmentLine {
  id: number
  name: string
  note: string
  code: ReadyCode | null
  says: string
  condition: Condition
  /** As last looked at; null while everybody is being looked at for the first time. */
  people: number | null
  /** How many more or fewer than 30 days ago, by those who entered and left since; null if it was made or changed less than 30 days ago. */
  entered30: number
  left30: number
  /** Since when entering and leaving are counted: 30 days ago, or when it was last changed. */
  countedSince: Instant
  usedBy: { id: number, name: string }[]
}

/** What a condition can be about, to choose from. */
export interface ConditionParts {
  offers: { id: number, name: string }[]
  links: { id: number, name: string }[]
  broadcasts: { id: number, name: string }[]
  /** House rules, by what they are known by. */
  rules: { id: number, name: string }[]
  /** Those of them that send an email. */
  emailingRuleIds: number[]
  /** In which something was paid, the workspace's first. */
  currencies: string[]
  lists: { id: number, name: string }[]
  /** Those with blanks are held by nobody, and can only be given. */
  tags: { id: number, name: string, blanks: boolean }[]
  pages: { id: number, name: string, results: { id: string, name: string }[] }[]
  courses: { id: number, name: string, steps: { id: string, title: string, links: { url: string, label: string }[] }[] }[]
  segments: { id: number, name: string }[]
  fields: Field[]
  /** What brought people who opted in. */
  touches: { id: number, name: string }[]
  /** The same, come down to their sources. */
  brought: { source: SourceKey, name: string }[]
  /** How people came, commonest first. */
  sources: string[]
}

export interface FieldLine extends Field {
  /** How many it is known of. */
  people: number
  uses: Use[]
}

/** Where consent must be on record, and whom that holds back now. */
export interface ConsentView extends ConsentRule {
  /** Active people without consent on record whose country is one of these. */
  heldBack: number
  /** Active people whose country is not known, and how many of them have no consent on record. */
  unknown: number
  unknownWithout: number
}

export interface AudienceQuery {
  condition: Condition
  /** The saved segment whose condition it is; null for none. */
  segmentId: number | null
}
