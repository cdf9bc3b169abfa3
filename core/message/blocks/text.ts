/** Paragraphs, headings, lists and quotes. */
import type { HeadingNode, ListItemNode, ListNode, ParagraphNode, QuoteNode, TextBlockNode } from '../content'
import type { Writer } from '../writer'
import { eitherWay, linksIn, wordsIn, type BlockKind, type UseLink } from './block'

export const paragraph: BlockKind<ParagraphNode> = {
  word: 'Text',
  hasWords: node => wordsIn(node.content),
  links: (node, use) => linksIn(node.content, use),
  html: (write, node) => ({ row: node.content?.length ? `<mj-text>${htmlOfText(write, node)}</mj-text>` : '' }),
  text: (write, node) => write.inlines(node.content),
}

const HEADING_SIZES = { 2: 22, 3: 18 } as const
/** Of all words in a letter. */
export const LETTER_SIZE = 15

export const heading: BlockKind<HeadingNode> = {
  word: 'Heading',
  hasWords: node => wordsIn(node.content),
  links: (node, use) => linksIn(node.content, use),
  html: (write, node) => ({
    row: `<mj-text font-size="${write.isLetter ? LETTER_SIZE : HEADING_SIZES[node.attrs.level]}px" line-height="1.3" font-weight="700">${htmlOfText(write, node)}</mj-text>`,
  }),
  text: (write, node) => underlined(write.inlines(node.content), node.attrs.level),
}

export const list: BlockKind<ListNode> = {
  word: 'List',
  hasWords: node => node.content.some(item => item.content.some(part => TEXTS[part.type].hasWords(part as never))),
  links: (node, use) => node.content.forEach(item => item.content.forEach(part => linksOfText(part, use))),
  html: (write, node) => ({ row: `<mj-text>${htmlOfText(write, node)}</mj-text>` }),
  text: (write, node) => textList(write, node, ''),
}

export const quote: BlockKind<QuoteNode> = {
  word: 'Quote',
  hasWords: node => node.content.some(part => TEXTS[part.type].hasWords(part as never)),
  links: (node, use) => node.content.forEach(part => linksOfText(part, use)),
  html: (write, node) => ({
    row: `<mj-text padding="0 24px 14px"><blockquote class="quote">${node.content.map(part => htmlOfText(write, part)).join('')}</blockquote></mj-text>`,
  }),
  text: (write, node) => node.content.map(part => write.withNotes(textOfText(write, part))).join('\n\n').split('\n')
    .map(line => `> ${line}`.trimEnd()).join('\n'),
}

const TEXTS = { paragraph, heading, bulletList: list, orderedList: list } as const

const linksOfText = (node: TextBlockNode, use: UseLink) => TEXTS[node.type].links!(node as never, use)

export const textOfText = (write: Writer, node: TextBlockNode): string => TEXTS[node.type].text(write, node as never)

const isList = (node: TextBlockNode): node is ListNode => node.type === 'bulletList' || node.type === 'orderedList'

/** The inside, for where several stand in one place. */
export function htmlOfText(write: Writer, node: TextBlockNode): string {
  if (isList(node)) return eitherWay(htmlList(write, node))
  const words = eitherWay(write.inlines(node.content), node.attrs?.align)
  return node.type === 'heading' ? `<h${node.attrs.level}>${words}</h${node.attrs.level}>` : words
}

/** As people underline a heading where there is no other way. Of what a person brings the length is not known: then by its words alone. */
function underlined(words: string, level: 2 | 3): string {
  const length = [...words.replace(/\uFDD0\d+\uFDD1/g, 'xxxxxx')].length
  return words.trim() === '' ? '' : `${words}\n${(level === 2 ? '=' : '-').repeat(Math.min(length, 60))}`
}

function htmlList(write: Writer, node: ListNode): string {
  const tag = node.type === 'bulletList' ? 'ul' : 'ol'
  const items = node.content.map(item => `<li>${item.content
    .map(part => part.type === 'paragraph' ? write.inlines(part.content) : htmlList(write, part)).join('<br>')}</li>`)
  return `<${tag} style="margin:0;padding-left:22px">${items.join('')}</${tag}>`
}

function textList(write: Writer, node: ListNode, indent: string): string {
  return node.content.map((item, index) => {
    const sign = node.type === 'bulletList' ? '-' : `${index + 1}.`
    return textItem(write, item, `${indent}${sign} `, `${indent}  `)
  }).join('\n')
}

function textItem(write: Writer, item: ListItemNode, lead: string, indent: string): string {
  return item.content.map((part, index) => part.type === 'paragraph'
    ? `${index === 0 ? lead : indent}${write.inlines(part.content)}`
    : textList(write, part, indent)).join('\n')
}
