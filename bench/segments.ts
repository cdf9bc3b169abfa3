/** Twelve typical segments, each as a condition and as SQL that somebody who knows the tables would write for it. */
import type { Condition, Leaf } from '#core/audience/condition'
import { USUAL_CONSENT_COUNTRIES } from '#core/people/country'
import { DAY } from '#core/time/zone'
import { NOW, type Furniture } from './generate'

export interface Typical { name: string, condition: Condition, hand: string, values: (string | number)[] }

const all = (...of: Condition[]): Condition => ({ kind: 'all', of })
const any = (...of: Condition[]): Condition => ({ kind: 'any', of })
const none = (...of: Condition[]): Condition => ({ kind: 'none', of })
const active: Leaf = { kind: 'status', is: ['active'] }
const lastDays = (days: number) => ({ kind: 'last-days' as const, days })
const marks = (n: number) => Array(n).fill('?').join(',')
const COUNT = 'SELECT count(*) FROM people p WHERE p.gone IS NULL AND'

export function typicalSegments({ listIds, tagIds, fieldIds, courseIds }: Furniture): Typical[] {
  const tag = (n: number): Leaf => ({ kind: 'tag', tagId: tagIds[n]!, since: null })
    const email = (fate: 'sent' | 'opened' | 'clicked', more: Partial<Extract<Leaf, { kind: 'email' }>> = {}): Leaf => ({
      kind: 'email', fate, which: null, within: null, times: 1, url: null, ...more,
    })
  const silent = NOW - 150 * DAY
  return [
    {
      name: 'everyone who may be mailed', condition: all(all({ kind: 'may-be-mailed' })),
      hand: `${COUNT} p.status = 'active' AND NOT (p.consent_at IS NULL AND p.country IS NOT NULL AND p.country IN (${marks(USUAL_CONSENT_COUNTRIES.length)}))`, values: [
        ...USUAL_CONSENT_COUNTRIES,
      ],
    },
    {
      name: 'one tag and not another', condition: all(all(active, tag(1)), none(tag(3))),
      hand: `${COUNT} p.status = 'active' AND p.id IN (SELECT person_id FROM tag_holdings WHERE tag_id = ?)
        AND p.id NOT IN (SELECT person_id FROM tag_holdings WHERE tag_id = ?)`, values: [
        tagIds[1]!, tagIds[3]!,
      ],
    },
    {
      name: 'newcomers of 7 days', condition: all(all({ kind: 'arrived', when: lastDays(7) })),
      hand: `${COUNT} p.created_at >= ? AND p.created_at <= ?`, values: [NOW - 7 * DAY, NOW],
    },
    {
      name: 'silent for 150 days', condition: all(all(active), none(
        { kind: 'arrived', when: lastDays(150) }, { kind: 'last-read', by: 'reader', within: lastDays(150) },
        { kind: 'last-read', by: 'uncertain', within: lastDays(150) },
      )),
      hand: `${COUNT} p.status = 'active' AND p.created_at < ? AND coalesce(p.read_at, 0) < ? AND coalesce(p.fetched_at, 0) < ?`,
      values: [silent, silent, silent],
    },
    {
      name: 'opened something in 30 days', condition: all(all(email('opened', { within: lastDays(30) }))),
      hand: `
        SELECT count(DISTINCT o.person_id) FROM outbox o JOIN people p ON p.id = o.person_id WHERE o.opened_at IS NOT NULL
        AND o.last_opened_at >= ? AND o.last_opened_at <= ? AND p.gone IS NULL`, values: [NOW - 30 * DAY, NOW],
    },
    {
      name: 'clicked in one email',
      condition: all(all(email('clicked', { which: { kind: 'course', ownerId: courseIds[0]!, itemId: 'three' } }))),
      hand: `
        SELECT count(DISTINCT o.person_id) FROM outbox o JOIN people p ON p.id = o.person_id WHERE o.kind = 'course'
        AND o.owner_id = ? AND o.item_id = 'three' AND o.clicked_at IS NOT NULL AND p.gone IS NULL`, values: [courseIds[0]!],
    },
    {
      name: 'inside a course', condition: all(all({ kind: 'course', courseId: courseIds[1]!, is: 'inside', stepId: null })),
      hand: `
        SELECT count(DISTINCT e.person_id) FROM enrolments e JOIN people p ON p.id = e.person_id WHERE e.course_id = ?
        AND e.status = 'open' AND p.gone IS NULL`, values: [courseIds[1]!],
    },
    {
      name: 'finished one course, never began another', condition: all(
        all(active, { kind: 'course', courseId: courseIds[0]!, is: 'finished', stepId: null }),
        none({ kind: 'course', courseId: courseIds[1]!, is: 'ever', stepId: null }),
      ),
      hand: `${COUNT} p.status = 'active' AND p.id IN (SELECT person_id FROM enrolments WHERE course_id = ? AND status = 'finished')
        AND p.id NOT IN (SELECT person_id FROM enrolments WHERE course_id = ?)`, values: [
        courseIds[0]!, courseIds[1]!,
      ],
    },
    {
      name: 'a number field and a country', condition: all(all(
        { kind: 'field', fieldId: fieldIds.books, test: { is: 'number', sign: '>=', number: 6 } },
        { kind: 'country', is: ['PT', 'BR'], unknown: false },
      )),
      hand: `
        SELECT count(*) FROM field_values f JOIN people p ON p.id = f.person_id WHERE f.field_id = ? AND f.value >= 6
        AND typeof(f.value) <> 'text' AND p.country IN ('PT', 'BR') AND p.gone IS NULL`, values: [fieldIds.books],
    },
    {
      name: 'on a list, from an import',
      condition: all(all({ kind: 'list', listId: listIds[1]!, is: 'joined' }, { kind: 'source', is: 'import:old list' })),
      hand: `
        SELECT count(*) FROM list_members m JOIN people p ON p.id = m.person_id WHERE m.list_id = ? AND m.left_at IS NULL
        AND p.source = 'import:old list' AND p.gone IS NULL`, values: [listIds[1]!],
    },
    {
      name: 'sent 4 or more in 90 days, opened none',
      condition: all(all(email('sent', { within: lastDays(90), times: 4 })), none(email('opened', { within: lastDays(90) }))),
      hand: `${COUNT} p.id IN (SELECT person_id FROM outbox WHERE handed_over_at >= ? AND handed_over_at <= ? GROUP BY person_id
        HAVING count(*) >= 4)
        AND p.id NOT IN (SELECT person_id FROM outbox WHERE opened_at IS NOT NULL AND last_opened_at >= ? AND last_opened_at <= ?)`,
        values: [NOW - 90 * DAY, NOW, NOW - 90 * DAY, NOW],
    },
    {
      name: 'three levels: interests, or a course, but never', condition: all(all(
        active,
        any(all(tag(4), { kind: 'consent', is: 'on-record' }), { kind: 'course', courseId: courseIds[2]!, is: 'finished', stepId: null }),
      ), none({ kind: 'list', listId: listIds[0]!, is: 'left' }, { kind: 'country', is: ['US'], unknown: false })),
      hand: `${COUNT} p.status = 'active' AND ((p.consent_at IS NOT NULL AND p.id IN (SELECT person_id FROM tag_holdings WHERE tag_id = ?))
        OR p.id IN (SELECT person_id FROM enrolments WHERE course_id = ? AND status = 'finished'))
        AND p.id NOT IN (SELECT person_id FROM list_members WHERE list_id = ? AND left_at IS NOT NULL)
        AND (p.country IS NULL OR p.country <> 'US')`,
      values: [tagIds[4]!, courseIds[2]!, listIds[0]!],
    },
  ]
}
