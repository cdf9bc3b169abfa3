/**
 * What a condition means for all people at once: an expression over the row `p`
 * of the table of people. It holds for exactly those for whom it holds in
 * memory (meaning.ts); a property test says so.
 *
 * This is the one place outside data/ that writes SQL, because the two meanings
 * of a condition belong side by side.
 */
import type { Instant } from '#core/time/zone'
import type { Condition, EmailFate, Leaf, Stretch, WhichEmail } from './condition'
import { edgesOf, isGroup, SAMPLE } from './condition'

export interface Compiled {
  /** True or false, never null. */
  sql: string
  /** Bound in the order of the question marks. */
  values: (string | number)[]
}

export function toSql(condition: Condition, now: Instant): Compiled {
  if (!isGroup(condition)) return leafToSql(condition, now)
  const parts = condition.of.map(part => toSql(part, now))
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

function leafToSql(leaf: Leaf, now: Instant): Compiled {
  switch (leaf.kind) {
    case 'status':
      return leaf.is.length === 0 ? { sql: '0', values: [] } : { sql: `p.status IN (${leaf.is.map(() => '?').join(', ')})`, values: [...leaf.is] }
    case 'list': {
      const member = (more: string) => `EXISTS (SELECT 1 FROM list_members m WHERE m.list_id = ? AND m.person_id = p.id${more})`
      const sql = { 'joined': member(' AND m.left_at IS NULL'), 'left': member(' AND m.left_at IS NOT NULL'), 'never-joined': `NOT ${member('')}` }[leaf.is]
      return { sql, values: [leaf.listId] }
    }
    case 'tag': {
      const since = within('h.since_at', leaf.since, now)
      return { sql: `EXISTS (SELECT 1 FROM tag_holdings h WHERE h.tag_id = ? AND h.person_id = p.id${since.sql})`, values: [leaf.tagId, ...since.values] }
    }
    case 'source':
      return { sql: 'p.source = ?', values: [leaf.is] }
    case 'arrived': {
      const when = within('p.created_at', leaf.when, now)
      return { sql: `(1${when.sql})`, values: when.values }
    }
    case 'opted-in': {
      const time = within('v.at', leaf.within, now)
      return { sql: `EXISTS (SELECT 1 FROM events v WHERE v.person_id = p.id AND v.kind = 'opted-in' AND v.page_id = ?${time.sql})`, values: [leaf.pageId, ...time.values] }
    }
    case 'email':
      return emailToSql(leaf, now)
    case 'read': {
      const [open, click] = [done('opened', leaf.within, now), done('clicked', leaf.within, now)]
      return { sql: `EXISTS (SELECT 1 FROM outbox o WHERE o.person_id = p.id AND (${open.sql} OR ${click.sql}))`, values: [...open.values, ...click.values] }
    }
    case 'course': {
      const visit = (more: string) => `EXISTS (SELECT 1 FROM enrolments e WHERE e.course_id = ? AND e.person_id = p.id${more})`
      if (leaf.is === 'never') return { sql: `NOT ${visit('')}`, values: [leaf.courseId] }
      if (leaf.is !== 'inside') return { sql: visit(' AND e.status = ?'), values: [leaf.courseId, leaf.is] }
      return leaf.stepId === null
        ? { sql: visit(` AND e.status = 'open'`), values: [leaf.courseId] }
        : { sql: visit(` AND e.status = 'open' AND e.step_id = ?`), values: [leaf.courseId, leaf.stepId] }
    }
    case 'sample':
      return { sql: `((p.id % ${SAMPLE.wrap}) * ${SAMPLE.stride} + ? * ${SAMPLE.saltStride}) % ${SAMPLE.buckets} < ?`, values: [leaf.salt, leaf.hundredths] }
  }
}

function emailToSql({ fate, which, within: stretch, times }: Extract<Leaf, { kind: 'email' }>, now: Instant): Compiled {
  const one = whichToSql(which)
  const what = done(fate, stretch, now)
  const rows = `FROM outbox o WHERE o.person_id = p.id${one.sql} AND ${what.sql}`
  const values = [...one.values, ...what.values]
  // Once is by far the commonest question, and needs no counting.
  return times <= 1
    ? { sql: times < 1 ? '1' : `EXISTS (SELECT 1 ${rows})`, values: times < 1 ? [] : values }
    : { sql: `(SELECT count(*) ${rows}) >= ?`, values: [...values, times] }
}

function whichToSql(which: WhichEmail): Compiled {
  if (which === null) return { sql: '', values: [] }
  const course = ` AND o.kind = 'course' AND o.thing_id = ?`
  return which.stepId === null ? { sql: course, values: [which.courseId] } : { sql: `${course} AND o.step_id = ?`, values: [which.courseId, which.stepId] }
}

/** That it came to this with the email `o`, in the stretch. */
function done(fate: EmailFate, stretch: Stretch | null, now: Instant): Compiled {
  const at = (column: string, more = '') => {
    const time = within(column, stretch, now)
    return { sql: `(${more}${column} IS NOT NULL${time.sql})`, values: time.values }
  }
  const read = (table: 'opens' | 'clicks') => {
    const time = within('r.at', stretch, now)
    return { sql: `EXISTS (SELECT 1 FROM ${table} r WHERE r.outbox_id = o.id AND r.judged = 'reader'${time.sql})`, values: time.values }
  }
  switch (fate) {
    case 'sent':
      return at('o.handed_over_at')
    case 'opened':
      return read('opens')
    case 'clicked':
      return read('clicks')
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
function within(column: string, stretch: Stretch | null, now: Instant): Compiled {
  const { from, to } = stretch ? edgesOf(stretch, now) : { from: null, to: null }
  return {
    sql: `${from === null ? '' : ` AND ${column} >= ?`}${to === null ? '' : ` AND ${column} <= ?`}`,
    values: [from, to].filter(edge => edge !== null),
  }
}
