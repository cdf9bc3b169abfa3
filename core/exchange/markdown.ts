/**
 * Emails as Markdown (CommonMark 0.31, read by markdown-it) and back. What
 * Markdown has no sign for is written so that a reader of the file understands
 * it: a placeholder as `[first name, or: friend]`, a button as a link that
 * stands alone in its paragraph and says so in its title, a line of stars for
 * a divider, and any other block as a code block that holds its JSON.
 */
import { dequal } from 'dequal'
import MarkdownIt from 'markdown-it'
import type Token from 'markdown-it/lib/token.mjs'
import { BLOCKS } from '#core/message/blocks'
import { namePlaceholder, placeholder, PLACEHOLDER_FIELDS, type Form, FORMS, type PlaceholderAttrs } from '#core/message/placeholders'
import {
  type AlignAttrs, type BlockAttrs, type BlockNode, type InlineNode, type Line, type ListItemNode,
  type ListNode, type Mark, type RichText, type TextBlockNode,
} from '#core/message/content'

const BUTTON = 'button'
const BLOCK = 'block'
/** Of a button that gives a tag, and of one that counts only after a second press. */
const TAG = /^button(?:, gives tag (\d+))?(, asks again)?$/

export function toMarkdown(body: RichText): string {
  return writeBlocks(body.content) + '\n'
}

function writeBlocks(blocks: readonly BlockNode[]): string {
  let turns = 0
  return blocks.map((block, n) => {
    // Two lists after one another would be read as one: the second has another sign.
    turns = block.type === blocks[n - 1]?.type && 'content' in block ? turns + 1 : 0
    return writeBlock(block, '', turns % 2 === 1)
  }).filter(text => text !== '').join('\n\n')
}

/** A subject or a preview, with its placeholders in words. */
export const lineToText = (line: Line): string => line.map(node => node.type === 'text' ? node.text : writePlaceholder(node.attrs)).join('')

function writeBlock(block: BlockNode, indent: string, isOther = false): string {
  if (hasMore(block)) return writeWhole(block)
  switch (block.type) {
    case 'paragraph': return writeInline(block.content ?? [])
    case 'heading': return `${'#'.repeat(block.attrs.level)} ${writeInline(block.content ?? [])}`
    case 'button': {
      const { label, url, tagId, asks } = block.attrs
      return `[${escape(label)}](<${url.replace(/[<>]/g, encodeURIComponent)}> "${BUTTON}${tagId === null ? '' : `, gives tag ${tagId}`}${asks ? ', asks again' : ''}")`
    }
    case 'ownButton': return `[${escape(block.attrs.label)}](# "${BUTTON} of its own")`
    case 'bulletList':
    case 'orderedList': return block.content.map((item, n) =>
      writeItem(item, block.type === 'bulletList' ? isOther ? '* ' : '- ' : `${n + 1}${isOther ? ')' : '.'} `, indent))
      .join('\n')
    case 'blockquote': return writeBlocks(block.content).split('\n').map(line => `> ${line}`.trimEnd())
      .join('\n')
    case 'divider': return '* * *'
    default: return writeWhole(block)
  }
}

/** Whether it says more of itself than Markdown can: where it stands, what it is called, that it is hidden. */
function hasMore(block: BlockNode): boolean {
  const { name, hidden, align } = (block.attrs ?? {}) as BlockAttrs & AlignAttrs
  return Boolean(name) || hidden === true || Boolean(align) || block.type === 'blockquote' && block.content.some(hasMore)
}

/** Its id is of the place where it stands, and is given anew where it is read. */
function writeWhole(block: BlockNode): string {
  const { id: _, ...attrs } = (block.attrs ?? {}) as BlockAttrs
  return `\`\`\`${BLOCK}\n${JSON.stringify({ ...block, attrs }).replaceAll('`', '\\u0060')}\n\`\`\``
}

function writeItem(item: ListItemNode, sign: string, indent: string): string {
  const deeper = indent + ' '.repeat(sign.length)
  return item.content.map((part, n) => n === 0
    ? `${indent}${sign}${writeBlock(part, deeper).trimStart()}`
    : part.type === 'paragraph' ? `\n${deeper}${writeBlock(part, deeper)}` : writeBlock(part, deeper)).join('\n')
}

function writeInline(nodes: readonly InlineNode[]): string {
  return nodes.map((node, n) => {
    if (node.type === 'hardBreak') return '\\\n'
    if (node.type === 'placeholder') return writePlaceholder(node.attrs)
    const text = n === 0 ? escapeStart(escape(node.text)) : escape(node.text)
    return (node.marks ?? []).reduce((inner, mark) => wrap(inner, mark), text)
  }).join('')
}

/** Blanks stand outside of signs: Markdown does not see an emphasis that begins or ends with one. */
function wrap(text: string, mark: Mark): string {
  const [, before, inner, after] = /^(\s*)([\s\S]*?)(\s*)$/.exec(text)!
  if (inner === '') return text
  const sign = mark.type === 'bold' ? '**' : '*'
  return `${before}${mark.type === 'link' ? `[${inner}](<${mark.attrs.href.replace(/[<>]/g, encodeURIComponent)}>)` : `${sign}${inner}${sign}`}${after}`
}

const escape = (text: string) => text.replace(/[\\`*_[\]<>#&]/g, '\\$&')
const escapeStart = (text: string) => text.replace(/^(\s*)(\d+)([.)])/, '$1$2\\$3').replace(/^(\s*)([-+=~|])/, '$1\\$2')

const markdown = new MarkdownIt('commonmark', { html: false }).disable([
  'image', 'html_block', 'html_inline', 'code',
])

/** What an email cannot hold (pictures of elsewhere, code) becomes plain words. */
export function fromMarkdown(text: string): RichText {
  const reader = new Reader(markdown.parse(text, {}))
  const content = reader.blocks(null)
  return { type: 'doc', content: content.length > 0 ? content : [{ type: 'paragraph' }] }
}

export const textToLine = (text: string): Line => split(text.replace(/\s+/g, ' ').trim()).map((part): Line[number] => part)

class Reader {
  #at = 0
  constructor(readonly tokens: Token[]) {}

  /** Up to the token that closes what they stand in. */
  blocks(until: string | null): BlockNode[] {
    const blocks: BlockNode[] = []
    for (; this.#at < this.tokens.length; this.#at++) {
      const token = this.tokens[this.#at]!
      if (token.type === until) return blocks
      if (token.type === 'bullet_list_open' || token.type === 'ordered_list_open') {
        this.#at++
        blocks.push(this.#list(token.type === 'bullet_list_open' ? 'bulletList' : 'orderedList', token.type.replace('open', 'close')))
      }
      else if (token.type === 'blockquote_open') {
        this.#at++
        const inside = this.blocks('blockquote_close').map(inQuote)
        blocks.push({ type: 'blockquote', content: inside.length > 0 ? inside : [{ type: 'paragraph' }] })
      }
      else if (token.type === 'hr') blocks.push({ type: 'divider' })
      else if (token.type === 'fence') blocks.push(wholeBlock(token))
      else if (token.type === 'inline') blocks.push(blockOf(token, this.tokens[this.#at - 1]!))
    }
    return blocks
  }

  #list(type: ListNode['type'], until: string): ListNode {
    const content: ListItemNode[] = []
    for (; this.tokens[this.#at]!.type !== until; this.#at++) {
      if (this.tokens[this.#at]!.type !== 'list_item_open') continue
      this.#at++
      const inner = this.blocks('list_item_close').map((block): ListItemNode['content'][number] => block.type === 'paragraph'
        || block.type === 'bulletList' || block.type === 'orderedList'
        ? block
        : { type: 'paragraph', ...'content' in block && block.content && { content: block.content as InlineNode[] } })
      content.push({ type: 'listItem', content: inner.length > 0 ? inner : [{ type: 'paragraph' }] })
    }
    return { type, content }
  }
}

/** A quote holds texts only. */
const inQuote = (block: BlockNode): TextBlockNode => block.type === 'paragraph' || block.type === 'heading' || block.type === 'bulletList'
  || block.type === 'orderedList'
  ? block
  : { type: 'paragraph' }

/** What it holds is checked where the email is; what is no block of ours is words. */
function wholeBlock({ info, content }: Token): BlockNode {
  try {
    const block = JSON.parse(content) as BlockNode
    if (info.trim() === BLOCK && typeof block === 'object' && block !== null && Object.hasOwn(BLOCKS, block.type)) return block
  }
  catch {
    // It is code, or was broken by hand: its words are kept.
  }
  return { type: 'paragraph', content: [{ type: 'text', text: content.trim() || ' ' }] }
}

function blockOf(token: Token, opened: Token): BlockNode {
  const children = (token.children ?? []).filter(({ type, content }) => type !== 'text' || content !== '')
  const [first] = children
  if (first?.type === 'link_open' && children.at(-1)?.type === 'link_close'
    && children.filter(({ type }) => type === 'link_open').length === 1) {
    const title = String(first.attrGet('title') ?? '')
    const label = children.filter(({ type }) => type === 'text').map(({ content }) => content).join('')
    if (title === `${BUTTON} of its own`) return { type: 'ownButton', attrs: { label } }
    const button = TAG.exec(title)
    if (button) return {
      type: 'button',
      attrs: { label, url: String(first.attrGet('href')), tagId: button[1] ? Number(button[1]) : null, ...button[2] && { asks: true } },
    }
  }
  const content = inlineOf(children)
  if (opened.type === 'heading_open') {
    return { type: 'heading', attrs: { level: opened.tag === 'h1' || opened.tag === 'h2' ? 2 : 3 }, ...content.length > 0 && { content } }
  }
  return { type: 'paragraph', ...content.length > 0 && { content } }
}

function inlineOf(tokens: readonly Token[]): InlineNode[] {
  const marks: Mark[] = []
  const nodes: InlineNode[] = []
  for (const token of tokens) {
    switch (token.type) {
      case 'strong_open': marks.push({ type: 'bold' }); break
      case 'em_open': marks.push({ type: 'italic' }); break
      case 'link_open': marks.push({ type: 'link', attrs: { href: String(token.attrGet('href')) } }); break
      case 'strong_close':
      case 'em_close':
      case 'link_close': marks.pop(); break
      case 'hardbreak': nodes.push({ type: 'hardBreak' }); break
      case 'softbreak': push(nodes, ' ', marks); break
      default: push(nodes, token.content, marks)
    }
  }
  return nodes.flatMap((node): InlineNode[] => node.type === 'text'
    ? split(node.text).map(part => part.type === 'text' && node.marks ? { ...part, marks: node.marks } : part)
    : [node])
}

/** Words that are marked alike are one piece, however they were read. */
function push(nodes: InlineNode[], text: string, marks: readonly Mark[]): void {
  if (text === '') return
  const last = nodes.at(-1)
  const same = last?.type === 'text' && dequal(last.marks ?? [], marks)
  if (same) last.text += text
  else nodes.push({ type: 'text', text, ...marks.length > 0 && { marks: [...marks] } })
}

/*
 * A placeholder reads `[first name, or: friend]`. How it is said, and which field it is of, stand in round brackets before that:
 * `[town (field 12, first letter large), or: your town]`.
 */

const formWords = (form: Form) => FORMS[form].toLowerCase()

function writePlaceholder(attrs: PlaceholderAttrs): string {
  const { field, fieldId, as, fallback } = attrs
  const more = [...field === 'own' ? [`field ${fieldId}`] : [], ...as ? [formWords(as)] : []]
  const name = namePlaceholder(attrs).replace(/[[\](),]/g, letter => letter === ',' ? letter : ' ')
  return `[${name}${more.length > 0 ? ` (${more.join(', ')})` : ''}${placeholder(field).mayLack ? `, or: ${fallback}` : ''}]`
}

const NAMES = PLACEHOLDER_FIELDS.filter(field => field !== 'own').map(field => ({ field, words: placeholder(field).words }))
const PLACEHOLDER = new RegExp([
  `(\\[(?:(?:${NAMES.map(({ words }) => words).join('|')})(?:, (?:plus|minus) \\d{1,3} days?)?(?: \\([^()\\[\\]]*\\))?`,
  `|[^()\\[\\]]*? \\(field \\d+(?:, [^()\\[\\]]*)?\\))(?:, or: [^\\]]*)?\\])`,
].join(''))

function split(text: string): Line {
  return text.split(PLACEHOLDER).filter(part => part !== '').map((part): Line[number] => {
    const attrs = readPlaceholder(part)
    return attrs ? { type: 'placeholder', attrs } : { type: 'text', text: part }
  })
}

function readPlaceholder(text: string): PlaceholderAttrs | null {
  const [, name, by, days, inside = '', or] =
    /^\[([^()]*?)(?:, (plus|minus) (\d+) days?)?(?: \(([^()]*)\))?(?:, or: ([^\]]*))?\]$/.exec(text) ?? []
  if (name === undefined) return null
  const fieldId = /^field (\d+)/.exec(inside)?.[1]
  const field = fieldId ? 'own' : NAMES.find(({ words }) => words === name)?.field
  if (!field || (or === undefined) === placeholder(field).mayLack) return null
  const as = (Object.keys(FORMS) as Form[]).find(form => inside.split(', ').includes(formWords(form)))
  return {
    field, fallback: or ?? '', ...fieldId && { fieldId: Number(fieldId), label: name }, ...as && { as },
    ...days && { days: Number(days) * (by === 'minus' ? -1 : 1) },
  }
}
