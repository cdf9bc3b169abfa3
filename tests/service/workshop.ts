/** A practice or live workspace on a real SQLite file in a folder of its own, with the parts a story needs. */
import { existsSync, readFileSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { createComposer } from '#adapters/composer'
import { createEmailSigner } from '#adapters/dkim'
import { createPictureMaker } from '#adapters/pictures'
import { isThrowawayDomain } from '#adapters/throwaway'
import { createSigner } from '#adapters/signer'
import type { MessageContent } from '#core/message/content'
import { newPage, type PageContent } from '#core/page/content'
import type { TagInput } from '#core/people/tag'
import { NOTHING_FOLLOWS } from '#core/rules/shortForms'
import type { Carrier, Mail } from '#core/ports'
import type { CourseDraft, DraftEmail, DraftStep } from '#core/sequence/draft'
import type { Timing } from '#core/time/when'
import { openDatabase, type Database } from '#data/connection'
import { deliver } from '#data/mailbox'
import { migrate } from '#data/migrate'
import { allSenders, practiceDns, setSenderConfirmed } from '#data/senders'
import { practiceClock, setPracticeClock, askPracticeClock } from '#data/workspace'
import { standinOn, webhooksOn, type CheckoutStandin } from '#runtime/payments'
import { createPracticeCaller } from '#standins/caller'
import { createPracticeLinkChecker } from '#standins/linkChecker'
import { createMailbox } from '#standins/mailbox'
import { createReaders } from '#standins/readers'
import { createPracticeResolver } from '#standins/resolver'
import { createPage, publishPage, savePage } from '#usecases/arrive/pages'
import { waitingOfPerson } from '#data/confirmations'
import { nameIsTheirs } from '#data/people'
import { confirm } from '#usecases/arrive/confirm'
import { optIn } from '#usecases/arrive/optIn'
import { createCourse, saveCourse } from '#usecases/courses/save'
import { startCourse } from '#usecases/courses/publish'
import type { EngineContext } from '#usecases/context'
import { saveList, saveTag } from '#usecases/know/listsAndTags'
import { foundWorkspace, saveSettings } from '#usecases/settings/workspace'
import { mustBeTaken, receiveWebhook } from '#usecases/offers/tell'
import { weeklySummaryView } from '#usecases/views/weeklySummary'
import { play } from '#usecases/time/play'
import { temporaryFolder } from '../temporary'

/** Thursday 26 November 2026, noon in Lisbon (which is UTC then). */
export const thursdayNoon = Date.UTC(2026, 10, 26, 12)
export const HOUR = 3_600_000
export const DAY = 24 * HOUR

let empty: Buffer | null = null

/** Migrated once for all tests of a file; one that is there already is opened as it is. */
function openCopy(file: string): Database {
  if (empty === null) {
    const first = join(temporaryFolder(), 'empty.db')
    const db = openDatabase(first)
    migrate(db, 0)
    db.pragma('wal_checkpoint(TRUNCATE)')
    db.close()
    empty = readFileSync(first)
  }
  if (!existsSync(file)) writeFileSync(file, empty)
  const db = openDatabase(file)
  // The power does not fail in a test, and a process that is killed loses nothing by this: no commit waits for the disk.
  db.pragma('synchronous = OFF')
  migrate(db, 0)
  return db
}

export interface Options {
  file?: string
  mode?: 'practice' | 'live'
  /** For live: where the clock stands, to be moved by the test. */
  clock?: { at: number }
  carrier?: Carrier
  owner?: string
  /** What was thrown and dealt with. */
  trouble?(what: string, error: unknown): void
}

const TEST_KEYS = { session: '', signing: Buffer.from('a signing key for tests only, 32') }

/** With the payment stand-in, whose webhooks come without a line. */
export interface Workshop extends EngineContext { standin: CheckoutStandin }

export function openContext(options: Options = {}): Workshop {
  const mode = options.mode ?? 'practice'
  const db = openCopy(options.file ?? join(temporaryFolder(), 'porch.db'))
  foundWorkspace(db, { mode, key: 'k1', name: 'Saltmarsh Bindery', zone: 'Europe/Lisbon', at: thursdayNoon })
  const webhooks = webhooksOn(db, TEST_KEYS)
  const clock = { now: () => mode === 'practice' ? practiceClock(db)!.nowAt : options.clock!.at }
  const signer = createSigner(TEST_KEYS.signing, `${mode}/k1`)
  const baseUrl = 'http://localhost:3000/practice'
  const standin = standinOn(db, {
    signer, baseUrl, clock, webhooks, deliver: async (headers, body) => mustBeTaken(receiveWebhook(context, headers, body)),
  })
  const context: Workshop = {
    db,
    mode,
    clock,
    standin,
    checkout: mode === 'practice' ? standin : null,
    webhooks,
    tellDuePayments: mode === 'practice' ? at => standin.tellDue(at) : null,
    system: { now: () => Date.now() },
    composer: createComposer(),
    pictures: createPictureMaker(),
    emailSigner: createEmailSigner(),
    resolver: createPracticeResolver(name => practiceDns(db, name)),
    isThrowaway: isThrowawayDomain,
    signer,
    baseUrl,
    wake() {},
    carrier: options.carrier ?? createMailbox({ deliver: mail => deliver(db, mail) }),
    caller: createPracticeCaller(),
    linkChecker: createPracticeLinkChecker(),
    readers: mode === 'practice' ? createReaders('tests') : null,
    owner: options.owner ?? 'engine-1',
    async breathe() {},
    trouble: options.trouble ?? (() => {}),
    stage() {},
    summaryOf: until => weeklySummaryView(context, until),
  }
  return context
}

export const email = (workingTitle: string, more: Partial<MessageContent> = {}): MessageContent => ({
  workingTitle,
  subject: [{ type: 'text', text: `${workingTitle}, ` }, { type: 'placeholder', attrs: { field: 'first_name', fallback: 'friend' } }],
  preview: [{ type: 'text', text: 'A short look ahead' }],
  body: { type: 'doc', content: [{ type: 'paragraph', content: [{ type: 'text', text: `This is ${workingTitle}.` }] }] },
  ...more,
})

export const step = (id: string, when: Timing, content: MessageContent = email(id), more: Partial<DraftEmail> = {}): DraftEmail => ({
  id, kind: 'email', when, ifPast: 'at-once', zone: 'workspace', content, ...more,
})

export const tag = (name: string, more: Partial<TagInput> = {}): TagInput => ({
  name, note: '', group: '', colour: null, expiry: { kind: 'never' }, follows: NOTHING_FOLLOWS, ...more,
})

/** A page that asks nobody to confirm. */
export function atOncePage(headline = ''): PageContent {
  const page = newPage(headline)
  return { ...page, confirming: { ...page.confirming, who: 'nobody' } }
}

export interface Setting { context: Workshop, pageId: number, listId: number, tagId: number, interestId: number, courseId: number }

/** A list, two tags, a published page that gives the first, and a running course that it starts. */
export async function furnish(
  context: Workshop, steps?: (ids: { interestId: number }) => DraftStep[], again: CourseDraft['again'] = 'after-ending',
): Promise<Setting> {
  saveSettings(context, {
    name: 'Saltmarsh Bindery', zone: 'Europe/Lisbon', senderName: 'Ines', senderAddress: 'ines@saltmarsh.example.com',
    postalAddress: 'Rua do Cais 3\n1200-000 Lisboa', currency: 'EUR', smtpUrl: null,
  })
  if (context.mode === 'live') confirmSenders(context)
  const listId = saveList(context, null, { name: 'letters', publicName: 'Letters from the bench', description: 'A letter now and then.' })
  const tagId = saveTag(context, null, tag('sheet kit'))
  const interestId = saveTag(context, null, tag('interest: coptic'))
  const pageId = createPage(context, 'Sheet kit')
  savePage(context, pageId, {
    name: 'Sheet kit', slug: 'sheet-kit', draft: { ...atOncePage('The sheet kit'), listIds: [listId], tagIds: [tagId] },
  })
  await publishPage(context, pageId)
  const courseId = createCourse(context, 'Fold, Sew, Cover', 'one')
  const three = () => [
    step('one', { kind: 'at-once' }, email('one', {
      body: { type: 'doc', content: [
        {
          type: 'paragraph',
          content: [{ type: 'text', text: 'Hello ' }, { type: 'placeholder', attrs: { field: 'first_name', fallback: 'friend' } }],
        },
        { type: 'button', attrs: { label: 'I like coptic', url: 'https://saltmarsh.example.com/coptic', tagId: interestId } },
      ] },
    })),
    step('two', { kind: 'elapsed', count: 1, unit: 'days', from: 'previous' }),
    step('three', { kind: 'calendar-day', day: 3, time: '08:00', from: 'joining' }),
  ]
  saveCourse(context, courseId, 'Fold, Sew, Cover', { listId, wayInTagIds: [tagId], again, steps: steps?.({ interestId }) ?? three() })
  await startCourse(context, courseId)
  return { context, pageId, listId, tagId, interestId, courseId }
}

/** As if their codes had been sent, read and typed. */
export function confirmSenders({ db, clock }: Workshop): void {
  for (const { id } of allSenders(db)) setSenderConfirmed(db, id, clock.now())
  db.prepare(`DELETE FROM outbox WHERE kind = 'code'`).run()
}

export function visit(context: EngineContext, address: string, firstName = '', zone = ''): number {
  const { personId } = optIn(context, { slug: 'sheet-kit', email: address, firstName, zone, ip: '192.0.2.7' })
  // As if they had clicked before: what a stranger may have typed stands in no email.
  if (firstName) nameIsTheirs(context.db, personId)
  return personId
}

/** Opts in again and answers the email that asks whether it was them: who left comes back no other way. */
export function visitAndConfirm(context: EngineContext, address: string): number {
  const personId = visit(context, address)
  for (const { id } of waitingOfPerson(context.db, personId)) confirm(context, id)
  return personId
}

/** Moves the practice clock and plays what comes due. */
export async function moveTo(context: EngineContext, at: number): Promise<void> {
  askPracticeClock(context.db, at)
  await play(context, at)
  setPracticeClock(context.db, at)
}

/** A carrier that keeps what it was given and answers as told. */
export function listeningCarrier(
  answer: (mail: Mail, nth: number) => Awaited<ReturnType<Carrier['handOver']>> = () => ({ kind: 'accepted' }),
): Carrier & { mails: Mail[] } {
  const mails: Mail[] = []
  return {
    mails,
    width: 1,
    knowsRepeats: false,
    async handOver(mail) {
      mails.push(mail)
      return answer(mail, mails.length)
    },
    async close() {},
  }
}
