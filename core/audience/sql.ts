/**
 * What a condition means for all people at once: an expression over the row `p`
 * of the table of people. It holds for exactly those for whom it holds in
 * memory (meaning.ts); a property test says so.
 *
 * This and then.ts are the one place outside data/ that writes SQL, because the
 * meanings of a condition belong side by side.
 */
import type { SourceKey } from '#core/page/touch'
import type { FieldTest, Condition, EmailFate, Group, Leaf, Moment, OptInFate, PurchaseFate, Stretch, WhichEmail } from './condition'
import { datesOf, edgesOf, fold, isGroup, NO_RESULT, returnsOf, SAMPLE } from './condition'

export interface SqlCondition {
  /** True or false, never null. */
  sql: string
  /** Bound in the order of the question marks. */
  values: (string | number)[]
}

/**
 * How other tables are asked: as sets that are worked out once, which is right
 * for everybody; or anew for each person, which is right for a few in a row.
 */
export type Form = 'sets' | 'each'

export function toSql(condition: Condition, moment: Moment, form: Form = 'sets'): SqlCondition {
  if (!isGroup(condition)) return leafToSql(condition, moment, form)
  const parts = condition.of.map(part => condition.kind === 'none' ? negation(part, moment, form) : toSql(part, moment, form))
  const values = parts.flatMap(part => part.values)
  if (parts.length === 0) return { sql: condition.kind === 'any' ? '0' : '1', values }
  return { sql: `(${parts.map(part => part.sql).join(condition.kind === 'any' ? ' OR ' : ' AND ')})`, values }
}

/**
 * The same for counting: `from` which rows, and where. A tag, a list or a
 * course that everybody counted must have leads the way, which saves making a
 * set of its people first.
 */
export function toCount(condition: Condition, moment: Moment): SqlCondition & { from: string } {
  const needed = isGroup(condition) ? flatAll(condition) : [condition]
  const at = needed.findIndex(part => !isGroup(part) && onePerPerson(part, moment) !== null)
  const lead = at < 0 ? null : onePerPerson(needed[at] as Leaf, moment)
  if (!lead) return { from: 'people p', ...toSql(condition, moment) }
  const rest = toSql({ kind: 'all', of: needed.filter((_, n) => n !== at) }, moment)
  return {
    from: `${lead.from} CROSS JOIN people p ON p.id = ${lead.person}`, sql: `${lead.where} AND ${rest.sql}`,
    values: [...lead.values, ...rest.values],
  }
}

/** What all must hold at once, out of their nested groups. */
function flatAll(group: Group): Condition[] {
  return group.kind === 'all' ? group.of.flatMap(part => isGroup(part) ? flatAll(part) : [part]) : [group]
}

/** That it does not hold. An arrival is turned round, so that an index can still be used. */
function negation(condition: Condition, moment: Moment, form: Form): SqlCondition {
  if (condition.kind !== 'arrived') return not(toSql(condition, moment, form))
  const { from, to } = edgesOf(condition.when, moment.now)
  return from !== null ? { sql: 'p.created_at < ?', values: [from] } : { sql: 'p.created_at > ?', values: [to!] }
}

/** The rows a leaf asks for, where nobody has more than one of them; null for every other leaf. */
function onePerPerson(leaf: Leaf, moment: Moment): Rows | null {
  if (leaf.kind === 'list' && leaf.is !== 'never-joined' && leaf.listId !== null) return memberships(leaf)
  if (leaf.kind === 'tag') return holdings(leaf, moment)
  if (leaf.kind === 'course' && leaf.is === 'inside') return visits(
    leaf.courseId, leaf.stepId === null ? ` AND e.status = 'open'` : ` AND e.status = 'open' AND e.step_id = ?`,
    ...leaf.stepId === null ? [] : [leaf.stepId],
  )
  return null
}

const STANDS = { 'joined': ' AND m.left_at IS NULL', 'left': ' AND m.left_at IS NOT NULL', 'never-joined': '' }
const memberships = ({ listId, is }: Extract<Leaf, { kind: 'list' }>): Rows => (
  {
    from: 'list_members m', person: 'm.person_id', where: `${listId === null ? '1' : 'm.list_id = ?'}${STANDS[is]}`,
    values: listId === null ? [] : [listId],
  })

function holdings({ tagId, since }: Extract<Leaf, { kind: 'tag' }>, moment: Moment): Rows {
  const time = within('h.since_at', since, moment)
  return { from: 'tag_holdings h', person: 'h.person_id', where: `h.tag_id = ?${time.sql}`, values: [tagId, ...time.values] }
}

const visits = (courseId: number, more: string, ...values: string[]): Rows => ({
  from: 'enrolments e', person: 'e.person_id', where: `e.course_id = ?${more}`, values: [courseId, ...values],
})

function leafToSql(leaf: Leaf, moment: Moment, form: Form): SqlCondition {
  const rows = onePerPerson(leaf, moment)
  if (rows) return some(form, rows)
  switch (leaf.kind) {
    case 'tag':
      return some(form, holdings(leaf, moment))
    case 'status':
      return oneOf('p.status', leaf.is)
    case 'may-be-mailed': {
      const missing = consentMissing(moment)
      return { sql: `(p.status = 'active' AND NOT ${missing.sql})`, values: missing.values }
    }
    // Who joined or left one list is asked above.
    case 'list':
      return leaf.is === 'never-joined' ? not(some(form, memberships(leaf))) : some(form, memberships(leaf))
    case 'field': {
      const test = fieldToSql(leaf.test, moment)
      return some(form, {
        from: 'field_values f', person: 'f.person_id', where: `f.field_id = ? AND ${test.sql}`, values: [leaf.fieldId, ...test.values],
      })
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
      const { from, to } = edgesOf(leaf.when, moment.now)
      return from !== null ? { sql: 'p.created_at >= ?', values: [from] } : { sql: 'p.created_at <= ?', values: [to!] }
    }
    case 'opted-in': {
      const did = optInTime(leaf.did)
      const time = within(did.column, leaf.within, moment)
      const which = whichOptIn(leaf)
      return some(form, {
        from: 'opt_ins v', person: 'v.person_id', where: `${which.sql}${did.and}${time.sql}`, values: [...which.values, ...time.values],
      })
    }
    case 'brought': {
      const touches = touchesOf(leaf.source)
      return {
        sql: `(${leaf.by === 'first' ? `p.source LIKE 'page:%' AND coalesce(p.first_touch_id, 0)` : 'coalesce(p.latest_touch_id, 0)'} IN (${touches.sql}))`,
        values: touches.values,
      }
    }
    case 'email':
      return emailToSql(leaf, moment, form)
    case 'last-read': {
      const column = leaf.by === 'reader' ? 'p.read_at' : 'p.fetched_at'
      const { from, to } = edgesOf(leaf.within, moment.now)
      // One comparison, never null: what never was lies before all time, or after it.
      return from !== null
        ? { sql: `coalesce(${column}, -1) >= ?`, values: [from] }
        : { sql: `coalesce(${column}, 9e15) <= ?`, values: [to!] }
    }
    case 'course':
      switch (leaf.is) {
        case 'never': return not(some(form, visits(leaf.courseId, '')))
        case 'ever': return some(form, visits(leaf.courseId, ''))
        default: return some(form, visits(leaf.courseId, ' AND e.status = ?', leaf.is))
      }
    case 'purchase': {
      if (leaf.times < 1) return { sql: '1', values: [] }
      const { from, time, where } = PURCHASES[leaf.fate]
      const at = within(time, leaf.within, moment)
      const offer = ofOffer(leaf.offerId)
      return some(form, {
        from, person: 'u.person_id', where: `${where}${offer.sql}${at.sql}`, values: [...offer.values, ...at.values],
        ...leaf.times > 1 && { atLeast: { n: leaf.times, count: 'count(*)' } },
      })
    }
    case 'spent': {
      // Nothing is paid by everybody.
      if (leaf.atLeast <= 0) return { sql: '1', values: [] }
      const offer = ofOffer(leaf.offerId)
      return some(form, {
        from: 'purchases u', person: 'u.person_id', where: `u.currency = ?${offer.sql}`, values: [leaf.currency, ...offer.values],
        atLeast: { n: leaf.atLeast, count: 'coalesce(sum(u.paid - u.refunded), 0)' },
      })
    }
    case 'no-more':
      return some(form, { from: 'said_no_more m', person: 'm.person_id', where: 'm.offer_id = ?', values: [leaf.offerId] })
    case 'waits':
      return some(form, {
        from: 'waits w', person: 'w.person_id',
        where: 'w.offer_id = ? AND w.confirmed_at IS NOT NULL AND w.told_at IS NULL AND w.ended_at IS NULL',
        values: [leaf.offerId],
      })
    case 'followed': {
      if (leaf.times < 1) return { sql: '1', values: [] }
      const time = within('r.at', leaf.within, moment)
      return some(form, {
        from: 'message_links k JOIN clicks r ON r.link_n = k.n JOIN outbox o ON o.id = r.outbox_id AND o.message_id = k.message_id',
        person: 'o.person_id',
        where: `k.link_id = ? AND r.judged = 'reader'${time.sql}`, values: [leaf.linkId, ...time.values],
        ...leaf.times > 1 && { atLeast: { n: leaf.times, count: 'count(*)' } },
      })
    }
    case 'rule-acted': {
      const time = within('g.at', leaf.within, moment)
      return some(form, {
        from: 'rule_firings g', person: 'g.person_id', where: `g.rule_id = ?${time.sql}`, values: [leaf.ruleId, ...time.values],
      })
    }
    case 'score':
      return some(form, {
        from: 'scores s', person: 's.person_id', where: 'decayed(s.value, s.at, ?, ?) >= ?',
        values: [moment.now, moment.score.halfLifeDays, leaf.atLeast],
      })
    case 'segment': {
      const condition = moment.segments.get(leaf.segmentId)
      return condition ? toSql(condition, moment, form) : { sql: '0', values: [] }
    }
    case 'sample':
      return {
        sql: `((p.id % ${SAMPLE.wrap}) * ${SAMPLE.stride} + ? * ${SAMPLE.saltStride}) % ${SAMPLE.buckets} < ?`,
        values: [leaf.salt, leaf.hundredths],
      }
  }
}

/** Where what became of purchases is read, and which column says when. */
export const PURCHASES: Record<PurchaseFate, { from: string, time: string, where: string }> = {
  bought: { from: 'purchases u', time: 'u.bought_at', where: '1' },
  owned: { from: 'purchases u', time: 'u.bought_at', where: 'u.over_at IS NULL' },
  refunded: { from: 'purchases u', time: 'u.bought_at', where: 'u.refunded > 0' },
  disputed: { from: 'purchases u', time: 'u.bought_at', where: 'u.disputed > 0' },
  refused: { from: 'purchases u', time: 'u.bought_at', where: 'u.refused_at IS NOT NULL' },
  over: { from: 'purchases u', time: 'u.bought_at', where: 'u.over_at IS NOT NULL' },
  began: { from: 'checkouts u', time: 'u.started_at', where: `u.state <> 'replaced'` },
  abandoned: { from: 'checkouts u', time: 'u.started_at', where: `u.state = 'abandoned'` },
}

export const ofOffer = (offerId: number | null): SqlCondition =>
  offerId === null ? { sql: '', values: [] } : { sql: ' AND u.offer_id = ?', values: [offerId] }

interface Rows {
  from: string
  /** The column that says whose they are. */
  person: string
  where: string
  values: SqlCondition['values']
  /** How many there must be, and how they are counted. */
  atLeast?: { n: number, count: string }
}

/** That there are such rows about the person. */
function some(form: Form, { from, person, where, values, atLeast }: Rows): SqlCondition {
  if (form === 'sets') {
    return atLeast
      ? {
        sql: `p.id IN (SELECT ${person} FROM ${from} WHERE ${where} GROUP BY ${person} HAVING ${atLeast.count} >= ?)`,
        values: [...values, atLeast.n],
      }
      : { sql: `p.id IN (SELECT ${person} FROM ${from} WHERE ${where})`, values }
  }
  // A plus before a column keeps the database from any other way in than by the person.
  const mine = `FROM ${from} WHERE ${person} = p.id AND ${where.replace(/\b[a-z]\.[a-z_]+(?= (=|>=|<=|IS|IN)\b| (=|>=|<=) )/g, '+$&')}`
  return atLeast
    ? { sql: `(SELECT ${atLeast.count} ${mine}) >= ?`, values: [...values, atLeast.n] }
    : { sql: `EXISTS (SELECT 1 ${mine})`, values }
}

const not = ({ sql, values }: SqlCondition): SqlCondition => ({ sql: `NOT (${sql})`, values })

function oneOf(column: string, values: readonly string[]): SqlCondition {
  return values.length === 0 ? { sql: '0', values: [] } : { sql: `${column} IN (${values.map(() => '?').join(', ')})`, values: [...values] }
}

/** That consent is not on record although it is needed. */
export function consentMissing({ consent }: Moment): SqlCondition {
  const named = oneOf('p.country', consent.countries)
  return {
    sql: `(p.consent_at IS NULL AND CASE WHEN p.country IS NULL THEN ${consent.unknownNeeds ? 1 : 0} ELSE ${named.sql} END)`,
    values: named.values,
  }
}

/** Looked up, so that nothing but these ever becomes part of a statement. */
const SIGNS = { '<': '<', '<=': '<=', '=': '=', '>=': '>=', '>': '>' } as const

function fieldToSql(test: FieldTest, moment: Moment): SqlCondition {
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
    case 'day': {
      const { date, ends } = returnsOf(test, moment.today)
      const back = oneOf('substr(f.value, 6)', ends)
      return text(`(f.value = ? OR (f.value < ? AND ${back.sql}))`, date, date, ...back.values)
    }
    default: {
      const { from, to } = datesOf(test, moment.today)
      return text(
        `1${from === null ? '' : ' AND f.value >= ?'}${to === null ? '' : ' AND f.value <= ?'}`,
        ...[from, to].filter(edge => edge !== null),
      )
    }
  }
}

function emailToSql(
  { fate, which, within: stretch, times, url }: Extract<Leaf, { kind: 'email' }>, moment: Moment, form: Form,
): SqlCondition {
  if (times < 1) return { sql: '1', values: [] }
  const one = whichToSql(which)
  const what = done(fate, url, stretch, moment)
  return some(form, {
    from: what.from, person: 'o.person_id', where: what.sql + one.sql, values: [...what.values, ...one.values],
    // Once is by far the commonest question, and needs no counting; several clicks in one email are one email.
    ...times > 1 && { atLeast: { n: times, count: what.from === 'outbox o' ? 'count(*)' : 'count(DISTINCT o.id)' } },
  })
}

/** Of the email `o`; nothing of any of them. */
export function whichToSql(which: WhichEmail): SqlCondition {
  if (which === null) return { sql: '', values: [] }
  const { kind, ownerId, itemId } = which
  const owner = ' AND o.kind = ? AND o.owner_id = ?'
  return itemId === null ? { sql: owner, values: [kind, ownerId] } : { sql: `${owner} AND o.item_id = ?`, values: [kind, ownerId, itemId] }
}

/** That it came to this with the email `o`, in the stretch. */
function done(fate: EmailFate, url: string | null, stretch: Stretch | null, moment: Moment): SqlCondition & { from: string } {
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
    case 'maybe-opened': {
      const time = within('r.at', stretch, moment)
      return { from: 'outbox o JOIN opens r ON r.outbox_id = o.id', sql: `r.judged <> 'reader'${time.sql}`, values: time.values }
    }
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
    case 'maybe-twice':
      return at('o.planned_at', 'o.repeats > 0 AND ')
  }
}

/** ` AND ...` for a column of times; nothing for no stretch. */
function within(column: string, stretch: Stretch | null, { now }: Moment): SqlCondition {
  const { from, to } = stretch ? edgesOf(stretch, now) : { from: null, to: null }
  return {
    sql: `${from === null ? '' : ` AND ${column} >= ?`}${to === null ? '' : ` AND ${column} <= ?`}`,
    values: [from, to].filter(edge => edge !== null),
  }
}

/** Which column of an opt-in `v` tells when it came to this, and what must be true besides. */
/** Of which page, brought by what, led where. */
export function whichOptIn({ pageId, touchId, resultId }: Extract<Leaf, { kind: 'opted-in' }>): SqlCondition {
  return {
    sql: `v.page_id = ?${touchId ? ' AND v.touch_id = ?' : ''}${resultId ? ' AND coalesce(v.result_id, ?) = ?' : ''}`,
    values: [pageId, ...touchId ? [touchId] : [], ...resultId ? [NO_RESULT, resultId] : []],
  }
}

/** The touches that come down to a source. */
export function touchesOf({ kind, word }: SourceKey): SqlCondition {
  const where = {
    named: 't.named = ?', utm: `t.named = '' AND t.source = ?`, site: `t.named = '' AND t.source = '' AND t.referrer = ?`,
    untold: `t.named = '' AND t.source = '' AND t.referrer = ''`,
  }[kind]
  return { sql: `SELECT t.id FROM touches t WHERE ${where}`, values: kind === 'untold' ? [] : [word] }
}

export function optInTime(did: OptInFate = 'pressed'): { column: string, and: string } {
  switch (did) {
    case 'pressed': return { column: 'v.at', and: '' }
    case 'counts': return { column: 'v.confirmed_at', and: ' AND v.confirmed_at IS NOT NULL' }
    case 'not-confirmed': return { column: 'v.at', and: ' AND v.confirmed_at IS NULL' }
    case 'fetched': return { column: 'v.fetched_at', and: ' AND v.fetched_at IS NOT NULL' }
  }
}
