/** The blocks that can be put into an email: what each is called, what it is for, and what a new one holds. One entry a block. */
import type { BlockNode } from '#core/message/content'
import { freshCase } from './onlyFor'

export interface NewBlock {
  name: string
  /** A few words on when one wants it. */
  hint: string
  icon: string
  /** What else one might type to find it. */
  also?: string
  fresh(): BlockNode
  /** Only where an email leads to what it is for. */
  forOwn?: true
}

const paragraph = (): BlockNode => ({ type: 'paragraph' })
const picture = { pictureId: null, alt: '', url: '' } as const

export const NEW_BLOCKS: readonly NewBlock[] = [
  { name: 'Text', hint: 'write on', icon: 'pi pi-align-left', also: 'paragraph', fresh: paragraph },
  {
    name: 'Heading', hint: 'begins a part', icon: 'pi pi-bookmark', also: 'title',
    fresh: () => ({ type: 'heading', attrs: { level: 2 } }),
  },
  {
    name: 'Small heading', hint: 'within a part', icon: 'pi pi-bookmark', also: 'title',
    fresh: () => ({ type: 'heading', attrs: { level: 3 } }),
  },
  {
    name: 'List of points', hint: 'short things side by side', icon: 'pi pi-list', also: 'bullets',
    fresh: () => ({ type: 'bulletList', content: [{ type: 'listItem', content: [{ type: 'paragraph' }] }] }),
  },
  {
    name: 'Numbered list', hint: 'one step after another', icon: 'pi pi-sort-numeric-down', also: 'steps',
    fresh: () => ({ type: 'orderedList', content: [{ type: 'listItem', content: [{ type: 'paragraph' }] }] }),
  },
  {
    name: 'Quote', hint: 'somebody else’s words', icon: 'pi pi-comment',
    fresh: () => ({ type: 'blockquote', content: [{ type: 'paragraph' }] }),
  },
  {
    name: 'Button', hint: 'the one thing to do', icon: 'pi pi-stop', also: 'link call to action',
    fresh: () => ({ type: 'button', attrs: { label: 'Button text', url: 'https://', tagId: null, linkId: null, asks: false } }),
  },
  {
    name: 'This email’s button', hint: 'leads to what the email is for', icon: 'pi pi-stop', forOwn: true,
    fresh: () => ({ type: 'ownButton', attrs: { label: 'Button text' } }),
  },
  {
    name: 'Picture', hint: 'as wide as you like', icon: 'pi pi-image', also: 'image photo',
    fresh: () => ({ type: 'picture', attrs: { ...picture, size: 100 } }),
  },
  {
    name: 'Picture and text', hint: 'side by side; above one another on a phone', icon: 'pi pi-id-card', also: 'image columns',
    fresh: () => ({ type: 'beside', attrs: { ...picture, side: 'start' }, content: [{ type: 'paragraph' }] }),
  },
  {
    name: 'Video', hint: 'a still picture that leads to it', icon: 'pi pi-video', also: 'film movie',
    fresh: () => ({ type: 'video', attrs: { ...picture, url: 'https://', label: 'Watch the film' } }),
  },
  { name: 'Line', hint: 'parts what belongs apart', icon: 'pi pi-minus', also: 'divider rule', fresh: () => ({ type: 'divider' }) },
  { name: 'Space', hint: 'some air', icon: 'pi pi-arrows-v', also: 'spacer gap', fresh: () => ({ type: 'space', attrs: { height: 32 } }) },
  {
    name: 'Elsewhere', hint: 'where else you can be found', icon: 'pi pi-share-alt', also: 'social links profiles',
    fresh: () => ({ type: 'social', attrs: { links: [{ label: 'My website', url: 'https://' }] } }),
  },
  {
    name: 'Articles', hint: 'titles with a picture, one below another', icon: 'pi pi-th-large', also: 'list posts news blog digest',
    fresh: () => ({ type: 'articles', attrs: {
      articles: [{ title: '', text: '', url: 'https://', pictureId: null, alt: '' }], label: 'Read on',
    } }),
  },
  {
    name: 'File', hint: 'to fetch, by an address of the reader’s own', icon: 'pi pi-download', also: 'download pdf attachment',
    fresh: () => ({ type: 'file', attrs: { fileId: null, fileName: '', bytes: 0, label: '' } }),
  },
  {
    name: 'Offer', hint: 'its price, coupon and closing time', icon: 'pi pi-shopping-bag', also: 'sell price coupon buy',
    fresh: () => ({ type: 'offer', attrs: { offerId: null, code: '', label: 'See it' } }),
  },
  {
    name: 'Countdown', hint: 'how long something still is', icon: 'pi pi-clock', also: 'deadline closes time left',
    fresh: () => ({ type: 'countdown', attrs: { offerId: null, until: null, before: 'Closes in', after: 'It has closed.' } }),
  },
  {
    name: 'Choice', hint: 'a question that one click answers', icon: 'pi pi-check-square', also: 'answers poll interest survey',
    fresh: () => ({ type: 'choice', attrs: {
      choices: [{ label: 'The first', hint: '', tagId: null }, { label: 'The second', hint: '', tagId: null }], says: '', onlyOne: true,
    } }),
  },
  {
    name: 'Only for some', hint: 'one version for these, another for those', icon: 'pi pi-users', also: 'condition versions personal',
    fresh: () => ({ type: 'onlyFor', content: [freshCase(), freshCase(null)] }),
  },
  {
    name: 'HTML', hint: 'your own, cleaned before it is sent', icon: 'pi pi-code', also: 'raw code',
    fresh: () => ({ type: 'html', attrs: { source: '' } }),
  },
]

/** Those that go into an email, found by what is typed. */
export function findBlocks(typed: string, own: boolean): NewBlock[] {
  const wanted = typed.trim().toLowerCase()
  return NEW_BLOCKS.filter(({ forOwn }) => !forOwn || own)
    .filter(({ name, also = '' }) => `${name} ${also}`.toLowerCase().split(' ').some(word => word.startsWith(wanted)))
}
