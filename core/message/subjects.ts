/**
 * What a subject line is like, in traits that anybody can see, and how one's own past subjects with the same trait did. No score: nobody
 * knows what works elsewhere. Common practice, no source.
 */
import { rateOf, type Rate } from '../stats/rate'
import { readLine, type Line } from './content'

export interface Trait {
  key: string
  /** `asks a question`, after “it”. */
  says: string
  /** What is known to speak for it, or against. */
  hint: string
  is(text: string, line: Line): boolean
}

const SHORT = 40
const EMOJI = /\p{Extended_Pictographic}/u

export const TRAITS: readonly Trait[] = [
  { key: 'short', says: 'is short', hint: `A phone shows all of up to ${SHORT} characters.`, is: text => [...text].length <= SHORT },
  { key: 'question', says: 'asks a question', hint: 'It begins something that only reading on ends.', is: text => /[?؟？]/.test(text) },
  { key: 'number', says: 'names a number', hint: 'It says how much there is to read, or to win.', is: text => /\p{Nd}/u.test(text) },
  {
    key: 'name', says: 'names the reader', hint: 'It stands out once, and wears off when every email does it.',
    is: (_, line) => line.some(node => node.type === 'placeholder' && node.attrs.field === 'first_name'),
  },
  { key: 'you', says: 'speaks of “you”', hint: 'It is about the reader, not about you.', is: text => /\byou(r|rs|rself)?\b/i.test(text) },
  {
    key: 'deadline', says: 'names a time', hint: 'It is a reason to read it now. It has to be true.',
    is: text =>
      /\b(today|tonight|tomorrow|(mon|tues|wednes|thurs|fri|satur|sun)day|hours?|minutes?|days?|last|ends?|closes?|until)\b/i.test(text),
  },
  { key: 'parts', says: 'has two parts', hint: 'A colon or a dash: first what, then why.', is: text => /\S[:–—|] \S|\S - \S/.test(text) },
  {
    key: 'emoji', says: 'has a picture sign', hint: 'Some mail programs draw it differently, or not at all.', is: text => EMOJI.test(text),
  },
]

/** By their keys. */
export function traitsOf(line: Line): string[] {
  const text = readLine(line).trim()
  return text === '' ? [] : TRAITS.filter(({ is }) => is(text, line)).map(({ key }) => key)
}

/** Of one that was sent: how many people, and how many of them opened it. */
export interface PastSubject { traits: readonly string[], sent: number, opened: number }

export interface TraitHistory { with: Rate & { emails: number }, without: Rate & { emails: number } }

/** Reader opens of past emails with a trait, and of those without it. */
export function historyOf(key: string, past: readonly PastSubject[]): TraitHistory {
  const of = (those: readonly PastSubject[]) => {
    const sum = (number: (one: PastSubject) => number) => those.reduce((all, one) => all + number(one), 0)
    return { ...rateOf(sum(({ opened }) => opened), sum(({ sent }) => sent)), emails: those.length }
  }
  return { with: of(past.filter(({ traits }) => traits.includes(key))), without: of(past.filter(({ traits }) => !traits.includes(key))) }
}

/** What can be said of it: only where there are enough emails of both, and their intervals lie apart. */
export function sayHistory({ with: these, without }: TraitHistory): 'more' | 'less' | 'unclear' | 'few' {
  if (these.emails < LEAST_EMAILS || without.emails < LEAST_EMAILS || these.value === null || without.value === null) return 'few'
  if (these.low! > without.high!) return 'more'
  return these.high! < without.low! ? 'less' : 'unclear'
}

/** Fewer emails than that say more about themselves than about their subjects. */
export const LEAST_EMAILS = 3
