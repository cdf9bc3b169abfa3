/**
 * What the writer of an email makes: a subject, a preview text and a body of
 * blocks. The shapes are those of the editor (ProseMirror JSON), narrowed to
 * what an email may hold.
 */
import { isTracked } from './webAddress'

/** The facts of a person that can stand in an email. */
export const PLACEHOLDER_FIELDS = { first_name: 'first name' } as const
export type PlaceholderField = keyof typeof PLACEHOLDER_FIELDS

export interface PlaceholderNode { type: 'placeholder', attrs: { field: PlaceholderField, fallback: string } }
/** `linkId`: which link of the library it is; without one, that of its address. */
export type Mark = { type: 'bold' } | { type: 'italic' } | { type: 'link', attrs: { href: string, linkId?: number | null } }
export interface TextNode { type: 'text', text: string, marks?: Mark[] }
export type InlineNode = TextNode | PlaceholderNode | { type: 'hardBreak' }
export interface ParagraphNode { type: 'paragraph', content?: InlineNode[] }
export interface HeadingNode { type: 'heading', attrs: { level: 2 | 3 }, content?: InlineNode[] }
export interface ListItemNode { type: 'listItem', content: (ParagraphNode | ListNode)[] }
export interface ListNode { type: 'bulletList' | 'orderedList', content: ListItemNode[] }
/** A button is a tracked link; following this one use of it may give a tag, and count only after a second click. */
export interface ButtonNode {
  type: 'button', attrs: { label: string, url: string, tagId: number | null, linkId?: number | null, asks?: boolean },
}
/**
 * A button of an email that we send by ourselves: it leads to what the email is for. Pressing it tells by itself; it is no tracked link.
 */
export interface OwnButtonNode { type: 'ownButton', attrs: { label: string } }
export type BlockNode = ParagraphNode | HeadingNode | ListNode | ButtonNode | OwnButtonNode

export interface RichText<Block = BlockNode> { type: 'doc', content: Block[] }
/** One line of text with placeholders: a subject or a preview text. */
export type Line = (TextNode | PlaceholderNode)[]

export interface MessageContent {
  /** What the writer calls it; readers never see it. */
  workingTitle: string
  subject: Line
  preview: Line
  body: RichText
  /** It goes also to who has what it sells, or wants to hear no more of it: it does not sell to them. */
  sellsNothing?: true
}

export const emptyMessage = (): MessageContent => ({
  workingTitle: '', subject: [], preview: [], body: { type: 'doc', content: [{ type: 'paragraph' }] },
})

/** What an email is called here: its working title, else its subject; empty while it has neither. */
export const nameOfMessage = ({ workingTitle, subject }: Pick<MessageContent, 'workingTitle' | 'subject'>): string =>
  workingTitle.trim() || plainLine(subject).trim()

/** An email can leave once it has a subject and something to read. */
export function isWritten(content: MessageContent): boolean {
  return plainLine(content.subject).trim() !== '' && content.body.content.some(hasWords)
}

function hasWords(block: BlockNode): boolean {
  switch (block.type) {
    case 'button':
    case 'ownButton':
      return block.attrs.label.trim() !== ''
    case 'bulletList':
    case 'orderedList':
      return block.content.some(item => item.content.some(hasWords))
    default:
      return (block.content ?? []).some(node => node.type === 'placeholder' || (node.type === 'text' && node.text.trim() !== ''))
  }
}

/** A line as people read it in lists and exports: `Hello [first name, or: friend]`. */
export function plainLine(line: Line): string {
  return line.map(node => node.type === 'text' ? node.text : sayPlaceholder(node)).join('')
}

export function sayPlaceholder(node: PlaceholderNode): string {
  return `[${PLACEHOLDER_FIELDS[node.attrs.field]}, or: ${node.attrs.fallback}]`
}

export interface TrackedUse { n: number, url: string, label: string, tagId: number | null, linkId: number | null, asks: boolean }

/** Every web address a reader can follow from this body, in reading order; `n` counts from 0. */
export function linksOf(body: RichText): TrackedUse[] {
  const uses: TrackedUse[] = []
  visitLinks(body, (url, label, { tagId = null, linkId = null, asks = false }) => {
    if (isTracked(url)) uses.push({ n: uses.length, url, label, tagId, linkId, asks })
  })
  return uses
}

/** Calls `use` for each link in reading order: the one walk that both numbering and compiling follow. */
export function visitLinks(
  body: RichText, use: (url: string, label: string, more: Partial<Pick<TrackedUse, 'tagId' | 'linkId' | 'asks'>>) => void,
): void {
  const inline = (nodes: InlineNode[] = []) => {
    for (const node of nodes) {
      const link = node.type === 'text' ? linkMark(node) : undefined
      if (node.type === 'text' && link) use(link.attrs.href, node.text, { linkId: link.attrs.linkId ?? null })
    }
  }
  const block = (node: BlockNode | ListItemNode): void => {
    if (node.type === 'button') use(node.attrs.url, node.attrs.label, {
      tagId: node.attrs.tagId, linkId: node.attrs.linkId ?? null, asks: node.attrs.asks ?? false,
    })
    else if (node.type === 'paragraph' || node.type === 'heading') inline(node.content)
    else if (node.type !== 'ownButton') node.content.forEach(block)
  }
  body.content.forEach(block)
}

export function linkMark(node: TextNode): Extract<Mark, { type: 'link' }> | undefined {
  return node.marks?.find((mark): mark is Extract<Mark, { type: 'link' }> => mark.type === 'link')
}

/** Whether an email leads to what it is for: without its own button nobody could confirm, or fetch the file. */
export const hasOwnButton = (content: MessageContent): boolean =>
  content.body.content.some(block => block.type === 'ownButton' && block.attrs.label.trim() !== '')
