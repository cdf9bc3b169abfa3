/**
 * Emails as Markdown (CommonMark 0.31, read by markdown-it) and back. What
 * Markdown has no sign for is written so that a reader of the file understands
 * it: a placeholder as `[first name, or: friend]`, a button as a link that
 * stands alone in its paragraph and says so in its title.
 */
import { dequal } from 'dequal'
import MarkdownIt from 'markdown-it'
import type Token from 'markdown-it/lib/token.mjs'
import {
  PLACEHOLDER_FIELDS, sayPlaceholder, type BlockNode, type InlineNode, type Line, type ListItemNode, type ListNode, type Mark,
  type PlaceholderField, type RichText,
} from '#core/message/content'

const BUTTON = 'button'
/** Of a button that gives a tag, and of one that counts only after a second press. */
const TAG = /^button(?:, gives tag (\d+))?(, asks again)?$/

export function toMarkdown(body: RichText): string {
  return body.content.map(block => writeBlock(block, '')).filter(text => text !== '').join('\n\n') + '\n'
}

/** A subject or a preview, with its placeholders in words. */
export const lineToText = (line: Line): string => line.map(node => node.type === 'text' ? node.text : sayPlaceholder(node)).join('')

function writeBlock(block: BlockNode, indent: string): string {
  switch (block.type) {
    case 'paragraph': return writeInline(block.content ?? [])
    case 'heading': return `${'#'.repeat(block.attrs.level)} ${writeInline(block.content ?? [])}`
    case 'button': {
      const { label, url, tagId, asks } = block.attrs
      return `[${escape(label)}](<${url.replace(/[<>]/g, encodeURIComponent)}> "${BUTTON}${tagId === null ? '' : `, gives tag ${tagId}`}${asks ? ', asks again' : ''}")`
    }
    case 'ownButton': return `[${escape(block.attrs.label)}](# "${BUTTON} of its own")`
    case 'bulletList':
    case 'orderedList': return block.content.map((item, n) => writeItem(item, block.type === 'bulletList' ? '- ' : `${n + 1}. `, indent))
      .join('\n')
  }
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
    if (node.type === 'placeholder') return sayPlaceholder(node)
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
  'image', 'html_block', 'html_inline', 'code', 'fence', 'hr', 'blockquote',
])

/** What an email cannot hold (pictures, code, quotes) becomes plain words. */
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

const FIELDS = Object.entries(PLACEHOLDER_FIELDS) as [PlaceholderField, string][]
const PLACEHOLDER = new RegExp(`(\\[(?:${FIELDS.map(([, words]) => words).join('|')}), or: [^\\]]*\\])`)

function split(text: string): Line {
  return text.split(PLACEHOLDER).filter(part => part !== '').map((part): Line[number] => {
    const [, words, fallback] = /^\[(.+?), or: ([^\]]*)\]$/.exec(part) ?? []
    const field = FIELDS.find(([, name]) => name === words)?.[0]
    return field ? { type: 'placeholder', attrs: { field, fallback: fallback! } } : { type: 'text', text: part }
  })
}
