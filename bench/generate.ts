/**
 * A big invented workspace, the same for the same seed: people with lists,
 * tags, fields, consents, journeys, emails, opens, clicks, and the events that
 * brought all that about. Written by plain inserts, because playing three
 * million events would take hours; what the tables hold fits together as the
 * use cases would have left it.
 */
import { diceOf } from '#core/dice'
import { newPage } from '#core/page/content'
import { NOTHING_FOLLOWS } from '#core/rules/shortForms'
import type { MessageContent } from '#core/message/content'
import { DAY, HOUR, localOf, MINUTE } from '#core/time/zone'
import { refreshStatistics, type Database } from '#data/connection'
import { openSendId } from '#data/sends'
import { setPracticeClock, askPracticeClock } from '#data/workspace'
import { createPage, publishPage, savePage } from '#usecases/arrive/pages'
import { createCourse, saveCourse } from '#usecases/courses/save'
import { startCourse } from '#usecases/courses/publish'
import type { WorkspaceContext } from '#usecases/context'
import { saveField } from '#usecases/know/fields'
import { saveList, saveTag } from '#usecases/know/listsAndTags'
import { saveSettings } from '#usecases/settings/workspace'

export const NOW = Date.UTC(2026, 10, 25, 12)
const DAYS = 720
const STEPS = ['one', 'two', 'three', 'four', 'five']
const COUNTRIES = [null, 'PT', 'DE', 'FR', 'US', 'US', 'US', 'GB', 'BR', 'AU', 'CA', 'NL', 'SE', 'IN', 'JP', 'MX']
const ZONES = [null, 'Europe/Lisbon', 'Europe/Berlin', 'America/New_York', 'America/Los_Angeles', 'Asia/Tokyo']
const NAMES = ['Ada', 'Bruno', 'Ines', 'Mei', 'Paavo', 'Zoë', 'Leila', 'Marta', 'Cato', 'Imani', '']

export interface Furniture {
  listIds: number[], tagIds: number[], fieldIds: { books: number, town: number, birthday: number }, courseIds: number[], pageIds: number[],
}

const email = (workingTitle: string): MessageContent => ({
  workingTitle, subject: [{ type: 'text', text: workingTitle }], preview: [],
  body: { type: 'doc', content: [
    { type: 'paragraph', content: [{ type: 'text', text: `This is ${workingTitle}.` }] },
    { type: 'button', attrs: { label: 'Read on', url: `https://bindery.example.com/${workingTitle.replaceAll(' ', '-')}`, tagId: null } },
  ] },
})

/** Lists, tags, fields, pages and courses, made by the use cases. */
export async function furnish(context: WorkspaceContext): Promise<Furniture> {
  saveSettings(context, {
    name: 'Big bindery', zone: 'Europe/Lisbon', senderName: 'Ines', senderAddress: 'ines@bindery.example.com',
    postalAddress: 'Rua do Cais 3', currency: 'EUR', smtpUrl: null,
  })
  const listIds = ['letters', 'classes', 'offers', 'events'].map(name =>
    saveList(context, null, { name, publicName: name, description: '' }))
  const tagIds = Array.from({ length: 24 }, (_, n) =>
    saveTag(context, null, { name: `tag ${n}`, note: '', group: '', colour: null, expiry: { kind: 'never' }, follows: NOTHING_FOLLOWS }))
  const fieldIds = {
    books: saveField(context, null, { name: 'books', label: '', kind: 'number', choices: [] }),
    town: saveField(context, null, { name: 'town', label: '', kind: 'text', choices: [] }),
    birthday: saveField(context, null, { name: 'birthday', label: '', kind: 'date', choices: [] }),
  }
  const pageIds: number[] = []
  for (const [n, slug] of ['kit', 'guide', 'class'].entries()) {
    const page = newPage(slug)
    const id = createPage(context, slug)
    savePage(context, id, {
      name: slug, slug, draft: { ...page, confirming: { ...page.confirming, who: 'nobody' }, listIds: [listIds[0]!], tagIds: [tagIds[n]!] },
    })
    await publishPage(context, id)
    pageIds.push(id)
  }
  const courseIds: number[] = []
  for (const [n, name] of ['first steps', 'coptic', 'marbling'].entries()) {
    const id = createCourse(context, name, 'one')
    saveCourse(context, id, name, {
      listId: listIds[0]!, wayInTagIds: [tagIds[n]!], again: 'once',
      steps: STEPS.map((stepId, k) => ({
        id: stepId, kind: 'email', when: k === 0 ? { kind: 'at-once' } : { kind: 'elapsed', count: 2, unit: 'days', from: 'previous' },
        ifPast: 'at-once', zone: 'workspace', content: email(`${name} ${stepId}`),
      })),
    })
    await startCourse(context, id)
    courseIds.push(id)
  }
  return { listIds, tagIds, fieldIds, courseIds, pageIds }
}

/** Of a workspace that was made before. */
export function furnitureOf(db: Database): Furniture {
  const ids = (table: string) => db.prepare<[], number>(`SELECT id FROM ${table} ORDER BY id`).pluck().all()
  const [books, town, birthday] = ids('fields') as [number, number, number]
  return {
    listIds: ids('lists'), tagIds: ids('tags'), fieldIds: { books, town, birthday }, courseIds: ids('courses'), pageIds: ids('pages'),
  }
}

export const countEvents = (db: Database): number => db.prepare<[], number>('SELECT count(*) FROM events').pluck().get()!

/** Returns how many events there are. */
export function populate(
  db: Database, { listIds, tagIds, fieldIds, courseIds, pageIds }: Furniture, size: { people: number, events: number }, seed = 7,
): number {
  const dice = diceOf(seed)
  const upTo = (n: number) => Math.floor(dice() * n)
  const pick = <Item>(items: readonly Item[]): Item => items[upTo(items.length)]!
  // Indexes are built once over everything instead of being kept up row by row, and nobody is looked at for segments.
  const indexes = db.prepare<[], { name: string, sql: string }>(
    `SELECT name, sql FROM sqlite_master WHERE type = 'index' AND sql IS NOT NULL`,
  ).all()
  const trigger = db.prepare<[], { sql: string }>(`SELECT sql FROM sqlite_master WHERE name = 'events_reevaluate_segments'`).get()!.sql
  db.exec(`${indexes.map(({ name }) => `DROP INDEX ${name};`).join('')} DROP TRIGGER events_reevaluate_segments;`)
  db.pragma('foreign_keys = OFF')
  db.pragma('synchronous = OFF')

  const into = (table: string, columns: string) =>
    db.prepare(`INSERT INTO ${table} (${columns}) VALUES (${columns.split(',').map(() => '?').join(',')})`)
  const rows = {
    person: into(
      'people', 'id,address,address_key,first_name,search_text,status,zone,country,source,created_at,consent_at,read_at,fetched_at',
    ),
    event: into('events', 'id,kind,at,person_id,cause_id,page_id,list_id,tag_id,course_id,outbox_id,step_id,detail'),
    personal: into('event_personal', 'event_id,facts'),
    optIn: into('opt_ins', 'page_id,person_id,at,event_id,confirmed_at'),
    consent: into('consents', 'person_id,event_id,page_version_id,origin,wording,at,ip,zone'),
    member: into('list_members', 'list_id,person_id,joined_at,left_at,event_id'),
    holding: into('tag_holdings', 'tag_id,person_id,since_at,event_id'),
    field: into('field_values', 'field_id,person_id,value'),
    enrolment: into(
      'enrolments',
      'id,course_id,person_id,visit,version_id,status,joined_at,previous_at,step_id,due_at,done_steps,own_act,event_id,ended_at',
    ),
    email: into(
      'outbox',
      'id,send_id,kind,owner_id,person_id,item_id,occasion,message_id,enrolment_id,list_id,asked_for,cause_id,planned_at,status,reason,handed_over_at,sent_event_id,opened_at,last_opened_at,clicked_at,last_clicked_at',
    ),
    open: into('opens', 'outbox_id,at,judged,event_id'),
    click: into('clicks', 'outbox_id,link_n,at,suspect,settle_at,judged,event_id'),
  }
  const versions = new Map(
    courseIds.map(id => [id, db.prepare<[number], number>('SELECT version_id FROM courses WHERE id = ?').pluck().get(id)!]),
  )
  const messages = new Map(db.prepare<[], { id: number, courseId: number, stepId: string }>(
    'SELECT id, owner_id AS courseId, item_id AS stepId FROM messages WHERE kind = \'course\'',
  ).all().map(row => [`${row.courseId} ${row.stepId}`, row.id]))
  const sends = new Map<string, number>()
  const sendOf = (courseId: number, itemId: string): number => {
    const key = `${courseId} ${itemId}`
    if (!sends.has(key)) sends.set(key, openSendId(db, { kind: 'course', ownerId: courseId, itemId }))
    return sends.get(key)!
  }
  let events = db.prepare<[], number>('SELECT coalesce(max(id), 0) FROM events').pluck().get()!
  let emails = 0
  let enrolments = 0
  const event = (kind: string, at: number, personId: number, about: {
    causeId?: number | null, pageId?: number, listId?: number, tagId?: number, courseId?: number, outboxId?: number, stepId?: string,
    detail?: string,
  } = {}): number => {
    rows.event.run(
      ++events, kind, at, personId, about.causeId ?? null, about.pageId ?? null, about.listId ?? null, about.tagId ?? null,
      about.courseId ?? null, about.outboxId ?? null, about.stepId ?? null, about.detail ?? null,
    )
    return events
  }

  const onePerson = (id: number) => {
    // More of them lately, as it goes.
    const arrivedAt = NOW - Math.floor(DAYS * dice() ** 1.6 * DAY) - upTo(DAY)
    const imported = dice() < 0.3
    const [firstName, page] = [pick(NAMES), upTo(pageIds.length)]
    const fate = dice()
    const status = fate < 0.8
      ? 'active'
      : fate < 0.86 ? 'resting' : fate < 0.95 ? 'unsubscribed' : fate < 0.97 ? 'bounced' : fate < 0.975 ? 'complained' : 'pending'
    const address = `reader${id}@${pick(['example.com', 'mail.example.org', 'post.example.net'])}`
    const zone = pick(ZONES)
    const root = event(imported ? 'imported' : 'opted-in', arrivedAt, id, imported ? { detail: 'new' } : { pageId: pageIds[page]! })
    rows.personal.run(root, JSON.stringify({ address, ...(firstName && { firstName }) }))
    if (!imported) {
      rows.optIn.run(pageIds[page], id, arrivedAt, root, arrivedAt)
      event('status-changed', arrivedAt, id, { causeId: root, detail: 'active' })
    }
    const consented = !imported || dice() < 0.6
    if (consented) rows.consent.run(
      id, root, imported ? null : page + 1, imported ? 'the old list' : '', 'You get emails from us.', arrivedAt, '192.0.2.1', zone,
    )
    for (const [n, listId] of listIds.entries()) {
      if (n > 0 && dice() > 0.25) continue
      const joined = event('joined-list', arrivedAt, id, { causeId: root, listId })
      rows.member.run(listId, id, arrivedAt, dice() < 0.06 ? arrivedAt + upTo(60 * DAY) : null, joined)
    }
    const held = new Set([page, ...Array.from({ length: upTo(4) }, () => Math.floor(dice() ** 2 * tagIds.length))])
    for (const n of held) {
      const at = Math.min(NOW, arrivedAt + upTo(90 * DAY))
      rows.holding.run(tagIds[n], id, at, event('got-tag', at, id, { causeId: root, tagId: tagIds[n]! }))
    }
    if (dice() < 0.3) rows.field.run(fieldIds.books, id, upTo(12))
    if (dice() < 0.2) rows.field.run(fieldIds.town, id, pick(['Porto', 'Lisboa', 'Kyoto', 'Québec', 'Århus']))
    if (dice() < 0.2) rows.field.run(
      fieldIds.birthday, id, `19${50 + upTo(50)}-${String(1 + upTo(12)).padStart(2, '0')}-${String(1 + upTo(28)).padStart(2, '0')}`,
    )

    let [readAt, fetchedAt]: [number | null, number | null] = [null, null]
    const keen = dice()
    for (const courseId of courseIds.filter((_, n) => n === page || dice() < 0.12)) {
      const joinedAt = Math.min(NOW - MINUTE, arrivedAt + (courseId === courseIds[page] ? 0 : upTo(200 * DAY)))
      const begun = event('enrolled', joinedAt, id, { causeId: root, courseId })
      const enrolmentId = ++enrolments
      let k = 0
      for (; k < STEPS.length; k++) {
        const plannedAt = joinedAt + k * 2 * DAY
        if (plannedAt > NOW || (status !== 'active' && dice() < 0.2)) break
        const outboxId = ++emails
        const heldBack = dice() < 0.01
        const sentEvent = heldBack ? null : event('sent', plannedAt, id, { causeId: begun, courseId, outboxId, stepId: STEPS[k]! })
        let [openedAt, clickedAt]: [number | null, number | null] = [null, null]
        if (sentEvent !== null && dice() < 0.2) {
          fetchedAt = plannedAt + MINUTE
          rows.open.run(
            outboxId, fetchedAt, 'prefetch', event('opened', fetchedAt, id, { causeId: sentEvent, outboxId, courseId, detail: 'prefetch' }),
          )
        }
        if (sentEvent !== null && dice() < keen * 0.7) {
          openedAt = Math.min(NOW, plannedAt + upTo(20 * HOUR))
          rows.open.run(
            outboxId, openedAt, 'reader', event('opened', openedAt, id, { causeId: sentEvent, outboxId, courseId, detail: 'reader' }),
          )
          readAt = Math.max(readAt ?? 0, openedAt)
          if (dice() < 0.25) {
            clickedAt = Math.min(NOW, openedAt + MINUTE)
            rows.click.run(
              outboxId, 0, clickedAt, 0, clickedAt, 'reader',
              event('clicked', clickedAt, id, { causeId: sentEvent, outboxId, courseId, detail: 'reader' }),
            )
            readAt = Math.max(readAt, clickedAt)
          }
        }
        rows.email.run(
          outboxId, sendOf(courseId, STEPS[k]!), 'course', courseId, id, STEPS[k], '1', messages.get(`${courseId} ${STEPS[k]}`),
          enrolmentId, listIds[0], k === 0 ? 1 : 0, begun, plannedAt, heldBack ? 'held back' : 'handed over', heldBack ? 'resting' : null,
          heldBack ? null : plannedAt, sentEvent, openedAt, openedAt, clickedAt, clickedAt,
        )
        if (heldBack) event('held-back', plannedAt, id, { causeId: begun, courseId, outboxId, detail: 'resting' })
      }
      const left = k < STEPS.length && status !== 'active'
      const finished = k === STEPS.length
      const endedAt = finished || left ? Math.min(NOW, joinedAt + k * 2 * DAY) : null
      if (endedAt !== null) {
        event(finished ? 'finished-course' : 'left-course', endedAt, id, { causeId: begun, courseId, ...(left && { detail: status }) })
      }
      rows.enrolment.run(
        enrolmentId, courseId, id, 1, versions.get(courseId), finished ? 'finished' : left ? 'left' : 'open', joinedAt, joinedAt,
        endedAt === null ? STEPS[k] : null, endedAt === null ? joinedAt + k * 2 * DAY + HOUR : null, JSON.stringify(STEPS.slice(0, k)), 1,
        begun, endedAt,
      )
    }
    if (status !== 'active') event('status-changed', Math.min(NOW, arrivedAt + upTo(300 * DAY)), id, { causeId: root, detail: status })
    rows.person.run(
      id, address, address, firstName, `${address} ${firstName.toLowerCase()}`, status, zone, pick(COUNTRIES),
      imported ? 'import:old list' : `page:${['kit', 'guide', 'class'][page]}`, arrivedAt, consented ? arrivedAt : null, readAt, fetchedAt,
    )
  }

  const BATCH = 5000
  // Forty sources with ten campaigns each, and visits of a year.
  db.exec(`
    INSERT INTO touches (named,
      source, medium, campaign, term, content, referrer) WITH RECURSIVE n (n) AS (SELECT 0 UNION ALL SELECT n + 1 FROM n WHERE n < 399)
    SELECT '', 'source ' || (n / 10), 'email', 'campaign ' || (n % 10), '', '', '' FROM n`)
  const visits = into('page_visits', 'page_id,day,touch_id,visits')
  for (let day = 0; day < 365; day++) for (let touch = 1 + day % 4; touch <= 400; touch += 4) visits.run(
    pageIds[0], localOf(NOW - day * DAY, 'UTC').date, touch, 3,
  )
  for (let id =
    1; id <= size.people; id += BATCH) db.transaction(() => { for (let k = id; k < id + BATCH && k <= size.people; k++) onePerson(k) })()
  db.exec(`UPDATE people SET first_touch_id = 1 + id % 400, latest_touch_id = 1 + id % 400 WHERE source LIKE 'page:%'`)
  // The rest of the history, up to the number asked for: segments entered and left, which every workspace has most of.
  db.transaction(() => {
    while (events < size.events) event(
      dice() < 0.55 ? 'entered-segment' : 'left-segment', NOW - upTo(DAYS * DAY), 1 + upTo(size.people), { causeId: null },
    )
  })()
  for (const { sql } of indexes) db.exec(sql)
  db.exec(trigger)
  db.exec('UPDATE segments SET filled = 0')
  refreshStatistics(db)
  db.pragma('foreign_keys = ON')
  db.pragma('synchronous = FULL')
  askPracticeClock(db, NOW)
  setPracticeClock(db, NOW)
  return events
}
