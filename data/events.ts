/** The history: append and read, nothing else. */
import type { EventAbout, EventKind, Quiet, ToldEvent } from '#core/events'
import type { Instant } from '#core/time/zone'
import type { Statement } from 'better-sqlite3'
import type { Database } from './connection'
import { prepare } from './connection'
import { keepSteady } from './kept'

/** Who writes just now: a house rule; and how little is to follow from what is written. */
interface Writer { ruleId: number | null, quiet: Quiet | null }
const LOUD: Writer = { ruleId: null, quiet: null }
const writers = new WeakMap<Database, Writer>()
const listeners = new WeakMap<Database, (event: RawEvent) => void>()

/** Every event that `work` writes is by this rule, or is followed by so little. */
export function writingAs<Result>(db: Database, as: Partial<Writer>, work: () => Result): Result {
  const before = writers.get(db)
  writers.set(db, { ...before ?? LOUD, ...as })
  try {
    return work()
  }
  finally {
    if (before) writers.set(db, before)
    else writers.delete(db)
  }
}

/** How little is to follow from what is written just now; null where all follows that usually does. */
export const quietNow = (db: Database): Quiet | null => writers.get(db)?.quiet ?? null

/** From now on `take` is told of every event about a person as it is written; with null, nobody is. Returns who was told before. */
export function listen(db: Database, take: ((event: RawEvent) => void) | null): ((event: RawEvent) => void) | null {
  const before = listeners.get(db) ?? null
  if (take) listeners.set(db, take)
  else listeners.delete(db)
  return before
}

/** What an event can be about, and the column it stands in. */
const COLUMNS: Record<Exclude<keyof EventAbout, 'ownAct'>, string> = {
  personId: 'person_id', causeId: 'cause_id', pageId: 'page_id', listId: 'list_id', tagId: 'tag_id', courseId: 'course_id',
  outboxId: 'outbox_id',
  stepId: 'step_id', linkN: 'link_n', fieldId: 'field_id', segmentId: 'segment_id', taskId: 'task_id', otherId: 'other_id',
  offerId: 'offer_id',
  purchaseId: 'purchase_id', ruleId: 'rule_id', hookId: 'hook_id', todoId: 'todo_id', broadcastId: 'broadcast_id', linkId: 'link_id',
  detail: 'detail',
}
type About = keyof typeof COLUMNS
const ABOUT = Object.keys(COLUMNS) as About[]
const BIT = Object.fromEntries(ABOUT.map((about, n) => [about, 1 << n])) as Record<About, number>

interface Insertion { statement: Statement, binds: About[] }
const insertions = new WeakMap<Database, Map<number, Insertion>>()

/** Most events are about two or three things: the others are not even bound. `which`: a {@link BIT} for each. */
function insertion(db: Database, which: number): Insertion {
  let known = insertions.get(db)
  if (!known) insertions.set(db, known = new Map())
  let found = known.get(which)
  if (!found) {
    const binds = ABOUT.filter(about => which & BIT[about])
    const columns = ['kind', 'at', 'own_act', 'quiet', ...binds.map(about => COLUMNS[about])]
    const statement = prepare(db, `INSERT INTO events (${columns.join(', ')}) VALUES (${columns.map(() => '?').join(', ')})`)
    known.set(which, found = { statement, binds })
  }
  return found
}

/** Writes one event and returns its id. `personal` is kept in a row of its own. */
export function appendEvent(db: Database, kind: EventKind, at: Instant, about: EventAbout = {}, personal?: Record<string, string>): number {
  const { ruleId: writingRuleId, quiet } = writers.get(db) ?? LOUD
  const whole: EventAbout = about.ruleId === undefined && writingRuleId !== null ? { ...about, ruleId: writingRuleId } : about
  let which = 0
  for (const about in whole) {
    const value = whole[about as About]
    if (about !== 'ownAct' && value !== undefined && value !== null) which |= BIT[about as About]
  }
  const { statement, binds } = insertion(db, which)
  const values: unknown[] = [kind, at, about.ownAct ? 1 : 0, quiet]
  for (const about of binds) values.push(whole[about])
  const id = Number(statement.run(...values).lastInsertRowid)
  if (personal) prepare(db, 'INSERT INTO event_personal (event_id, facts) VALUES (?, ?)').run(id, JSON.stringify(personal))
  const tell = whole.personId === undefined ? undefined : listeners.get(db)
  if (tell) {
    const {
      personId, causeId = null, ruleId = null, pageId = null, listId = null, tagId = null, courseId = null, outboxId = null, stepId = null,
      linkId = null, fieldId = null, offerId = null, segmentId = null, hookId = null, todoId = null, ownAct = false, detail = null,
    } = whole
    tell({
      id, kind, at, personId: personId!, causeId, ruleId, pageId, listId, tagId, tagFromId: tagId === null ? null : madeFrom(db, tagId),
      courseId,
      outboxId, stepId, linkId, fieldId, offerId, segmentId, hookId, todoId, ownAct, quiet, detail,
    })
  }
  return id
}

function madeFrom(db: Database, tagId: number): number | null {
  return keepSteady(db, `tag ${tagId} is of`, () =>
    prepare<{ madeFrom: number | null }>(db, 'SELECT made_from AS madeFrom FROM tags WHERE id = ?').get(tagId)?.madeFrom ?? null)
}

const NAMED = `
  SELECT e.id, e.kind, e.at, e.person_id AS personId, e.cause_id AS causeId, e.page_id AS pageId, p.name AS pageName,
    coalesce(l.former_name, l.name) AS listName, coalesce(t.former_name, t.name) AS tagName, e.course_id AS courseId, c.name AS courseName,
    e.outbox_id AS outboxId, e.step_id AS stepId, m.working_title AS emailTitle, k.label AS linkLabel, f.name AS fieldName,
      s.name AS segmentName, e.task_id AS taskId, w.title AS taskTitle, e.other_id AS otherId, e.offer_id AS offerId, r.name AS offerName,
        e.purchase_id AS purchaseId, e.rule_id AS ruleId, d.text AS todoText, h.name AS hookName,
        b.name AS broadcastName, e.detail,
    CASE WHEN e.kind IN ('bounced', 'complained') THEN (SELECT x.facts ->> 'said' FROM event_personal x WHERE x.event_id = e.id) END AS said
  FROM events e
  LEFT JOIN pages p ON p.id = e.page_id LEFT JOIN lists l ON l.id = e.list_id LEFT JOIN tags t ON t.id = e.tag_id
  LEFT JOIN courses c ON c.id = e.course_id LEFT JOIN outbox o ON o.id = e.outbox_id LEFT JOIN messages m ON m.id = o.message_id
  LEFT JOIN message_links k ON k.message_id = o.message_id AND k.n = e.link_n
  LEFT JOIN fields f ON f.id = e.field_id AND f.gone = 0 LEFT JOIN segments s ON s.id = e.segment_id AND s.gone = 0 LEFT
    JOIN tasks w ON w.id = e.task_id
  LEFT JOIN offers r ON r.id = e.offer_id LEFT JOIN todos d ON d.id = e.todo_id LEFT JOIN hooks_in h ON h.id = e.hook_id
  LEFT JOIN broadcasts b ON b.id = e.broadcast_id`

/** Someone, and everybody who was merged into them, by however many steps. */
const SAME = `WITH RECURSIVE same (id) AS (SELECT @personId UNION SELECT p.id FROM people p JOIN same ON p.merged_into = same.id)`

/** One person's whole history, newest first, with that of everybody merged into them. */
export function eventsOfPerson(db: Database, personId: number): ToldEvent[] {
  return prepare<ToldEvent>(db, `${SAME} ${NAMED} WHERE e.person_id IN (SELECT id FROM same) ORDER BY e.at DESC, e.id DESC`).all({
    personId,
  })
}

/** What is personal in these events, by the number of the event. */
export function personalOf(db: Database, personId: number): Map<number, Record<string, string>> {
  const rows = prepare<{ id: number, facts: string }>(
    db,
    `${SAME} SELECT x.event_id AS id, x.facts FROM events e JOIN event_personal x ON x.event_id = e.id
      WHERE e.person_id IN (SELECT id FROM same)`,
  ).all({ personId })
  return new Map(rows.map(row => [row.id, JSON.parse(row.facts) as Record<string, string>]))
}

/** What brought about something of this person's without being theirs, like the start of a course. */
export function causesOutside(db: Database, personId: number): ToldEvent[] {
  return prepare<ToldEvent>(db, `${SAME} ${NAMED} WHERE e.id IN (SELECT cause_id FROM events WHERE person_id IN (SELECT id FROM same))
    AND (e.person_id IS NULL OR e.person_id NOT IN (SELECT id FROM same))`).all({ personId })
}

/** True if it was the owner, by hand or by a rule of theirs, who took this person off the list, the last time they came off it. */
export function wasTakenOff(db: Database, personId: number, listId: number): boolean {
  const last = prepare<{ detail: string | null }>(
    db, `SELECT detail FROM events WHERE person_id = ? AND list_id = ? AND kind = 'left-list' ORDER BY id DESC LIMIT 1`,
  ).get(personId, listId)
  return last !== undefined && ['by-hand', 'by-rule', 'by-program'].includes(last.detail ?? '')
}

const WORTH_TELLING: readonly EventKind[] = [
  'opted-in', 'clicked', 'finished-course', 'left-list', 'left-course', 'unsubscribed', 'bounced', 'bought', 'renewed', 'refunded',
  'disputed', 'checkout-abandoned', 'purchase-ended',
]

/** The latest happenings of everybody that are worth telling on Today, newest first. */
export function latestEvents(db: Database, limit: number): ToldEvent[] {
  return prepare<ToldEvent>(db, `${NAMED} WHERE e.id IN (
    SELECT l.id FROM json_each(@kinds) k JOIN events l ON l.id IN (SELECT id FROM events WHERE kind = k.value ORDER BY at DESC, id DESC
    LIMIT @limit))
    ORDER BY e.at DESC, e.id DESC LIMIT @limit`).all({ kinds: JSON.stringify(WORTH_TELLING), limit })
}

/** Every event in the order it was written, without ids: what two runs of one story must agree on. */
export function wholeStory(db: Database): Record<string, unknown>[] {
  return prepare<Record<string, unknown>>(db, `
    SELECT kind, at, person_id, page_id, list_id, tag_id, course_id, offer_id, step_id, link_n, detail FROM events
    ORDER BY at, kind, person_id, tag_id, step_id, link_n, detail`).all()
}

/** How many people took each way of a course's forks and holds. */
export function waysOfCourse(db: Database, courseId: number): { stepId: string, wayId: string, people: number }[] {
  return prepare<{ stepId: string, wayId: string, people: number }>(db, `
    SELECT step_id AS stepId, detail AS wayId, count(DISTINCT person_id) AS people FROM events WHERE kind = 'took-way'
    AND +course_id = ? GROUP BY step_id, detail`).all(courseId)
}

/** How often each way of a fork or hold was taken, by `step/way`. */
export function waysTaken(db: Database): Map<string, number> {
  return new Map(prepare<{ way: string, n: number }>(
    db, `SELECT step_id || '/' || detail AS way, count(*) AS n FROM events WHERE kind = 'took-way' GROUP BY step_id, detail`,
  ).all().map(({ way, n }) => [way, n]))
}

/** How often people came into a segment and went out of it since an instant. */
export function movesOfSegment(db: Database, segmentId: number, since: Instant): { entered: number, left: number } {
  return prepare<{ entered: number, left: number }>(db, `
    SELECT coalesce(sum(kind = 'entered-segment'), 0) AS entered, coalesce(sum(kind = 'left-segment'), 0) AS left FROM events
      WHERE segment_id = ? AND at > ?`).get(segmentId, since)!
}

/** What brought an event about; null if nothing in here did. */
export function causeOf(db: Database, eventId: number): number | null {
  return prepare<{ causeId: number | null }>(db, 'SELECT cause_id AS causeId FROM events WHERE id = ?').get(eventId)?.causeId ?? null
}

/* For house rules */

/** Which of these kinds happened to them last; undefined if none did. */
export function latestKindOf(db: Database, personId: number, kinds: readonly EventKind[]): EventKind | undefined {
  return prepare<{ kind: EventKind }>(
    db, 'SELECT kind FROM events WHERE person_id = ? AND kind IN (SELECT value FROM json_each(?)) ORDER BY id DESC LIMIT 1'
  ).get(personId, JSON.stringify(kinds))?.kind
}

/** The number of the last event there is; 0 for none. */
export function lastEventId(db: Database): number {
  return prepare<{ id: number | null }>(db, 'SELECT max(id) AS id FROM events').get()!.id ?? 0
}

/** An event as rules see it. */
export interface RawEvent {
  id: number
  kind: EventKind
  at: Instant
  personId: number
  causeId: number | null
  ruleId: number | null
  pageId: number | null
  listId: number | null
  tagId: number | null
  /** The tag with blanks that it was filled in from. */
  tagFromId: number | null
  courseId: number | null
  outboxId: number | null
  stepId: string | null
  linkId: number | null
  fieldId: number | null
  offerId: number | null
  segmentId: number | null
  hookId: number | null
  todoId: number | null
  ownAct: boolean
  quiet: Quiet | null
  detail: string | null
}

interface StoredEvent extends Omit<RawEvent, 'ownAct'> { ownAct: 0 | 1 }

const asEvent = (event: StoredEvent): RawEvent => ({ ...event, ownAct: event.ownAct === 1 })

const RAW = `
  SELECT e.id, e.kind, e.at, e.person_id AS personId, e.cause_id AS causeId, e.rule_id AS ruleId, e.page_id AS pageId, e.list_id AS listId,
    e.tag_id AS tagId, t.made_from AS tagFromId, e.course_id AS courseId, e.outbox_id AS outboxId, e.step_id AS stepId, e.link_id AS linkId,
    e.field_id AS fieldId, e.offer_id AS offerId, e.segment_id AS segmentId, e.hook_id AS hookId, e.todo_id AS todoId, e.own_act AS ownAct,
    e.quiet, e.detail
  FROM events e LEFT JOIN tags t ON t.id = e.tag_id`

/** Someone's events of a kind from an instant on, by event time. */
export function eventsOfKindSince(db: Database, personId: number, kind: EventKind, since: Instant): RawEvent[] {
  return prepare<StoredEvent>(db, `${RAW} WHERE e.person_id = ? AND +e.kind = ? AND e.at >= ? ORDER BY e.at, e.id`)
    .all(personId, kind, since).map(asEvent)
}

export function findRawEvent(db: Database, id: number): RawEvent | undefined {
  const event = prepare<StoredEvent>(db, `${RAW} WHERE e.id = ?`).get(id)
  return event && asEvent(event)
}

/** What is personal in one event. */
export function personalIn(db: Database, eventId: number): Record<string, string> {
  const row = prepare<{ facts: string }>(db, 'SELECT facts FROM event_personal WHERE event_id = ?').get(eventId)
  return row ? JSON.parse(row.facts) as Record<string, string> : {}
}

/** Everything that happened after that event, in the order it was written. */
export function eventsSince(db: Database, after: number, limit: number): ToldEvent[] {
  return prepare<ToldEvent>(db, `${NAMED} WHERE e.id > ? ORDER BY e.id LIMIT ?`).all(after, limit)
}

/** One event in words. */
export function toldEvent(db: Database, id: number): ToldEvent | undefined {
  return prepare<ToldEvent>(db, `${NAMED} WHERE e.id = ?`).get(id)
}
