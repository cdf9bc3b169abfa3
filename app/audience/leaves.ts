/** The kinds of condition to choose from, and what a new one of each begins as. */
import type { FieldTest, Leaf } from '#core/audience/condition'
import type { Names } from '#core/audience/say'
import { isSameSource, saySourceKey } from '#core/page/touch'
import type { Field, FieldKind } from '#core/people/field'
import type { ConditionParts } from '#core/views/audience'
import type { Instant, ZoneName } from '#core/time/zone'
import { localOf } from '#core/time/zone'

export interface LeafChoice { value: string, name: string, group: string, make(): Leaf }

/** Tags that people have. */
export const heldTags = (parts: ConditionParts) => parts.tags.filter(tag => !tag.blanks)

/** What can be asked with what there is: without a tag there is no condition about tags. */
export function leafChoices(parts: ConditionParts, now: Instant, zone: ZoneName): LeafChoice[] {
  const [list, tag, page, course, segment, offer] = [
    parts.lists[0], heldTags(parts)[0], parts.pages[0], parts.courses[0], parts.segments[0], parts.offers[0],
  ]
  const choice = (value: string, name: string, group: string, leaf: (() => Leaf) | null): LeafChoice[] =>
    leaf ? [{ value, name, group, make: leaf }] : []
  return [
    ...choice('tag', 'Tag', 'Tags and lists', tag ? () => ({ kind: 'tag', tagId: tag.id, since: null }) : null),
    ...choice('list', 'List', 'Tags and lists', list ? () => ({ kind: 'list', listId: list.id, is: 'joined' }) : null),
    ...choice('segment', 'Segment', 'Tags and lists', segment ? () => ({ kind: 'segment', segmentId: segment.id }) : null),
    ...choice('status', 'Status', 'Status', () => ({ kind: 'status', is: ['active'] })),
    ...choice('may-be-mailed', 'Can be emailed', 'Status', () => ({ kind: 'may-be-mailed' })),
    ...choice('score', 'Score', 'Status', () => ({ kind: 'score', atLeast: 15 })),
    ...choice('consent', 'Consent', 'Status', () => ({ kind: 'consent', is: 'on-record' })),
    ...choice('arrived', 'Date added', 'Joining', () => ({ kind: 'arrived', when: { kind: 'last-days', days: 30 } })),
    ...choice('source', 'How they were added', 'Joining', () => ({ kind: 'source', is: parts.sources[0] ?? '' })),
    ...choice(
      'opted-in', 'Opt-in on a page', 'Joining',
      page ? () => ({ kind: 'opted-in', pageId: page.id, within: null, touchId: null, did: 'pressed' }) : null,
    ),
    ...choice(
      'brought', 'Source', 'Joining',
      parts.brought[0] ? () => ({ kind: 'brought', by: 'first', source: parts.brought[0]!.source }) : null,
    ),
    ...choice('email', 'Email', 'Activity', () => ({
      kind: 'email', fate: 'opened', which: null, within: { kind: 'last-days', days: 30 }, times: 1, url: null,
    })),
    ...choice(
      'followed', 'Tracked link', 'Activity',
      parts.links[0] ? () => ({ kind: 'followed', linkId: parts.links[0]!.id, within: null, times: 1 }) : null,
    ),
    ...choice(
      'rule-acted', 'House rule', 'Activity',
      parts.rules[0] ? () => ({ kind: 'rule-acted', ruleId: parts.rules[0]!.id, within: null }) : null,
    ),
    ...choice(
      'last-read', 'Opened or clicked', 'Activity', () => ({ kind: 'last-read', by: 'reader', within: { kind: 'last-days', days: 90 } }),
    ),
    ...choice('course', 'Course', 'Activity', course ? () => ({ kind: 'course', courseId: course.id, is: 'inside', stepId: null }) : null),
    ...choice('purchase', 'Purchase', 'Purchases', offer ? () => ({
      kind: 'purchase', fate: 'bought', offerId: null, within: null, times: 1,
    }) : null),
    ...choice(
      'spent', 'Total paid', 'Purchases',
      offer ? () => ({ kind: 'spent', currency: parts.currencies[0]!, atLeast: 0, offerId: null }) : null,
    ),
    ...choice('no-more', 'Said no more', 'Purchases', offer ? () => ({ kind: 'no-more', offerId: offer.id }) : null),
    ...choice('waits', 'On a waiting list', 'Purchases', offer ? () => ({ kind: 'waits', offerId: offer.id }) : null),
    ...choice('country', 'Country', 'About them', () => ({ kind: 'country', is: [], unknown: false })),
    ...choice('zone', 'Time zone', 'About them', () => ({ kind: 'zone', is: [zone] })),
    ...parts.fields.flatMap(field => choice(
      `field-${field.id}`, field.name, 'About them',
      () => ({ kind: 'field', fieldId: field.id, test: newTest(field, localOf(now, zone).date) }),
    )),
    ...choice('sample', 'Random sample', 'Other', () => ({ kind: 'sample', hundredths: 1000, salt: 1 })),
  ]
}

export const choiceOf = (leaf: Leaf): string => leaf.kind === 'field' ? `field-${leaf.fieldId}` : leaf.kind

function newTest(field: Field, today: string): FieldTest {
  switch (field.kind) {
    case 'text': return { is: 'contains', text: '' }
    case 'number': return { is: 'number', sign: '>=', number: 1 }
    case 'yes-no': return { is: 'yes', yes: true }
    case 'date': return { is: 'after', date: today }
    default: return { is: 'one-of', values: [] }
  }
}

/** The tests of a field's kind, each with what it begins as. */
export function testsOf(kind: FieldKind, today: string): { value: string, name: string, make(): FieldTest }[] {
  const known = { value: 'known', name: 'is known', make: (): FieldTest => ({ is: 'known' }) }
  const test = (value: string, name: string, make: () => FieldTest) => ({ value, name, make })
  switch (kind) {
    case 'text':
      return [...([['contains', 'contains'], ['equal', 'is'], ['begins', 'begins with']] as const).map(([is, name]) =>
        test(is, name, () => ({ is, text: '' }))), known]
    case 'number':
      return [...([
        ['>=', 'is at least'], ['<=', 'is at most'], ['=', 'is'], ['>', 'is more than'], ['<', 'is less than'],
      ] as const).map(([sign, name]) => test(sign, name, () => ({ is: 'number', sign, number: 1 }))), known]
    case 'yes-no':
      return [test('yes', 'is yes', () => ({ is: 'yes', yes: true })), test('no', 'is no', () => ({ is: 'yes', yes: false })), known]
    case 'date':
      return [
        ...([['after', 'is after'], ['before', 'is before'], ['on', 'is on']] as const).map(([is, name]) =>
          test(is, name, () => ({ is, date: today }))),
        ...([
          ['last-days', 'is in the last … days, or today'], ['next-days', 'is in the next … days, or today'],
        ] as const).map(([is, name]) => test(
          is, name, () => ({ is, days: 7 }),
        )), test('day', 'came round … days ago, every year', () => ({ is: 'day', days: 0, yearly: true })), known,
      ]
    default:
      return [test('one-of', 'is one of', () => ({ is: 'one-of', values: [] })), known]
  }
}

export const testChoiceOf = (test: FieldTest): string =>
  test.is === 'number' ? test.sign : test.is === 'yes' ? (test.yes ? 'yes' : 'no') : test.is

/** The names of the parts, for saying a condition. */
export function namesFrom(parts: ConditionParts, zone: ZoneName): Names {
  const named = (rows: { id: number, name: string }[]) => new Map(rows.map(({ id, name }) => [id, name]))
  return {
    zone, lists: named(parts.lists), tags: named(parts.tags), pages: named(parts.pages), touches: named(parts.touches),
    segments: named(parts.segments), offers: named(parts.offers), links: named(parts.links), rules: named(parts.rules),
    broadcasts: named(parts.broadcasts),
    fields: new Map(parts.fields.map(field => [field.id, field])),
    results: (pageId, resultId) =>
      parts.pages.find(({ id }) => id === pageId)?.results.find(({ id }) => id === resultId)?.name,
    brought: source =>
      parts.brought.find(one => isSameSource(one.source, source))?.name ?? saySourceKey(source, () => undefined),
    courses: new Map(
      parts.courses.map(course => [course.id, { name: course.name, steps: new Map(course.steps.map(step => [step.id, step.title])) }]),
    ),
  }
}
