/** The blocks of an email, as they are written in both parts. */
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { compileEmail } from '#adapters/compileEmail'
import { foreignHtml } from '#adapters/foreignHtml'
import { fromMarkdown, lineToText, textToLine, toMarkdown } from '#core/exchange/markdown'
import { EVERYBODY, type Condition } from '#core/audience/condition'
import { BLOCKS, caseFor, choicesOf, isWritten, linksOf } from '#core/message/blocks'
import type {
  BlockNode, InlineNode, Line, MessageContent, OnlyForNode, PlainBlockNode, TextBlockNode, TrackedUse,
} from '#core/message/content'
import { fillMessage } from '#core/message/fill'
import { DEFAULT_LOOK } from '#core/message/look'
import { FORMS, placeholder, PLACEHOLDER_FIELDS, type Form, type PlaceholderAttrs } from '#core/message/placeholders'
import { saysTheSame } from '#core/message/same'
import { linkKey } from '#core/message/template'
import { fileKey } from '#core/message/blocks/file'
import { SEND_KINDS } from '#core/sending/kinds'

const message = (...blocks: BlockNode[]): MessageContent => ({
  workingTitle: 'x', subject: [{ type: 'text', text: 's' }], preview: [], body: { type: 'doc', content: blocks },
})
/** Links lead where they point; `chosen`: a case for each choice, in reading order. */
async function read(content: MessageContent, chosen: number[] = [], hrefOf = ({ n }: TrackedUse) => `https://porch.example.com/l/${n}`) {
  return fillMessage(await compileEmail(content, SEND_KINDS.course, DEFAULT_LOOK), {
    facts: { first_name: 'Ada', list_name: 'Letters', sender_name: 'Ines', postal_address: 'Lisboa' },
    ready: {
      base_url: 'https://porch.example.com', pixel_url: 'https://porch.example.com/o', choices_url: 'https://porch.example.com/m',
      own_url: 'https://porch.example.com/c', view_url: 'https://porch.example.com/v',
      ...Object.fromEntries(Array.from({ length: 10 }, (_, n) => [fileKey(n), `https://porch.example.com/e/${n}`])),
      ...Object.fromEntries(linksOf(content.body).map(link => [linkKey(link.n), hrefOf(link)])),
    },
    chosen: Object.fromEntries(choicesOf(content).map(({ key }, n) => [key, chosen[n] ?? 0])),
  })
}

/* Any email */

const word = fc.constantFrom('fold', 'sew', 'cover it', 'אור', 'ぬう')
const url = fc.constantFrom('https://a.example.com/', 'https://b.example.com/x?y=1&z=2', 'mailto:ines@example.com')
const web = fc.constantFrom('https://a.example.com/', 'https://b.example.com/x?y=1&z=2')
const inline: fc.Arbitrary<InlineNode> = fc.oneof(
  word.map((text): InlineNode => ({ type: 'text', text })),
  fc.tuple(word, url).map(([text, href]): InlineNode => ({ type: 'text', text, marks: [{ type: 'link', attrs: { href } }] })),
  fc.constant<InlineNode>({ type: 'placeholder', attrs: { field: 'first_name', fallback: 'friend' } }),
)
const inlines = fc.array(inline, { minLength: 1, maxLength: 3 })
  .map(nodes => nodes.flatMap((node, n): InlineNode[] => n === 0 ? [node] : [{ type: 'text', text: ', ' }, node]))
const paragraph: fc.Arbitrary<TextBlockNode> = inlines.map(content => ({ type: 'paragraph', content }))
const texts: fc.Arbitrary<TextBlockNode> = fc.oneof(
  paragraph,
  fc.tuple(fc.constantFrom(2 as const, 3 as const), inlines).map(([level, content]): TextBlockNode =>
    ({ type: 'heading', attrs: { level }, content })),
  fc.tuple(fc.constantFrom('bulletList' as const, 'orderedList' as const), fc.array(inlines, { minLength: 1, maxLength: 3 }))
    .map(([type, items]): TextBlockNode => ({
      type, content: items.map(content => ({ type: 'listItem', content: [{ type: 'paragraph', content }] })),
    })),
)
const button = fc.tuple(word, web).map(([label, to]): Extract<BlockNode, { type: 'button' }> =>
  ({ type: 'button', attrs: { label, url: to, tagId: null } }))
const picture = fc.record({ pictureId: fc.option(fc.integer({ min: 1, max: 9 })), alt: word, url: fc.oneof(url, fc.constant('')) })
const ANY: { [Type in BlockNode['type']]?: fc.Arbitrary<BlockNode> } = {
  paragraph: texts,
  blockquote: fc.array(texts, { minLength: 1, maxLength: 2 }).map((content): BlockNode => ({ type: 'blockquote', content })),
  button,
  picture: fc.tuple(picture, fc.constantFrom(25 as const, 50 as const, 100 as const)).map(([attrs, size]): BlockNode =>
    ({ type: 'picture', attrs: { ...attrs, size } })),
  beside: fc.record({
    attrs: picture, side: fc.constantFrom('start' as const, 'end' as const), content: fc.array(fc.oneof(texts, button), { minLength: 1 }),
  }).map(({ attrs, side, content }): BlockNode => ({ type: 'beside', attrs: { ...attrs, side }, content })),
  video: fc.tuple(picture, web, word).map(([attrs, to, label]): BlockNode => ({ type: 'video', attrs: { ...attrs, url: to, label } })),
  divider: fc.constant<BlockNode>({ type: 'divider' }),
  space: fc.constant<BlockNode>({ type: 'space', attrs: { height: 32 } }),
  social: fc.array(fc.record({ label: word, url }), { minLength: 1, maxLength: 3 }).map((links): BlockNode =>
    ({ type: 'social', attrs: { links } })),
  choice: fc.array(
    fc.record({ label: word, hint: fc.constantFrom('', 'opens flat'), tagId: fc.constant(null) }), { minLength: 2, maxLength: 6 }
  )
    .map((choices): BlockNode => ({ type: 'choice', attrs: { choices, says: '', onlyOne: true } })),
  offer: fc.tuple(
    web, fc.boolean()
  ).map(([to, isSold]): BlockNode => ({ type: 'offer', attrs: { offerId: 1, code: '', label: 'See', shown: isSold
    ? { name: 'Class', url: to, price: '€180.00', reduced: '€160.00', code: 'GUILD', closesAt: 1, couponUntilAt: null }
    : null } })),
  countdown: fc.constantFrom(1, null).map((until): BlockNode =>
    ({ type: 'countdown', attrs: { offerId: null, until, before: 'Closes in', after: 'It has closed.' } })),
  articles: fc.array(fc.record({
    title: word, text: fc.constantFrom('', 'some words'), url: web, pictureId: fc.option(fc.integer({ min: 1, max: 9 })), alt: word,
  }), { minLength: 1, maxLength: 3 })
    .map((articles): BlockNode => ({ type: 'articles', attrs: { articles, label: 'Read on' } })),
  file: fc.option(fc.integer({ min: 1, max: 9 })).map((fileId): BlockNode =>
    ({ type: 'file', attrs: { fileId, fileName: 'kit.pdf', bytes: 120_000, label: '' } })),
  html: fc.constantFrom('<p>plain <b>words</b></p>', '<table><tr><td>1</td></tr></table>').map((source): BlockNode =>
    ({ type: 'html', attrs: { source } })),
}
const plain = fc.oneof(...Object.values(ANY)) as fc.Arbitrary<PlainBlockNode>
const who = fc.constantFrom<Condition | null>({ kind: 'all', of: [{ kind: 'tag', tagId: 1, since: null }] }, EVERYBODY, null)
const onlyFor = fc.array(fc.tuple(who, fc.array(plain, { minLength: 1, maxLength: 3 })), { minLength: 1, maxLength: 3 })
  .map(
    (cases): OnlyForNode => ({ type: 'onlyFor', content: cases.map(([one, content]) => ({ type: 'case', attrs: { who: one }, content })) })
  )
const block: fc.Arbitrary<BlockNode> = fc.oneof({ weight: 4, arbitrary: plain }, { weight: 1, arbitrary: onlyFor })

const SEED = { seed: 20261129, numRuns: 60 }

describe('the blocks of any email', () => {
  it('lead to the same places in the same order in both parts, and what is hidden to nowhere', async () => {
    await fc.assert(fc.asyncProperty(fc.array(plain, { minLength: 1, maxLength: 6 }), fc.nat(5), async (blocks, hide) => {
      const hidden = blocks.map((node, n) => n === hide ? { ...node, attrs: { ...node.attrs, hidden: true } } as BlockNode : node)
      const { html, text } = await read(message(...hidden))
      // A film’s still and its words are one link.
      const order = (part: string) => [
        ...new Set([...part.matchAll(/https:\/\/porch\.example\.com\/l\/(\d+)/g)].map(([, n]) => Number(n))),
      ]
      const wanted = linksOf({ type: 'doc', content: blocks.filter((_, n) => n !== hide) }).map(({ n }) => n)
      expect(order(html)).toEqual(wanted)
      expect(order(text)).toEqual(wanted)
      expect(html).not.toContain('\uFDD0')
    }), SEED)
  })

  it('are read by each reader as if the versions that fit them had been written for them alone', async () => {
    await fc.assert(fc.asyncProperty(fc.array(block, { minLength: 1, maxLength: 6 }), fc.array(fc.integer({ min: -1, max: 2 })), async (
      blocks, chosen,
    ) => {
      let choice = 0
      const alone = blocks.flatMap(
        (node): BlockNode[] => node.type === 'onlyFor' ? node.content[chosen[choice++] ?? 0]?.content ?? [] : [node]
      )
      const url = ({ url: to }: TrackedUse) => to
      const [one, other] = [await read(message(...blocks), chosen, url), await read(message(...alone), [], url)]
      // Numbers of notes go on behind the longest version.
      const text = (part: string) => part.replace(/\[\d+\]/g, '[]').replace(/[=-]{3,}/g, '--')
      expect(text(one.text)).toBe(text(other.text))
      const words = (part: string) => foreignHtml.words(part.replace(/^.*<body/s, '<body')).replace(/\s+/g, ' ')
      expect(words(one.html)).toBe(words(other.html))
      expect(one.html + one.text).not.toMatch(/[\uFDD0-\uFDEF]/)
    }), SEED)
  })

  it('come back from Markdown as they were written', () => {
    fc.assert(fc.property(fc.array(block, { minLength: 1, maxLength: 6 }), (blocks) => {
      const written = toMarkdown({ type: 'doc', content: blocks })
      expect(toMarkdown(fromMarkdown(written))).toBe(written)
    }), { ...SEED, numRuns: 300 })
  })

  it('are all tried here', () => {
    const tried = new Set([...Object.keys(ANY), 'heading', 'bulletList', 'orderedList', 'ownButton', 'onlyFor', 'part'])
    expect([...tried].sort()).toEqual(Object.keys(BLOCKS).sort())
  })
})

describe('choices', () => {
  it('give everybody the first that fits, or nothing', () => {
    const is = (n: number): Condition => ({ kind: 'tag', tagId: n, since: null })
    const fits = (...tags: number[]) => (one: Condition) => one.kind === 'tag' && tags.includes(one.tagId)
    expect([fits(2), fits(1, 2), fits()].map(held => caseFor([is(1), is(2), null], held))).toEqual([1, 0, 2])
    expect(caseFor([is(1), is(2)], fits(3))).toBe(-1)
  })

  it('are of the subject, too, and a reader for whom nothing was chosen gets no email with a hole in it', async () => {
    const content = { ...message({ type: 'paragraph', content: [{ type: 'text', text: 'w' }] }), subjectFor: [
      { who: EVERYBODY, subject: [{ type: 'text' as const, text: 'For you, ' }, {
        type: 'placeholder' as const, attrs: { field: 'first_name' as const, fallback: 'friend' },
      }] },
    ] }
    expect((await read(content, [0])).subject).toBe('For you, Ada')
    expect((await read(content, [1])).subject).toBe('s')
    expect((await read(content, [1])).html).toMatch(/<title>\s*s\s*<\/title>/)
    const compiled = await compileEmail(content, SEND_KINDS.course, DEFAULT_LOOK)
    expect(() => fillMessage(compiled, { facts: {}, ready: {}, chosen: {} })).toThrow('Nothing is chosen for “subject”')
  })
})

describe('placeholders', () => {
  it.each<[Partial<PlaceholderAttrs> & Pick<PlaceholderAttrs, 'field'>, Record<string, string>, string]>([
    [{ field: 'first_name', as: 'first-large' }, { first_name: 'ada maria' }, 'Ada maria'],
    [{ field: 'first_name', as: 'first-word' }, { first_name: ' Ada Maria' }, 'Ada'],
    [{ field: 'first_name' }, { first_name: '  ' }, 'friend'],
    [{ field: 'own', fieldId: 7, label: 'town' }, { 'field 7': 'Évora' }, 'Évora'],
    [{ field: 'own', fieldId: 7, label: 'town' }, {}, 'friend'],
    [{ field: 'own', fieldId: 7, as: 'date' }, { 'field 7': '2024-02-29' }, '29 February 2024'],
    [{ field: 'own', fieldId: 7, as: 'weekday' }, { 'field 7': 'soon' }, 'soon'],
    [{ field: 'today' }, { 'today 0': '2026-12-05' }, 'Saturday 5 December'],
    [{ field: 'today', days: 2, as: 'weekday' }, { 'today 2': '2026-12-07' }, 'Monday'],
    [{ field: 'began', days: -1, as: 'date' }, { 'began -1': '2026-12-04' }, '4 December 2026'],
    [{ field: 'email' }, { email: 'a<b@example.com' }, 'a&lt;b@example.com'],
  ])('%j of %j reads %s', async (attrs, facts, words) => {
    const node: InlineNode = { type: 'placeholder', attrs: { fallback: 'friend', ...attrs } }
    const content = message({ type: 'paragraph', content: [{ type: 'text', text: '>' }, node, { type: 'text', text: '<' }] })
    const compiled = await compileEmail(content, SEND_KINDS.course, DEFAULT_LOOK)
    const { html } = fillMessage(compiled, { facts, ready: {
      base_url: '', pixel_url: '', choices_url: '', own_url: '',
    } })
    expect(html).toContain(`&gt;${words}&lt;`)
  })

  const attrs: fc.Arbitrary<PlaceholderAttrs> = fc.record({
    field: fc.constantFrom(...PLACEHOLDER_FIELDS), fallback: fc.constantFrom('friend', 'your town, (dear)'),
    as: fc.constantFrom(...Object.keys(FORMS) as Form[], null), days: fc.integer({ min: -400, max: 400 }),
  }).map(({ field, fallback, as, days }) => ({
    field, fallback: placeholder(field).mayLack ? fallback : '', ...field === 'own' && { fieldId: 12, label: 'where, they live' },
    ...as && { as }, ...placeholder(field).takesDays && days !== 0 && { days },
  }))
  it('come back from a file as they were', () => fc.assert(fc.property(fc.array(attrs, { minLength: 1, maxLength: 3 }), (all) => {
    const line = all.flatMap((one): Line => [{ type: 'text', text: 'to ' }, { type: 'placeholder', attrs: one }])
    expect(textToLine(lineToText(line))).toEqual(line)
    const body = message({ type: 'paragraph', content: line }).body
    expect(fromMarkdown(toMarkdown(body))).toEqual(body)
  }), SEED))
})

describe('the ids that the editor gives', () => {
  const known = (nodes: BlockNode[]): BlockNode[] =>
    nodes.map((node, n) => ({ ...node, attrs: { ...node.attrs, id: `b${n}` } }) as BlockNode)
  it('change nothing that anybody reads; a word does', () => fc.assert(fc.property(fc.array(
    block, { minLength: 1, maxLength: 4 }
  ), (nodes) => {
    const [one, other] = [message(...nodes), message(...known(nodes))]
    expect(saysTheSame(one, other)).toBe(true)
    const more: BlockNode = { type: 'paragraph', attrs: { id: 'x' }, content: [{ type: 'text', text: 'more' }] }
    expect(saysTheSame(one, message(...known(nodes), more))).toBe(false)
    expect(saysTheSame({ steps: [{ id: 'a', content: one }] }, { steps: [{ id: 'b', content: one }] })).toBe(false)
  }), SEED))
})

describe('what each is worth', () => {
  it('a heading is underlined and an address has a line of its own, for people who read text', async () => {
    const { text } = await read(message(
      { type: 'heading', attrs: { level: 2 }, content: [{ type: 'text', text: 'Three books' }] },
      { type: 'paragraph', content: [
        { type: 'text', text: 'See ' },
        { type: 'text', text: 'the first', marks: [{ type: 'link', attrs: { href: 'https://a.example.com/' } }] },
        { type: 'text', text: ' today.' },
      ] },
      { type: 'picture', attrs: { pictureId: 1, alt: 'Three small books', url: '', size: 100 } },
      { type: 'button', attrs: { label: 'Open', url: 'https://b.example.com/', tagId: null } },
    ))
    expect(text.split('\n-- \n')[0]).toBe([
      'Three books\n===========', 'See the first [1] today.\n[1] https://porch.example.com/l/0', '[Three small books]',
      'Open:\nhttps://porch.example.com/l/1', '',
    ].join('\n\n').trimEnd() + '\n')
  })

  it('a picture that only decorates is silent; one without a picture is not there', async () => {
    const { html, text } = await read(message(
      { type: 'picture', attrs: { pictureId: 3, alt: 'a line of leaves', isPlain: true, url: '', size: 50 } },
      { type: 'picture', attrs: { pictureId: null, alt: 'nothing yet', url: 'https://a.example.com/', size: 100 } },
    ))
    expect(html).toMatch(/<img alt(="")? src="https:\/\/porch\.example\.com\/i\/3-mail"/)
    expect(html + text).not.toMatch(/leaves|nothing yet|a\.example/)
  })

  it('HTML of somebody’s own neither runs, loads nor reaches out of its place', async () => {
    const nasty = [
      '<script>alert(1)</script>', '<img src=x onerror=alert(1)>', '<a href="javascript:alert(1)">x</a>',
      '<iframe src="https://a.example.com">',
      '<style>*{display:none}</style>', '<div style="background:url(https://a.example.com/p)">x</div>', '<svg onload=alert(1)>',
      '</mj-text></mj-column>',
      '<form action="https://a.example.com"><input></form>', '<p style="position:fixed;color:red">x</p>', '\uFDD00\uFDD1',
      '<meta http-equiv="refresh" content="0">',
      '<!-- <mj-raw> -->', '<mj-include path="/etc/passwd" />', '<link rel=stylesheet href=//a.example.com>',
    ]
    const { html, text } = await read(
      message({ type: 'html', attrs: { source: `<p>Before</p>${nasty.join('')}<p>After &amp; <b>more</b></p>` } })
    )
    expect(html).not.toMatch(/<script|onerror|javascript:|<iframe|<svg|url\(https|<form|<input|position:\s*fixed|http-equiv="refresh"|passwd|rel=.?stylesheet|\uFDD0/)
    expect(html).toContain('After &amp; <b>more</b>')
    expect(html).toContain('Choose what you get, or unsubscribe')
    expect(text).toContain('After & more')
  })

  it('an email of which all words are hidden is not written', () => {
    const words: BlockNode = { type: 'paragraph', content: [{ type: 'text', text: 'words' }] }
    expect(isWritten(message(words))).toBe(true)
    expect(isWritten(message({ ...words, attrs: { hidden: true } }, { type: 'divider' }))).toBe(false)
  })
})
