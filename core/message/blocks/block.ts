/** What an email is made of, block by block: each kind says in a file of its own what it is and how it is written. */
import type { BlockAttrs, BlockNode, InlineNode, PartNode, TrackedUse } from '../content'
import { linkMark } from '../content'
import type { Writer } from '../writer'

/** Called for each link, in the order in which {@link Writer.nextLink} is called by both parts. */
export type UseLink = (url: string, label: string, more: Partial<Pick<TrackedUse, 'tagId' | 'linkId' | 'asks' | 'answers'>>) => void

/** Of MJML: something among other rows of one column, or something as wide as the email. */
export type Written = { row: string } | { section: string }

export interface BlockKind<Node extends BlockNode> {
  /** What it is called beside the email. */
  word: string
  /** Whether there is something in it to read. */
  hasWords(node: Node): boolean
  links?(node: Node, use: UseLink): unknown
  html(write: Writer, node: Node): Written
  /** Empty where the text part has nothing of it. */
  text(write: Writer, node: Node): string
  /** Its text brings the empty line that otherwise stands behind a block. */
  endsItself?: true
}

/** A part stands for its blocks, which have taken its place before anything is made of an email. */
export const part: BlockKind<PartNode> = { word: 'Part', hasWords: () => true, html: () => ({ row: '' }), text: () => '' }

export const isHidden = (node: BlockNode): boolean => (node.attrs as BlockAttrs | undefined)?.hidden === true

export const wordsIn = (nodes: readonly InlineNode[] = []): boolean =>
  nodes.some(node => node.type === 'placeholder' || (node.type === 'text' && node.text.trim() !== ''))

export function linksIn(nodes: readonly InlineNode[] = [], use: UseLink): void {
  for (const node of nodes) {
    const link = node.type === 'text' ? linkMark(node) : undefined
    if (node.type === 'text' && link) use(link.attrs.href, node.text, { linkId: link.attrs.linkId ?? null })
  }
}

/** Words that run from right to left begin at the right. */
export const eitherWay = (words: string, align?: string | null): string =>
  `<div dir="auto" style="text-align:${align ?? 'start'}">${words}</div>`
