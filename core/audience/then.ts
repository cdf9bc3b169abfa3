/**
 * Whom a condition held for at an instant of the past, as an expression over
 * the row `p` of the table of people: read from the events and from rows with
 * dates. `moment.now` is that instant. Countries, time zones, fields and the
 * step someone stands at are taken as they are now: nothing dated says what
 * they were in a form that can be asked.
 *
 * It is asked for each person on their own, and is as slow as that sounds.
 */
import { DAY } from '#core/time/zone'
import type { Condition, EmailFate, Leaf, Moment, PurchaseFate, Stretch } from './condition'
import { edgesOf, isGroup } from './condition'
import { consentMissing, ofOffer, optInTime, PURCHASES, toSql, touchesOf, whichOptIn, whichToSql, type SqlCondition } from './sql'

export function toSqlThen(condition: Condition, moment: Moment): SqlCondition {
  const { sql, values } = then(condition, moment)
  return { sql: `(p.created_at <= ? AND ${sql})`, values: [moment.now, ...values] }
}

function then(condition: Condition, moment: Moment): SqlCondition {
  if (!isGroup(condition)) return leafThen(condition, moment)
  if (condition.of.length === 0) return { sql: condition.kind === 'any' ? '0' : '1', values: [] }
  const parts = condition.of.map(part => then(part, moment))
  const sql = `(${parts.map(part => part.sql).join(condition.kind === 'all' ? ' AND ' : ' OR ')})`
  return { sql: condition.kind === 'none' ? `NOT ${sql}` : sql, values: parts.flatMap(part => part.values) }
}

function leafThen(leaf: Leaf, moment: Moment): SqlCondition {
  const { now } = moment
  switch (leaf.kind) {
    case 'status':
      return leaf.is.length === 0
        ? { sql: '0', values: [] }
        : { sql: `${STATUS} IN (${leaf.is.map(() => '?').join(', ')})`, values: [now, ...leaf.is] }
    case 'may-be-mailed': {
      const missing = missingThen(moment)
      return { sql: `(${STATUS} = 'active' AND NOT ${missing.sql})`, values: [now, ...missing.values] }
    }
    case 'consent':
      return leaf.is === 'missing' ? missingThen(moment) : { sql: CONSENTED, values: [now] }
    case 'list': {
      if (leaf.listId === null) return anyListThen(leaf.is, now)
      const standing = { 'joined': `IS 'joined-list'`, 'left': `IS 'left-list'`, 'never-joined': 'IS NULL' }[leaf.is]
      return { sql: `${lastOf('list_id', 'joined-list', 'left-list', 'e.kind')} ${standing}`, values: [leaf.listId, now] }
    }
    case 'tag': {
      const has = { sql: `${lastOf('tag_id', 'got-tag', 'lost-tag', 'e.kind')} IS 'got-tag'`, values: [leaf.tagId, now] }
      if (!leaf.since) return has
      const since = edges(lastOf('tag_id', 'got-tag', 'lost-tag', 'e.at'), [leaf.tagId, now], leaf.since, now)
      return { sql: `(${has.sql} AND ${since.sql})`, values: [...has.values, ...since.values] }
    }
    case 'opted-in': {
      const { column, and } = leaf.did === 'not-confirmed'
        ? { column: 'v.at', and: ' AND (v.confirmed_at IS NULL OR v.confirmed_at > ?)' }
        : optInTime(leaf.did)
      const later = leaf.did === 'not-confirmed' ? [now] : []
      const which = whichOptIn(leaf)
      return atLeast(
        1, 'count(*)', 'opt_ins v', 'v.person_id', column, { sql: `${which.sql}${and}`, values: [...which.values, ...later] }, leaf.within,
        now,
      )
    }
    case 'brought': {
      // What came first stands as long as the person does.
      if (leaf.by === 'first') return toSql(leaf, moment)
      const touches = touchesOf(leaf.source)
      return {
        sql: `coalesce((SELECT v.touch_id FROM opt_ins v WHERE v.person_id = p.id AND v.at <= ? ORDER BY v.at DESC,
          v.event_id DESC LIMIT 1), 0) IN (${touches.sql})`,
        values: [now, ...touches.values],
      }
    }
    case 'email': {
      const one = whichToSql(leaf.which)
      const { from, time, where } = FATES[leaf.fate]
      const followed = leaf.fate === 'clicked' && leaf.url !== null
        ? { sql: ' AND k.url = ?', values: [leaf.url] }
        : { sql: '', values: [] }
      return atLeast(
        leaf.times, 'count(DISTINCT o.id)', from, 'o.person_id', time,
        { sql: `${where}${one.sql}${followed.sql}`, values: [...one.values, ...followed.values] }, leaf.within, now,
      )
    }
    case 'last-read': {
      const last = leaf.by === 'reader'
        ? `(SELECT max(r.at) FROM outbox o JOIN (SELECT outbox_id, at FROM opens WHERE judged = 'reader'
          UNION ALL SELECT outbox_id, at FROM clicks WHERE judged = 'reader') r
          ON r.outbox_id = o.id WHERE o.person_id = p.id AND r.at <= ?)`
        : `(SELECT max(r.at) FROM outbox o JOIN opens r ON r.outbox_id = o.id WHERE o.person_id = p.id AND r.judged <> 'reader'
          AND r.at <= ?)`
      return edges(last, [now], leaf.within, now)
    }
    case 'course': {
      const visit = (more: string, ...values: (string | number)[]): SqlCondition => ({
        sql: `EXISTS (SELECT 1 FROM enrolments e WHERE e.person_id = p.id AND +e.course_id = ? AND e.joined_at <= ?${more})`,
        values: [leaf.courseId, now, ...values],
      })
      switch (leaf.is) {
        case 'ever': return visit('')
        case 'never': return { ...visit(''), sql: `NOT ${visit('').sql}` }
        case 'inside': return leaf.stepId === null
          ? visit(' AND (e.ended_at IS NULL OR e.ended_at > ?)', now)
          : visit(` AND (e.ended_at IS NULL OR e.ended_at > ?) AND +e.step_id = ?`, now, leaf.stepId)
        default: return visit(' AND +e.status = ? AND e.ended_at <= ?', leaf.is, now)
      }
    }
    case 'purchase': {
      if (leaf.times < 1) return { sql: '1', values: [] }
      const { from, time, where } = THEN[leaf.fate]
      const offer = ofOffer(leaf.offerId)
      return atLeast(
        leaf.times, 'count(*)', from, 'u.person_id', time,
        { sql: `${where}${offer.sql}`, values: [...where.includes('?') ? [now] : [], ...offer.values] }, leaf.within, now,
      )
    }
    case 'spent': {
      const offer = ofOffer(leaf.offerId)
      const paid = `
        SELECT coalesce(sum(y.amount), 0) FROM purchases u JOIN payments y ON y.purchase_id = u.id WHERE u.person_id = p.id
        AND +u.currency = ?${offer.sql} AND y.at <= ?`
      // What went back is dated by its event, whose detail begins with the amount.
      const back = `
        SELECT coalesce(sum(CAST(e.detail AS INTEGER)), 0) FROM purchases u JOIN events e ON e.person_id = p.id
        AND +e.purchase_id = u.id AND +e.kind = 'refunded' WHERE u.person_id = p.id AND +u.currency = ?${offer.sql} AND e.at <= ?`
      const values = [leaf.currency, ...offer.values, now]
      return { sql: `(${paid}) - (${back}) >= ?`, values: [...values, ...values, leaf.atLeast] }
    }
    case 'no-more':
      return { sql: `${lastOf('offer_id', 'said-no-more', 'took-back-no-more', 'e.kind')} IS 'said-no-more'`, values: [leaf.offerId, now] }
    case 'waits':
      return {
        sql: `EXISTS (SELECT 1 FROM waits w WHERE w.person_id = p.id AND w.offer_id = ? AND w.confirmed_at <= ?
          AND coalesce(w.told_at, w.ended_at, ? + 1) > ?)`,
        values: [leaf.offerId, now, now, now],
      }
    case 'followed':
      return atLeast(
        leaf.times, 'count(*)',
        'outbox o JOIN clicks r ON r.outbox_id = o.id JOIN message_links k ON k.message_id = o.message_id AND k.n = r.link_n',
        'o.person_id', 'r.at', { sql: `r.judged = 'reader' AND k.link_id = ?`, values: [leaf.linkId] }, leaf.within, now,
      )
    case 'rule-acted':
      return atLeast(
        1, 'count(*)', 'rule_firings g', 'g.person_id', 'g.at', { sql: 'g.rule_id = ?', values: [leaf.ruleId] }, leaf.within, now,
      )
    case 'score': {
      // What events and rules had brought by then, each by its own age.
      const worth = (at: string) => `pow(2, -(? - ${at}) / CAST(? AS REAL))`
      const life = moment.score.halfLifeDays * DAY
      const brought = `
        SELECT coalesce(sum(j.value * ${worth('e.at')}), 0) FROM events e CROSS JOIN json_each(?) j ON +e.kind = j.key
        WHERE e.person_id = p.id AND e.at <= ?
        AND (e.kind NOT IN ('opened', 'clicked', 'visited-page', 'file-fetched') OR e.detail = 'reader')`
      const given = `SELECT coalesce(sum(g.points * ${worth('g.at')}), 0) FROM given_points g WHERE g.person_id = p.id AND g.at <= ?`
      return {
        sql: `(${brought}) + (${given}) >= ?`, values: [now, life, JSON.stringify(moment.score.points), now, now, life, now, leaf.atLeast],
      }
    }
    case 'segment': {
      const condition = moment.segments.get(leaf.segmentId)
      return condition ? then(condition, moment) : { sql: '0', values: [] }
    }
    // What does not change, is dated in the person's own row, or is taken as it is now.
    default:
      return toSql(leaf, moment)
  }
}

/**
 * The status by the last change until then; before any, what somebody new begins with. A plus keeps the database to the way in by the
 * person.
 */
const STATUS =
  `coalesce(
    (SELECT e.detail FROM events e WHERE e.person_id = p.id AND +e.kind = 'status-changed' AND +e.at <= ? ORDER BY e.id DESC LIMIT 1),
    CASE WHEN p.source LIKE 'import:%' THEN 'active' ELSE 'pending' END)`

/** Recorded by then, which can be later than it was given. */
const CONSENTED = 'EXISTS (SELECT 1 FROM consents c JOIN events e ON e.id = c.event_id WHERE c.person_id = p.id AND e.at <= ?)'

function missingThen(moment: Moment): SqlCondition {
  const needed = consentMissing(moment)
  return { sql: `(NOT ${CONSENTED} AND ${needed.sql.replace('p.consent_at IS NULL', '1')})`, values: [moment.now, ...needed.values] }
}

/** How somebody stood with any of the lists then. */
function anyListThen(is: Extract<Leaf, { kind: 'list' }>['is'], now: Moment['now']): SqlCondition {
  const ever = `EXISTS (SELECT 1 FROM events e WHERE e.person_id = p.id AND +e.kind IN ('joined-list', 'left-list') AND +e.at <= ?)`
  if (is === 'never-joined') return { sql: `NOT ${ever}`, values: [now] }
  const last = lastOf('list_id', 'joined-list', 'left-list', 'e.kind').replace('+e.list_id = ?', '+e.list_id = l.id')
  return { sql: `EXISTS (SELECT 1 FROM lists l WHERE ${last} IS '${is === 'joined' ? 'joined-list' : 'left-list'}')`, values: [now] }
}

/** What stands in the last of two kinds of events about one mark until then. */
function lastOf(column: 'tag_id' | 'list_id' | 'offer_id', on: string, off: string, what: 'e.kind' | 'e.at'): string {
  return `(SELECT ${what} FROM events e WHERE e.person_id = p.id AND +e.${column} = ? AND +e.kind IN ('${on}', '${off}') AND +e.at <= ?
    ORDER BY e.id DESC LIMIT 1)`
}

/** What had become of purchases by then: money going back, disputes and refusals by their events. */
const happened = (kind: string) =>
  `EXISTS (SELECT 1 FROM events e WHERE e.person_id = p.id AND +e.purchase_id = u.id AND +e.kind = '${kind}' AND +e.at <= ?)`
const THEN: Record<PurchaseFate, { from: string, time: string, where: string }> = {
  ...PURCHASES,
  owned: { ...PURCHASES.owned, where: '(u.over_at IS NULL OR u.over_at > ?)' },
  over: { ...PURCHASES.over, where: 'u.over_at <= ?' },
  refunded: { ...PURCHASES.refunded, where: happened('refunded') },
  disputed: { ...PURCHASES.disputed, where: happened('disputed') },
  refused: { ...PURCHASES.refused, where: happened('payment-refused') },
  abandoned: {
    ...PURCHASES.abandoned,
    where: `EXISTS (SELECT 1 FROM events e WHERE e.person_id = p.id AND +e.cause_id = u.event_id AND +e.kind = 'checkout-abandoned'
      AND +e.at <= ?)`,
  },
}

const FATES: Record<EmailFate, { from: string, time: string, where: string }> = {
  'sent': { from: 'outbox o', time: 'o.handed_over_at', where: '1' },
  'opened': { from: 'outbox o JOIN opens r ON r.outbox_id = o.id', time: 'r.at', where: `r.judged = 'reader'` },
  'maybe-opened': { from: 'outbox o JOIN opens r ON r.outbox_id = o.id', time: 'r.at', where: `r.judged <> 'reader'` },
  'clicked': {
    from: 'outbox o JOIN clicks r ON r.outbox_id = o.id JOIN message_links k ON k.message_id = o.message_id AND k.n = r.link_n',
    time: 'r.at', where: `r.judged = 'reader'`,
  },
  'left-by': { from: 'outbox o', time: 'o.left_at', where: '1' },
  'held-back': { from: 'outbox o', time: 'o.planned_at', where: `o.status = 'held back'` },
  'given-up': { from: 'outbox o', time: 'o.planned_at', where: `o.status = 'failed' AND o.go_at IS NULL` },
  'waiting-again': { from: 'outbox o', time: 'o.planned_at', where: `o.status = 'failed' AND o.go_at IS NOT NULL` },
  'maybe-twice': { from: 'outbox o', time: 'o.planned_at', where: 'o.repeats > 0' },
}

function atLeast(
  n: number, count: string, from: string, person: string, time: string, where: SqlCondition, stretch: Stretch | null, now: number,
): SqlCondition {
  const { from: begin, to } = stretch ? edgesOf(stretch, now) : { from: null, to: null }
  const since = begin === null ? '' : ` AND ${time} >= ?`
  return {
    sql: `(SELECT ${count} FROM ${from} WHERE ${person} = p.id AND ${where.sql} AND ${time} <= ?${since}) >= ?`,
    values: [...where.values, Math.min(now, to ?? now), ...begin === null ? [] : [begin], n],
  }
}

/** A time, perhaps null, within a stretch. */
function edges(time: string, values: (string | number)[], stretch: Stretch, now: number): SqlCondition {
  const { from, to } = edgesOf(stretch, now)
  return from !== null
    ? { sql: `coalesce(${time}, -1) >= ?`, values: [...values, from] }
    : { sql: `coalesce(${time}, 9e15) <= ?`, values: [...values, to!] }
}
