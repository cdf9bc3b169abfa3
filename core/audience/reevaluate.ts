/** When a condition turns for someone by nothing but time passing. */
import { sinksBelow } from '#core/score/score'
import type { Instant } from '#core/time/zone'
import { addDays, DAY, instantOf, isDate } from '#core/time/zone'
import type { Condition, FieldTest, Leaf, Moment, Stretch } from './condition'
import { isGroup, leavesOf } from './condition'
import type { PersonFacts } from './meaning'
import { isOne, isThatOptIn, timesOf, timesOfActing, timesOfFollowing, timesOfOptIn, timesOfPurchases } from './meaning'

/**
 * The first instant after now at which a leaf of the condition may turn for
 * this person if nothing happens to them meanwhile; null if none ever will.
 * Up to that instant the condition means for them what it means now.
 */
export function reevaluateAt(condition: Condition, person: PersonFacts, moment: Moment): Instant | null {
  if (isGroup(condition)) return earliest(condition.of.map(part => reevaluateAt(part, person, moment)))
  return earliest(reevaluationsOfLeaf(condition, person, moment).filter(at => at > moment.now))
}

function reevaluationsOfLeaf(leaf: Leaf, person: PersonFacts, moment: Moment): Instant[] {
  switch (leaf.kind) {
    case 'tag':
      return ends(leaf.since, person.tags.filter(({ tagId }) => tagId === leaf.tagId).map(({ sinceAt }) => sinceAt))
    case 'arrived':
      return ends(leaf.when, [person.createdAt])
    case 'opted-in':
      return ends(leaf.within, person.optIns.filter(optIn => isThatOptIn(optIn, leaf)).flatMap(optIn => timesOfOptIn(optIn, leaf.did)))
    case 'email':
      return ends(
        leaf.within, person.emails.filter(email => isOne(email, leaf.which)).flatMap(email => timesOf(leaf.fate, email, leaf.url)),
      )
    case 'followed':
      return ends(leaf.within, timesOfFollowing(person, leaf))
    case 'rule-acted':
      return ends(leaf.within, timesOfActing(person, leaf))
    case 'purchase':
      return ends(leaf.within, timesOfPurchases(person, leaf))
    case 'last-read': {
      const at = leaf.by === 'reader' ? person.readAt : person.fetchedAt
      return ends(leaf.within, at === null ? [] : [at])
    }
    case 'field': {
      const value = person.fields.find(({ fieldId }) => fieldId === leaf.fieldId)?.value
      if (leaf.test.is === 'day' && typeof value === 'string' && isDate(value)) return reevaluationsOfDay(value, leaf.test, moment)
      if ((leaf.test.is !== 'last-days' && leaf.test.is !== 'next-days') || typeof value !== 'string' || !isDate(value)) return []
      // A day comes into the stretch at its beginning, and is out of it once the day after the last begins.
      const [begin, end] = leaf.test.is === 'last-days'
        ? [value, addDays(value, leaf.test.days + 1)]
        : [addDays(value, -leaf.test.days), addDays(value, 1)]
      return [begin, end].map(date => instantOf(date, '00:00', moment.zone))
    }
    case 'score': {
      const at = sinksBelow(person.score.known, leaf.atLeast, moment.score.halfLifeDays, moment.now)
      return at === null ? [] : [at]
    }
    case 'segment': {
      const condition = moment.segments.get(leaf.segmentId)
      const at = condition ? reevaluateAt(condition, person, moment) : null
      return at === null ? [] : [at]
    }
    default:
      return []
  }
}

/** The day that is meant begins and ends: the date itself, moved; or its returns in this year and the next. */
function reevaluationsOfDay(value: string, test: Extract<FieldTest, { is: 'day' }>, { zone, today }: Moment): Instant[] {
  const year = Number(today.slice(0, 4))
  const returns = test.yearly ? [year - 1, year, year + 1, year + 2].map(one => `${one}-${value.slice(5)}`)
    .map(date => isDate(date) ? date : addDays(`${date.slice(0, 4)}-03-01`, -1)).filter(date => date > value) : []
  return [value, ...returns].flatMap(date => [addDays(date, test.days), addDays(date, test.days + 1)])
    .map(date => instantOf(date, '00:00', zone))
}

/** The last N days lose something a millisecond after N times 24 hours. */
const ends = (stretch: Stretch | null, times: Instant[]): Instant[] =>
  stretch?.kind === 'last-days' ? times.map(at => at + stretch.days * DAY + 1) : []

const earliest = (times: (Instant | null)[]): Instant | null =>
  times.reduce<Instant | null>((least, at) => at !== null && (least === null || at < least) ? at : least, null)

/**
 * A condition that holds for everybody for whom the given one may turn by time
 * alone, and perhaps for some others; null if time never turns it.
 */
export function mayChangeByTime(condition: Condition, segments: Moment['segments']): Condition | null {
  const of = leavesOf(condition).flatMap((leaf): Condition[] => {
    switch (leaf.kind) {
      case 'tag':
        return leaf.since?.kind === 'last-days' ? [leaf] : []
      case 'arrived':
        return leaf.when.kind === 'last-days' ? [leaf] : []
      case 'opted-in':
      case 'last-read':
      case 'rule-acted':
        return leaf.within?.kind === 'last-days' ? [leaf] : []
      case 'email':
      case 'followed':
      case 'purchase':
        return leaf.within?.kind === 'last-days' ? [{ ...leaf, times: 1 }] : []
      case 'field':
        return leaf.test.is === 'last-days' || leaf.test.is === 'next-days' || leaf.test.is === 'day'
          ? [{ kind: 'field', fieldId: leaf.fieldId, test: { is: 'known' } }]
          : []
      case 'score':
        // Points only lose their worth: who has fewer stays below.
        return [leaf]
      case 'segment': {
        const inner = segments.get(leaf.segmentId)
        const turning = inner ? mayChangeByTime(inner, segments) : null
        return turning ? [turning] : []
      }
      default:
        return []
    }
  })
  return of.length === 0 ? null : { kind: 'any', of }
}
