/** What goes with an email besides its words: a link to itself, values on its links, files to fetch and files that go along. */
import { randomBytes } from 'node:crypto'
import { extract } from 'letterparser'
import PostalMime from 'postal-mime'
import { describe, expect, it } from 'vitest'
import type { Mail } from '#core/ports'
import type { MessageContent } from '#core/message/content'
import { withUtm } from '#core/message/utm'
import { bringFile } from '#usecases/arrive/files'
import { saveCourse } from '#usecases/courses/save'
import { findCourse } from '#data/courses'
import { erasePerson } from '#usecases/know/erase'
import { emailInBrowser, sentFile } from '#usecases/reading/browserView'
import { findEmail } from '#data/outbox'
import { recordOpen } from '#usecases/reading/open'
import { destinationOf } from '#usecases/reading/click'
import { createOffer } from '#usecases/offers/save'
import { saveCoupon, usableCodes } from '#usecases/offers/coupons'
import { emailPreview, previewEmail } from '#usecases/sending/previewEmail'
import { NotThere } from '#usecases/problem'
import { mailSource, mailView } from '#usecases/views/mailbox'
import { play } from '#usecases/time/play'
import { email, furnish, openContext, step, thursdayNoon, visit, type Workshop } from './workshop'

const KIT = Buffer.from(Array.from({ length: 5000 }, (_, n) => n % 256))

/** One email that goes at once, as it left. */
async function sent(contentOf: (context: Workshop, fileId: number) => Partial<MessageContent>) {
  const mails: { mail: Mail, source: Uint8Array }[] = []
  const carrier = {
    width: 1, knowsRepeats: false, close: async () => {},
    handOver: async (mail: Mail, source: Uint8Array) => (mails.push({ mail, source }), { kind: 'accepted' as const }),
  }
  const context = openContext({ mode: 'live', clock: { at: thursdayNoon }, carrier })
  const { id: fileId } = bringFile(context, 'Twelve sheets – A4.pdf', 'application/pdf', KIT)
  const content = email('one', contentOf(context, fileId))
  const setting = await furnish(context, () => [step('one', { kind: 'at-once' }, content)])
  const personId = visit(context, 'ada@example.com')
  await play(context, thursdayNoon)
  return { ...setting, ...mails[0]!, fileId, personId, content }
}
const tokenIn = (text: string, path: string) => new RegExp(`/${path}/([\\w.-]+)`).exec(text)?.[1] ?? ''
const paragraph = (text: string, href: string) =>
  ({ type: 'paragraph' as const, content: [{ type: 'text' as const, text, marks: [{ type: 'link' as const, attrs: { href } }] }] })

describe('an email in a browser', () => {
  it('is the one its reader got, with their own links, and gone with its reader', async () => {
    const { context, mail, personId } = await sent(() => ({
      inBrowser: true, body: { type: 'doc', content: [{ type: 'paragraph', content: [
        { type: 'text', text: 'For ' }, { type: 'placeholder', attrs: { field: 'email', fallback: '' } },
      ] }, paragraph('a link', 'https://a.example.com/')] },
    }))
    expect(mail.text).toMatch(/^Read this in your browser: /)
    const outboxId = Number(context.signer.read('view', tokenIn(mail.html, 'v')))
    const { html } = emailInBrowser(context, outboxId)
    expect(html).toContain('For ada@example.com')
    for (const path of ['l', 'm', 'v']) expect(tokenIn(html, path)).toBe(tokenIn(mail.html, path))
    // Looking at it is counted by itself: the picture of the email is not fetched besides.
    expect([tokenIn(mail.html, 'o'), tokenIn(html, 'o')]).toEqual([expect.stringMatching(/./), ''])
    erasePerson(context, personId)
    expect(() => emailInBrowser(context, outboxId)).toThrow(NotThere)
    expect(() => emailInBrowser(context, 999)).toThrow(NotThere)
  })

  it('of which nobody wants to know whether it is opened, has no picture that tells', async () => {
    const { context, mail } = await sent(() => ({ unwatched: true, inBrowser: true }))
    expect(mail.html).not.toContain('/o/')
    const outboxId = Number(context.signer.read('view', tokenIn(mail.html, 'v')))
    recordOpen(context, outboxId, { agent: '', robot: false, certain: true })
    expect(findEmail(context.db, outboxId)!.openedAt).toBeNull()
  })

  it('is led to by words of its own, as their choices are', async () => {
    const link = (field: 'choices' | 'in_browser', fallback: string) => ({ type: 'placeholder' as const, attrs: { field, fallback } })
    const { mail } = await sent(() => ({ body: { type: 'doc', content: [{ type: 'paragraph', content: [
      link('choices', 'Less & less'), { type: 'text', text: ' or ' }, link('in_browser', 'look'),
    ] }] } }))
    expect(mail.html).toMatch(/<a href="http[^"]*\/m\/[^"]+"[^>]*>Less &amp; less<\/a> or <a href="http[^"]*\/v\/[^"]+"[^>]*>look<\/a>/)
    expect(mail.text).toMatch(/^Less & less \[1\] or look \[2\]\n\[1\] http\S+\/m\/\S+\n\[2\] http\S+\/v\/\S+\n/)
  })

  it('is offered only where its writer wants it', async () => {
    const { mail } = await sent(() => ({}))
    expect(mail.html).not.toContain('/v/')
  })
})

describe('a file', () => {
  it('in an email is fetched by an address of the reader’s own, which is no tracked link', async () => {
    const { context, mail, fileId } = await sent((_, id) => ({ body: { type: 'doc', content: [
      { type: 'file', attrs: { fileId: id, fileName: 'Twelve sheets – A4.pdf', bytes: KIT.length, label: 'The <sheets>' } },
      { type: 'file', attrs: { fileId: null, fileName: '', bytes: 0, label: '' } },
    ] } }))
    expect(mail.html).toContain('The &lt;sheets&gt;')
    expect(mail.text).toContain('The <sheets> (5 kB):\n')
    const token = tokenIn(mail.html, 'e')
    const [outboxId, id] = context.signer.read('sent-file', token)!.split('.').map(Number) as [number, number]
    expect(id).toBe(fileId)
    expect(Buffer.from(sentFile(context, outboxId, id).content)).toEqual(KIT)
    expect(tokenIn(mail.html, 'l')).toBe('')
    // What is signed for one purpose opens nothing else.
    expect(context.signer.read('file', token)).toBeNull()
    expect(() => sentFile(context, outboxId, 77)).toThrow(NotThere)
  })

  it('that goes along is read back by two parsers, beside the same two parts', async () => {
    const { source, mail } = await sent((context, id) => ({ attached: [
      { fileId: id, name: 'Twelve sheets – A4.pdf', bytes: KIT.length },
      { fileId: bringFile(context, 'empty line.txt', 'text/plain', Buffer.from('\n')).id, name: 'empty line.txt', bytes: 1 },
    ] }))
    const [ours, theirs] = [await PostalMime.parse(Buffer.from(source)), extract(Buffer.from(source).toString())]
    expect(ours.attachments.map(({ filename, mimeType }) => [filename, mimeType])).toEqual([
      ['Twelve sheets – A4.pdf', 'application/pdf'], ['empty line.txt', 'text/plain'],
    ])
    expect(Buffer.from(ours.attachments[0]!.content as ArrayBuffer)).toEqual(KIT)
    expect((theirs.attachments ?? []).map(({ filename, body }) => [filename, body.length])).toEqual([
      ['Twelve sheets – A4.pdf', KIT.length], ['empty line.txt', 1],
    ])
    const even = (text: string) => text.replace(/\r\n/g, '\n').trim()
    expect([even(ours.text!), even(theirs.text!), even(ours.html!)]).toEqual([even(mail.text), even(mail.text), even(mail.html)])
    // No line is longer than a mail server must take (RFC 5322 section 2.1.1).
    expect(Math.max(...Buffer.from(source).toString('latin1').split('\r\n').map(line => line.length))).toBeLessThanOrEqual(998)
  })

  it('that goes along with everybody is kept once in the practice mailbox, and comes with each as it went', async () => {
    const context = openContext()
    const big = bringFile(context, 'big.pdf', 'application/pdf', randomBytes(300_000))
    const small = bringFile(context, 'small.txt', 'text/plain', Buffer.from('one\r\n'))
    const handed = new Map<string, Buffer>()
    const { carrier } = context
    context.carrier = { ...carrier, handOver: async (mail, source) => {
      handed.set(mail.to.address, Buffer.from(source))
      return carrier.handOver(mail, source)
    } }
    await furnish(context, () => [step('one', { kind: 'at-once' }, email('one', {
      attached: [small, big, small].map(({ id, name, bytes }) => ({ fileId: id, name, bytes })),
    }))])
    for (let n = 0; n < 20; n++) visit(context, `p${n}@example.com`)
    await play(context, thursdayNoon)
    const rows = context.db.prepare<[], { id: number, to: string }>('SELECT id, to_address AS "to" FROM mailbox').all()
    expect(rows).toHaveLength(20)
    for (const { id, to } of rows) expect(mailSource(context, id).equals(handed.get(to)!), to).toBe(true)
    const kept = context.db.prepare('SELECT sum(length(source)) FROM mailbox').pluck().get() as number
    expect(kept).toBeLessThan(300_000)
    const view = await mailView(context, rows[0]!.id)
    expect([view.attached.map(({ name }) => name), view.source.length < 20_000, view.text.includes('This is one.')])
      .toEqual([['small.txt', 'big.pdf', 'small.txt'], true, true])
  })

  it('that is not there is refused where the email is saved', async () => {
    const { context } = await furnish(openContext())
    const { name, draft } = findCourse(context.db, 1)!
    const naming = (more: Partial<MessageContent>) => () => saveCourse(context, 1, name, {
      ...draft, steps: draft.steps.map(one => one.kind === 'email' ? { ...one, content: { ...one.content, ...more } } : one),
    })
    expect(naming({ attached: [{ fileId: 9, name: 'x', bytes: 1 }] })).toThrow(/file that no longer exists/)
    expect(naming({ body: { type: 'doc', content: [{ type: 'file', attrs: { fileId: 9, fileName: 'x', bytes: 1, label: '' } }] } }))
      .toThrow(/file that no longer exists/)
  })
})

describe('coupons', () => {
  it('that its words name and that end are told, whatever their case; others are not', async () => {
    const { context, listId } = await furnish(openContext())
    const offerId = createOffer(context, 'Class')
    const coupon = (code: string, untilAt: number | null) => saveCoupon(context, offerId, null, {
      code, cut: { kind: 'percent', hundredths: 1000 }, fromAt: null, untilAt, uses: null, lasts: 'every',
    })
    for (const [code, untilAt] of [['GUILD', thursdayNoon + 1], ['GUILD-2', thursdayNoon + 2], ['ALWAYS', null]] as const) coupon(
      code, untilAt
    )
    coupon('GONE', thursdayNoon)
    expect(usableCodes(context).map(({ code }) => code)).toEqual(['ALWAYS', 'GUILD', 'GUILD-2'])
    const { coupons } = await emailPreview(context, {
      content: email('one', { body: { type: 'doc', content: [paragraph('Type guild-2, or always', 'https://a.example.com/')] } }),
      listId, kind: 'course', ownerId: null, personId: null, firstName: '', chosen: null,
    })
    expect(coupons).toEqual([{ code: 'GUILD-2', offer: 'Class', untilAt: thursdayNoon + 2, closesAt: null }])
  })
})

describe('utm values', () => {
  it('are added to where a link leads, and never take the place of what stands there', () => {
    const utm = { source: 'saltmarsh', medium: 'email', campaign: 'día 1' }
    expect([
      'https://a.example.com/', 'https://a.example.com/x?y=1&utm_source=own#z', 'mailto:ines@example.com', 'https://',
    ].map(url => withUtm(url, utm))).toEqual([
      'https://a.example.com/?utm_source=saltmarsh&utm_medium=email&utm_campaign=d%C3%ADa+1',
      'https://a.example.com/x?y=1&utm_source=own&utm_medium=email&utm_campaign=d%C3%ADa+1#z', 'mailto:ines@example.com', 'https://',
    ])
    expect(withUtm('https://a.example.com/', { ...utm, source: ' ', medium: '' })).toBe('https://a.example.com/?utm_campaign=d%C3%ADa+1')
  })

  it('come with the click, and stand nowhere in the email', async () => {
    const { context, mail, content, listId } = await sent(() => ({
      utm: { source: 'saltmarsh', medium: 'email', campaign: 'one' },
      body: { type: 'doc', content: [paragraph('a link', 'https://a.example.com/')] },
    }))
    expect(mail.html).not.toContain('utm_')
    const [outboxId, n] = context.signer.read('link', tokenIn(mail.html, 'l'))!.split('.').map(Number) as [number, number]
    expect(destinationOf(context, outboxId, n)).toBe('https://a.example.com/?utm_source=saltmarsh&utm_medium=email&utm_campaign=one')
    const { html } = await previewEmail(
      context, { content, listId, kind: 'course', ownerId: null, personId: null, firstName: '', chosen: null }
    )
    expect(html).toContain('https://a.example.com/')
  })
})
