/** A course is played for invented readers by the real engine, on a copy in memory. */
import { dequal } from 'dequal'
import { sayEvent, type ToldEvent } from '#core/events'
import { hoursOf, zoneOf } from '#core/sequence/standing'
import { programOf, emailsOf, type CourseDraft } from '#core/sequence/draft'
import { placesOf } from '#core/sequence/program'
import {
  differences, joinsAt, REHEARSED_DAYS, unreachable, warningsOf, type RehearsedReader, type Story, type StoryLine,
} from '#core/sequence/rehearsal'
import { addDays, instantOf, localOf, type Instant } from '#core/time/zone'
import type { WebhookHeaders } from '#core/ports'
import type { KeptRehearsal, RehearsalView } from '#core/views/rehearsal'
import type { Database } from '#data/connection'
import { findCourse } from '#data/courses'
import { eventsOfPerson } from '#data/events'
import { copyInMemory, deleteRehearsal, insertRehearsal, openCopy, rehearsalsOf, updateRehearsal } from '#data/rehearsals'
import { allOffers } from '#data/offers'
import { emailsOfPerson } from '#data/outbox'
import { workspaceOf } from '#data/workspace'
import type { EngineContext, WorkspaceContext } from '../context'
import { leave } from '../arrive/leave'
import { publishChanges, startCourse } from '../courses/publish'
import { letCourseGoOn } from '../courses/stop'
import { changeStatus } from '../inner/facts/marks'
import { soldIn } from '../inner/sold'
import { transact } from '../inner/reactor/transaction'
import { workspaceFacts } from '../inner/workspaceFacts'
import { startCheckout } from '../offers/checkout'
import { mustBeTaken, receiveWebhook } from '../offers/tell'
import { InputProblem, NotNow, NotThere } from '../problem'
import { play } from '../time/play'
import { enters, REHEARSAL_ADDRESS } from './readerEnters'

/** What the runtime opens on a copy: the engine's context with its payment stand-in. */
export type Stage = EngineContext & { standin: { pay(order: string, card: string): Promise<unknown> } | null }
export type RehearsalSandbox = (
  db: Database, deliver: (headers: WebhookHeaders, body: string) => Promise<void>,
  reader: { script: RehearsedReader, courseId: number } | null,
) => Stage

/** At most so many at once. */
export const MOST_READERS = 4

/** Tells the story of each reader, of the course as it is written now; and whether those that were kept still are. */
export async function rehearse(
  context: WorkspaceContext, { courseId, readers }: { courseId: number, readers: RehearsedReader[] }, sandbox: RehearsalSandbox,
): Promise<RehearsalView> {
  const course = courseOf(context, courseId)
  const written = await writtenIn(context, courseId, sandbox)
  const stories: Story[] = []
  for (const reader of readers.slice(0, MOST_READERS)) stories.push(await tell(written, context, courseId, course.draft, reader, sandbox))
  return { stories, unreachable: unreachable(programOf(course.draft, () => 0)) }
}

/** The kept rehearsals, each played anew. */
export async function checkKept(context: WorkspaceContext, courseId: number, sandbox: RehearsalSandbox): Promise<KeptRehearsal[]> {
  const rows = rehearsalsOf(context.db, courseId)
  if (rows.length === 0) return []
  const { draft } = courseOf(context, courseId)
  let written: Buffer
  try {
    written = await writtenIn(context, courseId, sandbox)
  }
  catch (error) {
    if (!(error instanceof InputProblem)) throw error
    return rows.map(({ id, reader, keptAt }) => ({
      id, reader: JSON.parse(reader) as RehearsedReader, keptAt, outcome: { kind: 'cannot', why: error.message },
    }))
  }
  const kept: KeptRehearsal[] = []
  for (const row of rows) {
    const reader = JSON.parse(row.reader) as RehearsedReader
    const { lines } = await tell(written, context, courseId, draft, reader, sandbox)
    const changed = differences(JSON.parse(row.story) as StoryLine[], lines)
    kept.push({
      id: row.id, reader, keptAt: row.keptAt,
      outcome: changed.gone.length + changed.fresh.length === 0 ? { kind: 'same' } : { kind: 'differs', ...changed },
    })
  }
  return kept
}

export function keepRehearsal(context: WorkspaceContext, courseId: number, reader: RehearsedReader, lines: StoryLine[]): number {
  courseOf(context, courseId)
  return transact(context, () => {
    const same = rehearsalsOf(context.db, courseId).find(row =>
      (JSON.parse(row.reader) as RehearsedReader).name === reader.name && row.reader === JSON.stringify(reader))
    if (!same) return insertRehearsal(context.db, {
      courseId, reader: JSON.stringify(reader), story: JSON.stringify(lines), keptAt: context.clock.now(),
    })
    updateRehearsal(context.db, same.id, JSON.stringify(lines), context.clock.now())
    return same.id
  })
}

export function forgetRehearsal(context: WorkspaceContext, courseId: number, id: number): void {
  if (!transact(context, () => deleteRehearsal(context.db, courseId, id))) throw new NotThere('This rehearsal no longer exists.')
}

/** The copy in which the course runs as it is written now. Throws an {@link InputProblem} that says what is missing. */
async function writtenIn(context: WorkspaceContext, courseId: number, sandbox: RehearsalSandbox): Promise<Buffer> {
  const { status, stoppedAt, draft, published } = courseOf(context, courseId)
  const bytes = copyInMemory(context.db)
  if (status === 'running' && stoppedAt === null && dequal(draft, published)) return bytes
  const db = openCopy(bytes, context.clock.now())
  try {
    const stage = sandbox(db, async () => {}, null)
    // It is rehearsed as it will be once it goes on.
    letCourseGoOn(stage, courseId)
    if (status === 'running') await publishChanges(stage, courseId)
    else await startCourse(stage, courseId)
    return db.serialize()
  }
  finally {
    db.close()
  }
}

async function tell(
  written: Buffer, context: WorkspaceContext, courseId: number, draft: CourseDraft, reader: RehearsedReader, sandbox: RehearsalSandbox,
): Promise<Story> {
  const { zone } = workspaceOf(context.db)
  const joinedAt = joinsAt(reader, zone)
  const db = openCopy(written, joinedAt)
  try {
    const stage: Stage = sandbox(
      db, async (headers, body) => mustBeTaken(receiveWebhook(stage, headers, body)), { script: reader, courseId },
    )
    const personId = await enters(stage, { courseId, draft, reader, at: joinedAt, buy: offerId => buy(stage, offerId) })
    const until = dayAfter(joinedAt, REHEARSED_DAYS, '23:59', reader, zone)
    const unmatched: StoryLine[] = []
    for (const { at, happen } of happenings(stage, personId, reader, joinedAt, zone)) {
      await play(stage, at)
      const problem = await happen()
      if (problem) {
        unmatched.push({ at, kind: 'payment-refused', says: problem, about: problem, courseId: null, stepId: null, sort: 'reader' })
      }
    }
    await play(stage, until)
    const happened = eventsOfPerson(db, personId).reverse().filter(({ kind }) => kind !== 'consent-recorded').map(lineOf)
    const lines = [...happened, ...unmatched].sort((a, b) => a.at - b.at)
    return { lines, warnings: warnings(context, courseId, draft, reader, lines) }
  }
  finally {
    db.close()
  }
}

const dayAfter = (joinedAt: Instant, days: number, time: string, { zone }: RehearsedReader, workspaceZone: string): Instant =>
  instantOf(addDays(localOf(joinedAt, zone ?? workspaceZone).date, days), time, zone ?? workspaceZone)

/** What they do besides reading, in order of time. */
function happenings(
  stage: Stage, personId: number, reader: RehearsedReader, joinedAt: Instant, zone: string,
): { at: Instant, happen(): Promise<string | null> }[] {
  const { buys, leaves } = reader
  return [
    ...buys
      ? [{ at: Math.max(joinedAt, dayAfter(joinedAt, buys.day, buys.time, reader, zone)), happen: () => buy(stage, buys.offerId) }]
      : [],
    ...leaves
      ? [{ at: Math.max(joinedAt, dayAfter(joinedAt, leaves.day, '20:00', reader, zone)), happen: () => leaveAll(stage, personId) }]
      : [],
  ].sort((a, b) => a.at - b.at)
}

/** By the link of the last email they got; who got none asks by hand. */
async function leaveAll(stage: Stage, personId: number): Promise<null> {
  const last = emailsOfPerson(stage.db, personId).find(({ status }) => status === 'handed over')
  if (last) leave(stage, last.id, { what: 'everything' })
  else transact(stage, () => changeStatus(stage.db, personId, 'unsubscribed', { at: stage.clock.now(), causeId: null, ownAct: true }))
  return null
}

/** Why it could not be bought then; null if it was. */
async function buy(stage: Stage, offerId: number): Promise<string | null> {
  const offer = allOffers(stage.db).find(({ id }) => id === offerId)
  if (!offer?.published || !stage.standin) return `could not buy ${offer?.name ?? 'a deleted offer'}: it is not published`
  try {
    const { url } = await startCheckout(stage, {
      slug: offer.slug, email: REHEARSAL_ADDRESS, firstName: 'Reader', code: '', zone: '', ip: null,
    })
    await stage.standin.pay(stage.signer.read('pay', url.slice(url.lastIndexOf('/') + 1))!, 'works')
    return null
  }
  catch (error) {
    if (!(error instanceof NotNow)) throw error
    return `could not buy ${offer.name}: ${error.message}`
  }
}

const MAIL = ['sent'] as const
const HELD = ['held-back', 'withdrawn', 'given-up', 'put-off', 'skipped-step'] as const
const READER = [
  'opened', 'clicked', 'bought', 'checkout-started', 'unsubscribed', 'file-fetched', 'visited-page', 'opted-in', 'confirmed',
] as const

function lineOf(event: ToldEvent): StoryLine {
  const is = (kinds: readonly string[]) => kinds.includes(event.kind)
  return {
    at: event.at, kind: event.kind, says: event.kind === 'opted-in' && event.pageId === null ? 'arrived' : sayEvent(event),
    about: JSON.stringify([
      event.pageId, event.offerId, event.listName, event.tagName, event.linkLabel, event.fieldName, event.segmentName, event.detail,
    ]),
    courseId: event.courseId, stepId: event.stepId, sort: is(MAIL) ? 'mail' : is(HELD) ? 'held' : is(READER) ? 'reader' : 'else',
  }
}

function warnings(
  context: WorkspaceContext, courseId: number, draft: CourseDraft, reader: RehearsedReader, lines: StoryLine[],
): Story['warnings'] {
  const facts = { ...workspaceFacts(context.db), personZone: reader.zone }
  const places = placesOf(programOf(draft, () => 0))
  const offers = new Map(allOffers(context.db).map(({ id, published }) => [id, published?.closesAt ?? null]))
  return warningsOf(lines.filter(line => line.sort === 'mail' && line.courseId === courseId), {
    hours: hoursOf(draft, facts),
    zoneOfStep: stepId => places.has(stepId) ? zoneOf(places.get(stepId)!.step, facts) : facts.workspaceZone,
    closes: stepId => emailsOf(draft).filter(({ id }) => id === stepId).flatMap(({ content }) => soldIn(context, content))
      .flatMap(({ id, name }) => offers.get(id) ? [{ name, at: offers.get(id)! }] : []),
  })
}

function courseOf({ db }: WorkspaceContext, id: number) {
  const course = findCourse(db, id)
  if (!course) throw new NotThere('This course no longer exists.')
  return course
}
