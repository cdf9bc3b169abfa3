/** A condition in words, as it is read aloud and told above a table. */
import { kindOf, type WhichSend } from '#core/sending/kinds'
import { sayCountry } from '#core/people/country'
import type { Field } from '#core/people/field'
import { sayDay } from '#core/time/say'
import type { ZoneName } from '#core/time/zone'
import { instantOf } from '#core/time/zone'
import { sayMoney } from '#core/money/money'
import { saySource } from '#core/people/source'
import type { SourceKey } from '#core/page/touch'
import type { Condition, EmailFate, FieldTest, Leaf, OptInFate, PurchaseFate, Stretch } from './condition'
import { isGroup, NO_RESULT } from './condition'

/** The names of what conditions are about. What is missing is said to be gone. */
export interface Names {
  zone: ZoneName
  lists: ReadonlyMap<number, string>
  tags: ReadonlyMap<number, string>
  pages: ReadonlyMap<number, string>
  /** Of the result pages of a page. */
  results(pageId: number, resultId: string): string | undefined
  courses: ReadonlyMap<number, { name: string, steps: ReadonlyMap<string, string> }>
  segments: ReadonlyMap<number, string>
  offers: ReadonlyMap<number, string>
  links: ReadonlyMap<number, string>
  /** What house rules are known by: their sentences, without whom they ask for. */
  rules: Pick<ReadonlyMap<number, string>, 'get'>
  fields: ReadonlyMap<number, Pick<Field, 'name' | 'kind'>>
  /** What brought people, in words. */
  touches: Pick<ReadonlyMap<number, string>, 'get'>
  /** A source in words. */
  brought(source: SourceKey): string
}

const OPT_IN_WORDS: Record<OptInFate, (page: string) => string> = {
  'pressed': page => `who opted in on ${page}`,
  'counts': page => `whose opt-in on ${page} counts`,
  'not-confirmed': page => `who opted in on ${page} and have not confirmed`,
  'fetched': page => `who fetched the file of ${page}`,
}

/** A phrase after "people": `with the tag likes: coptic, and not on the list bench letters`. Empty for everybody. */
export function sayCondition(condition: Condition, names: Names): string {
  return isGroup(condition) ? sayGroup(condition.kind, condition.of, names, true) : sayLeaf(condition, names)
}

function sayGroup(kind: 'all' | 'any' | 'none', of: Condition[], names: Names, outermost: boolean): string {
  // The one part that says who belongs needs no brackets beside those that say who never does.
  const alone = outermost && of.filter(part => part.kind !== 'none').length === 1
  const parts = of.map(part => isGroup(part) ? sayGroup(part.kind, part.of, names, alone && kind === 'all') : sayLeaf(part, names))
    .filter(Boolean)
  if (of.length === 0) return kind === 'any' ? 'who are nobody at all' : ''
  if (kind === 'none') return parts.length === 0 ? '' : `but never ${join(parts, 'or')}`
  const inner = join(parts, kind === 'all' ? 'and' : 'or')
  return outermost || parts.length < 2 ? inner : `(${inner})`
}

function join(parts: string[], word: 'and' | 'or'): string {
  return parts.reduce(
    (text, part) => text === '' ? part : part.startsWith('but never') ? `${text}, ${part}` : `${text} ${word} ${part}`, '',
  )
}

const FATES: Record<EmailFate, [one: string, many: string]> = {
  'sent': ['who were sent', 'who were sent at least'],
  'opened': ['who opened', 'who opened at least'],
  'clicked': ['who clicked in', 'who clicked in at least'],
  'left-by': ['who left by', 'who left by at least'],
  'held-back': ['held back from', 'held back from at least'],
  'given-up': ['for whom we gave up on', 'for whom we gave up on at least'],
  'waiting-again': ['who wait for another try of', 'who wait for another try of at least'],
  'maybe-twice': ['who may have got twice', 'who may have got twice at least'],
}

const PURCHASE_WORDS: Record<PurchaseFate, [one: string, many: string]> = {
  bought: ['who bought', 'who bought at least'],
  owned: ['who have', 'who have at least'],
  refunded: ['who got money back for', 'who got money back at least'],
  disputed: ['whose bank asks for the money back of', 'whose bank asks for the money back at least'],
  refused: ['whose last payment was refused for', 'whose last payment was refused at least'],
  over: ['who do not have any more', 'who do not have any more at least'],
  began: ['who went to pay for', 'who went to pay at least'],
  abandoned: ['who did not pay in time for', 'who did not pay in time at least'],
}

export function sayLeaf(leaf: Leaf, names: Names): string {
  const stretch = (of: Stretch | null) => of === null ? '' : ` ${sayStretch(of, names.zone)}`
  switch (leaf.kind) {
    case 'status':
      return leaf.is.length === 0 ? 'with no status at all' : `who are ${oneOf(leaf.is)}`
    case 'may-be-mailed':
      return 'who may be mailed'
    case 'list': {
      if (leaf.listId === null) {
        return { 'joined': 'on any list', 'left': 'who left a list', 'never-joined': 'who never joined a list' }[leaf.is]
      }
      const name = names.lists.get(leaf.listId) ?? GONE
      return {
        'joined': `on the list ${name}`, 'left': `who left the list ${name}`, 'never-joined': `who never joined the list ${name}`,
      }[leaf.is]
    }
    case 'tag':
      return `with the tag ${names.tags.get(leaf.tagId) ?? GONE}${leaf.since === null ? '' : `, given${stretch(leaf.since)}`}`
    case 'field': {
      const field = names.fields.get(leaf.fieldId)
      return `whose ${field?.name ?? GONE} ${sayTest(leaf.test, names.zone, field?.kind === 'country')}`
    }
    case 'country':
      return leaf.is.length === 0
        ? (leaf.unknown ? 'whose country is not known' : 'from no country at all')
        : `from ${oneOf([...leaf.is.map(sayCountry), ...leaf.unknown ? ['an unknown country'] : []])}`
    case 'zone':
      return leaf.is.length === 0 ? 'in no time zone at all' : `in the time zone ${oneOf(leaf.is.map(zone => zone.replaceAll('_', ' ')))}`
    case 'consent':
      return leaf.is === 'on-record' ? 'with consent on record' : 'without the consent their country needs'
    case 'source':
      return `who came by ${saySource(leaf.is)}`
    case 'arrived':
      return `who arrived${stretch(leaf.when)}`
    case 'opted-in': {
      const optedIn = OPT_IN_WORDS[leaf.did ?? 'pressed'](names.pages.get(leaf.pageId) ?? GONE)
      const led = leaf.resultId === NO_RESULT ? 'no result page' : leaf.resultId && (names.results(leaf.pageId, leaf.resultId) ?? GONE)
      const brought = leaf.touchId && (names.touches.get(leaf.touchId) ?? GONE)
      return `${optedIn}${led ? `, whose answers led to ${led}` : ''}${brought ? `, brought by ${brought}` : ''}${stretch(leaf.within)}`
    }
    case 'brought':
      return `${leaf.by === 'first' ? 'who were brought here by' : 'whose latest opt-in was brought by'} ${names.brought(leaf.source)}`
    case 'email': {
      const email = leaf.which === null ? null : sayWhich(leaf.which, names)
      const [one, many] = FATES[leaf.fate]
      const what = leaf.times > 1
        ? `${many} ${leaf.times} emails${email === null ? '' : ` ${leaf.which!.itemId === null ? email : `like ${email}`}`}`
        : `${one} ${email === null ? 'any email' : leaf.which!.itemId === null ? `any email ${email}` : email}`
      return `${what}${leaf.url === null ? '' : ` (the link ${leaf.url})`}${stretch(leaf.within)}`
    }
    case 'last-read':
      return leaf.by === 'reader'
        ? `who last opened or clicked something${stretch(leaf.within)}`
        : `whose last uncertain open was${stretch(leaf.within)}`
    case 'course': {
      const course = names.courses.get(leaf.courseId)
      const name = course?.name ?? GONE
      if (leaf.is === 'inside' && leaf.stepId !== null) return `waiting for ${course?.steps.get(leaf.stepId) ?? GONE} in ${name}`
      return {
        inside: `inside ${name}`, finished: `who finished ${name}`, left: `who left ${name}`, ever: `who started ${name}`,
        never: `who were never in ${name}`,
      }[leaf.is]
    }
    case 'purchase': {
      const offer = leaf.offerId === null ? null : names.offers.get(leaf.offerId) ?? GONE
      const [one, many] = PURCHASE_WORDS[leaf.fate]
      return `${leaf.times > 1 ? `${many} ${leaf.times} times ${offer ?? 'anything'}` : `${one} ${offer ?? 'anything'}`}${stretch(leaf.within)}`
    }
    case 'spent':
      return `who paid at least ${sayMoney({ amount: leaf.atLeast, currency: leaf.currency })}${leaf.offerId === null ? '' : ` for ${names.offers.get(leaf.offerId) ?? GONE}`}`
    case 'no-more':
      return `who want to hear no more of ${names.offers.get(leaf.offerId) ?? GONE}`
    case 'waits':
      return `who wait until ${names.offers.get(leaf.offerId) ?? GONE} can be bought`
    case 'followed':
      return `who followed the link “${names.links.get(leaf.linkId) ?? GONE}”${leaf.times > 1 ? ` at least ${leaf.times} times` : ''}${stretch(leaf.within)}`
    case 'rule-acted':
      return `on whom the house rule “${names.rules.get(leaf.ruleId) ?? GONE}” acted${stretch(leaf.within)}`
    case 'score':
      return `with ${leaf.atLeast.toLocaleString('en-GB')} points or more`
    case 'segment':
      return `in the segment ${names.segments.get(leaf.segmentId) ?? GONE}`
    case 'sample':
      return `in a sample of ${(leaf.hundredths / 100).toLocaleString('en-GB')}%`
  }
}

const GONE = 'that is gone'

const oneOf = (words: readonly string[]) => words.length < 2 ? words.join('') : `${words.slice(0, -1).join(', ')} or ${words.at(-1)}`

/** `in the last 7 days`, `before Thu 26 Nov 2026`, `since Thu 26 Nov 2026`. */
export function sayStretch(stretch: Stretch, zone: ZoneName): string {
  switch (stretch.kind) {
    case 'last-days':
      return `in the last ${stretch.days === 1 ? '24 hours' : `${stretch.days} days`}`
    case 'before':
      return `before ${sayDay(stretch.at, zone, true)}`
    case 'since':
      return `since ${sayDay(stretch.at, zone, true)}`
  }
}

const SIGNS = { '<': 'is less than', '<=': 'is at most', '=': 'is', '>=': 'is at least', '>': 'is more than' } as const

function sayTest(test: FieldTest, zone: ZoneName, countries: boolean): string {
  const day = (date: string) => sayDay(instantOf(date, '12:00', zone), zone, true)
  switch (test.is) {
    case 'known': return 'is known'
    case 'equal': return `is “${test.text}”`
    case 'contains': return `has “${test.text}” in it`
    case 'begins': return `begins with “${test.text}”`
    case 'number': return `${SIGNS[test.sign]} ${test.number.toLocaleString('en-GB')}`
    case 'yes': return `is ${test.yes ? 'yes' : 'no'}`
    case 'one-of': return test.values.length === 0 ? 'is none of any' : `is ${oneOf(countries ? test.values.map(sayCountry) : test.values)}`
    case 'on': return `is ${day(test.date)}`
    case 'before': return `is before ${day(test.date)}`
    case 'after': return `is after ${day(test.date)}`
    case 'last-days': return `is today or in the ${test.days} days before`
    case 'next-days': return `is today or in the ${test.days} days after`
    case 'day': return `${test.yearly ? 'comes round' : 'is'} ${test.days === 0 ? 'today' : `${Math.abs(test.days)} ${Math.abs(test.days) === 1 ? 'day' : 'days'} ${test.days > 0 ? 'ago' : 'ahead'}`}`
  }
}

/** One email, or any of what it comes of. */
export function sayWhich({ kind, ownerId, itemId }: WhichSend, names: Names): string {
  const { owner, word } = kindOf(kind)
  const course = owner === 'course' ? names.courses.get(ownerId) : undefined
  const of = owner === null ? word : { course: course?.name, page: names.pages.get(ownerId), offer: names.offers.get(ownerId),
    rule: names.rules.get(ownerId) }[owner]
  const item = owner === 'course' && itemId !== null ? course?.steps.get(itemId) ?? GONE : word
  return itemId === null ? `of ${of ?? GONE}` : `${item} of ${of ?? GONE}`
}
