/** A broadcast to very many: its audience fixed, its emails queued, its numbers before and after. */
import { join } from 'node:path'
import { bothParts } from '#core/audience/parts'
import { newBroadcast } from '#core/broadcast/draft'
import { email } from '#core/sequence/templates/write'
import { HOUR, MINUTE } from '#core/time/zone'
import { findBroadcast } from '#data/broadcasts'
import { openTask } from '#data/tasks'
import { createBroadcast, saveBroadcast } from '#usecases/broadcasts/save'
import { scheduleBroadcast } from '#usecases/broadcasts/schedule'
import { saveList } from '#usecases/know/listsAndTags'
import { beginDueSends, releaseDueSends } from '#usecases/sending/audience'
import { saveSettings } from '#usecases/settings/workspace'
import { workOnTask } from '#usecases/time/tasks'
import { broadcastReach } from '#usecases/views/broadcastReach'
import { broadcastResults, broadcastSplit } from '#usecases/views/broadcastResults'
import { benchContext } from './context'
import { median, ms, timed } from './measure'

const PEOPLE = 500_000
const SENT = 100_000
/** Emails queued as the engine does it, before the rest is written by plain inserts. */
const QUEUED = 12_000
const TURNS = 5

export async function measureBroadcasts(folder: string): Promise<string[]> {
  const context = benchContext(join(folder, 'broadcasts.db'))
  const { db } = context
  saveSettings(context, {
    name: 'Big bindery', zone: 'Europe/Lisbon', senderName: 'Ines', senderAddress: 'ines@example.com', postalAddress: 'Rua 1',
    currency: 'EUR', smtpUrl: null,
  })
  const listId = saveList(context, null, { name: 'letters', publicName: 'Letters', description: 'Letters.' })
  const now = context.clock.now()
  const event = Number(db.prepare(`INSERT INTO events (kind, at) VALUES ('imported', 0)`).run().lastInsertRowid)
  db.exec(`WITH RECURSIVE n (i) AS (SELECT 1 UNION ALL SELECT i + 1 FROM n WHERE i < ${PEOPLE})
    INSERT INTO people (id, address, address_key, first_name, search_text, status, source, created_at, zone)
      SELECT i, 'p' || i || '@example.com', 'p' || i || '@example.com', '', 'p' || i || '@example.com', 'active', 'import',
        ${now - 900 * HOUR}, CASE i % 3 WHEN 0 THEN 'Europe/Lisbon' WHEN 1 THEN 'America/New_York' END FROM n;
    INSERT INTO list_members (list_id, person_id, joined_at, event_id) SELECT ${listId}, id, ${now - 900 * HOUR}, ${event} FROM people
      WHERE id % 5 < 4;
    DELETE FROM segment_queue;`)
  db.exec('ANALYZE')
  const write = (most: number): number => {
    const id = createBroadcast(context)
    const who = bothParts()
    saveBroadcast(context, id, {
      ...newBroadcast(listId), content: email('Winter papers', 'Winter papers', 'x', 'Hello {name|there}, see https://example.com/a.'),
      who: most === PEOPLE ? who : { kind: 'all', of: [{ kind: 'all', of: [{ kind: 'list', listId, is: 'joined' }, {
        kind: 'sample', hundredths: Math.round(10_000 * most / (PEOPLE * 0.8)), salt: 3,
      }] }, { kind: 'none', of: [] }] },
    })
    return id
  }
  /** Milliseconds until all are put down, and the longest that one bit took; how many they are. */
  async function fix(id: number): Promise<{ took: number, longest: number, people: number }> {
    await scheduleBroadcast(context, id)
    releaseDueSends(context, now + 2 * MINUTE)
    let longest = 0
    const { ms: took } = timed(() => {
      const bit = (work: () => unknown) => longest = Math.max(longest, timed(work).ms)
      bit(() => beginDueSends(context, now))
      while (openTask(db)!.whom !== null) bit(() => workOnTask(context))
    })
    return { took, longest, people: openTask(db)!.total }
  }
  const hundred = await fix(write(SENT))
  const queueing = timed(() => {
    while (openTask(db)!.done < QUEUED) workOnTask(context)
  })
  const perSecond = Math.round(QUEUED * 1000 / queueing.ms)
  db.exec(`UPDATE tasks SET state = 'done'`)
  const all = await fix(write(PEOPLE))
  const draft = findBroadcast(db, write(PEOPLE))!.draft
  const reach = median(Array.from({ length: TURNS }, () => timed(() => broadcastReach(context, { id: 0, draft })).ms))

  // Its results are written by plain inserts: what is known of each email, its opens and its clicks.
  const { sendId } = findBroadcast(db, 1)!
  const messageId = db.prepare<[], number>('SELECT message_id FROM sends WHERE kind = \'broadcast\' ORDER BY id LIMIT 1').pluck().get()!
  db.exec(`INSERT OR IGNORE INTO outbox (send_id, kind, owner_id, item_id, person_id, occasion, message_id, list_id, asked_for, cause_id,
      planned_at) SELECT ${sendId}, 'broadcast', 1, 'email', person_id, '1', ${messageId}, ${listId}, 0, ${event}, ${now} FROM task_people
      WHERE task_id = 1;
    UPDATE outbox SET status = 'handed over', handed_over_at = ${now}, go_at = NULL,
      opened_at = CASE WHEN id % 2 = 0 THEN ${now} + id % 200000 * 1000 END, clicked_at = CASE WHEN id % 8 = 0 THEN ${now} + id % 250000 * 1000 END;
    WITH times (t) AS (VALUES (1), (2), (3), (4), (5), (6), (7), (8), (9))
    INSERT INTO opens (outbox_id, at, judged, event_id) SELECT id, ${now} + t * 60000, CASE WHEN id % 2 = 0 THEN 'reader'
    ELSE 'prefetch' END, ${event}
      FROM outbox, times WHERE id % 10 < 9;
    WITH times (t) AS (VALUES (1), (2), (3), (4), (5), (6), (7), (8), (9), (10), (11), (12), (13), (14), (15))
    INSERT INTO clicks (outbox_id, link_n, at, suspect, settle_at, judged) SELECT id, 0, ${now} + t * 60000, 0, ${now}, 'reader'
      FROM outbox, times WHERE id % 8 = 0`)
  db.exec('ANALYZE')
  const events = db.prepare<[], number>('SELECT (SELECT count(*) FROM opens) + (SELECT count(*) FROM clicks)').pluck().get()!
  const report = median(Array.from({ length: TURNS }, () => timed(() => broadcastResults(context, 1)).ms))
  const split = median(Array.from({ length: TURNS }, () => timed(() => broadcastSplit(context, { id: 1, by: 'domain' })).ms))
  db.close()
  const count = (n: number) => n.toLocaleString('en-GB')
  return [
    `Of ${count(PEOPLE)} people, an audience of ${count(hundred.people)} is fixed in ${ms(hundred.took)} ms (promised: 3,000), one of ${count(all.people)} in ${ms(all.took)} ms (promised: 15,000). The longest bit keeps others waiting for ${ms(Math.max(hundred.longest, all.longest))} ms.`,
    `Its emails are queued at ${count(perSecond)} a second.`,
    `Before it is sent, its numbers for ${count(PEOPLE)} people are worked out in ${ms(reach)} ms, in a thread of their own.`,
    `Its results, for ${count(hundred.people)} people with ${count(events)} opens and clicks, are there in ${ms(report)} ms (promised: 500); within domains in ${ms(split)} ms.`,
  ]
}
