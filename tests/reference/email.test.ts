/**
 * Emails as they go over the line, read back by parsers of two other hands.
 *
 * Sources: RFC 8058 section 8.1 (the headers of its example; recalled, not
 * copied), section 3.1 (an https URI); RFC 2919 section 2 (List-ID); RFC 2047
 * section 2 (an encoded word is at most 75 characters, a line at most 76) and
 * section 5; RFC 5322 sections 2.1.1 (at most 998 characters a line, and better 78), 3.6 (which
 * headers there must be, and how often); RFC 2046 section 5.1.4 (in
 * alternatives the plainest part comes first).
 */
import fc from 'fast-check'
import { extract, parse } from 'letterparser'
import PostalMime from 'postal-mime'
import { describe, expect, it } from 'vitest'
import { createComposer } from '#adapters/composer'
import type { MessageContent } from '#core/message/content'
import { fillMessage } from '#core/message/fill'
import type { Mail } from '#core/ports'
import { setFirstName } from '#data/people'
import { saveSettings } from '#usecases/settings/workspace'
import { play } from '#usecases/time/play'
import { email, furnish, listeningCarrier, openContext, step, thursdayNoon, visit } from '../service/workshop'

const SUBJECTS = [
  'A plain subject', 'Açúcar, pão e café', 'Zażółć gęślą jaźń', 'Готово к переплёту', '綴じ方の基本',
  '📚 Books 🧵 and thread ✂️ for everybody who binds 🪡', 'x'.repeat(300), 'é'.repeat(200),
  'Trailing accent é', 'Spaces   inside', '“Quoted”, with: colons; and <signs>',
]

/** Sends one email of a live workspace and returns what the carrier was given. */
async function sent(
  content: MessageContent, to: { address: string, name: string } = { address: 'ada@example.com', name: 'Ada' },
): Promise<{ mail: Mail, source: Buffer }> {
  let handed: { mail: Mail, source: Buffer } | null = null
  const carrier = { ...listeningCarrier(), handOver: async (mail: Mail, source: Uint8Array) => {
    handed = { mail, source: Buffer.from(source) }
    return { kind: 'accepted' as const }
  } }
  const opened = openContext({ mode: 'live', clock: { at: thursdayNoon }, carrier })
  const { context } = await furnish({ ...opened, baseUrl: 'https://porch.example.com' }, () => [step('one', { kind: 'at-once' }, content)])
  saveSettings(context, {
    name: 'Saltmarsh', zone: 'Europe/Lisbon', senderName: 'Inês Façanha', senderAddress: 'ines@saltmarsh.example.com',
    postalAddress: 'Rua do Cais 3\nLisboa', currency: 'EUR', smtpUrl: null,
  })
  setFirstName(context.db, visit(context, to.address), to.name, 'theirs')
  await play(context, context.clock.now())
  return handed!
}

const headerBlock = (source: Buffer) => source.toString('latin1').split('\r\n\r\n')[0]!
/** Header lines with their foldings undone (RFC 5322 section 2.2.3). */
const headers = (source: Buffer) => headerBlock(source).replace(/\r\n[ \t]/g, ' ').split('\r\n')
  .map(line => [line.slice(0, line.indexOf(':')).toLowerCase(), line.slice(line.indexOf(':') + 1).trim()] as const)
const header = (source: Buffer, name: string) => headers(source).filter(([key]) => key === name).map(([, value]) => value)

describe('an email over the line', () => {
  it('carries the one-click headers of RFC 8058 and the list\'s name', async () => {
    const { source } = await sent(email('one'))
    expect(header(source, 'list-unsubscribe')).toEqual([expect.stringMatching(/^<https:\/\/porch\.example\.com\/m\/[\w.-]+>$/)])
    expect(header(source, 'list-unsubscribe-post')).toEqual(['List-Unsubscribe=One-Click'])
    expect(header(source, 'list-id')).toEqual(['"Letters from the bench" <letters-from-the-bench.saltmarsh.example.com>'])
  })

  it('has every header that must be there, once', async () => {
    const { source, mail } = await sent(email('one'))
    for (const name of ['from', 'to', 'subject', 'date', 'message-id', 'mime-version']) expect(header(source, name), name).toHaveLength(1)
    expect(header(source, 'message-id')[0]).toBe(mail.messageId)
    expect(mail.messageId).toMatch(/^<[A-Za-z0-9.-]+@saltmarsh\.example\.com>$/)
    expect(Date.parse(header(source, 'date')[0]!)).toBe(thursdayNoon)
    expect(header(source, 'bcc')).toEqual([])
  })

  it('is 7-bit, and no line is longer than a server takes', async () => {
    const { source } = await sent(email('one', { subject: [{ type: 'text', text: SUBJECTS[5]! }], body: {
      type: 'doc', content: [{ type: 'paragraph', content: [{ type: 'text', text: `${'pão '.repeat(800)}${'x'.repeat(3000)}` }] }],
    } }))
    expect(source.every(byte => byte < 128)).toBe(true)
    expect(source.toString('latin1')).not.toMatch(/[^\r]\n/)
    const lines = source.toString('latin1').split('\r\n')
    expect(Math.max(...lines.map(line => line.length))).toBeLessThanOrEqual(998)
    // Longer than it should be is only what has no place to be folded at: one address, one identifier.
    expect(lines.filter(line => line.length > 78 && !/^(List-Unsubscribe|Message-ID): <[^ ]+>$/.test(line))).toEqual([])
  })

  it('D12: says what it is called, that it can be dark, and that nobody wrote it by hand; joined letters and right-to-left words come through whole', async () => {
    // A name with a zero-width non-joiner, as Persian has it, and a family joined by zero-width joiners.
    const name = 'می\u200cخواهم 👩\u200d👧\u200d👦'
    const content = email('one', { subject: [{ type: 'text', text: 'Fold & sew' }], body: { type: 'doc', content: [{
      type: 'paragraph',
      content: [{ type: 'text', text: 'سلام ' }, { type: 'placeholder', attrs: { field: 'first_name', fallback: 'friend' } }],
    }] } })
    const { source } = await sent(content, { address: 'ada@example.com', name })
    const { html, text, to } = await PostalMime.parse(source)
    expect(html).toContain('<title>Fold &amp; sew</title>')
    expect(html).toContain('<meta name="color-scheme" content="light dark">')
    expect(html).toMatch(new RegExp(`dir="auto"[^>]*>\\s*سلام ${name}`))
    expect([text!.includes(`سلام ${name}`), to![0]!.name]).toEqual([true, name])
    // RFC 3834 section 5.
    expect(header(source, 'auto-submitted')).toEqual(['auto-generated'])
  })

  it.each(SUBJECTS)('keeps the subject %j', async (subject) => {
    const { source } = await sent(email('one', { subject: [{ type: 'text', text: subject }] }))
    const expected = subject.replace(/\s+/g, ' ')
    expect((await PostalMime.parse(source)).subject).toBe(expected)
    for (const line of headerBlock(source).split('\r\n')) {
      if (!line.includes('=?')) continue
      expect(line.length).toBeLessThanOrEqual(76)
      for (const word of line.match(/=\?[^?]+\?[BQ]\?[^?]*\?=/gi) ?? []) expect(word.length).toBeLessThanOrEqual(75)
    }
    // The second parser does not join encoded words that were split within a letter, so it reads the shorter ones.
    if (subject.length < 40) expect(extract(source.toString('latin1')).subject).toBe(expected)
  })

  it('says the same in a text part and an HTML part, the text first', async () => {
    const { source } = await sent(email('one', { body: { type: 'doc', content: [
      {
        type: 'paragraph',
        content: [{ type: 'text', text: 'Olá ' }, { type: 'placeholder', attrs: { field: 'first_name', fallback: 'amiga' } }],
      },
      { type: 'button', attrs: { label: 'Ver o caderno', url: 'https://saltmarsh.example.com/caderno', tagId: null } },
    ] } }))
    const message = parse(source.toString('latin1'))
    expect(message.contentType.type).toBe('multipart/alternative')
    expect((message.body as { contentType: { type: string } }[]).map(part => part.contentType.type)).toEqual(['text/plain', 'text/html'])
    const [one, other] = [extract(source.toString('latin1')), await PostalMime.parse(source)]
    for (const read of [one, other]) {
      expect(read.text).toContain('Olá Ada')
      expect(read.html).toContain('Olá Ada')
      expect(read.text).toMatch(/Ver o caderno:\s+https:\/\/porch\.example\.com\/l\//)
    }
    const linksIn = (part: string) => [...part.matchAll(/https:\/\/porch\.example\.com\/[lm]\/[\w.-]+/g)].map(([link]) => link)
    expect(new Set(linksIn(other.html!))).toEqual(new Set(linksIn(other.text!)))
  })

  it('keeps a name with signs from becoming another recipient', async () => {
    const { source } = await sent(email('one'), { address: 'ada@example.com', name: 'Ada, Bo <bo@example.com>' })
    const parsed = await PostalMime.parse(source)
    expect(parsed.to).toEqual([{ name: 'Ada, Bo <bo@example.com>', address: 'ada@example.com' }])
    expect(parsed.from).toEqual({ name: 'Inês Façanha', address: 'ines@saltmarsh.example.com' })
  })
})

/*
 * RFC 2045 section 6.7 (quoted-printable), RFC 2047 (subjects), RFC 2046 section 5.1 (parts), read back by a parser of another author.
 */
describe('any email, read back by another parser', () => {
  const awkward = fc.oneof(
    fc.string({ unit: 'grapheme', maxLength: 40 }), fc.string({ unit: 'binary-ascii', maxLength: 40 }),
    fc.constantFrom(
      '=', '=3D', ' ', '\t', '.', '..', 'From ', '\n', '\n\n', 'é'.repeat(90), '=\n', '--', '🧵'.repeat(40), 'x'.repeat(300), ' \n', '\n.\n'
    ),
  ).map(text => text.replace(/(?![\t\n])\p{Cc}/gu, ''))
  const template = fc.array(fc.oneof(
    awkward, fc.record({ fact: fc.constantFrom('first_name', 'unknown'), or: awkward }),
    fc.constantFrom({ ready: 'link 0' }, { ready: 'link 1' }),
  ), { maxLength: 12 })

  it('500 of them have the same subject, the same parts and the same links', async () => {
    const composer = createComposer()
    let read = 0
    await fc.assert(fc.asyncProperty(template, template, template, awkward, async (subject, html, text, name) => {
      const message = { subject, html: ['<p>', ...html], text: ['.', ...text] }
      const personal = { facts: { first_name: name }, ready: {
        'link 0': 'https://a.example.com/?x=1&y=2', 'link 1': `https://b.example.com/${'z'.repeat(120)}`,
      } }
      const filled = fillMessage(message, personal)
      const source = await composer.compose({
        messageId: '<1@example.com>', from: { name: 'Inês', address: 'ines@example.com' }, to: { name: '', address: 'ada@example.com' },
        ...filled, headers: {}, at: thursdayNoon,
      }, { message, personal })
      const parsed = await PostalMime.parse(source)
      const plain = (part: string | undefined) => (part ?? '').replace(/\r\n?/g, '\n').trimEnd()
      expect(parsed.subject ?? '').toBe(filled.subject)
      expect(plain(parsed.html)).toBe(plain(filled.html))
      expect(plain(parsed.text)).toBe(plain(filled.text))
      for (const line of Buffer.from(source).toString('latin1').split('\r\n\r\n').slice(1).join('\r\n').split('\r\n')) {
        expect(line.length).toBeLessThanOrEqual(76)
        // Nothing is left to mend on its way through SMTP (RFC 5321 section 4.5.2).
        expect(line.startsWith('.')).toBe(false)
      }
      read++
    }), { numRuns: 500, seed: 20261130 })
    expect(read).toBeGreaterThanOrEqual(500)
  })
})
