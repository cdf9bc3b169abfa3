/** What a condition means for one person, from what is known about them. */
import { isOfSend, type SendKindName } from '#core/sending/kinds'
import type { CountryCode } from '#core/people/country'
import { needsConsent } from '#core/people/country'
import { isSameSource, type SourceKey } from '#core/page/touch'
import type { FieldValue } from '#core/people/field'
import type { Status } from '#core/people/status'
import { scoreAt, type Score } from '#core/score/score'
import type { Instant, LocalDate, ZoneName } from '#core/time/zone'
import type { Condition, EmailFate, FieldTest, Leaf, Moment, OptInFate, PurchaseFate, Stretch, WhichEmail } from './condition'
import { datesOf, edgesOf, fold, isGroup, NO_RESULT, returnsOf, SAMPLE } from './condition'

export interface EmailFacts {
  kind: SendKindName
  ownerId: number
  itemId: string
  plannedAt: Instant
  status: string
  /** True if a failed email is to be tried once more. */
  triedAgain: boolean
  /** How often it was handed over again without it being known whether it had arrived. */
  repeats: number
  handedOverAt: Instant | null
  leftAt: Instant | null
  /** Reader opens only. */
  opens: Instant[]
  /** Opens that nobody can tell from those of programs. */
  uncertainOpens: Instant[]
  /** Readers' clicks only. */
  clicks: { at: Instant, url: string, linkId: number }[]
}

/**
 * `touchId` null: from before it was kept. `confirmedAt`: when it began to count; null if they did not say yes. `fetchedAt`: of the
 * promised file, for the first time.
 */
export interface OptInFacts {
  pageId: number, touchId: number | null, resultId: string | null, at: Instant, confirmedAt: Instant | null, fetchedAt: Instant | null,
}

/** Amounts in minor units. */
export interface PurchaseFacts {
  offerId: number, at: Instant, currency: string, paid: number, refunded: number, disputed: number, refused: boolean, over: boolean,
}

export interface PersonFacts {
  id: number
  status: Status
  source: string
  createdAt: Instant
  zone: ZoneName | null
  country: CountryCode | null
  /** When consent was last recorded. */
  consentAt: Instant | null
  /** Their last reader open or click, of any email. */
  readAt: Instant | null
  /** Their last uncertain open. */
  fetchedAt: Instant | null
  lists: { listId: number, left: boolean }[]
  tags: { tagId: number, sinceAt: Instant }[]
  fields: { fieldId: number, value: FieldValue }[]
  /** What brought them to their first opt-in and to their latest; null for who never opted in, and from before it was kept. */
  brought: { first: SourceKey | null, latest: SourceKey | null }
  optIns: OptInFacts[]
  emails: EmailFacts[]
  purchases: PurchaseFacts[]
  /** Going to pay, but what was replaced by pressing again. */
  checkouts: { offerId: number, at: Instant, abandoned: boolean }[]
  /** Each time a house rule acted on them. */
  acted: { ruleId: number, at: Instant }[]
  /** Offers they want to hear no more of. */
  noMore: number[]
  /** Offers they wait for. */
  waits: number[]
  /** The points they have come to; null for none yet. */
  score: { known: Score | null }
  enrolments: { courseId: number, status: 'open' | 'finished' | 'left', stepId: string | null }[]
}

/** What is known with the person themselves, and what takes all their emails; everything else takes a few rows. */
const COSTS: Partial<Record<Leaf['kind'], number>> = {
  'status': 0, 'may-be-mailed': 0, 'country': 0, 'zone': 0, 'consent': 0, 'source': 0, 'arrived': 0, 'last-read': 0, 'sample': 0,
  'segment': 2, 'email': 3, 'followed': 3,
}

const costOf = (condition: Condition): number => isGroup(condition) ? Math.max(0, ...condition.of.map(costOf)) : COSTS[condition.kind] ?? 1

const sorted = new WeakMap<readonly Condition[], Condition[]>()

/** The same parts, what is quickly known before what is not: most often that settles it. */
function cheapFirst(of: readonly Condition[]): readonly Condition[] {
  let known = sorted.get(of)
  if (!known) sorted.set(of, known = [...of].sort((a, b) => costOf(a) - costOf(b)))
  return known
}

export function holds(condition: Condition, person: PersonFacts, moment: Moment): boolean {
  if (!isGroup(condition)) return leafHolds(condition, person, moment)
  const parts = cheapFirst(condition.of)
  switch (condition.kind) {
    case 'all':
      return parts.every(part => holds(part, person, moment))
    case 'any':
      return parts.some(part => holds(part, person, moment))
    case 'none':
      return !parts.some(part => holds(part, person, moment))
  }
}

function leafHolds(leaf: Leaf, person: PersonFacts, moment: Moment): boolean {
  const { now } = moment
  switch (leaf.kind) {
    case 'status':
      return leaf.is.includes(person.status)
    case 'may-be-mailed':
      return person.status === 'active' && hasConsent(person, moment)
    case 'list': {
      const theirs = person.lists.filter(({ listId }) => leaf.listId === null || listId === leaf.listId)
      return leaf.is === 'never-joined' ? theirs.length === 0 : theirs.some(({ left }) => left === (leaf.is === 'left'))
    }
    case 'tag':
      return person.tags.some(({ tagId, sinceAt }) => tagId === leaf.tagId && isIn(sinceAt, leaf.since, now))
    case 'field': {
      const field = person.fields.find(({ fieldId }) => fieldId === leaf.fieldId)
      return field !== undefined && passes(field.value, leaf.test, moment.today)
    }
    case 'country':
      return person.country === null ? leaf.unknown : leaf.is.includes(person.country)
    case 'zone':
      return person.zone !== null && leaf.is.includes(person.zone)
    case 'consent':
      return leaf.is === 'on-record' ? person.consentAt !== null : !hasConsent(person, moment)
    case 'source':
      return person.source === leaf.is
    case 'arrived':
      return isIn(person.createdAt, leaf.when, now)
    case 'opted-in':
      return person.optIns.some(optIn => isThatOptIn(optIn, leaf) && timesOfOptIn(optIn, leaf.did).some(at => isIn(at, leaf.within, now)))
    case 'brought': {
      const source = person.brought[leaf.by]
      return (leaf.by === 'latest' || cameByPage(person.source)) && source !== null && isSameSource(source, leaf.source)
    }
    case 'email':
      return person.emails.filter(email =>
        isOne(email, leaf.which) && timesOf(leaf.fate, email, leaf.url).some(at => isIn(at, leaf.within, now))).length >= leaf.times
    case 'last-read': {
      const at = leaf.by === 'reader' ? person.readAt : person.fetchedAt
      return at !== null && isIn(at, leaf.within, now)
    }
    case 'course': {
      const visits = person.enrolments.filter(({ courseId }) => courseId === leaf.courseId)
      if (leaf.is === 'never') return visits.length === 0
      if (leaf.is === 'ever') return visits.length > 0
      if (leaf.is === 'inside') {
        return visits.some(({ status, stepId }) => status === 'open' && (leaf.stepId === null || stepId === leaf.stepId))
      }
      return visits.some(({ status }) => status === leaf.is)
    }
    case 'purchase':
      return timesOfPurchases(person, leaf).filter(at => isIn(at, leaf.within, now)).length >= leaf.times
    case 'spent':
      return person.purchases.filter(one => one.currency === leaf.currency && isOfOffer(one, leaf)).reduce(
        (sum, { paid, refunded }) => sum + paid - refunded, 0,
      ) >= leaf.atLeast
    case 'no-more':
      return person.noMore.includes(leaf.offerId)
    case 'waits':
      return person.waits.includes(leaf.offerId)
    case 'followed':
      return timesOfFollowing(person, leaf).filter(at => isIn(at, leaf.within, now)).length >= leaf.times
    case 'rule-acted':
      return timesOfActing(person, leaf).some(at => isIn(at, leaf.within, now))
    case 'score':
      return scoreAt(person.score.known, now, moment.score.halfLifeDays) >= leaf.atLeast
    case 'segment': {
      const condition = moment.segments.get(leaf.segmentId)
      return condition !== undefined && holds(condition, person, moment)
    }
    case 'sample':
      return ((person.id % SAMPLE.wrap) * SAMPLE.stride + leaf.salt * SAMPLE.saltStride) % SAMPLE.buckets < leaf.hundredths
  }
}

/** On record, or not asked for by their country. */
function hasConsent({ country, consentAt }: PersonFacts, { consent }: Moment): boolean {
  return consentAt !== null || !needsConsent(country, consent)
}

/** Whether a subscriber's source is a page of ours: whom an import brought was brought by nothing else. */
export const cameByPage = (source: string): boolean => source.startsWith('page:')

/** Whether a field that says this passes a test. `today`: the calendar day of the workspace's zone. */
export function passes(value: FieldValue, test: FieldTest, today: LocalDate): boolean {
  if (test.is === 'known') return true
  if (typeof value === 'number') {
    if (test.is === 'yes') return value === (test.yes ? 1 : 0)
    if (test.is !== 'number') return false
    switch (test.sign) {
      case '<': return value < test.number
      case '<=': return value <= test.number
      case '=': return value === test.number
      case '>=': return value >= test.number
      case '>': return value > test.number
    }
  }
  switch (test.is) {
    case 'equal':
      return fold(value) === fold(test.text)
    case 'contains':
      return fold(value).includes(fold(test.text))
    case 'begins':
      return fold(value).startsWith(fold(test.text))
    case 'one-of':
      return test.values.includes(value)
    case 'number':
    case 'yes':
      return false
    case 'day': {
      const { date, ends } = returnsOf(test, today)
      return value === date || (value < date && ends.includes(value.slice(5)))
    }
    default: {
      const { from, to } = datesOf(test, today)
      return (from === null || value >= from) && (to === null || value <= to)
    }
  }
}

function isIn(at: Instant, stretch: Stretch | null, now: Instant): boolean {
  if (!stretch) return true
  const { from, to } = edgesOf(stretch, now)
  return (from === null || at >= from) && (to === null || at <= to)
}

/** Whether it is an opt-in the leaf asks for, whenever it was. */
export function isThatOptIn(
  optIn: PersonFacts['optIns'][number], leaf: Pick<Extract<Leaf, { kind: 'opted-in' }>, 'pageId' | 'touchId' | 'resultId'>,
): boolean {
  return optIn.pageId === leaf.pageId && (!leaf.touchId || optIn.touchId === leaf.touchId)
    && (!leaf.resultId || (optIn.resultId ?? NO_RESULT) === leaf.resultId)
}

/** Every time they followed a link of the library. */
export const timesOfFollowing = ({ emails }: PersonFacts, { linkId }: { linkId: number }): Instant[] =>
  emails.flatMap(({ clicks }) => clicks.filter(click => click.linkId === linkId).map(({ at }) => at))

/** Every time this house rule acted on them. */
export const timesOfActing = ({ acted }: PersonFacts, { ruleId }: { ruleId: number }): Instant[] =>
  acted.filter(one => one.ruleId === ruleId).map(({ at }) => at)

const isOfOffer = (one: { offerId: number }, leaf: { offerId: number | null }): boolean =>
  leaf.offerId === null || one.offerId === leaf.offerId

const HAS_FATE: Record<Exclude<PurchaseFate, 'began' | 'abandoned'>, (purchase: PurchaseFacts) => boolean> = {
  bought: () => true, owned: ({ over }) => !over, refunded: ({ refunded }) => refunded > 0, disputed: ({ disputed }) => disputed > 0,
  refused: ({ refused }) => refused, over: ({ over }) => over,
}

/** When each purchase was made, or each going to pay begun, of which this is true. */
export function timesOfPurchases({ purchases, checkouts }: PersonFacts, leaf: Extract<Leaf, { kind: 'purchase' }>): Instant[] {
  const { fate } = leaf
  const of = fate === 'began' || fate === 'abandoned'
    ? checkouts.filter(({ abandoned }) => fate === 'began' || abandoned)
    : purchases.filter(HAS_FATE[fate])
  return of.filter(one => isOfOffer(one, leaf)).map(({ at }) => at)
}

/** Whether this is one of those emails. */
export function isOne(email: EmailFacts, which: WhichEmail): boolean {
  return which === null || isOfSend(which, email)
}

/** When it came to this with an email; empty if it did not. */
export function timesOf(fate: EmailFate, email: EmailFacts, url: string | null): Instant[] {
  switch (fate) {
    case 'sent':
      return email.handedOverAt === null ? [] : [email.handedOverAt]
    case 'opened':
      return email.opens
    case 'maybe-opened':
      return email.uncertainOpens
    case 'clicked':
      return email.clicks.filter(click => url === null || click.url === url).map(click => click.at)
    case 'left-by':
      return email.leftAt === null ? [] : [email.leftAt]
    case 'held-back':
      return email.status === 'held back' ? [email.plannedAt] : []
    case 'given-up':
      return email.status === 'failed' && !email.triedAgain ? [email.plannedAt] : []
    case 'waiting-again':
      return email.status === 'failed' && email.triedAgain ? [email.plannedAt] : []
    case 'maybe-twice':
      return email.repeats > 0 ? [email.plannedAt] : []
  }
}

/** When it came to this with an opt-in; empty if it did not. */
export function timesOfOptIn({ at, confirmedAt, fetchedAt }: OptInFacts, did: OptInFate = 'pressed'): Instant[] {
  switch (did) {
    case 'pressed': return [at]
    case 'counts': return confirmedAt === null ? [] : [confirmedAt]
    case 'not-confirmed': return confirmedAt === null ? [at] : []
    case 'fetched': return fetchedAt === null ? [] : [fetchedAt]
  }
}
