/** An Atom feed (RFC 4287) of emails that are shared; `feed` writes it, with the escaping and the dates that readers of feeds expect. */
import { Feed } from 'feed'
import type { SharedLetter } from '#core/broadcast/archive'

export interface FeedOf {
  title: string
  /** Whole addresses: of the page, of the feed itself, and of each of them. */
  url: string
  feedUrl: string
  to: (letter: SharedLetter) => string
  author: string
  letters: readonly SharedLetter[]
  /** When nothing is in it. */
  madeAt: number
}

export function atomOf({ title, url, feedUrl, to, author, letters, madeAt }: FeedOf): string {
  const feed = new Feed({
    id: url, link: url, title, copyright: '', author: { name: author }, feedLinks: { atom: feedUrl }, generator: 'Keen Porch',
    updated: new Date(letters[0]?.at ?? madeAt),
  })
  for (const letter of letters) feed.addItem({
    id: to(letter), link: to(letter), title: letter.title, description: letter.preview, date: new Date(letter.at),
    published: new Date(letter.at),
  })
  return feed.atom1()
}
