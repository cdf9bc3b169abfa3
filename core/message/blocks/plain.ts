/** What parts an email, and what its writer brings ready-made. */
import type { DividerNode, HtmlNode, SocialNode, SpaceNode } from '../content'
import { typed } from '../template'
import { eitherWay, type BlockKind } from './block'

export const divider: BlockKind<DividerNode> = {
  word: 'Line',
  hasWords: () => false,
  html: write => ({ row: `<mj-divider border-width="1px" border-color="${write.paint.line}" padding="8px 24px 20px" css-class="line" />` }),
  text: () => '* * *',
}

export const space: BlockKind<SpaceNode> = {
  word: 'Space',
  hasWords: () => false,
  html: (_, { attrs }) => ({ row: `<mj-spacer height="${attrs.height}px" />` }),
  text: () => '',
}

export const social: BlockKind<SocialNode> = {
  word: 'Elsewhere',
  hasWords: ({ attrs }) => attrs.links.some(({ label }) => label.trim() !== ''),
  links: ({ attrs }, use) => attrs.links.forEach(({ label, url }) => use(url, label, {})),
  html: (write, { attrs }) => ({
    row: `<mj-text>${eitherWay(attrs.links.map(({ label, url }) =>
      `<a href="${write.nextLink(url)}" class="link">${write.literal(label)}</a>`).join(' &middot; '), attrs.align)}</mj-text>`,
  }),
  text: (write, { attrs }) => attrs.links.map(({ label, url }) => `${write.literal(label)}: ${write.nextLink(url)}`).join('\n'),
}

export const html: BlockKind<HtmlNode> = {
  word: 'HTML',
  hasWords: ({ attrs }) => attrs.source.replace(/<[^>]*>/g, '').trim() !== '',
  html: (write, { attrs }) => ({ row: `<mj-text>${typed(write.foreign.clean(attrs.source))}</mj-text>` }),
  text: (write, { attrs }) => typed(write.foreign.words(attrs.source)),
}
