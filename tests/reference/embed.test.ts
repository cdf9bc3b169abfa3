/**
 * Embedded forms as a parser of the HTML standard reads them.
 *
 * Source: the parsing section of the HTML Living Standard (html.spec.whatwg.org, 13.2), by parse5, which passes html5lib's
 * tests; its parse errors are those the standard names. WCAG 2.2, success criteria 1.3.1 and 3.3.2: every field has a label.
 */
import { parseFragment, type DefaultTreeAdapterTypes as Tree } from 'parse5'
import { describe, expect, it } from 'vitest'
import { embedForm, embedScript } from '#core/page/embed'
import { NO_TOUCH } from '#core/page/touch'
import { embeddedHtml } from '#core/page/render'
import type { Field } from '#core/people/field'
import { FIELD_KINDS } from '#core/people/field'
import { everyPage } from '../everyPage'

const fields = new Map<number, Pick<Field, 'kind' | 'choices'>>(
  FIELD_KINDS.map((kind, n) => [n + 1, { kind, choices: kind === 'choice' ? Array.from({ length: 9 }, (_, k) => `choice <${k}>`) : [] }]),
)
const page = (words: string) => {
  const every = everyPage(words)
  return { ...every, form: { ...every.form, asks: [
    ...every.form.asks,
    ...FIELD_KINDS.map((_, n) => ({ id: `a${n + 10}`, kind: 'field' as const, fieldId: n + 1, label: words, required: n % 2 === 0 })),
  ] } }
}

function read(html: string): { errors: string[], elements: Tree.Element[] } {
  const errors: string[] = []
  const root = parseFragment(html, { onParseError: error => errors.push(error.code) })
  const elements: Tree.Element[] = []
  const walk = (node: Tree.ParentNode) => {
    for (const child of node.childNodes) {
      if (!('tagName' in child)) continue
      elements.push(child)
      walk(child)
    }
  }
  walk(root)
  return { errors, elements }
}
const valueOf = (element: Tree.Element, name: string) => element.attrs.find(attr => attr.name === name)?.value

describe.each([
  ['pasted', (words: string) => embedForm(page(words), 'https://porch.example.com/p/x?a=1&b=2', fields)],
  ['by the script', (
    words: string,
  ) => embeddedHtml({ content: page(words), fields, action: 'https://porch.example.com/p/x', touch: NO_TOUCH, filled: {
    email: words, firstName: words, answers: { a1: [words] },
  }, problems: { email: words, a1: words, form: words } })],
])('a form %s', (_how, make) => {
  it.each([
    'plain words', '"><script>alert(1)</script>', '</form></textarea>&amp;&quot;\'<!--', 'دفتر <b>ñ',
  ])('is valid, with every field named and labelled, whatever stands in it: %s', (words) => {
    const { errors, elements } = read(make(words))
    expect(errors).toEqual([])
    expect(elements.filter(({ tagName }) => tagName === 'script' || tagName === 'b')).toEqual([])
    const form = elements.filter(({ tagName }) => tagName === 'form')
    expect(
      form.map(one => [valueOf(one, 'method'), valueOf(one, 'action')?.split('?')[0]]),
    ).toEqual([['post', 'https://porch.example.com/p/x']])
    const ids = elements.flatMap(element => valueOf(element, 'id') ?? [])
    expect(new Set(ids).size).toBe(ids.length)
    for (const field of elements.filter(({ tagName, attrs }) =>
      ['input', 'select'].includes(tagName) && !attrs.some(({ name, value }) => name === 'type' && value === 'hidden'))) {
      expect(valueOf(field, 'name')).toBeTruthy()
      const inside = (node: Tree.Node | null): boolean =>
        node !== null && 'parentNode' in node && ((node as Tree.Element).tagName === 'label' || inside(node.parentNode))
      expect(
        inside(field) || elements.some(element => element.tagName === 'label' && valueOf(element, 'for') === valueOf(field, 'id')),
        valueOf(field, 'name'),
      ).toBe(true)
    }
  })
})

it('the line for a script is one element with nothing in it', () => {
  const { errors, elements } = read(embedScript('https://porch.example.com/practice/p/sheet-kit', 'slide-in'))
  expect([
    errors, elements.map(({ tagName, attrs }) => [tagName, Object.fromEntries(attrs.map(({ name, value }) => [name, value]))]),
  ]).toEqual([[], [['script', {
      'src': 'https://porch.example.com/embed.js', 'data-page': 'practice/p/sheet-kit', 'data-as': 'slide-in', 'data-after': '20',
      'async': '',
    }]]])
})
