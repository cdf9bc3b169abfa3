/** Copying what was made, and nobody's data, from one workspace file to another. */
import type { Database } from './connection'
import { prepare } from './connection'

interface Definition { table: string, columns: string, only?: string }

/**
 * Tables of definitions, in the order in which they refer to each other, and the columns that go along. What was deleted or merged stays
 * behind.
 */
const DEFINITIONS: Definition[] = [
  // Whether somebody reads what is sent there is shown anew; by which mail service they send is still to be said.
  { table: 'senders', columns: 'id, name, address, address_key, reply_to, made_at', only: 'gone_at IS NULL' },
  { table: 'lists', columns: 'id, name, public_name, description, takes_everybody, offered, sender_id, created_at', only: 'gone IS NULL' },
  {
    table: 'tags', columns: 'id, name, note, group_name, colour, expiry_days, expiry_on, public_name, sender_id, created_at',
    only: 'gone IS NULL',
  },
  { table: 'fields', columns: 'id, name, label, kind, choices, created_at', only: 'gone = 0' },
  { table: 'named_sources', columns: 'id, name, slug, created_at' },
  // No people, only what may have brought some: segments ask for them by number.
  { table: 'touches', columns: 'id, named, source, medium, campaign, term, content, referrer' },
  { table: 'pictures', columns: 'id, name, width, height, created_at' },
  { table: 'picture_sizes', columns: 'id, picture_id, width, content' },
  { table: 'files', columns: 'id, name, type, bytes, content, created_at' },
  { table: 'segments', columns: 'id, name, note, condition, code, created_at, changed_at', only: 'watch IS NULL AND gone = 0' },
  { table: 'links', columns: 'id, name, url, note, does, asks, made_at, changed_at', only: 'ended_at IS NULL' },
  { table: 'rules', columns: 'id, when_kind, thing_id, rule, is_on, made_at, changed_at', only: 'ended_at IS NULL' },
]

const COUPON = 'id, offer_id, code, code_key, cut_hundredths_pct, cut_amount, currency, from_at, until_at, uses, lasts'

export function copyDefinitions(from: Database, to: Database, at: number): void {
  // The ready segments come as they have become.
  prepare(to, 'DELETE FROM segments').run()
  for (const { table, columns, only } of DEFINITIONS) {
    const marks = columns.split(', ').map(column => `@${column}`).join(', ')
    const insert = prepare(to, `INSERT INTO ${table} (${columns}) VALUES (${marks})`)
    for (const row of prepare<Record<string, unknown>>(
      from, `SELECT ${columns} FROM ${table}${only ? ` WHERE ${only}` : ''} ORDER BY id`,
    ).all()) {
      insert.run({
        ...row,
        ...Object.fromEntries(['created_at', 'made_at', 'changed_at'].filter(name => columns.includes(name)).map(name => [name, at])),
      })
    }
  }
  // Wordings stay behind: a rule that sends an email stands still until it is switched on here, which makes its email anew.
  prepare(
    to, `UPDATE rules SET is_on = 0 WHERE EXISTS (SELECT 1 FROM json_each(rule, '$.then') a WHERE a.value ->> 'kind' = 'email')`,
  ).run()
  for (const { id, madeFrom } of prepare<{ id: number, madeFrom: number }>(from, `
    SELECT t.id, t.made_from AS madeFrom FROM tags t JOIN tags b ON b.id = t.made_from WHERE t.gone IS NULL
      AND b.gone IS NULL`).all()) prepare(to, 'UPDATE tags SET made_from = ? WHERE id = ?').run(madeFrom, id)
  // Broadcasts that were not sent come along; what was sent belongs to the people it went to.
  for (const row of prepare<Record<string, unknown>>(
    from, 'SELECT id, name, draft FROM broadcasts WHERE gone_at IS NULL AND send_id IS NULL ORDER BY id',
  ).all()) {
    prepare(to, 'INSERT INTO broadcasts (id, name, draft, made_at, changed_at) VALUES (@id, @name, @draft, @at, @at)').run({ ...row, at })
  }
  // Pages, offers and courses come as drafts: what the public sees and what runs is decided anew.
  for (const row of prepare<Record<string, unknown>>(
    from, 'SELECT id, name, slug, draft FROM pages WHERE gone_at IS NULL ORDER BY id',
  ).all()) {
    prepare(to, 'INSERT INTO pages (id, name, slug, draft, created_at, changed_at) VALUES (@id, @name, @slug, @draft, @at, @at)').run({
      ...row, at,
    })
  }
  for (const row of prepare<Record<string, unknown>>(
    from, 'SELECT id, name, slug, draft FROM offers WHERE gone_at IS NULL ORDER BY id',
  ).all()) {
    prepare(to, 'INSERT INTO offers (id, name, slug, draft, created_at, changed_at) VALUES (@id, @name, @slug, @draft, @at, @at)').run({
      ...row, at,
    })
  }
  for (const row of prepare<Record<string, unknown>>(from, `SELECT ${COUPON} FROM coupons WHERE gone_at IS NULL ORDER BY id`).all()) {
    prepare(
      to, `INSERT INTO coupons (${COUPON}, created_at) VALUES (${COUPON.split(', ').map(column => `@${column}`).join(', ')}, @at)`,
    ).run({ ...row, at })
  }
  for (const row of prepare<Record<string, unknown>>(
    from, 'SELECT id, name, again, draft FROM courses WHERE gone_at IS NULL ORDER BY id',
  ).all()) {
    prepare(to, `
      INSERT INTO courses (id, name, status, again, draft, created_at, changed_at)
      VALUES (@id, @name, 'draft', @again, @draft, @at, @at)`).run({ ...row, at })
  }
}
