import fc from 'fast-check'
import { Liquid } from 'liquidjs'
import { describe, expect, it, vi } from 'vitest'
import { compileEmail, toHtml } from '#adapters/compileEmail'
import { createComposer } from '#adapters/composer'
import { foreignHtml } from '#adapters/foreignHtml'
import { createSigner } from '#adapters/signer'
import { compileMessage } from '#core/message/compile'
import { DEFAULT_LOOK } from '#core/message/look'
import { fillMessage } from '#core/message/fill'
import { fill, linkKey, Places, typed, type Personal } from '#core/message/template'
import { piecesOf } from '#data/migrations/030-templates'
import { SEND_KINDS } from '#core/sending/kinds'
import type { BlockNode, Line, MessageContent } from '#core/message/content'
import { isWritten, linksOf } from '#core/message/blocks'
import { plainLine } from '#core/message/content'
import { listHeaders, messageIdOf, slugOf } from '#core/message/headers'
import { newTheme } from '#core/page/theme'
import type { PageContent } from '#core/page/content'
import { renderOptIn, renderThanks, renderWait } from '#core/page/render'
import { everyPage } from '../everyPage'
import { NO_TOUCH } from '#core/page/touch'

const name = (fallback = 'friend') => ({ type: 'placeholder', attrs: { field: 'first_name', fallback } } as const)
const words = (text: string) => ({ type: 'text', text } as const)
const paragraph = (...content: (ReturnType<typeof name> | ReturnType<typeof words>)[]): BlockNode => ({ type: 'paragraph', content })
const message = (subject: Line, ...blocks: BlockNode[]): MessageContent => ({
  workingTitle: 'x', subject, preview: [words('Look ahead')], body: { type: 'doc', content: blocks },
})

const compiled = (content: MessageContent) => compileMessage(content, SEND_KINDS.course, foreignHtml)
const reader = (first_name: string, links = 0): Personal => ({
  facts: { first_name, list_name: 'Letters & <more>', sender_name: 'Ines', postal_address: 'Rua do Cais 3, Lisboa' },
  ready: {
    ...Object.fromEntries(Array.from({ length: links }, (_, n) => [linkKey(n), `https://porch.example.com/l/${n}`])),
    pixel_url: 'https://porch.example.com/o/1', choices_url: 'https://porch.example.com/m/1', own_url: 'https://porch.example.com/c/1',
  },
})
const read = async (content: MessageContent, person: Personal) =>
  fillMessage(await compileEmail(content, SEND_KINDS.course, DEFAULT_LOOK), person)

describe('an email as one person reads it', () => {
  it('has their name, or the fallback, in subject, HTML and text', async () => {
    const content = message([words('For '), name()], paragraph(words('Hello '), name('you'), words('!')))
    const [known, unknown] = [await read(content, reader('Zoë')), await read(content, reader(''))]
    expect([known.subject, unknown.subject]).toEqual(['For Zoë', 'For friend'])
    expect(known.text).toContain('Hello Zoë!')
    expect(unknown.text).toContain('Hello you!')
    expect(unknown.html).toContain('Hello you!')
    expect(plainLine(content.subject)).toBe('For [first name, or: friend]')
  })

  it('is made once, and is its own, also beside one that differs only in what stands for a name', async () => {
    const compile = vi.fn(compileEmail)
    const composer = createComposer(compile)
    const said = await Promise.all(['friend', 'dear reader', 'friend'].map(async (fallback) => {
      const content = message([words('For you')], paragraph(words('Hello '), name(fallback)))
      return fillMessage(await composer.compile(content, SEND_KINDS.course, DEFAULT_LOOK), reader('')).html
    }))
    expect(said.map(html => /Hello (friend|dear reader)/.exec(html)?.[1])).toEqual(['friend', 'dear reader', 'friend'])
    expect(compile).toHaveBeenCalledTimes(2)
    // It goes to another thread.
    for (const asked of compile.mock.calls) expect(structuredClone(asked)).toEqual(asked)
  })

  it('that cannot be made says so each time', async () => {
    const composer = createComposer(async () => {
      throw new Error(await toHtml('<mjml><mj-body><mj-porch/></mj-body></mjml>'))
    })
    for (let n = 0; n < 2; n++) {
      await expect(composer.compile(message([]), SEND_KINDS.course, DEFAULT_LOOK)).rejects.toThrow('The email could not be made')
    }
  })

  it('is watched when it is opened only where its kind is, and every kind says in it why they get it', () => {
    for (const kind of Object.values(SEND_KINDS)) {
      const { mjml, places, text } = compileMessage(message([words('For you')], paragraph(words('Hello'))), kind, foreignHtml)
      const html = places.read(mjml)
      expect(html.some(piece => typeof piece === 'object' && 'ready' in piece && piece.ready === 'pixel_url')).toBe(kind.isWatched)
      for (const part of [html, text]) expect(JSON.stringify(part)).toContain('You get this because')
    }
    expect(new Set(Object.values(SEND_KINDS).map(kind => kind.isWatched))).toEqual(new Set([true, false]))
  })

  it('shows what was typed, never obeys it: HTML and template signs stand as they are', async () => {
    // Many words through one compile: MJML is slow, and none of them may break out of their place.
    const nasty = [
      '<script>alert(1)</script>', '{{ sender_name }}', '{% if true %}x{% endif %}', '{{', '}}', '{%', '{', '"><img src=x>', '&amp;', '\'',
      '</mj-text>', '<!-- ', '\uFDD00\uFDD1', '\uFDD0',
    ]
    const content = message([words(nasty.join(' '))], ...nasty.map(text => paragraph(words(text))))
    for (const person of ['Ada', '{{ postal_address }}', '<b>Bo</b>']) {
      const { html, text, subject } = await read(
        { ...content, body: { type: 'doc', content: [...content.body.content, paragraph(name())] } }, reader(person),
      )
      for (const shown of [...nasty, person].map(typed).filter(Boolean)) expect(text.split('\n\n')).toContain(shown)
      expect(subject).toBe(typed(nasty.join(' ')).replace(/\s+/g, ' ').trim())
      expect(html).not.toMatch(/<script|<img src=x|<b>Bo/)
      expect(html).toContain('&lt;script&gt;alert(1)&lt;/script&gt;')
    }
  })

  it('keeps any line of text through the template, letter by letter', async () => {
    await fc.assert(fc.asyncProperty(fc.string({
      unit: 'grapheme', minLength: 1, maxLength: 60,
    }), fc.string({ maxLength: 20 }), async (line, first) => {
      const { subject } = compiled(message([words(line), name('f')]))
      const filled = fillMessage({ subject, html: [], text: subject }, reader(first))
      const shown = first.trim() === '' ? 'f' : first
      expect(filled.text).toBe(typed(line) + shown)
    }), { numRuns: 300 })
  })

  it('is not made at all where something of ours is missing', () => {
    const places = new Places()
    expect(() => fill(places.read(places.mark({ ready: 'choices_url' })), 'html', reader('Ada'))).not.toThrow()
    expect(() => fill(places.read(places.mark({ ready: 'link 7' })), 'html', reader('Ada', 3))).toThrow('link 7')
  })

  it('reads as it did, where it was made into Liquid by an older version', () => {
    const liquid = new Liquid({ strictVariables: false, jsTruthy: false, ownPropertyOnly: true })
    const { facts, ready } = reader('Zoë & Co', 2)
    const html = [
      '<p>A {{ \'{\' }}{{ \'{\' }} brace, {% if first_name != blank %}{{ first_name | escape }}{% else %}my {{ \'{\' }}&quot;friend&#39;{% endif %}',
      '<a href="{{ links[1] }}">x</a>\n{{ list_name | escape }} <a href="{{ choices_url }}">{{ sender_name | escape }}</a>',
      '<img src="{{ pixel_url }}">',
    ].join('')
    const text = '{% if first_name != blank %}{{ first_name }}{% else %}{{ \'{\' }}%}{% endif %}: {{ links[0] }} {{ list_name }}{{ own_url }}\n'
    for (const first_name of ['Zoë & <Co>', ' ', '']) {
      const old = { ...facts, ...ready, first_name, links: [ready[linkKey(0)], ready[linkKey(1)]] }
      const now = { facts: { ...facts, first_name }, ready }
      expect(fill(piecesOf(html, 'html'), 'html', now)).toBe(liquid.parseAndRenderSync(html, old))
      expect(fill(piecesOf(text, 'text'), 'text', now)).toBe(liquid.parseAndRenderSync(text, old))
    }
  })

  it('numbers its links in reading order, the same in both parts', async () => {
    const content = message([words('s')],
      { type: 'paragraph', content: [
        { type: 'text', text: 'first', marks: [{ type: 'link', attrs: { href: 'https://a.example.com/?x=1&y=2' } }] },
      ] },
      { type: 'bulletList', content: [{ type: 'listItem', content: [{ type: 'paragraph', content: [{ type: 'text', text: 'second', marks: [{
        type: 'bold',
      }, { type: 'link', attrs: { href: 'https://b.example.com/' } }] }] }] }] },
      { type: 'button', attrs: { label: 'third', url: 'https://c.example.com/', tagId: 7 } })
    const plain = { linkId: null, asks: false, answers: null }
    expect(linksOf(content.body)).toEqual([
      { n: 0, url: 'https://a.example.com/?x=1&y=2', label: 'first', tagId: null, ...plain },
      { n: 1, url: 'https://b.example.com/', label: 'second', tagId: null, ...plain },
      { n: 2, url: 'https://c.example.com/', label: 'third', tagId: 7, ...plain },
    ])
    const { html, text } = await read(content, reader('Ada', 3))
    const order = (part: string) => [...part.matchAll(/https:\/\/porch\.example\.com\/l\/(\d)/g)].map(([, n]) => n)
    expect(order(html)).toEqual(['0', '1', '2'])
    expect(order(text)).toEqual(['0', '1', '2'])
    expect(html).not.toContain('a.example.com')
  })

  it('carries who sends it, from where, why, and the way out, in both parts', async () => {
    const { html, text } = await read(message([words('s')], paragraph(words('b'))), reader('Ada'))
    expect(html).toContain('Letters &amp; &lt;more&gt;')
    for (const part of [html, text]) {
      expect(part).toContain('Rua do Cais 3, Lisboa')
      expect(part).toContain('https://porch.example.com/m/1')
    }
  })
})

it('an email is written once it has a subject and words', () => {
  expect(isWritten(message([], paragraph(words('x'))))).toBe(false)
  expect(isWritten(message([words(' ')], paragraph(words('x'))))).toBe(false)
  expect(isWritten(message([words('s')], { type: 'paragraph' }, paragraph(words('  '))))).toBe(false)
  expect(isWritten(message([words('s')], paragraph(name())))).toBe(true)
})

describe('headers', () => {
  it('cannot be broken out of by a list\'s name', () => {
    const headers =
      listHeaders({
        oneClickUrl: 'https://a.example.com/m/1', listSlug: slugOf('Léttres, "x"\r\nBcc: y'), listName: 'a" <b>\r\nBcc: y@example.com',
        senderDomain: 'example.com',
      })
    // RFC 2047: encoded words, in which no line break and no bracket is left.
    expect(headers['List-ID']).toMatch(/^=\?UTF-8\?Q\?[A-Za-z0-9=_]+\?= <lettres-x-bcc-y\.example\.com>$/)
  })

  it('Message-IDs differ where the key does, and only there', () => {
    const key = { kind: 'course' as const, ownerId: 1, personId: 2, itemId: 's', occasion: '1' }
    expect(messageIdOf(key, 'k', 'example.com')).toBe(messageIdOf({ ...key }, 'k', 'example.com'))
    const others = [
      { ...key, ownerId: 2 }, { ...key, personId: 3 }, { ...key, itemId: 't' }, { ...key, occasion: '2' }, { ...key, occasion: '1-again' },
    ]
    expect(new Set([key, ...others].map(one => messageIdOf(one, 'k', 'example.com'))).size).toBe(6)
    expect(messageIdOf(key, 'k', 'example.com')).not.toBe(messageIdOf(key, 'other', 'example.com'))
  })
})

describe('a signed address', () => {
  const signer = createSigner(Buffer.from('one key of at least thirty-two bytes'), 'practice/k')

  it('is read back, and serves its own purpose and workspace only', () => {
    const token = signer.sign('link', '12.3')
    expect(signer.read('link', token)).toBe('12.3')
    expect(signer.read('choices', token)).toBeNull()
    expect(createSigner(Buffer.from('one key of at least thirty-two bytes'), 'live/k').read('link', token)).toBeNull()
    expect(createSigner(Buffer.from('another key of at least thirty-two b'), 'practice/k').read('link', token)).toBeNull()
  })

  it('is not read if a single character is another', () => {
    const token = signer.sign('choices', '12345')
    for (let n = 0; n < token.length; n++) {
      for (const other of ['A', 'z', '.', '']) {
        const changed = token.slice(0, n) + other + token.slice(n + 1)
        if (changed !== token) expect(signer.read('choices', changed), changed).toBeNull()
      }
    }
    expect(signer.read('choices', `${Buffer.from('99').toString('base64url')}.${token.split('.')[1]}`)).toBeNull()
  })
})

it('a page keeps a place beside its text only where a picture stands there', () => {
  const face = { senderName: '', postalAddress: '', files: { css: '/a.css', script: null } }
  const place = (html: string) => /picture-(\w+)/.exec(html)![1]
  const draw = (content: PageContent) => place(renderOptIn({
    ...face, content, action: '', url: '', touch: NO_TOUCH, pictures: new Map(), fields: new Map(), at: path => path, now: 0, zone: 'UTC',
  }))
  const theme = { ...newTheme(), picture: 'right' as const }
  const page = { ...everyPage('words'), theme }
  expect([
    draw(page), draw({ ...page, sections: page.sections.map(section => ({ ...section, hidden: section.kind === 'picture' })) }),
    draw({ ...page, sections: page.sections.filter(({ kind }) => kind !== 'picture') }),
  ]).toEqual(['right', 'inside', 'inside'])
  expect([
    place(renderThanks({ ...face, thanks: page.thanks, theme })),
    place(renderWait({ ...face, headline: '', text: page.thanks.text, theme, senderAddress: '' })),
  ]).toEqual(['inside', 'inside'])
})

it('an opt-in page shows what was typed and obeys none of it', () => {
  const nasty = '"><script>alert(1)</script>'
  const html = renderOptIn({
    content: everyPage(nasty), senderName: nasty, postalAddress: nasty, files: {
      css: '/a.css', script: '/b.js',
    }, action: '/p/x', touch: { ...NO_TOUCH, source: nasty },
    url: 'https://porch.example.com/p/x', pictures: new Map([
      [7, { id: 7, name: nasty, width: 960, height: 540, widths: [480, 960] }],
    ]), fields: new Map([[1, { kind: 'text', choices: [] }], [2, { kind: 'choice', choices: [nasty, 'b'] }]]), at: path =>
      path, now: 0, zone: 'UTC',
    filled: { email: nasty, firstName: nasty, answers: { a1: [nasty] } }, problems: { email: nasty, form: nasty, a1: nasty, b1: nasty },
  })
  expect(html).not.toContain('<script>alert')
  expect(html.match(/&lt;script&gt;alert\(1\)/g)!.length).toBeGreaterThan(35)
})
