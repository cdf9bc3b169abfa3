/** Articles one below another: each with a picture, its title, a few words, and where it goes on. */
import { picturePath } from '#core/page/picture'
import type { Article, ArticlesNode } from '../content'
import type { Writer } from '../writer'
import type { BlockKind } from './block'

export const MOST_ARTICLES = 8

/** In pixels; beside it there is room for words on the narrowest phone, too. */
const PICTURE = 96

export const articles: BlockKind<ArticlesNode> = {
  word: 'Articles',
  hasWords: ({ attrs }) => attrs.articles.some(({ title }) => title.trim() !== ''),
  links: ({ attrs }, use) => attrs.articles.forEach(({ url, title }) => use(url, title, {})),
  html: (write, { attrs }) => ({ row: attrs.articles.map(article => rowOf(write, article, attrs.label)).join('\n') }),
  text: (write, { attrs }) => attrs.articles.map(({ title, text, url }) =>
    [write.literal(title), ...text.trim() === '' ? [] : [write.literal(text)], write.nextLink(url)].join('\n')).join('\n\n'),
}

/** The picture, the title and the words that lead on are one link. */
function rowOf(write: Writer, { title, text, url, pictureId, alt }: Article, label: string): string {
  const href = write.nextLink(url)
  const shown = pictureId === null ? '' : `<td width="${PICTURE + 16}" valign="top" style="padding-right:16px"><a href="${href}"><img src="${write.ready('base_url')}${picturePath(pictureId, 'mail')}" width="${PICTURE}" alt="${write.literal(alt.trim() || title)}" style="display:block;border:0;width:${PICTURE}px;height:auto;border-radius:${write.look.corners === 'square' ? 0 : 4}px"></a></td>`
  const more = label.trim() === '' ? '' : `<br><a href="${href}" class="link">${write.literal(label)}</a>`
  const says = text.trim() === '' ? '' : `<br>${write.literal(text)}`
  return `<mj-text><table role="presentation" width="100%" cellpadding="0" cellspacing="0" border="0"><tr>${shown}<td valign="top"><div dir="auto" style="text-align:start"><a href="${href}" class="link" style="text-decoration:none"><strong>${write.literal(title)}</strong></a>${says}${more}</div></td></tr></table></mj-text>`
}
