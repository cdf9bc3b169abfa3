/**
 * From blocks to templates: MJML for the HTML part, plain text for the other,
 * and one line for the subject. Placeholders become Liquid; they are filled per
 * person, the rest is made once per version.
 */
import { hrefOf, isTracked } from '#core/message/webAddress'
import { day, type } from '#core/theme/tokens'
import type { BlockNode, InlineNode, ListItemNode, ListNode, MessageContent, PlaceholderNode, TrackedUse } from './content'
import { linkMark, linksOf } from './content'
import { escapeHtml, escapeLiquid } from './escape'
import { SEND_KINDS, type SendKind } from '#core/sending/kinds'

export interface Templates {
  subject: string
  mjml: string
  text: string
  links: TrackedUse[]
}

/** The names a template may use; each person's values go in under these. */
export interface Personal {
  first_name: string
  /** Tracked addresses, by the `n` of {@link TrackedUse}. */
  links: string[]
  /** Only in what is watched: nobody is who has not said yes. */
  pixel_url: string
  choices_url: string
  /** Where the email's own button leads; empty in emails that have none. */
  own_url: string
  /** What was paid, ready-made; only in an email that goes for a purchase. */
  receipt_html?: string
  receipt_text?: string
  list_name: string
  sender_name: string
  /** On one line. */
  postal_address: string
}

/** What of a kind of send is seen in its emails: why its reader gets it, and whether opening it is counted. */
export type Frame = Pick<SendKind, 'because' | 'isWatched'>

export function compileMessage(content: MessageContent, frame: Frame = SEND_KINDS.course): Templates {
  const html = new Writer('html')
  const text = new Writer('text')
  return {
    subject: content.subject.map(node => text.inline(node)).join(''),
    mjml: mjmlOf(html, content, frame),
    text: textOf(text, content, frame),
    links: linksOf(content.body),
  }
}

/** Writes nodes in one of the two parts, counting links in reading order. */
class Writer {
  #link = 0
  constructor(readonly part: 'html' | 'text') {}

  literal(value: string): string {
    return escapeLiquid(this.part === 'html' ? escapeHtml(value) : value)
  }

  placeholder({ attrs }: PlaceholderNode): string {
    const filter = this.part === 'html' ? ' | escape' : ''
    return `{% if ${attrs.field} != blank %}{{ ${attrs.field}${filter} }}{% else %}${this.literal(attrs.fallback)}{% endif %}`
  }

  /** Where the next link in reading order leads. */
  nextLink(url: string): string {
    return isTracked(url) ? `{{ links[${this.#link++}] }}` : this.literal(hrefOf(url, 'any') ?? '')
  }

  inline(node: InlineNode): string {
    const html = this.part === 'html'
    if (node.type === 'hardBreak') return html ? '<br>' : '\n'
    if (node.type === 'placeholder') return this.placeholder(node)
    let written = this.literal(node.text)
    if (html && node.marks?.some(mark => mark.type === 'bold')) written = `<strong>${written}</strong>`
    if (html && node.marks?.some(mark => mark.type === 'italic')) written = `<em>${written}</em>`
    const link = linkMark(node)
    if (!link) return written
    const href = this.nextLink(link.attrs.href)
    return html ? `<a href="${href}" style="color:${day.door}">${written}</a>` : `${written} (${href})`
  }

  inlines(nodes: InlineNode[] = []): string {
    return nodes.map(node => this.inline(node)).join('')
  }
}

/** In words, and with the words of the link that leads to the choices. */
const WHY: Record<Frame['because'], { words: string, link: string }> = {
  list: { words: 'You get this because you are on the list {{ list_name }}.', link: 'Choose what you get, or leave' },
  confirm: {
    words: 'You get this because this address was typed on a page of ours. If that was not you, do nothing: you are on no list.',
    link: 'Ask for no more mail from us',
  },
  asked: { words: 'You get this because you asked for it on a page of ours.', link: 'Choose what you get, or leave' },
  bought: { words: 'You get this because you bought something from us.', link: 'Choose what else you get, or leave' },
}

function mjmlOf(writer: Writer, content: MessageContent, { because, isWatched }: Frame): string {
  const blocks = content.body.content.map(block => mjmlBlock(writer, block)).join('\n')
  // What language it is in, nobody has said; which way its letters run, each block says for itself.
  return `<mjml lang="und">
<mj-head>
<mj-title>${content.subject.map(node => new Writer('html').inline(node)).join('')}</mj-title>
<mj-raw><meta name="color-scheme" content="light"><meta name="supported-color-schemes" content="light"></mj-raw>
<mj-preview>${content.preview.map(node => writer.inline(node)).join('')}</mj-preview>
<mj-attributes>
<mj-all font-family="${type.plain}" />
<mj-text font-size="16px" line-height="1.55" color="${day.ink}" padding="0 24px 14px" />
<mj-button font-size="16px" font-weight="600" background-color="${day.door}" color="${day.doorText}" border-radius="6px" inner-padding="12px 22px" padding="6px 24px 20px" align="left" />
</mj-attributes>
</mj-head>
<mj-body width="600px" background-color="${day.paper}">
<mj-section padding="24px 0 8px"><mj-column>
${blocks}${because === 'bought' ? '\n<mj-text>{{ receipt_html }}</mj-text>' : ''}
</mj-column></mj-section>
<mj-section padding="0 0 24px"><mj-column>
<mj-divider border-width="1px" border-color="${day.line}" padding="8px 24px 14px" />
<mj-text font-size="13px" color="${day.inkSecond}">${WHY[because].words.replace('{{ list_name }}', '{{ list_name | escape }}')} <a href="{{ choices_url }}" style="color:${day.door}">${WHY[because].link}</a>.<br>{{ sender_name | escape }}, {{ postal_address | escape }}${isWatched ? '<img src="{{ pixel_url }}" width="1" height="1" alt="" style="display:block">' : ''}</mj-text>
</mj-column></mj-section>
</mj-body>
</mjml>`
}

function mjmlBlock(writer: Writer, block: BlockNode): string {
  switch (block.type) {
    case 'ownButton':
      return `<mj-button href="{{ own_url }}">${writer.literal(block.attrs.label)}</mj-button>`
    case 'button':
      return `<mj-button href="${writer.nextLink(block.attrs.url)}">${writer.literal(block.attrs.label)}</mj-button>`
    case 'heading':
      return `<mj-text font-size="${block.attrs.level === 2 ? 22 : 18}px" line-height="1.3" font-weight="700">${eitherWay(writer.inlines(block.content))}</mj-text>`
    case 'paragraph':
      return block.content?.length ? `<mj-text>${eitherWay(writer.inlines(block.content))}</mj-text>` : ''
    default:
      return `<mj-text>${eitherWay(htmlList(writer, block))}</mj-text>`
  }
}

/** Words that run from right to left begin at the right. */
const eitherWay = (words: string): string => `<div dir="auto" style="text-align:start">${words}</div>`

function htmlList(writer: Writer, list: ListNode): string {
  const tag = list.type === 'bulletList' ? 'ul' : 'ol'
  const items = list.content.map(item => `<li>${item.content
    .map(node => node.type === 'paragraph' ? writer.inlines(node.content) : htmlList(writer, node)).join('<br>')}</li>`)
  return `<${tag} style="margin:0;padding-left:22px">${items.join('')}</${tag}>`
}

function textOf(writer: Writer, content: MessageContent, { because }: Frame): string {
  const blocks = content.body.content.map(block => textBlock(writer, block)).filter(block => block !== '')
  const footer = [
    '-- ',
    WHY[because].words,
    `${WHY[because].link}: {{ choices_url }}`,
    '{{ sender_name }}, {{ postal_address }}',
  ].join('\n')
  if (because === 'bought') blocks.push('{{ receipt_text }}')
  return `${blocks.join('\n\n')}\n\n${footer}\n`
}

function textBlock(writer: Writer, block: BlockNode): string {
  switch (block.type) {
    case 'ownButton':
      return `${writer.literal(block.attrs.label)}: {{ own_url }}`
    case 'button':
      return `${writer.literal(block.attrs.label)}: ${writer.nextLink(block.attrs.url)}`
    case 'heading':
    case 'paragraph':
      return writer.inlines(block.content)
    default:
      return textList(writer, block, '')
  }
}

function textList(writer: Writer, list: ListNode, indent: string): string {
  return list.content.map((item, index) => {
    const sign = list.type === 'bulletList' ? '-' : `${index + 1}.`
    return textItem(writer, item, `${indent}${sign} `, `${indent}  `)
  }).join('\n')
}

function textItem(writer: Writer, item: ListItemNode, lead: string, indent: string): string {
  return item.content.map((node, index) => node.type === 'paragraph'
    ? `${index === 0 ? lead : indent}${writer.inlines(node.content)}`
    : textList(writer, node, indent)).join('\n')
}
