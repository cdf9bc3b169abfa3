/** Bringing a file to the schema of this version, and refusing one that does not fit. */
import { createHash } from 'node:crypto'
import type { Database } from './connection'
import { refreshStatistics, immediate } from './connection'
import { first } from './migrations/001-first'
import { tagGroupsAndExpiry } from './migrations/002-tag-groups-and-expiry'
import { know } from './migrations/003-know'
import { quickNumbers } from './migrations/004-quick-numbers'
import { sources } from './migrations/005-sources'
import { mailOfPages } from './migrations/006-mail-of-pages'
import { pictures } from './migrations/007-pictures'
import { choices } from './migrations/008-choices'
import { oddAddresses } from './migrations/009-odd-addresses'
import { passedOn } from './migrations/010-passed-on'
import { choosers } from './migrations/011-choosers'
import { money } from './migrations/012-money'
import { offers } from './migrations/013-offers'
import { rules } from './migrations/014-rules'
import { courses } from './migrations/015-courses'
import { never } from './migrations/016-never'
import { strangers } from './migrations/017-strangers'
import { hands } from './migrations/018-hands'
import { waiting } from './migrations/019-waiting'
import { stops } from './migrations/020-stops'
import { archive } from './migrations/021-archive'
import { names } from './migrations/022-names'
import { sends } from './migrations/023-sends'
import { ownActs } from './migrations/024-own-acts'
import { awaitedSends } from './migrations/025-awaited-sends'
import { atAGlance } from './migrations/026-at-a-glance'
import { setUp } from './migrations/027-set-up'
import { weeklySummary } from './migrations/028-weekly-summary'
import { journeyUndos } from './migrations/029-journey-undos'
import { templates } from './migrations/030-templates'
import { testEmails } from './migrations/031-test-emails'
import { choicesOfEmails } from './migrations/032-choices-of-emails'
import { emailParts } from './migrations/033-email-parts'
import { choiceLinks } from './migrations/034-choice-links'
import { earlierEmails } from './migrations/035-earlier-emails'
import { senders } from './migrations/036-senders'
import { emailDrafts } from './migrations/037-email-drafts'
import { mailboxAttachments } from './migrations/038-mailbox-attachments'
import { broadcasts } from './migrations/039-broadcasts'
import { sendingPace } from './migrations/040-sending-pace'
import { sentAsksNoSegment } from './migrations/041-sent-asks-no-segment'
import { waitingMail } from './migrations/042-waiting-mail'
import type { Migration } from './migrations/migration'

/** Numbered from 1 without gaps; forward only. An applied one is never edited. */
export const MIGRATIONS: readonly Migration[] = [
  first, tagGroupsAndExpiry, know, quickNumbers, sources, mailOfPages, pictures, choices, oddAddresses, passedOn, choosers, money, offers,
  rules, courses, never, strangers, hands, waiting, stops, archive, names, sends, ownActs, awaitedSends,
  atAGlance, setUp, weeklySummary, journeyUndos, templates, testEmails, choicesOfEmails,
  emailParts, choiceLinks, earlierEmails, senders, emailDrafts, mailboxAttachments, broadcasts, sendingPace,
  sentAsksNoSegment, waitingMail,
]

/** Says in one plain sentence what does not fit, for whoever started the program. */
export class SchemaProblem extends Error {}

/** The other process has yet to migrate it: worth waiting for. */
export class NotMigratedYet extends SchemaProblem {}

const digestOf = (migration: Migration) => createHash('sha256').update(migration.sql).digest('hex')

interface Applied { number: number, name: string, digest: string }

function applied(db: Database): Applied[] {
  const known = db.prepare(`SELECT 1 FROM sqlite_master WHERE type = 'table' AND name = 'migrations'`).get()
  return known ? db.prepare('SELECT number, name, digest FROM migrations ORDER BY number').all() as Applied[] : []
}

function check(db: Database, migrations: readonly Migration[]): number {
  const rows = applied(db)
  const newest = migrations.length
  if (rows.length > newest) {
    throw new SchemaProblem(
      `This database was made by a newer version of Keen Porch (schema ${rows.length}); this version knows schema ${newest}. Use the newer version, or another data folder.`,
    )
  }
  for (const row of rows) {
    const migration = migrations[row.number - 1]!
    if (digestOf(migration) !== row.digest) {
      throw new SchemaProblem(
        `Migration ${row.number} (${row.name}) of this database is not the one this version carries; a migration must never be edited once applied.`,
      )
    }
  }
  return rows.length
}

/** Applies what is missing, each migration in a transaction of its own. Only one process of an installation does this. */
export function migrate(db: Database, at: number, migrations: readonly Migration[] = MIGRATIONS): void {
  const done = check(db, migrations)
  for (const migration of migrations.slice(done)) {
    // Only outside a transaction can this be switched.
    if (migration.rebuilds) db.pragma('foreign_keys = OFF')
    try {
      immediate(db, () => {
        db.exec(migration.sql)
        migration.then?.(db)
        const broken = migration.rebuilds ? db.pragma('foreign_key_check') as { table: string }[] : []
        if (broken.length > 0) throw new SchemaProblem(
          `Migration ${migration.number} (${migration.name}) would leave ${broken.length} rows pointing to nothing, the first in ${broken[0]!.table}. Nothing was changed.`,
        )
        db.prepare('INSERT INTO migrations (number, name, digest, applied_at) VALUES (?, ?, ?, ?)')
          .run(migration.number, migration.name, digestOf(migration), at)
      })
    }
    finally {
      if (migration.rebuilds) db.pragma('foreign_keys = ON')
    }
  }
  // A new index has no statistics, and is then chosen where it does not help.
  if (done > 0 && done < migrations.length) refreshStatistics(db)
}

/** For the process that does not migrate: throws a {@link SchemaProblem} unless the schema is exactly ours. */
export function checkSchema(db: Database): void {
  const done = check(db, MIGRATIONS)
  if (done < MIGRATIONS.length) {
    throw new NotMigratedYet(
      `This database has schema ${done} and this version needs schema ${MIGRATIONS.length}; the other process has not migrated it yet.`,
    )
  }
}

export const SCHEMA_VERSION = MIGRATIONS.length
