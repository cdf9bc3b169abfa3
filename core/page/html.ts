/** Small pieces of public HTML; whatever is put in is escaped unless it is {@link Html} already. */
import type { InlineNode, ListNode } from '#core/message/content'
import { linkMark } from '#core/message/content'
import { hrefOf } from '#core/message/webAddress'
import { escapeHtml } from '#core/message/escape'
import type { PageText } from './text'

/** HTML that is safe to put out as it is. */
export class Html {
  constructor(readonly source: string) {}
  toString(): string {
    return this.source
  }
}

type HtmlPart = Html | string | number | false | null | undefined | HtmlPart[]

export function html(strings: TemplateStringsArray, ...values: HtmlPart[]): Html {
  return new Html(strings.reduce((out, part, index) => out + write(values[index - 1]) + part))
}

function write(value: HtmlPart): string {
  if (value === null || value === undefined || value === false) return ''
  if (Array.isArray(value)) return value.map(write).join('')
  return value instanceof Html ? value.source : escapeHtml(String(value))
}

/** Rich text of a page as HTML. */
export function richText(text: PageText): Html {
  return html`${text.content.map((block) => {
    if (block.type === 'paragraph') return block.content?.length ? html`<p>${inlines(block.content)}</p>` : ''
    if (block.type === 'heading') return block.attrs.level === 2
      ? html`<h2>${inlines(block.content)}</h2>`
      : html`<h3>${inlines(block.content)}</h3>`
    return list(block)
  })}`
}

function list(node: ListNode): Html {
  const items = node.content.map(item =>
    html`<li>${item.content.map(part => part.type === 'paragraph' ? inlines(part.content) : list(part))}</li>`)
  return node.type === 'bulletList' ? html`<ul>${items}</ul>` : html`<ol>${items}</ol>`
}

function inlines(nodes: InlineNode[] = []): Html[] {
  return nodes.map((node) => {
    if (node.type === 'hardBreak') return html`<br>`
    if (node.type === 'placeholder') return html`${node.attrs.fallback}`
    let out = html`${node.text}`
    if (node.marks?.some(mark => mark.type === 'bold')) out = html`<strong>${out}</strong>`
    if (node.marks?.some(mark => mark.type === 'italic')) out = html`<em>${out}</em>`
    const link = linkMark(node)
    const href = link && hrefOf(link.attrs.href, 'any')
    return href ? html`<a href="${href}" rel="noopener">${out}</a>` : out
  })
}
