/** What a check of an email is asked and says, and what all of them need to look at one. */
import type { Instant, ZoneName } from '../../time/zone'
import { isHidden, shownBlocks } from '../blocks'
import type { Article, BlockNode, MessageContent, ShownOffer } from '../content'

/** Where to look: one of the lines, or the block with that id. */
export type Spot = 'subject' | 'preview' | { blockId: string }

export interface Finding {
  /** `wrong`: it should not leave so. `look`: it may be meant. */
  weight: 'wrong' | 'look'
  says: string
  /** What to do about it. */
  todo: string
  at: Spot | null
  /** The same in a few words, for beside the block. */
  note?: string
}

export interface Asked {
  now: Instant
  zone: ZoneName
  /** It has a button that leads to what it is for. */
  own: boolean
  /** Pixels of a line as a phone draws it. */
  widthOf(text: string): number
  /** Flesch's reading ease of a text in English; null where it has too few words. */
  easeOf(text: string): number | null
  /** What pictures weigh as they are fetched, in bytes, by their number. */
  pictureBytes: ReadonlyMap<number, number>
  /** Codes that its words name and that end at some time. */
  coupons: readonly { code: string, offer: string, untilAt: Instant, closesAt: Instant | null }[]
  /** It goes to whoever comes, today or in a year. */
  isLasting: boolean
  /** Addresses that do not answer, and why, after “it”. */
  deadLinks: ReadonlyMap<string, string>
  /** Of the finished HTML part; null while it is not known. */
  bytes: number | null
  hasPostalAddress: boolean
  /** Who it is from, and why receivers may refuse it for that; null while it is not known. */
  from: { address: string, troubles: readonly { says: string, todo: string }[] } | null
  /** What is sold in it, null for what cannot be bought; null while that is not known. */
  offers: readonly { blockId: string | null, offer: ShownOffer | null }[] | null
  /** Of each choice how many get which case, and how many none; null while it is not known. */
  choices: readonly { key: string, cases: readonly { says: string, people: number }[], none: number }[] | null
}

export interface Check {
  /** What is in order when it finds nothing. */
  name: string
  /** Whether an email of this sort is asked for it at all. */
  isFor?(asked: Asked): boolean
  /** How much of it was looked at, in few words. */
  detail?(content: MessageContent, asked: Asked): string
  find(content: MessageContent, asked: Asked): Finding[]
}

/** A phone shows about so much of a subject. Common practice, no source. */
export const PHONE_SUBJECT_PX = 290
/** Some mail programs cut an email that is larger than this. Common practice, no source. */
export const MOST_BYTES = 102 * 1024

export const spotOf = (node: BlockNode): Spot | null => {
  const id = (node.attrs as { id?: string | null } | undefined)?.id
  return id ? { blockId: id } : null
}
export const wrong = (says: string, todo: string, at: Spot | null = null, note?: string): Finding =>
  ({ weight: 'wrong', says, todo, at, ...note && { note } })
export const look = (says: string, todo: string, at: Spot | null = null): Finding => ({ weight: 'look', says, todo, at })

/** What is read of a body, each with where to look for it: what stands in a case, at the block of its choice. */
export const placed = (body: MessageContent['body']): { node: BlockNode, at: Spot | null }[] => shownBlocks(body).flatMap(node =>
  node.type === 'onlyFor'
    ? node.content.flatMap(one => one.content.filter(inner => !isHidden(inner)).map(inner => ({ node: inner, at: spotOf(node) })))
    : [{ node, at: spotOf(node) }])

/** The words of a block, those of its buttons included. */
export function wordsOf(value: unknown): string {
  if (Array.isArray(value)) return value.map(wordsOf).join('')
  if (typeof value !== 'object' || value === null) return ''
  const node = value as {
    type?: string, text?: string, content?: unknown[], attrs?: { label?: string, fallback?: string, articles?: Article[] },
  }
  if (node.type === 'text') return node.text ?? ''
  if (node.type === 'placeholder') return node.attrs?.fallback ?? ''
  const own = [node.attrs?.label, ...node.attrs?.articles?.flatMap(({ title, text }) => [title, text]) ?? []]
    .map(words => words ? `${words}. ` : '').join('')
  return `${own}${wordsOf(node.content ?? [])}${node.type === 'paragraph' || node.type === 'heading' ? '\n' : ''}`
}
