/** Short ways to write the texts of finished pages. `**words**` stand bold; `{name|there}` is the first name. */
import type { BlockNode, InlineNode, Line, MessageContent, ParagraphNode, TextNode } from '#core/message/content'
import type { Choice } from '../form'
import type { Section, SectionKind, SectionOf } from '../section'
import type { PageText } from '../text'

export const line = (text: string): Line => text.split(/(\{name\|[^}]+\})/).filter(Boolean).map((part) => {
  const named = /^\{name\|([^}]+)\}$/.exec(part)
  return named
    ? { type: 'placeholder', attrs: { field: 'first_name', fallback: named[1]! } }
    : { type: 'text', text: part } satisfies TextNode
})

const inlines = (text: string): InlineNode[] => text.split(/(\*\*[^*]+\*\*)/).filter(Boolean).flatMap((part): InlineNode[] => {
  const bold = /^\*\*([^*]+)\*\*$/.exec(part)
  return bold ? [{ type: 'text', text: bold[1]!, marks: [{ type: 'bold' }] }] : line(part)
})

export const paragraph = (text: string): ParagraphNode => ({ type: 'paragraph', content: inlines(text) })

/** A paragraph each. */
export const words = (...texts: string[]): PageText => ({ type: 'doc', content: texts.map(paragraph) })

const listOf = (type: 'bulletList' | 'orderedList') => (...items: string[]): SectionOf<'points'>['list'] => ({
  type: 'doc', content: [{ type, content: items.map(item => ({ type: 'listItem', content: [paragraph(item)] })) }],
})
export const points = listOf('bulletList')
export const numbered = listOf('orderedList')

type Body<Kind extends SectionKind> = Omit<SectionOf<Kind>, 'id' | 'kind' | 'name' | 'hidden'>

/** Sections in their order. A picture is for its owner to add: until there is one, nothing keeps the page from being published. */
export function sections(...of: { [Kind in SectionKind]: [kind: Kind, body: Body<Kind>] }[SectionKind][]): Section[] {
  return of.map(([kind, body], n) => ({ id: `s${n + 1}`, kind, name: '', hidden: kind === 'picture', ...body }) as Section)
}

/** An email with a button of its own, its paragraphs before and after it. */
export function mail(
  workingTitle: string, subject: string, preview: string, before: string[], button: string, ...after: string[]
): MessageContent {
  const body: BlockNode[] = [...before.map(paragraph), { type: 'ownButton', attrs: { label: button } }, ...after.map(paragraph)]
  return { workingTitle, subject: line(subject), preview: line(preview), body: { type: 'doc', content: body } }
}

/** Answers to a question, in their order; each with the tags it gives. */
export const answers = (...of: (string | [label: string, ...tagIds: number[]])[]): Choice[] => of.map((answer, n) => {
  const [label, ...tagIds] = typeof answer === 'string' ? [answer] : answer
  return { id: `o${n + 1}`, label, tagIds, fields: [] }
})
