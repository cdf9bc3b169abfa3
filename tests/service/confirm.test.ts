/** Double opt-in, and the file a page promises. */
import { describe, expect, it } from 'vitest'
import { newPromised } from '#core/page/promise'
import type { PageContent } from '#core/page/content'
import { eventsOfPerson } from '#data/events'
import { membership } from '#data/marks'
import { emailsOfPerson } from '#data/outbox'
import { findPerson } from '#data/people'
import { consentsOfPerson } from '#data/consents'
import { askAnew, confirmationView, confirm } from '#usecases/arrive/confirm'
import { bringFile, promisedFile, readFileToken, recordFetch } from '#usecases/arrive/files'
import { leave } from '#usecases/arrive/leave'
import { optIn } from '#usecases/arrive/optIn'
import { publishPage, savePage } from '#usecases/arrive/pages'
import { erasePerson } from '#usecases/know/erase'
import { mergePeople } from '#usecases/know/sameness'
import { pageView } from '#usecases/views/pages'
import { DAY, furnish, HOUR, listeningCarrier, moveTo, openContext, thursdayNoon, visit, type Setting } from './workshop'

const MINUTE = 60_000
const seen = { agent: 'a browser', robot: false, certain: true }

/** The sheet kit with a yes asked of everybody, unless said otherwise. */
async function asking(change: (draft: PageContent) => PageContent = draft => draft): Promise<Setting> {
  const setting = await furnish(openContext({ carrier: listeningCarrier() }))
  const { context, pageId } = setting
  const { name, slug, draft } = pageView(context, pageId)
  savePage(context, pageId, { name, slug, draft: change({ ...draft, confirming: { ...draft.confirming, who: 'everybody' } }) })
  await publishPage(context, pageId)
  return setting
}

const mailsTo = ({ context }: Setting, personId: number) =>
  emailsOfPerson(context.db, personId).map(({ kind, itemId: stepId, status }) => `${kind} ${stepId} ${status}`).reverse()
const kindsOf = ({ context }: Setting, personId: number) => eventsOfPerson(context.db, personId).map(event => event.kind).reverse()
/** The asking of somebody's newest confirmation email. */
const confirmationOf = ({ context }: Setting, personId: number) =>
  emailsOfPerson(context.db, personId).find(email => email.kind === 'confirmation')!.occasionId
const holdings = ({ context, tagId }: Setting, personId: number) =>
  context.db.prepare('SELECT 1 FROM tag_holdings WHERE tag_id = ? AND person_id = ?').all(tagId, personId).length

describe('a page that asks for a yes', () => {
  it('gives nothing and sends nothing but the question until it comes; then everything counts from the yes', async () => {
    const setting = await asking()
    const { context, listId } = setting
    const ada = visit(context, 'ada@example.com', 'Ada', 'Europe/London')
    await moveTo(context, thursdayNoon + 5 * HOUR)
    expect([findPerson(context.db, ada)!.status, membership(context.db, listId, ada), holdings(setting, ada)]).toEqual([
      'pending', 'never-joined', 0,
    ])
    expect([mailsTo(setting, ada), consentsOfPerson(context.db, ada), findPerson(context.db, ada)!.consentAt]).toEqual([
      ['confirmation asking handed over'], [], null,
    ])

    expect(confirm(context, confirmationOf(setting, ada))).toBe('counts')
    await moveTo(context, thursdayNoon + 6 * HOUR)
    expect([findPerson(context.db, ada)!.status, membership(context.db, listId, ada), holdings(setting, ada)]).toEqual([
      'active', 'joined', 1,
    ])
    expect(mailsTo(setting, ada)).toEqual(['confirmation asking handed over', 'course one handed over'])
    const events = eventsOfPerson(context.db, ada)
    const [
      yes, pressed, enrolled,
    ] = (['confirmed', 'opted-in', 'enrolled'] as const).map(kind => events.find(event => event.kind === kind)!)
    expect([pressed!.at, yes!.at, enrolled!.at]).toEqual([thursdayNoon, thursdayNoon + 5 * HOUR, thursdayNoon + 5 * HOUR])
    expect(yes!.causeId).toBe(pressed!.id)
    expect(consentsOfPerson(context.db, ada)).toMatchObject([
      { at: thursdayNoon, confirmedAt: thursdayNoon + 5 * HOUR, ip: '192.0.2.7', pageVersion: 2 },
    ])
    expect(findPerson(context.db, ada)!.consentAt).toBe(thursdayNoon + 5 * HOUR)
  })

  it('reminds once, and gives nothing to who says yes after its end; they can ask for a new email', async () => {
    const setting = await asking()
    const { context } = setting
    const ada = visit(context, 'ada@example.com')
    await moveTo(context, thursdayNoon + 6 * DAY)
    expect(mailsTo(setting, ada)).toEqual(['confirmation asking handed over', 'confirmation reminder handed over'])
    await moveTo(context, thursdayNoon + 8 * DAY)
    expect(kindsOf(setting, ada).filter(kind => !kind.endsWith('-segment'))).toEqual(['opted-in', 'sent', 'sent', 'not-confirmed'])
    const first = confirmationOf(setting, ada)
    expect([confirm(context, first), holdings(setting, ada), findPerson(context.db, ada)!.status]).toEqual(['too-late', 0, 'pending'])

    askAnew(context, first)
    await moveTo(context, thursdayNoon + 8 * DAY + HOUR)
    const second = confirmationOf(setting, ada)
    expect([second === first, confirm(context, first), confirm(context, second), holdings(setting, ada)]).toEqual([
      false, 'too-late', 'counts', 1,
    ])
    expect(() => askAnew(context, second)).toThrow(/once the first one has expired/)
  })

  it.each(
    [['at its very last moment', 0, 'counts'], ['a millisecond after it', 1, 'too-late']] as const,
  )('%s', async (_, late, outcome) => {
    const setting = await asking()
    const { context } = setting
    const ada = visit(context, 'ada@example.com')
    await moveTo(context, thursdayNoon + 7 * DAY + late)
    expect(confirm(context, confirmationOf(setting, ada))).toBe(outcome)
  })

  it('counts a yes once, however often it is said', async () => {
    const setting = await asking()
    const { context } = setting
    const ada = visit(context, 'ada@example.com')
    await moveTo(context, thursdayNoon + HOUR)
    const id = confirmationOf(setting, ada)
    expect([confirm(context, id), confirm(context, id), confirm(context, id)]).toEqual(['counts', 'counted-already', 'counted-already'])
    await moveTo(context, thursdayNoon + 20 * DAY)
    expect(kindsOf(setting, ada).filter(kind => kind === 'confirmed' || kind === 'enrolled')).toEqual(['confirmed', 'enrolled'])
    expect(mailsTo(setting, ada).filter(mail => mail.startsWith('confirmation'))).toHaveLength(1)
  })

  it('gives nothing to who has left since: leaving is the stricter word, and opting in anew brings them back', async () => {
    const setting = await asking()
    const { context } = setting
    const ada = visit(context, 'ada@example.com')
    await moveTo(context, thursdayNoon + HOUR)
    leave(context, emailsOfPerson(context.db, ada)[0]!.id, { what: 'everything' })
    const id = confirmationOf(setting, ada)
    expect([confirm(context, id), confirmationView(context, id).outcome, findPerson(context.db, ada)!.status]).toEqual([
      'left-since', 'left-since', 'unsubscribed',
    ])
    await moveTo(context, thursdayNoon + 3 * DAY)
    expect(mailsTo(setting, ada)).toEqual(['confirmation asking handed over'])

    // The question is asked of somebody who left, because they ask to come back; nothing else reaches them before their yes.
    visit(context, 'ada@example.com')
    await moveTo(context, thursdayNoon + 3 * DAY + HOUR)
    expect([findPerson(context.db, ada)!.status, mailsTo(setting, ada).length]).toEqual(['unsubscribed', 2])
    // They may take that back once more by the same press that left before.
    leave(context, emailsOfPerson(context.db, ada)[0]!.id, { what: 'everything' })
    expect(confirm(context, confirmationOf(setting, ada))).toBe('left-since')
    visit(context, 'ada@example.com')
    await moveTo(context, thursdayNoon + 4 * DAY)
    expect([confirm(context, confirmationOf(setting, ada)), findPerson(context.db, ada)!.status]).toEqual(['counts', 'active'])
  })

  it('changes nothing of somebody known by typing their address', async () => {
    const setting = await asking(draft => ({ ...draft, confirming: { ...draft.confirming, who: 'everybody' } }))
    const { context } = setting
    const ada = visit(context, 'ada@example.com', 'Ada', 'Europe/London')
    await moveTo(context, thursdayNoon + MINUTE)
    confirm(context, confirmationOf(setting, ada))
    await moveTo(context, thursdayNoon + HOUR)
    const [before, mails] = [findPerson(context.db, ada), mailsTo(setting, ada)]
    optIn(context, { slug: 'sheet-kit', email: 'ADA@example.com', firstName: 'Mallory', zone: 'Asia/Tokyo', ip: '203.0.113.9' })
    await moveTo(context, thursdayNoon + 2 * HOUR)
    expect([findPerson(context.db, ada), mailsTo(setting, ada)]).toEqual([before, [...mails, 'confirmation asking handed over']])
  })

  it('fills nobody’s mailbox, however often their address is typed, on however many pages', async () => {
    const setting = await asking()
    const { context } = setting
    for (let n = 0; n < 400; n++) {
      visit(context, 'ada@example.com')
      await moveTo(context, thursdayNoon + (n + 1) * 3 * MINUTE)
    }
    const ada = visit(context, 'ada@example.com')
    expect(mailsTo(setting, ada)).toHaveLength(5)
    // The newest answers count, and one yes is one yes.
    expect([confirm(context, confirmationOf(setting, ada)), kindsOf(setting, ada).filter(kind => kind === 'confirmed').length]).toEqual([
      'counts', 1,
    ])
  })

  it('lets no yes reach a record that was erased or merged meanwhile', async () => {
    const setting = await asking()
    const { context } = setting
    const [ada, ada2] = [visit(context, 'ada@example.com'), visit(context, 'ada.b@example.com')]
    await moveTo(context, thursdayNoon + HOUR)
    const [one, two] = [confirmationOf(setting, ada), confirmationOf(setting, ada2)]
    mergePeople(context, ada, ada2, 'ada.b@example.com')
    expect(confirm(context, two)).toBe('left-since')
    erasePerson(context, ada)
    expect(confirm(context, one)).toBe('left-since')
    expect(JSON.stringify(context.db.prepare('SELECT answers FROM confirmations').all())).not.toContain('Ada')
    await moveTo(context, thursdayNoon + 9 * DAY)
    expect(context.db.prepare(`SELECT count(*) AS n FROM outbox WHERE status = 'handed over'`).get()).toEqual({ n: 2 })
  })

  it('does not ask a second time where the address is refused', async () => {
    const setting = await asking()
    const { context } = setting
    let tries = 0
    context.carrier.handOver = async () => {
      tries++
      return { kind: 'refused', answer: { stage: 'recipient', code: 550, text: '550 5.1.1 no such mailbox' } }
    }
    const ada = visit(context, 'ada@example.com')
    await moveTo(context, thursdayNoon + 3 * DAY)
    expect([tries, findPerson(context.db, ada)!.status]).toEqual([1, 'bounced'])
    // Typed again: tried once more, because a mailbox may be there again; and not reminded.
    visit(context, 'ada@example.com')
    await moveTo(context, thursdayNoon + 9 * DAY)
    expect([tries, findPerson(context.db, ada)!.status]).toEqual([2, 'bounced'])
  })

  it('is not published without a sender, or with an email in which nobody can say yes', async () => {
    const setting = await asking()
    const { context, pageId } = setting
    const { name, slug, draft } = pageView(context, pageId)
    const mail = {
      ...draft.confirming.mail,
      body: { ...draft.confirming.mail.body, content: draft.confirming.mail.body.content.filter(block => block.type !== 'ownButton') },
    }
    savePage(context, pageId, { name, slug, draft: { ...draft, confirming: { ...draft.confirming, mail } } })
    await expect(publishPage(context, pageId)).rejects.toThrow(/Nobody can confirm without it/)
    context.db.prepare(`UPDATE workspace SET sender_id = NULL`).run()
    savePage(context, pageId, { name, slug, draft })
    await expect(publishPage(context, pageId)).rejects.toThrow(/Fill in the sender/)
  })
})

describe('a promised file', () => {
  const kit = new TextEncoder().encode('%PDF-1.7 twelve sheets')

  it('goes by an email of its own once the yes is there, and each fetch is counted for the person', async () => {
    const setting = await furnish(openContext())
    const { context, pageId } = setting
    const fileId = bringFile(context, 'C:\\books\\sheet kit.pdf', 'application/pdf', kit).id
    const { name, slug, draft } = pageView(context, pageId)
    savePage(context, pageId, {
      name, slug,
      draft: { ...draft, confirming: { ...draft.confirming, who: 'everybody' }, promised: newPromised(fileId, 'sheet kit.pdf') },
    })
    await publishPage(context, pageId)
    const ada = visit(context, 'ada@example.com')
    await moveTo(context, thursdayNoon + HOUR)
    expect(mailsTo(setting, ada)).toEqual(['confirmation asking handed over'])
    confirm(context, confirmationOf(setting, ada))
    await moveTo(context, thursdayNoon + HOUR + MINUTE)
    const brought = emailsOfPerson(context.db, ada).find(email => email.kind === 'file')!
    expect([brought.status, brought.askedFor]).toEqual(['handed over', 1])

    const source = (context.db.prepare('SELECT source FROM mailbox WHERE message_ref = ?')
      .get(brought.messageRef) as { source: Buffer }).source.toString().replace(/=\r?\n/g, '')
    const token = /\/f\/([\w-]+\.[\w-]+)/.exec(source)![1]!
    expect(readFileToken(context, token)).toBe(brought.id)
    const file = promisedFile(context, brought.id)
    expect([file.name, file.type, new TextDecoder().decode(file.content)]).toEqual([
      'sheet kit.pdf', 'application/pdf', '%PDF-1.7 twelve sheets',
    ])

    recordFetch(context, brought.id, { agent: 'a link checker', robot: true, certain: false })
    expect(context.db.prepare('SELECT fetched_at FROM opt_ins').pluck().all()).toEqual([null])
    recordFetch(context, brought.id, seen)
    recordFetch(context, brought.id, seen)
    expect(context.db.prepare('SELECT judged FROM file_fetches ORDER BY id').pluck().all()).toEqual(['scanner', 'reader', 'reader'])
    expect(context.db.prepare('SELECT fetched_at FROM opt_ins').pluck().all()).toEqual([context.clock.now()])
    // The address of one email fetches what that email brings, and no other email's address fetches anything.
    expect(() => readFileToken(context, context.signer.sign('confirm', String(brought.id)))).toThrow(/not complete/)
    expect(() => promisedFile(
      context, emailsOfPerson(context.db, ada).find(email => email.kind === 'course')!.id
    )).toThrow(/no longer exists/)
  })

  it('is sent once to who presses twice in a row, and again to who asks another day', async () => {
    const setting = await furnish(openContext())
    const { context, pageId } = setting
    const { id } = bringFile(context, 'kit.pdf', 'application/pdf', kit)
    const { name, slug, draft } = pageView(context, pageId)
    savePage(context, pageId, { name, slug, draft: { ...draft, promised: newPromised(id, 'kit.pdf') } })
    await publishPage(context, pageId)
    for (const after of [0, 2 * MINUTE, 5 * MINUTE, DAY]) {
      await moveTo(context, thursdayNoon + after)
      visit(context, 'ada@example.com')
    }
    expect(context.db.prepare(`SELECT planned_at - ? FROM outbox WHERE kind = 'file'`).pluck().all(thursdayNoon)).toEqual([0, DAY])
  })

  it.each([
    ['..\\..\\etc/passwd', 'passwd'], [
      'kit\u202e\u0000.pdf', 'kit.pdf',
    ], ['"; rm', '; rm'], ['.htaccess', 'htaccess'], ['///', 'file'], [`${'ä'.repeat(300)}.pdf`, `${'ä'.repeat(116)}.pdf`],
  ])('named %j is kept as %j', async (given, kept) => {
    const { context } = await furnish(openContext())
    const file = bringFile(context, given, 'not a type\r\nx: y', kit)
    expect([file.name, file.type]).toEqual([kept, 'application/octet-stream'])
  })

  it('is refused when it is empty', async () => {
    const { context } = await furnish(openContext())
    expect(() => bringFile(context, 'kit.pdf', 'application/pdf', new Uint8Array())).toThrow(/empty/)
  })
})
