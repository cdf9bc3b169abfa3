/**
 * What the writer of an email makes: a subject, a preview text and a body of
 * blocks. The shapes are those of the editor (ProseMirror JSON), narrowed to
 * what an email may hold.
 */
import type { Condition } from '../audience/condition'
import type { Instant } from '../time/zone'
import type { EmailKind } from '../sending/kinds'
import type { Utm } from './utm'
import { namePlaceholder, sayPlaceholder, type PlaceholderAttrs } from './placeholders'

export interface PlaceholderNode { type: 'placeholder', attrs: PlaceholderAttrs }
/** `linkId`: which link of the library it is; without one, that of its address. */
export type Mark = { type: 'bold' } | { type: 'italic' } | { type: 'link', attrs: { href: string, linkId?: number | null } }
export interface TextNode { type: 'text', text: string, marks?: Mark[] }
export type InlineNode = TextNode | PlaceholderNode | { type: 'hardBreak' }

/** What any block may say of itself: its id, which stays; what its writer calls it; and that it is not sent. */
export interface BlockAttrs { id?: string | null, name?: string | null, hidden?: boolean }
/** Where the lines of a text stand; at the side on which they begin where nothing is said. */
export interface AlignAttrs { align?: 'center' | 'end' | null }

export interface ParagraphNode { type: 'paragraph', attrs?: BlockAttrs & AlignAttrs, content?: InlineNode[] }
export interface HeadingNode { type: 'heading', attrs: { level: 2 | 3 } & BlockAttrs & AlignAttrs, content?: InlineNode[] }
export interface ListItemNode { type: 'listItem', content: (ParagraphNode | ListNode)[] }
export interface ListNode { type: 'bulletList' | 'orderedList', attrs?: BlockAttrs, content: ListItemNode[] }
export type TextBlockNode = ParagraphNode | HeadingNode | ListNode
export interface QuoteNode { type: 'blockquote', attrs?: BlockAttrs, content: TextBlockNode[] }
/** A button is a tracked link; following this one use of it may give a tag, and count only after a second click. */
export interface ButtonNode {
  type: 'button'
  attrs: { label: string, url: string, tagId: number | null, linkId?: number | null, asks?: boolean } & BlockAttrs & AlignAttrs
}
/**
 * A button of an email that we send by ourselves: it leads to what the email is for. Pressing it tells by itself; it is no tracked link.
 */
export interface OwnButtonNode { type: 'ownButton', attrs: { label: string } & BlockAttrs & AlignAttrs }
/** `alt`: what it shows, for people who do not see it; `isPlain`: it only decorates. `url`: where it leads, empty for nowhere. */
export interface PictureAttrs { pictureId: number | null, alt: string, isPlain?: boolean, url: string }
/** `size`: of the width of the email, in percent. */
export interface PictureNode { type: 'picture', attrs: PictureAttrs & { size: 25 | 50 | 75 | 100 } & BlockAttrs & AlignAttrs }
/** A picture beside text; on a narrow screen above it. */
export interface BesideNode {
  type: 'beside', attrs: PictureAttrs & { side: 'start' | 'end' } & BlockAttrs, content: (TextBlockNode | ButtonNode)[],
}
/** A film as a still picture that leads to it, with a line of words below. */
export interface VideoNode { type: 'video', attrs: PictureAttrs & { label: string } & BlockAttrs }
export interface DividerNode { type: 'divider', attrs?: BlockAttrs }
/** In pixels. */
export interface SpaceNode { type: 'space', attrs: { height: 8 | 16 | 32 | 64 } & BlockAttrs }
/** Where else the sender can be found, in words. */
export interface SocialNode { type: 'social', attrs: { links: { label: string, url: string }[] } & BlockAttrs & AlignAttrs }
/**
 * A question with answers to choose from, two to six; each gives its tag. `onlyOne`: choosing one takes the tags of the others.
 * `says`: what is told to who has chosen.
 */
export interface ChoiceNode {
  type: 'choice'
  attrs: { choices: { label: string, hint: string, tagId: number | null }[], says: string, onlyOne: boolean } & BlockAttrs
}
/** An offer as an email shows it. `price` and `reduced`: in words. */
export interface ShownOffer {
  name: string
  /** Its public page, with the code where there is one. */
  url: string
  price: string
  /** With the coupon; null without one. */
  reduced: string | null
  code: string | null
  closesAt: Instant | null
  /** When the coupon ends; null for never, and without one. */
  couponUntilAt: Instant | null
}

/**
 * An offer with its price of when it is sent. `shown`: looked up before it is made (core/message/complete); null where it cannot be bought.
 */
export interface OfferNode {
  type: 'offer',
  attrs: {
    offerId: number | null, /** Of its coupon; empty for none. */ code: string, label: string, shown?: ShownOffer | null,
  } & BlockAttrs
}
/** How long something still lasts: to an instant, or to the closing of an offer. `after`: said once it is over. */
export interface CountdownNode {
  type: 'countdown', attrs: { offerId: number | null, until: Instant | null, before: string, after: string } & BlockAttrs
}
/** A file that its reader can fetch. `fileName` and `bytes` are those of the file, which never changes. */
export interface FileNode { type: 'file', attrs: { fileId: number | null, fileName: string, bytes: number, label: string } & BlockAttrs }
export interface Article { title: string, text: string, url: string, pictureId: number | null, alt: string }
/** Articles one below another; `label`: the words that lead on from each, empty for none. */
export interface ArticlesNode { type: 'articles', attrs: { articles: Article[], label: string } & BlockAttrs }
/** HTML as somebody wrote it, cleaned before it is sent. Its links are not counted. */
export interface HtmlNode { type: 'html', attrs: { source: string } & BlockAttrs }
/** What stands for itself. */
export type PlainBlockNode =
  | TextBlockNode | QuoteNode | ButtonNode | OwnButtonNode | PictureNode | BesideNode | VideoNode | DividerNode | SpaceNode | SocialNode
  | ArticlesNode | ChoiceNode | OfferNode | CountdownNode | FileNode | HtmlNode
/** One version of what stands there, for whoever fits `who`; null is for everybody. `name`: what its writer calls it. */
export interface CaseNode { type: 'case', attrs: { who: Condition | null, name?: string | null }, content: PlainBlockNode[] }
/** Of its cases a reader gets the first that fits, at the moment the email leaves; nothing where none does. */
export interface OnlyForNode { type: 'onlyFor', attrs?: BlockAttrs, content: CaseNode[] }
/** A part that is kept apart and stands in several emails. */
export interface PartNode { type: 'part', attrs: { partId: number } & BlockAttrs }
export type BlockNode = PlainBlockNode | OnlyForNode | PartNode

export interface RichText<Block = BlockNode> { type: 'doc', content: Block[] }
/** One line of text with placeholders: a subject or a preview text. */
export type Line = (TextNode | PlaceholderNode)[]

/** `name` and `bytes` are those of the file, which never changes. */
export interface AttachedFile { fileId: number, name: string, bytes: number }

export interface MessageContent {
  /** What the writer calls it; readers never see it. */
  workingTitle: string
  subject: Line
  /** Other subjects for some, the first that fits; {@link subject} is everybody else's. */
  subjectFor?: { who: Condition, name?: string | null, subject: Line }[]
  preview: Line
  body: RichText
  /** It goes also to who has what it sells, or wants to hear no more of it: it does not sell to them. */
  sellsNothing?: true
  /** What it asks its reader to do, in the writer's words; without it, what its buttons say. Readers never see it. */
  callToAction?: string
  /** As typed by hand, without the look of the workspace. */
  isLetter?: true
  /** Who it is from; left out for whoever writes to its list and its readers. */
  senderId?: number
  /** Nobody looks whether it is opened. */
  unwatched?: true
  /** It begins with a link to itself in a browser. */
  inBrowser?: true
  /** Added to the addresses that its links lead to. */
  utm?: Utm
  /** Files that go along in the email itself. */
  attached?: AttachedFile[]
}

/** The emails of one owner, where it has one of a kind at most. */
export type OwnEmails = Partial<Record<EmailKind, MessageContent | undefined>>

export const emptyMessage = (): MessageContent => ({
  workingTitle: '', subject: [], preview: [], body: { type: 'doc', content: [{ type: 'paragraph' }] },
})

/** The same under another subject, for everybody. */
export function withSubject({ subjectFor: _, ...content }: MessageContent, subject: Line): MessageContent {
  return { ...content, subject }
}

/** What an email is called here: its working title, else its subject; empty while it has neither. */
export const nameOfMessage = ({ workingTitle, subject }: Pick<MessageContent, 'workingTitle' | 'subject'>): string =>
  workingTitle.trim() || plainLine(subject).trim()

/** A line as people read it in lists and exports: `Hello [first name, or: friend]`. */
export function plainLine(line: Line): string {
  return line.map(node => node.type === 'text' ? node.text : sayPlaceholder(node.attrs)).join('')
}

/** A line as it is read by somebody of whom nothing is known. */
export const readLine = (line: Line): string =>
  line.map(node => node.type === 'text' ? node.text : node.attrs.fallback || namePlaceholder(node.attrs)).join('')

/** An answer to the question of those that name the same; `takes`: tags that choosing it takes. */
export interface Answers { question: string, says: string, takes: number[] }

/** `answers`: it leads to a page of ours, and not to its `url`. */
export interface TrackedUse {
  n: number, url: string, label: string, tagId: number | null, linkId: number | null, asks: boolean, answers: Answers | null
}

export function linkMark(node: TextNode): Extract<Mark, { type: 'link' }> | undefined {
  return node.marks?.find((mark): mark is Extract<Mark, { type: 'link' }> => mark.type === 'link')
}

/** The same body with each block changed, those in cases, too. */
export function mapBlocks(body: RichText, change: (block: PlainBlockNode) => PlainBlockNode): RichText {
  return {
    ...body, content: body.content.map(block => block.type === 'onlyFor'
      ? { ...block, content: block.content.map(one => ({ ...one, content: one.content.map(change) })) }
      : block.type === 'part' ? block : change(block)),
  }
}

/** Whether an email leads everybody to what it is for: without its own button nobody could confirm, or fetch the file. */
export const hasOwnButton = (content: MessageContent): boolean => content.body.content.some(hasIt)

function hasIt(block: BlockNode): boolean {
  if (block.type === 'onlyFor') return block.content.at(-1)?.attrs.who === null && block.content.every(one => one.content.some(hasIt))
  return block.type === 'ownButton' && block.attrs.label.trim() !== ''
}
