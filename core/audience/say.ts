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
import { sayNumber } from '#core/stats/say'

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
  broadcasts: Pick<ReadonlyMap<number, string>, 'get'>
  /** What house rules are known by: their sentences, without whom they ask for. */
  rules: Pick<ReadonlyMap<number, string>, 'get'>
  fields: ReadonlyMap<number, Pick<Field, 'name' | 'kind'>>
  /** What brought people, in words. */
  touches: Pick<ReadonlyMap<number, string>, 'get'>
  /** A source in words. */
  brought(source: SourceKey): string
}

/**
 * A part of the phrase after "people". `as` follows at once ("tagged “a”"), `who` is what they did or are ("opened “b”"), `whose` is
 * something of theirs ("“books bound” is known"). Parts with the same `head` share it: "tagged “a” or “b”".
 */
interface Phrase { kind: 'as' | 'who' | 'whose', head: string, tail: string }

const as = (head: string, tail = ''): Phrase => ({ kind: 'as', head, tail })
const who = (words: string): Phrase => ({ kind: 'who', head: '', tail: words })
const whose = (words: string): Phrase => ({ kind: 'whose', head: '', tail: words })

/** Such a phrase in whole: `tagged “likes: coptic” who opened any email in the last 30 days`. Empty for everybody. */
export function sayCondition(condition: Condition, names: Names): string {
  return isGroup(condition) ? sayGroup(condition.kind, condition.of, names, true) : sayLeaf(condition, names)
}

export const sayLeaf = (leaf: Leaf, names: Names): string => sayAll([phraseOf(leaf, names)])

function sayGroup(kind: 'all' | 'any' | 'none', of: Condition[], names: Names, outermost: boolean): string {
  if (of.length === 0) return kind === 'any' ? 'who do not exist' : ''
  // The one part that says who belongs needs no brackets beside those that say who never does.
  const alone = outermost && kind === 'all' && of.filter(part => part.kind !== 'none').length === 1
  const phrases: Phrase[] = []
  const [groups, nevers]: [string[], string[]] = [[], []]
  for (const part of of) {
    const shared = kind === 'all' && part.kind === 'any' ? sharedBy(part.of, names) : null
    if (!isGroup(part)) phrases.push(phraseOf(part, names))
    else if (shared) phrases.push(shared)
    else if (part.kind !== 'none') groups.push(sayGroup(part.kind, part.of, names, alone))
    else nevers.push(sayGroup('none', part.of, names, false))
  }
  const who = [kind === 'all' ? sayAll(phrases) : sayAny(phrases), ...groups]
  const never = nevers.filter(Boolean)
  // Beside others, who never belongs comes last; alone, or as one of several ways to belong, it stands for itself.
  if (kind !== 'all') who.push(...never.map(people => `who are not people ${people}`))
  const said = who.filter(Boolean).join(kind === 'all' ? ' and ' : ' or ')
  if (kind === 'none') return outermost && said !== '' ? `who are not people ${said}` : said
  if (kind === 'any' || never.length === 0) return outermost || of.length < 2 || said === '' ? said : `(${said})`
  return said === ''
    ? `who are not people ${never.join(' or ')}`
    : `${outermost ? said : `(${said})`}, but never people ${never.join(' or ')}`
}

/** Of any of several, where they differ in their tails alone: one phrase, `tagged “a” or “b”`. */
function sharedBy(of: Condition[], names: Names): Phrase | null {
  const phrases = of.map(part => isGroup(part) ? null : phraseOf(part, names))
  const [first] = phrases
  if (!first || first.tail === '' || phrases.some(one => one?.kind !== 'as' || one.head !== first.head)) return null
  return as(first.head, listed(phrases.map(one => one!.tail), 'or'))
}

/** All of them: what follows at once, then what they did, then what is theirs. */
function sayAll(phrases: Phrase[]): string {
  const said = (kind: Phrase['kind']) => listed(shareHeads(phrases.filter(one => one.kind === kind), 'and'), 'and')
  const [follows, did, theirs] = [said('as'), said('who'), said('whose')]
  return [follows, did && `who ${did}`, theirs && `${did ? 'and ' : ''}whose ${theirs}`].filter(Boolean).join(' ')
}

/** Any of them, in their order: each says for itself how it follows "people". */
const sayAny = (phrases: Phrase[]): string =>
  listed(shareHeads(phrases.map(one => one.kind === 'as' ? one : as('', `${one.kind} ${one.tail}`)), 'or'), 'or')

/** Those with one head become one. */
function shareHeads(phrases: Phrase[], word: 'and' | 'or'): string[] {
  const shared: { head: string, tails: string[] }[] = []
  for (const { head, tail } of phrases) {
    const known = head !== '' && tail !== '' ? shared.find(one => one.head === head) : undefined
    if (known) known.tails.push(tail)
    else shared.push({ head, tails: [tail] })
  }
  return shared.map(({ head, tails }) => head + listed(tails, word))
}

const listed = (words: readonly string[], word: 'and' | 'or') =>
  words.length < 2 ? words.join('') : `${words.slice(0, -1).join(', ')} ${word} ${words.at(-1)}`
const oneOf = (words: readonly string[]) => listed(words, 'or')

const OPT_IN_WORDS: Record<OptInFate, (page: string) => string> = {
  'pressed': page => `opted in on ${page}`,
  'counts': page => `completed the opt-in on ${page}`,
  'not-confirmed': page => `opted in on ${page} and have not confirmed`,
  'fetched': page => `downloaded the file from ${page}`,
}

const FATES: Record<EmailFate, (email: string) => string> = {
  'sent': email => `were sent ${email}`,
  'opened': email => `opened ${email}`,
  'maybe-opened': email => `may have opened ${email}`,
  'clicked': email => `clicked in ${email}`,
  'left-by': email => `unsubscribed from ${email}`,
  'held-back': email => `were not sent ${email}, which was held back`,
  'given-up': email => `could not be sent ${email}`,
  'waiting-again': email => `are waiting for another try of ${email}`,
  'maybe-twice': email => `may have got ${email} twice`,
}

const PURCHASE_WORDS: Record<PurchaseFate, (offer: string) => string> = {
  bought: offer => `bought ${offer}`,
  owned: offer => `have ${offer}`,
  refunded: offer => `got a refund for ${offer}`,
  disputed: offer => `disputed a payment for ${offer}`,
  refused: offer => `had their last payment for ${offer} refused`,
  over: offer => `no longer have ${offer}`,
  began: offer => `went to pay for ${offer}`,
  abandoned: offer => `did not finish paying for ${offer}`,
}

const GONE = 'something deleted'
const quoted = (name: string | undefined): string => name === undefined ? GONE : `“${name}”`
const atLeast = (times: number) => times > 1 ? ` at least ${times} times` : ''

function phraseOf(leaf: Leaf, names: Names): Phrase {
  const stretch = (of: Stretch | null) => of === null ? '' : ` ${sayStretch(of, names.zone)}`
  switch (leaf.kind) {
    case 'status':
      return leaf.is.length === 0 ? as('with no status') : who(`are ${oneOf(leaf.is)}`)
    case 'may-be-mailed':
      return who('can be emailed')
    case 'list': {
      const list = leaf.listId === null ? null : quoted(names.lists.get(leaf.listId))
      return {
        'joined': list === null ? as('on any list') : as('on the list ', list),
        'left': who(list === null ? 'left a list' : `left the list ${list}`),
        'never-joined': who(list === null ? 'never joined a list' : `never joined the list ${list}`),
      }[leaf.is]
    }
    case 'tag':
      return as('tagged ', `${quoted(names.tags.get(leaf.tagId))}${leaf.since === null ? '' : ` (added${stretch(leaf.since)})`}`)
    case 'field': {
      const field = names.fields.get(leaf.fieldId)
      return whose(`${quoted(field?.name)} ${sayTest(leaf.test, names.zone, field?.kind === 'country')}`)
    }
    case 'country':
      return leaf.is.length === 0
        ? (leaf.unknown ? whose('country is not known') : as('from no country'))
        : as(`from ${oneOf([...leaf.is.map(sayCountry), ...leaf.unknown ? ['an unknown country'] : []])}`)
    case 'zone':
      return leaf.is.length === 0
        ? as('in no time zone')
        : as(`in the time zone ${oneOf(leaf.is.map(zone => zone.replaceAll('_', ' ')))}`)
    case 'consent':
      return as(leaf.is === 'on-record' ? 'with consent on record' : 'without the consent their country needs')
    case 'source':
      return who(`were added by ${saySource(leaf.is)}`)
    case 'arrived':
      return who(`were added${stretch(leaf.when)}`)
    case 'opted-in': {
      const optedIn = OPT_IN_WORDS[leaf.did ?? 'pressed'](quoted(names.pages.get(leaf.pageId)))
      const led = leaf.resultId === NO_RESULT ? 'no result page' : leaf.resultId && quoted(names.results(leaf.pageId, leaf.resultId))
      const brought = leaf.touchId && (names.touches.get(leaf.touchId) ?? GONE)
      const more = [...led ? [`result: ${led}`] : [], ...brought ? [`source: ${brought}`] : []]
      return who(`${optedIn}${more.length > 0 ? ` (${more.join(', ')})` : ''}${stretch(leaf.within)}`)
    }
    case 'brought':
      return who(`${leaf.by === 'first' ? 'first' : 'most recently'} came from ${names.brought(leaf.source)}`)
    case 'email': {
      const email = leaf.which === null ? null : sayWhich(leaf.which, names)
      const some = leaf.times > 1 ? `at least ${leaf.times} emails` : 'any email'
      const what = email === null ? some : isOneEmail(leaf.which!) ? `${email}${atLeast(leaf.times)}` : `${some} ${email}`
      return who(`${FATES[leaf.fate](what)}${leaf.url === null ? '' : ` (the link ${leaf.url})`}${stretch(leaf.within)}`)
    }
    case 'last-read': {
      const last = leaf.within.kind === 'before' ? 'last ' : ''
      return leaf.by === 'reader'
        ? who(`${last}opened or clicked${stretch(leaf.within)}`)
        : whose(`last uncertain open was${stretch(leaf.within)}`)
    }
    case 'course': {
      const course = names.courses.get(leaf.courseId)
      const name = quoted(course?.name)
      if (leaf.is === 'inside' && leaf.stepId !== null) return as(`waiting for ${quoted(course?.steps.get(leaf.stepId))} in ${name}`)
      return {
        inside: as('in the course ', name), finished: who(`finished ${name}`), left: who(`left ${name}`), ever: who(`started ${name}`),
        never: who(`have never been in ${name}`),
      }[leaf.is]
    }
    case 'purchase': {
      const offer = leaf.offerId === null ? 'something' : quoted(names.offers.get(leaf.offerId))
      return who(`${PURCHASE_WORDS[leaf.fate](offer)}${atLeast(leaf.times)}${stretch(leaf.within)}`)
    }
    case 'spent':
      return who(`paid at least ${sayMoney({ amount: leaf.atLeast, currency: leaf.currency })} in total${
        leaf.offerId === null ? '' : ` for ${quoted(names.offers.get(leaf.offerId))}`}`)
    case 'no-more':
      return who(`want to hear no more about ${quoted(names.offers.get(leaf.offerId))}`)
    case 'waits':
      return as('on the waiting list of ', quoted(names.offers.get(leaf.offerId)))
    case 'followed':
      return who(`clicked the link ${quoted(names.links.get(leaf.linkId))}${atLeast(leaf.times)}${stretch(leaf.within)}`)
    case 'rule-acted':
      return who(`were affected by the house rule ${quoted(names.rules.get(leaf.ruleId))}${stretch(leaf.within)}`)
    case 'score':
      return as(`with ${sayNumber(leaf.atLeast)} points or more`)
    case 'segment':
      return as('in the segment ', quoted(names.segments.get(leaf.segmentId)))
    case 'sample':
      return as(`in a random sample of ${sayNumber(leaf.hundredths / 100)}%`)
  }
}

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
    case 'contains': return `contains “${test.text}”`
    case 'begins': return `begins with “${test.text}”`
    case 'number': return `${SIGNS[test.sign]} ${sayNumber(test.number)}`
    case 'yes': return `is ${test.yes ? 'yes' : 'no'}`
    case 'one-of': return test.values.length === 0
      ? 'is none of them'
      : `is ${oneOf(countries ? test.values.map(sayCountry) : test.values)}`
    case 'on': return `is ${day(test.date)}`
    case 'before': return `is before ${day(test.date)}`
    case 'after': return `is after ${day(test.date)}`
    case 'last-days': return `is today or in the ${test.days} days before`
    case 'next-days': return `is today or in the ${test.days} days after`
    case 'day': return `${test.yearly ? 'comes round' : 'is'} ${test.days === 0 ? 'today' : `${Math.abs(test.days)} ${Math.abs(test.days) === 1 ? 'day' : 'days'} ${test.days > 0 ? 'ago' : 'ahead'}`}`
  }
}

/** Whether it names one email: a broadcast has but one. */
export const isOneEmail = ({ kind, itemId }: WhichSend): boolean => itemId !== null || kindOf(kind).owner === 'broadcast'

/** One email, `“First fold” of “Fold, Sew, Cover”`, or any of what it comes of, `of “Fold, Sew, Cover”`. */
export function sayWhich({ kind, ownerId, itemId }: WhichSend, names: Names): string {
  const { owner, word } = kindOf(kind)
  const course = owner === 'course' ? names.courses.get(ownerId) : undefined
  const of = owner === null ? word : { course: course?.name, page: names.pages.get(ownerId), offer: names.offers.get(ownerId),
    rule: names.rules.get(ownerId), broadcast: names.broadcasts.get(ownerId) }[owner]
  const item = owner === 'course' && itemId !== null ? quoted(course?.steps.get(itemId)) : word
  const whole = owner === null ? word : quoted(of)
  if (owner === 'broadcast') return kind === 'broadcast' ? whole : `a second sending of ${whole}`
  return itemId === null ? `of ${whole}` : `${item} of ${whole}`
}
