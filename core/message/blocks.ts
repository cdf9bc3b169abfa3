/** All blocks of emails. A new one is a file, a shape in ./content, and a line here; docs/adding-a-block.md says what else it brings. */
import type { Condition } from '../audience/condition'
import type { BlockNode, MessageContent, RichText, TrackedUse } from './content'
import { plainLine } from './content'
import { isTracked } from './webAddress'
import { isHidden, part, type BlockKind, type UseLink } from './blocks/block'
import { button, ownButton } from './blocks/button'
import { beside, picture, video } from './blocks/picture'
import { makeOnlyFor } from './blocks/onlyFor'
import { choice } from './blocks/choice'
import { articles } from './blocks/articles'
import { file } from './blocks/file'
import { divider, html, social, space } from './blocks/plain'
import { countdown, offer } from './blocks/selling'
import { heading, list, paragraph, quote } from './blocks/text'

export { isHidden }

export const BLOCKS: { [Type in BlockNode['type']]: BlockKind<Extract<BlockNode, { type: Type }>> } = {
  paragraph, heading, bulletList: list as never, orderedList: list as never, blockquote: quote, button, ownButton, picture, beside, video,
  divider, space, social, articles, choice, offer, countdown, file, html, onlyFor: makeOnlyFor(node => blockKind(node)), part,
}

export const blockKind = (node: BlockNode): BlockKind<BlockNode> => BLOCKS[node.type] as unknown as BlockKind<BlockNode>

/** What is sent of a body. */
export const shownBlocks = (body: RichText): BlockNode[] => body.content.filter(node => !isHidden(node))

/** With all that stands in cases, whoever gets it; the cases themselves are not among them. */
export const allBlocks = (body: RichText): BlockNode[] => shownBlocks(body).flatMap(node => node.type === 'onlyFor'
  ? node.content.flatMap(one => one.content.filter(inner => !isHidden(inner)))
  : [node])

/** A place where readers differ: for each case whom it is for, null for everybody. */
export interface Choice { key: string, blockId: string | null, who: (Condition | null)[] }

/** All choices of an email, by the keys that its templates know them by. */
export function choicesOf({ subjectFor, body }: Pick<MessageContent, 'subjectFor' | 'body'>): Choice[] {
  const blocks = shownBlocks(body).filter(node => node.type === 'onlyFor')
    .map((node, n): Choice => ({ key: String(n), blockId: node.attrs?.id ?? null, who: node.content.map(({ attrs }) => attrs.who) }))
  return subjectFor?.length ? [{ key: 'subject', blockId: null, who: [...subjectFor.map(({ who }) => who), null] }, ...blocks] : blocks
}

/** The first case that fits; -1 for none. */
export const caseFor = (who: Choice['who'], fits: (who: Condition) => boolean): number => who.findIndex(one => one === null || fits(one))

/** An email can leave once it has a subject and something to read. */
export function isWritten(content: MessageContent): boolean {
  return plainLine(content.subject).trim() !== '' && shownBlocks(content.body).some(node => blockKind(node).hasWords(node))
}

/** What an email asks its reader to do: in the writer's words, else what its buttons say. */
export function asksOf({ callToAction, body }: MessageContent): string[] {
  const said = callToAction?.trim()
  if (said) return [said]
  return allBlocks(body).flatMap((node) => {
    if (node.type === 'choice') return ['Choose one']
    return node.type === 'button' && node.attrs.label.trim() !== '' ? [node.attrs.label] : []
  })
}

/** Every web address a reader can follow from this body, in reading order; `n` counts from 0. */
export function linksOf(body: RichText): TrackedUse[] {
  const uses: TrackedUse[] = []
  visitLinks(body, (url, label, { tagId = null, linkId = null, asks = false, answers = null }) => {
    if (isTracked(url)) uses.push({ n: uses.length, url, label, tagId, linkId, asks, answers })
  })
  return uses
}

/** Calls `use` for each link in reading order: the one walk that both numbering and compiling follow. */
export function visitLinks(body: RichText, use: UseLink): void {
  for (const node of shownBlocks(body)) blockKind(node).links?.(node, use)
}
