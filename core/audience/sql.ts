/**
 * What a condition means for all people at once: an expression over the row `p`
 * of the table of people. It holds for exactly those for whom it holds in
 * memory (meaning.ts); a property test says so.
 *
 * Facts of other tables are asked as sets (`p.id IN (...)`), which the database
 * works out once, instead of once per person.
 *
 * This is the one place outside data/ that writes SQL, because the two meanings
 * of a condition belong side by side.
 */
import type { FieldTest, Condition, EmailFate, Leaf, Moment, Stretch, WhichEmail } from './condition'
import { datesOf, edgesOf, fold, isGroup, SAMPLE } from './condition'

export interface Compiled {
  /** True or false, never null. */
  sql: string
  /** Bound in the order of the question marks. */
  values: (string | number)[]
}

export function toSql(condition: Condition, moment: Moment): Compiled {
  if (!isGroup(condition)) return leafToSql(condition, moment)
  const parts = condition.of.map(part => toSql(part, moment))
  const values = parts.flatMap(part => part.values)
  const joined = (word: string, empty: string) => parts.length === 0 ? empty : `(${parts.map(part => part.sql).join(` ${word} `)})`
  switch (condition.kind) {
    case 'all':
      return { sql: joined('AND', '1'), values }
    case 'any':
      return { sql: joined('OR', '0'), values }
    case 'none':
      return { sql: `NOT ${joined('OR', '0')}`, values }
  }
}

function leafToSql(leaf: Leaf, moment: Moment): Compiled {
  switch (leaf.kind) {
    case 'status':
      return oneOf('p.status', leaf.is)
    case 'may-be-mailed': {
      const missing = consentMissing(moment)
      return { sql: `(p.status = 'active' AND NOT ${missing.sql})`, values: missing.values }
    }
    case 'list': {
      const members = (more: string) => `IN (SELECT m.person_id FROM list_members m WHERE m.list_id = ?${more})`
      const sql = { 'joined': `p.id ${members(' AND m.left_at IS NULL')}`, 'left': `p.id ${members(' AND m.left_at IS NOT NULL')}`, 'never-joined': `p.id NOT ${members('')}` }[leaf.is]
      return { sql, values: [leaf.listId] }
    }
    case 'tag': {
      const since = within('h.since_at', leaf.since, moment)
      return { sql: `p.id IN (SELECT h.person_id FROM tag_holdings h WHERE h.tag_id = ?${since.sql})`, values: [leaf.tagId, ...since.values] }
    }
    case 'field': {
      const test = fieldToSql(leaf.test, moment)
      return { sql: `p.id IN (SELECT f.person_id FROM field_values f WHERE f.field_id = ? AND ${test.sql})`, values: [leaf.fieldId, ...test.values] }
    }
    case 'country': {
      const known = oneOf('p.country', leaf.is)
      return { sql: `CASE WHEN p.country IS NULL THEN ${leaf.unknown ? 1 : 0} ELSE ${known.sql} END`, values: known.values }
    }
    case 'zone': {
      const known = oneOf('p.zone', leaf.is)
      return { sql: `(p.zone IS NOT NULL AND ${known.sql})`, values: known.values }
    }
    case 'consent':
      return leaf.is === 'on-record' ? { sql: 'p.consent_at IS NOT NULL', values: [] } : consentMissing(moment)
    case 'source':
      return { sql: 'p.source = ?', values: [leaf.is] }
    case 'arrived': {
      const when = within('p.created_at', leaf.when, moment)
      return { sql: `(1${when.sql})`, values: when.values }
    }
    case 'opted-in': {
      const time = within('v.at', leaf.within, moment)
      return { sql: `p.id IN (SELECT v.person_id FROM opt_ins v WHERE v.page_id = ?${time.sql})`, values: [leaf.pageId, ...time.values] }
    }
    case 'email':
      return emailToSql(leaf, moment)
    case 'last-read': {
      const column = leaf.by === 'reader' ? 'p.read_at' : 'p.fetched_at'
      const time = within(column, leaf.within, moment)
      return { sql: `(${column} IS NOT NULL${time.sql})`, values: time.values }
    }
    case 'course': {
      const visits = (more: string) => `IN (SELECT e.person_id FROM enrolments e WHERE e.course_id = ?${more})`
      if (leaf.is === 'never') return { sql: `p.id NOT ${visits('')}`, values: [leaf.courseId] }
      if (leaf.is === 'ever') return { sql: `p.id ${visits('')}`, values: [leaf.courseId] }
      if (leaf.is !== 'inside') return { sql: `p.id ${visits(' AND e.status = ?')}`, values: [leaf.courseId, leaf.is] }
      return leaf.stepId === null
        ? { sql: `p.id ${visits(` AND e.status = 'open'`)}`, values: [leaf.courseId] }
        : { sql: `p.id ${visits(` AND e.status = 'open' AND e.step_id = ?`)}`, values: [leaf.courseId, leaf.stepId] }
    }
    case 'segment': {
      const condition = moment.segments.get(leaf.segmentId)
      return condition ? toSql(condition, moment) : { sql: '0', values: [] }
    }
    case 'sample':
      return { sql: `((p.id % ${SAMPLE.wrap}) * ${SAMPLE.stride} + ? * ${SAMPLE.saltStride}) % ${SAMPLE.buckets} < ?`, values: [leaf.salt, leaf.hundredths] }
  }
}

function oneOf(column: string, values: readonly string[]): Compiled {
  return values.length === 0 ? { sql: '0', values: [] } : { sql: `${column} IN (${values.map(() => '?').join(', ')})`, values: [...values] }
}

/** That consent is not on record although it is needed. */
export function consentMissing({ consent }: Moment): Compiled {
  const named = oneOf('p.country', consent.countries)
  return { sql: `(p.consent_at IS NULL AND CASE WHEN p.country IS NULL THEN ${consent.unknownNeeds ? 1 : 0} ELSE ${named.sql} END)`, values: named.values }
}

/** Looked up, so that nothing but these ever becomes part of a statement. */
const SIGNS = { '<': '<', '<=': '<=', '=': '=', '>=': '>=', '>': '>' } as const

function fieldToSql(test: FieldTest, moment: Moment): Compiled {
  const text = (sql: string, ...values: (string | number)[]) => ({ sql: `(typeof(f.value) = 'text' AND ${sql})`, values })
  switch (test.is) {
    case 'known':
      return { sql: '1', values: [] }
    case 'equal':
      return text('fold(f.value) = ?', fold(test.text))
    case 'contains':
      return text('instr(fold(f.value), ?) > 0', fold(test.text))
    case 'begins': {
      const begin = fold(test.text)
      return text('substr(fold(f.value), 1, length(?)) = ?', begin, begin)
    }
    case 'number':
      return { sql: `(typeof(f.value) <> 'text' AND f.value ${SIGNS[test.sign]} ?)`, values: [test.number] }
    case 'yes':
      return { sql: `(typeof(f.value) <> 'text' AND f.value = ?)`, values: [test.yes ? 1 : 0] }
    case 'one-of': {
      const named = oneOf('f.value', test.values)
      return text(named.sql, ...named.values)
    }
    default: {
      const { from, to } = datesOf(test, moment.today)
      return text(`1${from === null ? '' : ' AND f.value >= ?'}${to === null ? '' : ' AND f.value <= ?'}`, ...[from, to].filter(edge => edge !== null))
    }
  }
}

function emailToSql({ fate, which, within: stretch, times, url }: Extract<Leaf, { kind: 'email' }>, moment: Moment): Compiled {
  if (times < 1) return { sql: '1', values: [] }
  const one = whichToSql(which)
  const what = done(fate, url, stretch, moment)
  const values = [...what.values, ...one.values]
  // Once is by far the commonest question, and needs no counting.
  return times === 1
    ? { sql: `p.id IN (SELECT o.person_id FROM ${what.from} WHERE ${what.sql}${one.sql})`, values }
    : { sql: `p.id IN (SELECT o.person_id FROM ${what.from} WHERE ${what.sql}${one.sql} GROUP BY o.person_id HAVING ${what.from === 'outbox o' ? 'count(*)' : 'count(DISTINCT o.id)'} >= ?)`, values: [...values, times] }
}

function whichToSql(which: WhichEmail): Compiled {
  if (which === null) return { sql: '', values: [] }
  const course = ` AND o.kind = 'course' AND o.thing_id = ?`
  return which.stepId === null ? { sql: course, values: [which.courseId] } : { sql: `${course} AND o.step_id = ?`, values: [which.courseId, which.stepId] }
}

/** That it came to this with the email `o`, in the stretch. */
function done(fate: EmailFate, url: string | null, stretch: Stretch | null, moment: Moment): Compiled & { from: string } {
  const at = (column: string, more = '') => {
    const time = within(column, stretch, moment)
    return { from: 'outbox o', sql: `${more}${column} IS NOT NULL${time.sql}`, values: time.values }
  }
  // A stretch is open at one end, so the first or the last of several readings decides.
  const read = (first: string, last: string) => {
    const time = within(stretch?.kind === 'before' ? first : last, stretch, moment)
    return { from: 'outbox o', sql: `${first} IS NOT NULL${time.sql}`, values: time.values }
  }
  switch (fate) {
    case 'sent':
      return at('o.handed_over_at')
    case 'opened':
      return read('o.opened_at', 'o.last_opened_at')
    case 'clicked': {
      if (url === null) return read('o.clicked_at', 'o.last_clicked_at')
      const time = within('r.at', stretch, moment)
      return {
        from: 'message_links k JOIN clicks r ON r.link_n = k.n JOIN outbox o ON o.id = r.outbox_id AND o.message_id = k.message_id',
        sql: `k.url = ? AND r.judged = 'reader'${time.sql}`,
        values: [url, ...time.values],
      }
    }
    case 'left-by':
      return at('o.left_at')
    case 'held-back':
      return at('o.planned_at', `o.status = 'held back' AND `)
    case 'given-up':
      return at('o.planned_at', `o.status = 'failed' AND o.go_at IS NULL AND `)
    case 'waiting-again':
      return at('o.planned_at', `o.status = 'failed' AND o.go_at IS NOT NULL AND `)
  }
}

/** ` AND ...` for a column of times; nothing for no stretch. */
function within(column: string, stretch: Stretch | null, { now }: Moment): Compiled {
  const { from, to } = stretch ? edgesOf(stretch, now) : { from: null, to: null }
  return {
    sql: `${from === null ? '' : ` AND ${column} >= ?`}${to === null ? '' : ` AND ${column} <= ?`}`,
    values: [from, to].filter(edge => edge !== null),
  }
}
