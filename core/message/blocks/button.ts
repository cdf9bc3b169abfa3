/** Buttons: a tracked link, or the way to what the email is for. */
import type { AlignAttrs, ButtonNode, OwnButtonNode } from '../content'
import type { Writer } from '../writer'
import { eitherWay, type BlockKind } from './block'

const SIDES = { center: 'center', end: 'right' } as const
export const sideOf = (align: AlignAttrs['align']): string => align ? SIDES[align] : 'left'

export const button: BlockKind<ButtonNode> = {
  word: 'Button',
  hasWords: node => node.attrs.label.trim() !== '',
  links: ({ attrs }, use) => use(attrs.url, attrs.label, { tagId: attrs.tagId, linkId: attrs.linkId ?? null, asks: attrs.asks ?? false }),
  html: (write, { attrs }) => ({ row: mjButton(write, attrs.label, write.nextLink(attrs.url), attrs.align) }),
  text: (write, { attrs }) => `${write.literal(attrs.label)}:\n${write.nextLink(attrs.url)}`,
}

export const ownButton: BlockKind<OwnButtonNode> = {
  word: 'Button',
  hasWords: node => node.attrs.label.trim() !== '',
  html: (write, { attrs }) => ({ row: mjButton(write, attrs.label, write.ready('own_url'), attrs.align) }),
  text: (write, { attrs }) => `${write.literal(attrs.label)}:\n${write.ready('own_url')}`,
}

export function mjButton(write: Writer, label: string, href: string, align: AlignAttrs['align']): string {
  if (write.isLetter) return `<mj-text>${eitherWay(`<a href="${href}" class="link">${write.literal(label)}</a>`, align)}</mj-text>`
  return `<mj-button css-class="door" href="${href}" align="${sideOf(align)}" color="${write.paint.onAccent}">${write.literal(label)}</mj-button>`
}
