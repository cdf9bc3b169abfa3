/**
 * HTML that old mail programs draw: what stands in our emails is among what they are known to take.
 *
 * The lists are from memory of what is published about the support of HTML and CSS in mail programs; no source was at hand. They are
 * strict: a property stands in it only if the common programs of desks, telephones and the web draw it, or do no harm where they do not.
 * Style sheets in the head may hold more: where they are dropped, what is said inline stays.
 */
import { parse, type DefaultTreeAdapterMap } from 'parse5'
import { describe, expect, it } from 'vitest'
import { createComposer } from '#adapters/composer'
import { complete } from '#core/message/complete'
import type { BlockNode, MessageContent } from '#core/message/content'
import { DEFAULT_LOOK } from '#core/message/look'
import { linksOf } from '#core/message/blocks'
import { fillMessage } from '#core/message/fill'
import { fileKey } from '#core/message/blocks/file'
import { linkKey } from '#core/message/template'
import { EMAIL_TEMPLATES } from '#core/message/templates/index'
import { SEND_KINDS } from '#core/sending/kinds'

type Element = DefaultTreeAdapterMap['element']

/** Drawn, or harmless. From memory. */
const TAGS = new Set([
  'html', 'head', 'title', 'meta', 'style', 'body', 'table', 'tbody', 'tr', 'td', 'div', 'span', 'p', 'a', 'img', 'br', 'strong', 'em', 's',
  'h2', 'h3', 'ul', 'ol', 'li', 'blockquote', 'b', 'i', 'hr',
])
/** Inline. From memory. */
const PROPERTIES = new Set([
  'background', 'background-color', 'border', 'border-bottom', 'border-collapse', 'border-left', 'border-radius', 'border-right',
  'border-spacing',
  'border-top', 'color', 'cursor', 'direction', 'display', 'font', 'font-family', 'font-size', 'font-weight', 'height', 'letter-spacing',
  'line-height', 'margin', 'margin-bottom', 'margin-top', 'max-height', 'max-width', 'mso-line-height-rule', 'mso-padding-alt',
  'mso-table-lspace',
  'mso-table-rspace', 'opacity', 'outline', 'overflow', 'padding', 'padding-bottom', 'padding-left', 'padding-right', 'padding-top',
  'table-layout', 'text-align', 'text-decoration', 'text-transform', 'vertical-align', 'width', 'word-break', 'word-spacing',
  '-webkit-text-size-adjust', '-ms-text-size-adjust', 'font-style', 'list-style',
])
/** Their values are drawn by few. From memory. */
const VALUES = /\b(?:flex|grid|calc\(|var\(|clamp\(|rem\b|vw\b|vh\b|absolute|fixed|sticky)/

const composer = createComposer()
async function htmlOf(content: MessageContent): Promise<string> {
  const whole = complete(content, { partOf: () => undefined, offerOf: () => undefined })
  const message = await composer.compile(whole, SEND_KINDS.course, DEFAULT_LOOK)
  return fillMessage(message, {
    facts: { list_name: 'Letters', sender_name: 'Ines', postal_address: 'Lisboa' },
    ready: {
      base_url: 'https://porch.example.com', pixel_url: 'https://porch.example.com/o', choices_url: 'https://porch.example.com/m',
      own_url: '',
      view_url: 'https://porch.example.com/v', [fileKey(1)]: 'https://porch.example.com/e',
      ...Object.fromEntries(linksOf(whole.body).map(({ n }) => [linkKey(n), `https://porch.example.com/l/${n}`])),
    },
    chosen: Object.fromEntries(['0', '1', '2', '3', 'subject'].map(key => [key, 0])),
  }).html
}
function elementsOf(html: string): Element[] {
  const found: Element[] = []
  const walk = (node: DefaultTreeAdapterMap['node']) => {
    if ('tagName' in node) found.push(node)
    if ('childNodes' in node) node.childNodes.forEach(walk)
  }
  walk(parse(html))
  return found
}
const attribute = ({ attrs }: Element, name: string) => attrs.find(one => one.name === name)?.value

const text = (words: string) => ({ type: 'paragraph' as const, content: [{ type: 'text' as const, text: words }] })
const EVERY_BLOCK: BlockNode[] = [
  { type: 'heading', attrs: { level: 2 }, content: [{ type: 'text', text: 'Heading' }] }, text('Words'),
  { type: 'bulletList', content: [{ type: 'listItem', content: [text('One')] }] }, { type: 'blockquote', content: [text('Said')] },
  { type: 'button', attrs: { label: 'Go', url: 'https://a.example.com/', tagId: null } },
  { type: 'picture', attrs: { pictureId: 1, alt: 'A book', url: 'https://a.example.com/', size: 50 } },
  { type: 'beside', attrs: { pictureId: 1, alt: 'A book', url: '', side: 'end' }, content: [text('Beside')] },
  { type: 'video', attrs: { pictureId: 1, alt: 'A still', url: 'https://a.example.com/', label: 'Watch' } },
  { type: 'divider' }, { type: 'space', attrs: { height: 32 } },
  { type: 'social', attrs: {
    links: [{ label: 'Site', url: 'https://a.example.com/' }, { label: 'Write', url: 'mailto:ines@example.com' }],
  } },
  { type: 'articles', attrs: { label: 'Read on', articles: [
    { title: 'Paper', text: 'That folds.', url: 'https://a.example.com/', pictureId: 1, alt: '' },
    { title: 'Thread', text: '', url: 'https://a.example.com/', pictureId: null, alt: '' },
  ] } },
  { type: 'choice', attrs: {
    choices: [{ label: 'One', hint: 'opens flat', tagId: null }, { label: 'Two', hint: '', tagId: null }], says: '', onlyOne: true,
  } },
  { type: 'countdown', attrs: { offerId: null, until: 1, before: 'Closes in', after: 'Closed' } },
  { type: 'file', attrs: { fileId: 1, fileName: 'kit.pdf', bytes: 1000, label: '' } },
  { type: 'html', attrs: { source: '<p style="position:fixed">Own</p><script>alert(1)</script><form><input></form>' } },
]
const EMAILS: [name: string, content: MessageContent][] = [
  ...EMAIL_TEMPLATES.map(({ name, content }): [string, MessageContent] => [name, content]),
  ['every block', {
    workingTitle: '', subject: [{ type: 'text', text: 'All' }], preview: [{ type: 'text', text: 'of them' }], inBrowser: true,
    body: { type: 'doc', content: EVERY_BLOCK },
  }],
]

describe('an email as old mail programs read it', () => {
  it.each(EMAILS)('%s holds only what they draw', async (_, content) => {
    const html = await htmlOf(content)
    const elements = elementsOf(html)
    expect([...new Set(elements.map(({ tagName }) => tagName))].filter(tag => !TAGS.has(tag))).toEqual([])
    const said = elements.flatMap(element => (attribute(element, 'style') ?? '').split(';').map(one => one.trim()).filter(Boolean))
    expect([...new Set(said.map(one => one.split(':')[0]!.trim().toLowerCase()))].filter(name => !PROPERTIES.has(name))).toEqual([])
    expect(said.filter(one => VALUES.test(one))).toEqual([])
    expect(html).not.toMatch(/<script|<form|<input|javascript:|@import|<link\b|url\(/i)
  })

  it.each(EMAILS)('%s can be read aloud and without its pictures', async (_, content) => {
    const elements = elementsOf(await htmlOf(content))
    const root = elements.find(({ tagName }) => tagName === 'html')!
    expect([attribute(root, 'lang'), attribute(root, 'dir')]).toEqual(['und', 'auto'])
    // What only places things says so; every picture says what it shows, or that it shows nothing.
    for (const table of elements.filter(({ tagName }) => tagName === 'table')) expect(attribute(table, 'role')).toBe('presentation')
    for (const picture of elements.filter(({ tagName }) => tagName === 'img')) {
      expect(attribute(picture, 'alt')).toBeDefined()
      // Without a width in the tag the oldest draw it as large as it is.
      expect(Number(attribute(picture, 'width'))).toBeGreaterThan(0)
    }
    for (const link of elements.filter(({ tagName }) => tagName === 'a')) expect(attribute(link, 'href')).toMatch(/^(https|mailto):/)
  })

  it('no line of its source is longer than mail may have, whatever was written (RFC 5322 section 2.1.1)', async () => {
    const { source } = { source: await composer.compose({
      messageId: '<a@example.com>', from: { name: '', address: 'a@example.com' }, to: { name: '', address: 'b@example.com' }, subject: 's',
      html: await htmlOf(EMAILS.at(-1)![1]), text: 'x'.repeat(5000), headers: {}, at: 0,
    }) }
    expect(Math.max(...Buffer.from(source).toString('latin1').split('\r\n').map(line => line.length))).toBeLessThanOrEqual(998)
  })
})
