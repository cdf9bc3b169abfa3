/**
 * What stands in an email by its number is put in its place before anything is made of it: parts that are written once, offers with their
 * price of now.
 */
import type { BlockNode, MessageContent, PlainBlockNode, RichText, ShownOffer } from './content'
import { mapBlocks } from './content'
import { isHidden } from './blocks/block'

/** Where it is looked up; nothing for what is gone, and for an offer that cannot be bought. */
export interface Sources {
  partOf(partId: number): RichText | undefined
  offerOf(offerId: number, code: string): ShownOffer | undefined
}

const withOffer = ({ offerOf }: Sources) => (block: PlainBlockNode): PlainBlockNode => {
  if (block.type === 'offer') {
    const { offerId, code } = block.attrs
    return { ...block, attrs: { ...block.attrs, shown: offerId === null ? null : offerOf(offerId, code) ?? null } }
  }
  if (block.type === 'countdown' && block.attrs.offerId !== null) {
    return { ...block, attrs: { ...block.attrs, until: offerOf(block.attrs.offerId, '')?.closesAt ?? null } }
  }
  return block
}

/** The email as it is made. */
export function complete<Content extends Pick<MessageContent, 'body'>>(content: Content, sources: Sources): Content {
  const blocks = content.body.content.flatMap((block): BlockNode[] => block.type !== 'part'
    ? [block]
    : isHidden(block) ? [] : sources.partOf(block.attrs.partId)?.content ?? [])
  return { ...content, body: mapBlocks({ ...content.body, content: blocks }, withOffer(sources)) }
}

/** Whether anything in it is looked up. */
export function isLookedUp({ content }: RichText): boolean {
  const is = ({ type }: { type: string }) => type === 'part' || type === 'offer' || type === 'countdown'
  return content.some(block => block.type === 'onlyFor' ? block.content.some(one => one.content.some(is)) : is(block))
}

/** Any definition with the blocks of each part in its place, wherever emails stand in it: for where the parts are not. */
export function inlineParts<Value>(value: Value, partOf: Sources['partOf']): Value {
  if (Array.isArray(value)) {
    return value.flatMap((one: unknown): unknown[] => {
      const { type, attrs } = (one ?? {}) as { type?: unknown, attrs?: { partId?: unknown } }
      return type === 'part' && typeof attrs?.partId === 'number' ? partOf(attrs.partId)?.content ?? [] : [inlineParts(one, partOf)]
    }) as Value
  }
  if (typeof value !== 'object' || value === null) return value
  return Object.fromEntries(Object.entries(value).map(([key, inner]) => [key, inlineParts<unknown>(inner, partOf)])) as Value
}
