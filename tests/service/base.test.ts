import { join } from 'node:path'
import { describe, expect, it } from 'vitest'
import { immediate, openDatabase, writeIfFree } from '#data/connection'
import { checkSchema, migrate, MIGRATIONS, SCHEMA_VERSION } from '#data/migrate'
import { allCourses } from '#data/courses'
import { NO_TOUCH } from '#core/page/touch'
import { appendEvent } from '#data/events'
import { allPages } from '#data/pages'
import { namedSources, touchIdOf, touchesByIds } from '#data/sources'
import { consentRule, workspaceOf } from '#data/workspace'
import { keysIn, Owner } from '#runtime/keys'
import { readSettings } from '#runtime/settings'
import { nameSource } from '#usecases/arrive/sources'
import { countVisits } from '#usecases/arrive/visits'
import { giveTagByHand } from '#usecases/know/byHand'
import { deleteTag } from '#usecases/know/endMarks'
import { saveField } from '#usecases/know/fields'
import { saveTag } from '#usecases/know/listsAndTags'
import { saveSegment } from '#usecases/know/segments'
import { goLive, liveChecks } from '#usecases/settings/goLive'
import { adoptZone, saveConsentRule } from '#usecases/settings/workspace'
import { inventReader } from '#usecases/practice/inventReader'
import { pageResults } from '#usecases/views/pageResults'
import { recalculateScores } from '#usecases/time/recalculateScores'
import { subscriberView } from '#usecases/views/subscriber'
import { moveClock } from '#usecases/time/moveClock'
import { temporaryFolder } from '../temporary'
import { DAY, HOUR, furnish, moveTo, openContext, tag, thursdayNoon, visit } from './workshop'

/** What tables and columns of the version before sources were kept are called by now. */
const NOW_CALLED: Record<string, { table?: string, columns?: [was: string, is: string][] }> = {
  messages: { columns: [['course_id', 'owner_id'], ['thing_id', 'owner_id'], ['step_id', 'item_id']] },
  message_links: { columns: [['tag_id', `does ->> '$[0].tagId'`]] },
  outbox: { columns: [
    ['course_id', 'owner_id'], ['thing_id', 'owner_id'], ['step_id', 'item_id'], ['visit', 'CAST(occasion AS INTEGER)'],
    ['purpose', `'first'`],
  ] },
  links: { columns: [['look_due_at', 'check_due_at'], ['looked_at', 'checked_at']] },
  workspace: { columns: [
    ['sender_name', '(SELECT name FROM senders)'], ['sender_address', '(SELECT address FROM senders)'],
  ] },
  segment_people: { columns: [['turns_at', 'reevaluate_at']] },
  looks: { table: 'segment_queue' },
}

describe('a database', () => {
  it('is brought to this version once, and each migration is whole or not at all', () => {
    const db = openDatabase(join(temporaryFolder(), 'a.db'))
    expect(() => checkSchema(db)).toThrow(/has schema 0 and this version needs schema \d+/)
    migrate(db, 1)
    migrate(db, 2)
    checkSchema(db)
    expect(db.prepare('SELECT number, applied_at AS at FROM migrations').all()).toEqual(MIGRATIONS.map(({ number }) => ({ number, at: 1 })))
    const broken = { number: SCHEMA_VERSION + 1, name: 'broken', sql: 'CREATE TABLE half (x); CREATE TABLE half (x);' }
    expect(() => migrate(db, 3, [...MIGRATIONS, broken])).toThrow()
    expect(db.prepare(`SELECT count(*) AS n FROM sqlite_master WHERE name = 'half'`).get()).toEqual({ n: 0 })
    checkSchema(db)
  })

  it('of the version before sources were kept loses nobody, and says what it cannot know', async () => {
    const { context, pageId } = await furnish(openContext())
    const ada = visit(context, 'ada@example.com')
    const old = openDatabase(join(temporaryFolder(), 'old.db'))
    migrate(old, 0, MIGRATIONS.slice(0, 4))
    // Everything as the older version would have it: the same rows, without the columns that came later.
    const columns = (db: typeof old, table: string) =>
      (db.prepare(`SELECT name FROM pragma_table_info('${table}')`).pluck().all() as string[]).join(', ')
    old.pragma('foreign_keys = OFF')
    for (const table of old.prepare(
      `SELECT name FROM sqlite_master WHERE type = 'table' AND name NOT LIKE 'sqlite_%' AND name <> 'migrations'`,
    ).pluck().all() as string[]) {
      old.exec(`DELETE FROM ${table}`)
      if (table === 'rules' || table === 'watches') continue // none there
      const named = (NOW_CALLED[table]?.columns ?? []).reduce(
        (text, [was, is]) => text.replace(new RegExp(`\\b${was}\\b`), `${is} AS ${was}`), columns(old, table),
      )
      for (const row of context.db.prepare(`SELECT ${named} FROM ${NOW_CALLED[table]?.table ?? table}`)
        .all() as Record<string, unknown>[]) old.prepare(
        `INSERT INTO ${table} (${columns(old, table)}) VALUES (${Object.keys(row).map(() => '?').join(', ')})`,
      ).run(...Object.values(row))
    }
    old.exec(`
      UPDATE courses
      SET draft = json_set(draft, '$.steps[0].ifNotClicked', json('{"days":3,"tagId":1}'), '$.steps[1].ifNotClicked', NULL)`)
    old.pragma('foreign_keys = ON')
    migrate(old, 1)
    // What an email watched for is one of its reactions by now.
    const [first, second] = (JSON.parse(old.prepare('SELECT draft FROM courses').pluck().get() as string) as { steps: object[] }).steps
    expect(first).toMatchObject({
      reactions: [{ id: 'not-clicked', on: 'not-clicked', within: { count: 3, unit: 'days' }, then: [{ kind: 'give-tag', tagId: 1 }] }],
    })
    expect([first, second].map(step => 'ifNotClicked' in step!)).toEqual([false, false])
    expect(old.pragma('foreign_key_check')).toEqual([])
    const after = { ...context, db: old }
    while (recalculateScores(after));
    expect(subscriberView(after, ada)).toEqual({ ...subscriberView(context, ada), brought: null })
    expect(pageResults(after, { id: pageId, days: 7 })).toMatchObject({
      visits: 0, optIns: 1, rate: { value: null }, bySource: [{ touchId: null, says: 'from before sources were recorded', optIns: 1 }],
    })
  })

  it('is refused if it is newer, or if what was applied has been edited', () => {
    const db = openDatabase(join(temporaryFolder(), 'a.db'))
    migrate(db, 1)
    const edited = MIGRATIONS.map((migration, index) => index === 0 ? { ...migration, sql: `${migration.sql} -- edited` } : migration)
    expect(() => migrate(db, 2, edited)).toThrow(/must never be edited/)
    expect(() => migrate(db, 2, [])).toThrow(/newer version of Keen Porch/)
  })

  it('numbers its migrations without gaps, and every table says what a row is', () => {
    expect(MIGRATIONS.map(({ number }) => number)).toEqual(MIGRATIONS.map((_, index) => index + 1))
    const tables = MIGRATIONS.flatMap(({ sql }) =>
      [...sql.matchAll(/CREATE TABLE (\w+) \(\n(.*)\n/g)].map(([, name, firstLine]) => ({ name, firstLine })))
    expect(tables.length).toBeGreaterThan(20)
    for (const { name, firstLine } of tables) expect(firstLine, name).toMatch(/^\s+-- \w.+\.$/)
  })

  it('never changes or removes an event, nor keeps half of a transaction', async () => {
    const { context } = await furnish(openContext())
    visit(context, 'ada@example.com')
    expect(() => context.db.exec('UPDATE events SET at = 0')).toThrow(/never changed/)
    expect(() => context.db.exec('DELETE FROM events WHERE id = 1')).toThrow(/never removed/)
    const count = () => (context.db.prepare('SELECT count(*) AS n FROM events').get() as { n: number }).n
    const before = count()
    expect(() => immediate(context.db, () => {
      appendEvent(context.db, 'went-live', 1)
      throw new Error('after the event')
    })).toThrow('after the event')
    expect(count()).toBe(before)
  })

  it('lets a second connection wait for the first instead of failing', () => {
    const file = join(temporaryFolder(), 'a.db')
    const [one, two] = [openDatabase(file), openDatabase(file)]
    migrate(one, 1)
    for (let n = 0; n < 200; n++) immediate(n % 2 ? one : two, () => appendEvent(n % 2 ? one : two, 'went-live', n))
    expect(one.pragma('journal_mode', { simple: true })).toBe('wal')
    expect(one.pragma('synchronous', { simple: true })).toBe(2) // FULL
    expect(two.pragma('foreign_keys', { simple: true })).toBe(1)
    expect((two.prepare('SELECT count(*) AS n FROM events').get() as { n: number }).n).toBe(200)
    // What need not wait for the disk changes nothing for what must, also where it fails or somebody else is writing.
    const write = () => void appendEvent(one, 'went-live', 201)
    expect(writeIfFree(one, write)).toBe(true)
    expect(immediate(two, () => writeIfFree(one, write))).toBe(false)
    expect(() => writeIfFree(one, () => { throw new Error('mid-way') })).toThrow('mid-way')
    expect(one.pragma('synchronous', { simple: true })).toBe(2)
    expect((two.prepare('SELECT count(*) AS n FROM events').get() as { n: number }).n).toBe(201)
  })

  it('makes writes outside a transaction wait for another process, too, even after transactions', () => {
    const file = join(temporaryFolder(), 'a.db')
    const before = openDatabase(file)
    migrate(before, 1)
    before.close()
    const db = openDatabase(file)
    const waits = () => db.pragma('busy_timeout', { simple: true })
    expect(waits()).toBe(5000)
    for (let n = 1; n <= 3; n++) {
      immediate(db, () => appendEvent(db, 'went-live', n))
      expect(waits()).toBe(5000)
    }
    expect(writeIfFree(db, () => void appendEvent(db, 'went-live', 4))).toBe(true)
    expect(() => immediate(db, () => { throw new Error('mid-way') })).toThrow('mid-way')
    expect(waits()).toBe(5000)
  })
})

describe('going live', () => {
  const url = 'https://porch.example.com'

  it('copies definitions and nobody', async () => {
    const { context } = await furnish(openContext())
    visit(context, 'ada@example.com')
    await moveTo(context, thursdayNoon + 5 * DAY)
    const fieldId = saveField(context, null, { name: 'books', label: 'How many?', kind: 'number', choices: [] })
    const blank = saveTag(context, null, tag('joined [month]', { follows: { gives: [1], takes: [], drops: [] } }))
    giveTagByHand(context, 1, blank)
    saveSegment(context, null, {
      name: 'mine', note: '', condition: { kind: 'all', of: [{ kind: 'field', fieldId, test: { is: 'known' } }] },
    })
    deleteTag(context, saveTag(context, null, tag('gone')), 0)
    nameSource(context, 'workshop flyer')
    const touchId = touchIdOf(context.db, { ...NO_TOUCH, named: 'workshop-flyer' })
    countVisits(context, [{ shown: { kind: 'page', id: 1 }, touch: { ...NO_TOUCH, named: 'workshop-flyer' }, at: thursdayNoon, visits: 3 }])
    saveSegment(context, null, {
      name: 'by the flyer', note: '', condition: { kind: 'all', of: [{ kind: 'opted-in', pageId: 1, within: null, touchId }] },
    })
    saveConsentRule(context, { countries: ['PT'], unknownNeeds: true })
    const live = openDatabase(join(temporaryFolder(), 'live.db'))
    migrate(live, 0)
    goLive(context, live, { key: 'k2', at: thursdayNoon, smtpUrl: 'smtp://127.0.0.1', checks: liveChecks(context, true, url) })
    const rows = (table: string) => (live.prepare(`SELECT count(*) AS n FROM ${table}`).get() as { n: number }).n
    for (const table of [
      'people', 'list_members', 'tag_holdings', 'consents', 'enrolments', 'opens', 'clicks', 'mailbox', 'timeouts', 'reader_acts',
      'invented_readers', 'practice_clock', 'event_personal', 'opt_ins', 'page_visits',
    ]) expect(rows(table), table).toBe(0)
    expect(live.prepare('SELECT kind FROM events').all()).toEqual([{ kind: 'sender-code-asked' }, { kind: 'went-live' }])
    const definitions = (db: typeof live) => [
      allPages(db).map(({ name, slug, draft }) => ({ name, slug, draft })), allCourses(db).map(({ name, draft }) => ({ name, draft })),
      db.prepare('SELECT id, name, made_from FROM tags WHERE gone IS NULL').all(),
      db.prepare('SELECT when_kind, thing_id, rule, is_on FROM rules').all(),
      db.prepare('SELECT * FROM fields').all().map(row => ({ ...row as object, created_at: 0 })),
      db.prepare('SELECT name, condition, code FROM segments').all(), consentRule(db),
      db.prepare('SELECT id, public_name, takes_everybody FROM lists').all(), namedSources(db), touchesByIds(db, [touchId]),
    ]
    expect(definitions(live)).toEqual(definitions(context.db))
    expect(allPages(live)[0]!.published).toBeNull()
    expect(allCourses(live)[0]!.status).toBe('draft')
    // Nobody is written to but the owner, who is asked to show that they read it.
    expect(live.prepare('SELECT kind, to_address AS "to" FROM outbox').all()).toEqual([{ kind: 'code', to: 'ines@saltmarsh.example.com' }])
    expect(workspaceOf(live)).toMatchObject({
      mode: 'live', key: 'k2', senderAddress: 'ines@saltmarsh.example.com', smtpUrl: 'smtp://127.0.0.1',
    })
  })

  it('waits for what is needed, and warns of what is unwise', async () => {
    const bare = openContext()
    const failing = (context: typeof bare, smtp: boolean, base: string) =>
      liveChecks(context, smtp, base).filter(check => !check.ok).map(check => `${check.what}${check.needed ? '' : ' (unwise)'}`)
    expect(failing(bare, false, 'http://localhost:3000')).toEqual([
      'A sender with a name', 'A sender that receivers accept (unwise)', 'A postal address', 'A mail server', 'A public address for links',
    ])
    const { context } = await furnish(openContext())
    expect(failing(context, true, url)).toEqual(['A sender that receivers accept (unwise)']) // saltmarsh.example.com is nobody's
    const live = openDatabase(join(temporaryFolder(), 'live.db'))
    migrate(live, 0)
    expect(() => goLive(bare, live, { key: 'k', at: 0, smtpUrl: null, checks: liveChecks(bare, false, url) })).toThrow(/postal address/)
    expect(live.prepare('SELECT count(*) AS n FROM workspace').get()).toEqual({ n: 0 })
  })

  it('leaves practice\'s clock and readers behind', async () => {
    const { context } = await furnish(openContext({ mode: 'live', clock: { at: thursdayNoon } }))
    expect(() => moveClock(context, { by: 'day' })).toThrow(/real time/)
    expect(() => inventReader(context, visit(context, 'a@example.com'), 50)).toThrow(/practice only/)
  })
})

describe('the practice clock', () => {
  it('goes by an hour, a calendar day across a change of clocks, to the next send, and never back', async () => {
    const { context } = await furnish(openContext())
    expect(moveClock(context, { by: 'hour' })).toBe(thursdayNoon + HOUR)
    expect(moveClock(context, { by: 'day' })).toBe(thursdayNoon + DAY + HOUR)
    expect(() => moveClock(context, { by: 'next-send' })).toThrow(/Nothing waits to be sent/)
    expect(() => moveClock(context, { by: 'to', at: thursdayNoon })).toThrow(
      /only goes forward: choose a time after Fri 27 Nov, 13:00, Lisbon time/,
    )
    expect(() => moveClock(context, { by: 'to', at: thursdayNoon + 500 * DAY })).toThrow(/400 days/)
    await moveTo(context, Date.UTC(2027, 2, 27, 8))
    // Clocks in Lisbon go forward on 28 March 2027: the same clock time is 23 hours away.
    expect(moveClock(context, { by: 'day' })).toBe(Date.UTC(2027, 2, 28, 7))
  })
})

describe('an installation', () => {
  it('makes its keys once, and keeps the password only as a hash that takes memory to guess', async () => {
    const folder = temporaryFolder()
    expect(keysIn(folder)).toEqual(keysIn(folder))
    expect(keysIn(folder).session.length).toBeGreaterThanOrEqual(32)
    const owner = new Owner(folder, null)
    expect(owner.hasPassword()).toBe(false)
    await owner.choosePassword('a long password')
    expect(await owner.choosePassword('another one')).toBe(false)
    expect(await new Owner(folder, null).isPassword('a long password')).toBe(true)
    expect(await new Owner(folder, null).isPassword('a long passwore')).toBe(false)
    expect(await new Owner(folder, 'from outside').isPassword('a long password')).toBe(false)
    const { readFileSync, statSync } = await import('node:fs')
    expect(readFileSync(join(folder, 'owner.json'), 'utf8')).toMatch(/\$argon2id\$v=19\$m=65536,t=3,p=4\$/)
    for (const file of ['owner.json', 'keys.json']) expect(statSync(join(folder, file)).mode & 0o077).toBe(0)
  })

  it.each([
    [
      { PORT: '0' }, /PORT/,
    ], [{ PORT: 'x' }, /PORT/], [{ PORCH_BASE_URL: 'ftp://a' }, /PORCH_BASE_URL/], [{ PORCH_TRUST_PROXY: 'yes' }, /PORCH_TRUST_PROXY/],
    [{ PORCH_PASSWORD: '1234567' }, /8 characters/], [{ PORCH_SMTP_URL: 'smtp:' }, /PORCH_SMTP_URL/],
  ])('says what is wrong with %o', (env, sentence) => {
    expect(() => readSettings(env)).toThrow(sentence)
  })
  it('reads what makes sense', () => {
    expect(readSettings({ PORT: '8080', PORCH_BASE_URL: 'https://a.example.com/porch//', PORCH_TRUST_PROXY: '1' })).toMatchObject({
      port: 8080, baseUrl: 'https://a.example.com/porch', proxies: 1, host: '127.0.0.1', password: null, smtpUrl: null,
    })
    expect(readSettings({})).toMatchObject({ port: 3000, baseUrl: 'http://localhost:3000', host: '127.0.0.1', proxies: 0 })
  })
})

describe('a new workspace', () => {
  it('takes the zone of its owner’s browser while nothing has begun, and no other word', async () => {
    const context = openContext()
    for (const odd of ['', 'Mars/Olympus', '../etc']) {
      adoptZone(context, odd)
      expect(workspaceOf(context.db).zone).toBe('Europe/Lisbon')
    }
    adoptZone(context, 'Asia/Kathmandu')
    expect(workspaceOf(context.db)).toMatchObject({ zone: 'Asia/Kathmandu', name: 'Saltmarsh Bindery', currency: 'EUR' })
    await furnish(context)
    visit(context, 'ada@example.com')
    adoptZone(context, 'Pacific/Auckland')
    expect(workspaceOf(context.db).zone).toBe('Europe/Lisbon')
  })
})

