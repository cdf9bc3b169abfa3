/** The sections a page is made of, top to bottom. */
import type { ListNode, RichText } from '#core/message/content'
import type { LocalDate, LocalTime } from '#core/time/zone'
import { paragraphs, type PageText } from './text'

export const SECTION_KINDS = [
  'headline', 'text', 'picture', 'points', 'quote', 'form', 'countdown', 'steps', 'questions', 'footer',
] as const
export type SectionKind = typeof SECTION_KINDS[number]

/** One list and nothing else. */
export type ListText = RichText<ListNode>

export interface Question { question: string, answer: PageText }

interface Bodies {
  headline: { text: string, under: string }
  text: { text: PageText }
  /** `alt` says what is on it for whoever does not see it; empty where it only decorates, which `decorates` says. */
  picture: { pictureId: number | null, alt: string, decorates: boolean, caption: string }
  points: { title: string, list: ListText }
  quote: { text: string, who: string }
  form: { title: string }
  /** A clock time of the workspace's zone. */
  countdown: { date: LocalDate | null, time: LocalTime, before: string, after: string }
  steps: { title: string, list: ListText }
  questions: { title: string, questions: Question[] }
  footer: { text: PageText }
}

export type SectionOf<Kind extends SectionKind> = { id: string, kind: Kind, name: string, hidden: boolean } & Bodies[Kind]
export type Section = { [Kind in SectionKind]: SectionOf<Kind> }[SectionKind]

const items = (type: 'bulletList' | 'orderedList', ...texts: string[]): ListText => ({
  type: 'doc', content: [
    { type, content: texts.map(text => ({ type: 'listItem', content: [{ type: 'paragraph', content: [{ type: 'text', text }] }] })) },
  ],
})

const FRESH: { [Kind in SectionKind]: () => Bodies[Kind] } = {
  headline: () => ({ text: 'What this is about', under: '' }),
  text: () => ({ text: paragraphs('A few sentences, as you would say them to a friend.') }),
  picture: () => ({ pictureId: null, alt: '', decorates: false, caption: '' }),
  points: () => ({ title: 'What you get', list: items('bulletList', 'The first thing', 'The second thing', 'The third thing') }),
  quote: () => ({ text: 'What someone said about it.', who: 'Their name' }),
  form: () => ({ title: '' }),
  countdown: () => ({ date: null, time: '20:00', before: 'You can still join for', after: 'This is over.' }),
  steps: () => ({ title: 'How it goes', list: items('orderedList', 'First this happens', 'Then that', 'And at the end you have it') }),
  questions: () =>
    ({ title: 'Questions people ask', questions: [{ question: 'What do I need for it?', answer: paragraphs('Say it here.') }] }),
  footer: () => ({ text: paragraphs('Where to find you, and any legal details.') }),
}

/** What its maker calls it until they call it something else. */
export const SECTION_NAMES: Record<SectionKind, string> = {
  headline: 'Headline', text: 'Text', picture: 'Picture', points: 'List of points', quote: 'Quote', form: 'Form', countdown: 'Countdown',
  steps: 'Steps', questions: 'Questions and answers', footer: 'Footer',
}

export function newSection(kind: SectionKind, id: string): Section {
  return { id, kind, name: '', hidden: false, ...FRESH[kind]() } as Section
}

/** Its own name, or what it is. */
export const nameOfSection = ({ name, kind }: Section): string => name.trim() || SECTION_NAMES[kind]

/** A short word that no section of the page has yet: `s7`. */
export function freeSectionId(sections: readonly Section[]): string {
  const taken = new Set(sections.map(({ id }) => id))
  let n = sections.length + 1
  while (taken.has(`s${n}`)) n++
  return `s${n}`
}
