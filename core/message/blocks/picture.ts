/** Pictures: alone, beside text, or as the still of a film. */
import { picturePath } from '#core/page/picture'
import { LOOK_WIDTHS } from '../look'
import type { BesideNode, BlockNode, PictureAttrs, PictureNode, VideoNode } from '../content'
import type { Writer } from '../writer'
import { eitherWay, type BlockKind, type UseLink } from './block'
import { button, sideOf } from './button'
import { heading, list, paragraph } from './text'

/** What stands left and right in an email free. */
const SIDE = 24
const inner = (write: Writer) => LOOK_WIDTHS[write.look.width] - 2 * SIDE

export const picture: BlockKind<PictureNode> = {
  word: 'Picture',
  hasWords: () => false,
  links: ({ attrs }, use) => linkOf(attrs, use),
  html: (write, { attrs }) => ({
    row: attrs.pictureId === null ? '' : mjImage(write, attrs, leadsTo(write, attrs),
      `width="${Math.round(inner(write) * attrs.size / 100)}px" align="${sideOf(attrs.align)}" padding="0 ${SIDE}px 14px"`),
  }),
  text: (write, { attrs }) => attrs.pictureId === null ? '' : inWords(write, attrs),
}

export const video: BlockKind<VideoNode> = {
  word: 'Video',
  hasWords: ({ attrs }) => attrs.label.trim() !== '',
  links: ({ attrs }, use) => use(attrs.url, attrs.label, {}),
  html(write, { attrs }) {
    // The still and the words below it are one link.
    const href = write.nextLink(attrs.url)
    const still = attrs.pictureId === null ? '' : mjImage(write, attrs, href, `width="${inner(write)}px" padding="0 ${SIDE}px 6px"`)
    const words = `<a href="${href}" class="link">&#9654;&#65038; ${write.literal(attrs.label)}</a>`
    return { row: `${still}\n<mj-text>${eitherWay(words)}</mj-text>` }
  },
  text: (write, { attrs }) => `${write.literal(attrs.label)}:\n${write.nextLink(attrs.url)}`,
}

const INSIDE = { paragraph, heading, bulletList: list, orderedList: list, button } as const
type Inside = BesideNode['content'][number]
const kindInside = (node: Inside) => INSIDE[node.type] as unknown as BlockKind<BlockNode>

export const beside: BlockKind<BesideNode> = {
  word: 'Picture and text',
  hasWords: node => node.content.some(part => kindInside(part).hasWords(part)),
  links(node, use) {
    linkOf(node.attrs, use)
    node.content.forEach(part => kindInside(part).links?.(part, use))
  },
  html(write, { attrs, content }) {
    const shown = attrs.pictureId === null ? '' : mjImage(write, attrs, leadsTo(write, attrs),
      `width="${Math.round(inner(write) * 0.4)}px" padding="0 ${SIDE}px 14px"`)
    const rows = content.map(part => (kindInside(part).html(write, part) as { row: string }).row)
    // The picture comes first on a narrow screen, whichever side it has on a wide one.
    return { section: `<mj-section padding="0" direction="${attrs.side === 'end' ? 'rtl' : 'ltr'}">
<mj-column width="42%">${shown}</mj-column>
<mj-column width="58%">${rows.join('\n')}</mj-column>
</mj-section>` }
  },
  text: (write, { attrs, content }) => [
    attrs.pictureId === null ? '' : inWords(write, attrs), ...content.map(part => write.withNotes(kindInside(part).text(write, part))),
  ].filter(words => words !== '').join('\n\n'),
}

function linkOf({ pictureId, url, alt }: PictureAttrs, use: UseLink): void {
  if (pictureId !== null && url !== '') use(url, alt, {})
}

const leadsTo = (write: Writer, { url }: PictureAttrs): string => url === '' ? '' : write.nextLink(url)

function mjImage(write: Writer, { pictureId, alt, isPlain }: PictureAttrs, href: string, more: string): string {
  const src = `${write.ready('base_url')}${picturePath(pictureId!, 'mail')}`
  const link = href === '' ? '' : ` href="${href}"`
  return `<mj-image src="${src}" alt="${isPlain ? '' : write.literal(alt)}"${link} border-radius="${write.look.corners === 'square' ? 0 : 4}px" ${more} />`
}

/** A reader of the text part knows that a picture is there, and where it leads. */
function inWords(write: Writer, attrs: PictureAttrs): string {
  const says = attrs.isPlain || attrs.alt.trim() === '' ? '' : `[${write.literal(attrs.alt)}]`
  return [says, leadsTo(write, attrs)].filter(words => words !== '').join('\n')
}
