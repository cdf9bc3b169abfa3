/** Double opt-in, and the file a page promises. */
import { describe, expect, it } from 'vitest'
import { newPromised } from '#core/page/promise'
import type { PageContent } from '#core/page/content'
import { eventsOfPerson } from '#data/events'
import { membership } from '#data/marks'
import { emailsOfPerson } from '#data/outbox'
import { findPerson } from '#data/people'
import { consentsOfPerson } from '#data/consents'
import { askAnew, askingView, confirm } from '#usecases/arrive/confirm'
import { bringFile, promisedFile, readFileToken, recordFetch } from '#usecases/arrive/files'
import { leave } from '#usecases/arrive/leave'
import { optIn } from '#usecases/arrive/optIn'
import { publishPage, savePage } from '#usecases/arrive/pages'
import { erasePerson } from '#usecases/know/erase'
import { mergePeople } from '#usecases/know/sameness'
import { pageView } from '#usecases/views/pages'
import { DAY, furnish, HOUR, listeningCarrier, moveTo, openHouse, thursdayNoon, visit, type Setting } from './workshop'

const MINUTE = 60_000
const seen = { agent: 'a browser', robot: false, certain: true }

/** The sheet kit with a yes asked of everybody, unless said otherwise. */
async function asking(change: (draft: PageContent) => PageContent = draft => draft): Promise<Setting> {
  const setting = await furnish(openHouse({ carrier: listeningCarrier() }))
  const { house, pageId } = setting
  const { name, slug, draft } = pageView(house, pageId)
  savePage(house, pageId, { name, slug, draft: change({ ...draft, confirming: { ...draft.confirming, who: 'everybody' } }) })
  await publishPage(house, pageId)
  return setting
}

const mailsTo = ({ house }: Setting, personId: number) => emailsOfPerson(house.db, personId).map(({ kind, stepId, status }) => `${kind} ${stepId} ${status}`).reverse()
const kindsOf = ({ house }: Setting, personId: number) => eventsOfPerson(house.db, personId).map(event => event.kind).reverse()
/** The asking of somebody's newest confirmation email. */
const askingOf = ({ house }: Setting, personId: number) => emailsOfPerson(house.db, personId).find(email => email.kind === 'confirmation')!.visit
const holdings = ({ house, tagId }: Setting, personId: number) => house.db.prepare('SELECT 1 FROM tag_holdings WHERE tag_id = ? AND person_id = ?').all(tagId, personId).length

describe('a page that asks for a yes', () => {
  it('gives nothing and sends nothing but the question until it comes; then everything counts from the yes', async () => {
    const setting = await asking()
    const { house, listId } = setting
    const ada = visit(house, 'ada@example.com', 'Ada', 'Europe/London')
    await moveTo(house, thursdayNoon + 5 * HOUR)
    expect([findPerson(house.db, ada)!.status, membership(house.db, listId, ada), holdings(setting, ada)]).toEqual(['pending', 'never-joined', 0])
    expect([mailsTo(setting, ada), consentsOfPerson(house.db, ada), findPerson(house.db, ada)!.consentAt]).toEqual([['confirmation asking handed over'], [], null])

    expect(confirm(house, askingOf(setting, ada))).toBe('counts')
    await moveTo(house, thursdayNoon + 6 * HOUR)
    expect([findPerson(house.db, ada)!.status, membership(house.db, listId, ada), holdings(setting, ada)]).toEqual(['active', 'joined', 1])
    expect(mailsTo(setting, ada)).toEqual(['confirmation asking handed over', 'course one handed over'])
    const events = eventsOfPerson(house.db, ada)
    const [yes, pressed, enrolled] = (['confirmed', 'opted-in', 'enrolled'] as const).map(kind => events.find(event => event.kind === kind)!)
    expect([pressed!.at, yes!.at, enrolled!.at]).toEqual([thursdayNoon, thursdayNoon + 5 * HOUR, thursdayNoon + 5 * HOUR])
    expect(yes!.causeId).toBe(pressed!.id)
    expect(consentsOfPerson(house.db, ada)).toMatchObject([{ at: thursdayNoon, confirmedAt: thursdayNoon + 5 * HOUR, ip: '192.0.2.7', pageVersion: 2 }])
    expect(findPerson(house.db, ada)!.consentAt).toBe(thursdayNoon + 5 * HOUR)
  })

  it('reminds once, and gives nothing to who says yes after its end; they can ask for a new email', async () => {
    const setting = await asking()
    const { house } = setting
    const ada = visit(house, 'ada@example.com')
    await moveTo(house, thursdayNoon + 6 * DAY)
    expect(mailsTo(setting, ada)).toEqual(['confirmation asking handed over', 'confirmation reminder handed over'])
    await moveTo(house, thursdayNoon + 8 * DAY)
    expect(kindsOf(setting, ada).filter(kind => !kind.endsWith('-segment'))).toEqual(['opted-in', 'sent', 'sent', 'not-confirmed'])
    const first = askingOf(setting, ada)
    expect([confirm(house, first), holdings(setting, ada), findPerson(house.db, ada)!.status]).toEqual(['too-late', 0, 'pending'])

    askAnew(house, first)
    await moveTo(house, thursdayNoon + 8 * DAY + HOUR)
    const second = askingOf(setting, ada)
    expect([second === first, confirm(house, first), confirm(house, second), holdings(setting, ada)]).toEqual([false, 'too-late', 'counts', 1])
    expect(() => askAnew(house, second)).toThrow(/only be asked for/)
  })

  it.each([['at its very last moment', 0, 'counts'], ['a millisecond after it', 1, 'too-late']] as const)('%s', async (_, late, outcome) => {
    const setting = await asking()
    const { house } = setting
    const ada = visit(house, 'ada@example.com')
    await moveTo(house, thursdayNoon + 7 * DAY + late)
    expect(confirm(house, askingOf(setting, ada))).toBe(outcome)
  })

  it('counts a yes once, however often it is said', async () => {
    const setting = await asking()
    const { house } = setting
    const ada = visit(house, 'ada@example.com')
    await moveTo(house, thursdayNoon + HOUR)
    const id = askingOf(setting, ada)
    expect([confirm(house, id), confirm(house, id), confirm(house, id)]).toEqual(['counts', 'counted-already', 'counted-already'])
    await moveTo(house, thursdayNoon + 20 * DAY)
    expect(kindsOf(setting, ada).filter(kind => kind === 'confirmed' || kind === 'enrolled')).toEqual(['confirmed', 'enrolled'])
    expect(mailsTo(setting, ada).filter(mail => mail.startsWith('confirmation'))).toHaveLength(1)
  })

  it('gives nothing to who has left since: leaving is the stricter word, and opting in anew brings them back', async () => {
    const setting = await asking()
    const { house } = setting
    const ada = visit(house, 'ada@example.com')
    await moveTo(house, thursdayNoon + HOUR)
    leave(house, emailsOfPerson(house.db, ada)[0]!.id, { what: 'everything' })
    const id = askingOf(setting, ada)
    expect([confirm(house, id), askingView(house, id).outcome, findPerson(house.db, ada)!.status]).toEqual(['left-since', 'left-since', 'unsubscribed'])
    await moveTo(house, thursdayNoon + 3 * DAY)
    expect(mailsTo(setting, ada)).toEqual(['confirmation asking handed over'])

    // The question is asked of somebody who left, because they ask to come back; nothing else reaches them before their yes.
    visit(house, 'ada@example.com')
    await moveTo(house, thursdayNoon + 3 * DAY + HOUR)
    expect([findPerson(house.db, ada)!.status, mailsTo(setting, ada).length]).toEqual(['unsubscribed', 2])
    // They may take that back once more by the same press that left before.
    leave(house, emailsOfPerson(house.db, ada)[0]!.id, { what: 'everything' })
    expect(confirm(house, askingOf(setting, ada))).toBe('left-since')
    visit(house, 'ada@example.com')
    await moveTo(house, thursdayNoon + 4 * DAY)
    expect([confirm(house, askingOf(setting, ada)), findPerson(house.db, ada)!.status]).toEqual(['counts', 'active'])
  })

  it('changes nothing of somebody known by typing their address', async () => {
    const setting = await asking(draft => ({ ...draft, confirming: { ...draft.confirming, who: 'everybody' } }))
    const { house } = setting
    const ada = visit(house, 'ada@example.com', 'Ada', 'Europe/London')
    await moveTo(house, thursdayNoon + MINUTE)
    confirm(house, askingOf(setting, ada))
    await moveTo(house, thursdayNoon + HOUR)
    const [before, mails] = [findPerson(house.db, ada), mailsTo(setting, ada)]
    optIn(house, { slug: 'sheet-kit', email: 'ADA@example.com', firstName: 'Mallory', zone: 'Asia/Tokyo', ip: '203.0.113.9' })
    await moveTo(house, thursdayNoon + 2 * HOUR)
    expect([findPerson(house.db, ada), mailsTo(setting, ada)]).toEqual([before, [...mails, 'confirmation asking handed over']])
  })

  it('fills nobody’s mailbox, however often their address is typed, on however many pages', async () => {
    const setting = await asking()
    const { house } = setting
    for (let n = 0; n < 400; n++) {
      visit(house, 'ada@example.com')
      await moveTo(house, thursdayNoon + (n + 1) * 3 * MINUTE)
    }
    const ada = visit(house, 'ada@example.com')
    expect(mailsTo(setting, ada)).toHaveLength(5)
    // The newest answers count, and one yes is one yes.
    expect([confirm(house, askingOf(setting, ada)), kindsOf(setting, ada).filter(kind => kind === 'confirmed').length]).toEqual(['counts', 1])
  })

  it('lets no yes reach a record that was erased or merged meanwhile', async () => {
    const setting = await asking()
    const { house } = setting
    const [ada, ada2] = [visit(house, 'ada@example.com'), visit(house, 'ada.b@example.com')]
    await moveTo(house, thursdayNoon + HOUR)
    const [one, two] = [askingOf(setting, ada), askingOf(setting, ada2)]
    mergePeople(house, ada, ada2, 'ada.b@example.com')
    expect(confirm(house, two)).toBe('left-since')
    erasePerson(house, ada)
    expect(confirm(house, one)).toBe('left-since')
    expect(JSON.stringify(house.db.prepare('SELECT answers FROM confirmations').all())).not.toContain('Ada')
    await moveTo(house, thursdayNoon + 9 * DAY)
    expect(house.db.prepare(`SELECT count(*) AS n FROM outbox WHERE status = 'handed over'`).get()).toEqual({ n: 2 })
  })

  it('does not ask a second time where the address is refused', async () => {
    const setting = await asking()
    const { house } = setting
    let tries = 0
    house.carrier.handOver = async () => {
      tries++
      return { kind: 'refused', answer: { stage: 'recipient', code: 550, text: '550 5.1.1 no such mailbox' } }
    }
    const ada = visit(house, 'ada@example.com')
    await moveTo(house, thursdayNoon + 3 * DAY)
    expect([tries, findPerson(house.db, ada)!.status]).toEqual([1, 'bounced'])
    // Typed again: tried once more, because a mailbox may be there again; and not reminded.
    visit(house, 'ada@example.com')
    await moveTo(house, thursdayNoon + 9 * DAY)
    expect([tries, findPerson(house.db, ada)!.status]).toEqual([2, 'bounced'])
  })

  it('is not published without a sender, or with an email in which nobody can say yes', async () => {
    const setting = await asking()
    const { house, pageId } = setting
    const { name, slug, draft } = pageView(house, pageId)
    const mail = { ...draft.confirming.mail, body: { ...draft.confirming.mail.body, content: draft.confirming.mail.body.content.filter(block => block.type !== 'ownButton') } }
    savePage(house, pageId, { name, slug, draft: { ...draft, confirming: { ...draft.confirming, mail } } })
    await expect(publishPage(house, pageId)).rejects.toThrow(/nobody can say yes without it/)
    house.db.prepare(`UPDATE workspace SET sender_address = ''`).run()
    savePage(house, pageId, { name, slug, draft })
    await expect(publishPage(house, pageId)).rejects.toThrow(/Fill in the sender/)
  })
})

describe('a promised file', () => {
  const kit = new TextEncoder().encode('%PDF-1.7 twelve sheets')

  it('goes by an email of its own once the yes is there, and each fetch is counted for the person', async () => {
    const setting = await furnish(openHouse())
    const { house, pageId } = setting
    const fileId = bringFile(house, 'C:\\books\\sheet kit.pdf', 'application/pdf', kit).id
    const { name, slug, draft } = pageView(house, pageId)
    savePage(house, pageId, { name, slug, draft: { ...draft, confirming: { ...draft.confirming, who: 'everybody' }, promised: newPromised(fileId, 'sheet kit.pdf') } })
    await publishPage(house, pageId)
    const ada = visit(house, 'ada@example.com')
    await moveTo(house, thursdayNoon + HOUR)
    expect(mailsTo(setting, ada)).toEqual(['confirmation asking handed over'])
    confirm(house, askingOf(setting, ada))
    await moveTo(house, thursdayNoon + HOUR + MINUTE)
    const brought = emailsOfPerson(house.db, ada).find(email => email.kind === 'file')!
    expect([brought.status, brought.askedFor]).toEqual(['handed over', 1])

    const source = (house.db.prepare('SELECT source FROM mailbox WHERE message_ref = ?').get(brought.messageRef) as { source: Buffer }).source.toString().replace(/=\r?\n/g, '')
    const token = /\/f\/([\w-]+\.[\w-]+)/.exec(source)![1]!
    expect(readFileToken(house, token)).toBe(brought.id)
    const file = promisedFile(house, brought.id)
    expect([file.name, file.type, new TextDecoder().decode(file.content)]).toEqual(['sheet kit.pdf', 'application/pdf', '%PDF-1.7 twelve sheets'])

    recordFetch(house, brought.id, { agent: 'a link checker', robot: true, certain: false })
    expect(house.db.prepare('SELECT fetched_at FROM opt_ins').pluck().all()).toEqual([null])
    recordFetch(house, brought.id, seen)
    recordFetch(house, brought.id, seen)
    expect(house.db.prepare('SELECT judged FROM file_fetches ORDER BY id').pluck().all()).toEqual(['scanner', 'reader', 'reader'])
    expect(house.db.prepare('SELECT fetched_at FROM opt_ins').pluck().all()).toEqual([house.clock.now()])
    // The address of one email fetches what that email brings, and no other email's address fetches anything.
    expect(() => readFileToken(house, house.signer.sign('confirm', String(brought.id)))).toThrow(/not one of ours/)
    expect(() => promisedFile(house, emailsOfPerson(house.db, ada).find(email => email.kind === 'course')!.id)).toThrow(/not there/)
  })

  it('is sent once to who presses twice in a row, and again to who asks another day', async () => {
    const setting = await furnish(openHouse())
    const { house, pageId } = setting
    const { id } = bringFile(house, 'kit.pdf', 'application/pdf', kit)
    const { name, slug, draft } = pageView(house, pageId)
    savePage(house, pageId, { name, slug, draft: { ...draft, promised: newPromised(id, 'kit.pdf') } })
    await publishPage(house, pageId)
    for (const after of [0, 2 * MINUTE, 5 * MINUTE, DAY]) {
      await moveTo(house, thursdayNoon + after)
      visit(house, 'ada@example.com')
    }
    expect(house.db.prepare(`SELECT planned_at - ? FROM outbox WHERE kind = 'file'`).pluck().all(thursdayNoon)).toEqual([0, DAY])
  })

  it.each([
    ['..\\..\\etc/passwd', 'passwd'], ['kit\u202e\u0000.pdf', 'kit.pdf'], ['"; rm', '; rm'], ['.htaccess', 'htaccess'], ['///', 'file'], [`${'ä'.repeat(300)}.pdf`, `${'ä'.repeat(116)}.pdf`],
  ])('named %j is kept as %j', async (given, kept) => {
    const { house } = await furnish(openHouse())
    const file = bringFile(house, given, 'not a type\r\nx: y', kit)
    expect([file.name, file.type]).toEqual([kept, 'application/octet-stream'])
  })

  it('is refused when it is empty', async () => {
    const { house } = await furnish(openHouse())
    expect(() => bringFile(house, 'kit.pdf', 'application/pdf', new Uint8Array())).toThrow(/empty/)
  })
})
