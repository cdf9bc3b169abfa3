/** The blocks of an email as the editor knows them. What can be done with them stands in ./kinds. */
import { mergeAttributes, Node, type NodeConfig } from '@tiptap/core'
import type { ArticlesNode, ChoiceNode, FileNode, PictureAttrs, SocialNode, SpaceNode, VideoNode } from '#core/message/content'
import { sayBytes } from '#core/stats/say'

/** Where the pictures of this workspace are. */
export type PictureSrc = (pictureId: number) => string

/** A block that is chosen as a whole. */
const atom = (name: string, more: Partial<NodeConfig>) => Node.create({
  name, group: 'block', atom: true, draggable: true, parseHTML: () => [{ tag: `div[data-block="${name}"]` }], ...more,
})
const attributes = (defaults: Record<string, unknown>) => () => Object.fromEntries(
  Object.entries(defaults).map(([key, value]) => [key, { default: value, rendered: false }]),
)
const PICTURE = { pictureId: null, alt: '', isPlain: false, url: '' }

type Drawing = ['img' | 'span' | 'div' | 'a', Record<string, string>, ...unknown[]]
const still = ({ pictureId, alt }: PictureAttrs, src: PictureSrc): Drawing => pictureId === null
  ? ['span', { class: 'no-picture' }, 'No picture yet']
  : ['img', { src: src(pictureId), alt, draggable: 'false' }]

export const emailNodes = (src: PictureSrc) => [
  atom('picture', {
    addAttributes: attributes({ ...PICTURE, size: 100 }),
    renderHTML: ({ node, HTMLAttributes }) => [
      'div', mergeAttributes(HTMLAttributes, { 'data-block': 'picture', 'data-size': String(node.attrs.size) }),
      still(node.attrs as PictureAttrs, src),
    ],
  }),
  atom('video', {
    addAttributes: attributes({ ...PICTURE, label: '' }),
    renderHTML({ node, HTMLAttributes }) {
      const attrs = node.attrs as VideoNode['attrs']
      return [
        'div', mergeAttributes(HTMLAttributes, { 'data-block': 'video' }),
        still(attrs, src), ['span', { class: 'as-link' }, `▶ ${attrs.label || 'What the film is called'}`],
      ]
    },
  }),
  Node.create({
    name: 'beside',
    group: 'block',
    content: '(paragraph | heading | bulletList | orderedList | button)+',
    draggable: true,
    isolating: true,
    defining: true,
    addAttributes: attributes({ ...PICTURE, side: 'start' }),
    parseHTML: () => [{ tag: 'div[data-block="beside"]' }],
    renderHTML({ node, HTMLAttributes }) {
      const attrs = node.attrs as PictureAttrs & { side: string }
      return [
        'div', mergeAttributes(HTMLAttributes, { 'data-block': 'beside', 'data-side': attrs.side }),
        ['div', { class: 'beside-picture', contenteditable: 'false' }, still(attrs, src)], ['div', { class: 'beside-text' }, 0],
      ]
    },
  }),
  atom('divider', {
    parseHTML: () => [{ tag: 'hr' }, { tag: 'div[data-block="divider"]' }],
    renderHTML: ({ HTMLAttributes }) => ['div', mergeAttributes(HTMLAttributes, { 'data-block': 'divider' })],
  }),
  atom('space', {
    addAttributes: attributes({ height: 32 }),
    renderHTML: ({ node, HTMLAttributes }) => [
      'div', mergeAttributes(HTMLAttributes, {
        'data-block': 'space', 'data-height': String((node.attrs as SpaceNode['attrs']).height),
      }),
    ],
  }),
  atom('social', {
    addAttributes: attributes({ links: [] }),
    renderHTML({ node, HTMLAttributes }) {
      const { links } = node.attrs as SocialNode['attrs']
      return [
        'div', mergeAttributes(HTMLAttributes, { 'data-block': 'social' }),
        ...links.length > 0
          ? links.map(({ label }): Drawing => ['span', { class: 'as-link' }, label || 'a link'])
          : [['span', { class: 'no-picture' }, 'No links yet'] as Drawing],
      ]
    },
  }),
  atom('choice', {
    addAttributes: attributes({ choices: [], says: '', onlyOne: true }),
    renderHTML({ node, HTMLAttributes }) {
      const { choices } = node.attrs as ChoiceNode['attrs']
      return [
        'div', mergeAttributes(HTMLAttributes, { 'data-block': 'choice' }),
        ...choices.map(({ label, hint }): Drawing => [
          'span', { class: 'choice' }, ['strong', {}, label || 'A choice'], ...hint ? [['span', {}, hint]] : [],
        ] as unknown as Drawing),
      ]
    },
  }),
  atom('file', {
    addAttributes: attributes({ fileId: null, fileName: '', bytes: 0, label: '' }),
    renderHTML({ node, HTMLAttributes }) {
      const { fileId, fileName, bytes, label } = node.attrs as FileNode['attrs']
      return [
        'div', mergeAttributes(HTMLAttributes, { 'data-block': 'file' }),
        fileId === null ? ['span', { class: 'no-picture' }, 'No file yet'] : ['span', { class: 'as-link' }, `↓ ${label || fileName}`],
        ['span', { class: 'second' }, fileId === null ? '' : ` ${sayBytes(bytes)}`],
      ]
    },
  }),
  atom('articles', {
    addAttributes: attributes({ articles: [], label: '' }),
    renderHTML({ node, HTMLAttributes }) {
      const { articles, label } = node.attrs as ArticlesNode['attrs']
      return [
        'div', mergeAttributes(HTMLAttributes, { 'data-block': 'articles' }),
        ...articles.map(({ title, text, pictureId, alt }): Drawing => ['div', { class: 'article' },
          ...pictureId === null ? [] : [['img', { src: src(pictureId), alt, draggable: 'false' }]],
          ['div', {}, ['strong', { class: 'as-link' }, title || 'A title'], ...text ? [['p', {}, text]] : [],
            ...label ? [['span', { class: 'as-link' }, label]] : []],
        ] as unknown as Drawing),
      ]
    },
  }),
  atom('html', {
    addAttributes: attributes({ source: '' }),
    renderHTML: ({ node, HTMLAttributes }) => [
      'div', mergeAttributes(HTMLAttributes, { 'data-block': 'html' }),
      ['span', { class: 'source' }, (node.attrs as { source: string }).source || 'No HTML yet'],
    ],
  }),
]
