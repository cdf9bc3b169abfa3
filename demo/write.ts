/** Short ways to write pages and emails: `{name}` stands for the first name, `**words**` for bold. */
import type { PageText } from '#core/page/text'
import type { BlockNode, InlineNode, Line, MessageContent, ParagraphNode, TextNode } from '#core/message/content'

const placeholder = (fallback: string) => ({ type: 'placeholder', attrs: { field: 'first_name', fallback } } as const)

/** One line with `{name|fallback}` in it. */
export function line(text: string): Line {
  return text.split(/(\{name\|[^}]+\})/).filter(Boolean).map((part) => {
    const named = /^\{name\|([^}]+)\}$/.exec(part)
    return named ? placeholder(named[1]!) : { type: 'text', text: part } satisfies TextNode
  })
}

function inlines(text: string): InlineNode[] {
  return text.split(/(\*\*[^*]+\*\*)/).filter(Boolean).flatMap((part): InlineNode[] => {
    const bold = /^\*\*([^*]+)\*\*$/.exec(part)
    return bold ? [{ type: 'text', text: bold[1]!, marks: [{ type: 'bold' }] }] : line(part)
  })
}

export const paragraph = (text: string): ParagraphNode => ({ type: 'paragraph', content: inlines(text) })

export const bullets = (...items: string[]) => ({ type: 'bulletList', content: items.map(item => ({ type: 'listItem', content: [paragraph(item)] })) } satisfies BlockNode)

export const numbered = (...items: string[]) => ({ type: 'orderedList', content: items.map(item => ({ type: 'listItem', content: [paragraph(item)] })) } satisfies BlockNode)

/** A text of a page, a paragraph each. */
export const words = (...texts: string[]): PageText => ({ type: 'doc', content: texts.map(paragraph) })

/** The button that leads to what an email is for. */
export const ownButton = (label: string): BlockNode => ({ type: 'ownButton', attrs: { label } })

export const button = (label: string, url: string, tagId: number | null = null): BlockNode => ({ type: 'button', attrs: { label, url, tagId } })

export function email(workingTitle: string, subject: string, preview: string, ...blocks: (string | BlockNode)[]): MessageContent {
  return { workingTitle, subject: line(subject), preview: line(preview), body: { type: 'doc', content: blocks.map(block => typeof block === 'string' ? paragraph(block) : block) } }
}
