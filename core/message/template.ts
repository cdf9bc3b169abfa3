/**
 * What an email is made into once per version: words that are the same for everybody, and places that are filled per person. A template
 * is plain data, so that it can be kept as JSON.
 */
import { escapeHtml } from './escape'
import { sayIn, type Form } from './placeholders'

/** One of these after another. */
export type Piece =
  | string
  /** A fact, escaped where it stands in HTML; `or` in its place where nothing is known. */
  | { fact: string, or: string, as?: Form, /** Stands before it where it is known. */ before?: string }
  /** One of several, by the number that is chosen for the person under that key; none of them for less than 0. */
  | { choose: string, of: Template[] }
  /** Made ready by us for this part: an address, a receipt. */
  | { ready: string }

export type Template = Piece[]

/** What differs from person to person. */
export interface Personal {
  /** By name; what is missing or blank is not known. */
  facts: Record<string, string>
  /** By name. Addresses of links are called `link 0` and so on, by the `n` of their use. */
  ready: Record<string, string>
  /** Which case they get, by the key of the choice; less than 0 for none. */
  chosen?: Record<string, number>
}

/** Where a link with that number leads, among what is ready. */
export const linkKey = (n: number): string => `link ${n}`

export type Part = 'html' | 'text'

export function fill(template: Template, part: Part, personal: Personal): string {
  let filled = ''
  for (const piece of template) filled += typeof piece === 'string' ? piece : valueOf(piece, part, personal)
  return filled
}

/** The templates that a person gets of a choice. Throws where nothing was chosen. */
export function chosenOf({ choose, of }: Extract<Piece, { choose: string }>, { chosen }: Personal): Template {
  const n = chosen?.[choose]
  if (n === undefined) throw new Error(`Nothing is chosen for “${choose}”`)
  return of[n] ?? []
}

/**
 * What a person brings to a place. Throws where something that is made by us is not there: no email leaves with a hole in it.
 */
export function valueOf(piece: Exclude<Piece, string>, part: Part, personal: Personal): string {
  if ('choose' in piece) return fill(chosenOf(piece, personal), part, personal)
  const { facts, ready } = personal
  if ('ready' in piece) {
    const value = ready[piece.ready]
    if (value === undefined) throw new Error(`Nothing is ready for “${piece.ready}”`)
    return value
  }
  const known = facts[piece.fact]
  const value = known === undefined || known.trim() === '' ? piece.or : `${piece.before ?? ''}${piece.as ? sayIn(piece.as, known) : known}`
  return part === 'html' ? escapeHtml(value) : value
}

/** What has to be made ready for it, each once. */
export function readyIn(template: Template, found = new Set<string>()): Set<string> {
  for (const piece of template) {
    if (typeof piece === 'string') continue
    if ('ready' in piece) found.add(piece.ready)
    else if ('choose' in piece) piece.of.forEach(one => readyIn(one, found))
  }
  return found
}

/** The facts that a template asks for, each once. */
export function factsIn(template: Template, found = new Set<string>()): Set<string> {
  for (const piece of template) {
    if (typeof piece === 'string') continue
    if ('fact' in piece) found.add(piece.fact)
    else if ('choose' in piece) piece.of.forEach(one => factsIn(one, found))
  }
  return found
}

/*
 * While an email is put together its places are marks: one letter that Unicode keeps out of all text (U+FDD0 to U+FDD5 are noncharacters),
 * a number, and another; of a choice the cases stand one after another between marks of their own. They pass through MJML as they are.
 */

const MARK = /(\uFDD0\d+\uFDD1|\uFDD2[\w-]+\uFDD3|\uFDD4|\uFDD5)/

/** What was typed, without what could be taken for a mark. */
export const typed = (text: string): string => text.replace(/[\uFDD0-\uFDEF]/g, '')

/** Notes places, and gives a mark for each. */
export class Places {
  readonly #pieces: Exclude<Piece, string>[] = []

  mark(piece: Exclude<Piece, string>): string {
    return `\uFDD0${this.#pieces.push(piece) - 1}\uFDD1`
  }

  /** Begins a choice, one of its cases follows; {@link nextCase} stands between them, {@link endCases} behind the last. */
  cases = (key: string): string => `\uFDD2${key}\uFDD3`
  nextCase = '\uFDD4'
  endCases = '\uFDD5'

  /** The template that a text with marks stands for. */
  read(marked: string): Template {
    const parts = marked.split(MARK).filter(part => part !== '')
    let at = 0
    const read = (): Template => {
      const template: Template = []
      for (; at < parts.length && parts[at] !== this.nextCase && parts[at] !== this.endCases; at++) {
        const part = parts[at]!
        if (part.startsWith('\uFDD0')) template.push(this.#pieces[Number(part.slice(1, -1))]!)
        else if (part.startsWith('\uFDD2')) template.push(choice(part.slice(1, -1)))
        else template.push(part)
      }
      return template
    }
    const choice = (choose: string): Piece => {
      const of: Template[] = []
      do {
        at++
        of.push(read())
      } while (parts[at] === this.nextCase)
      return { choose, of }
    }
    return read()
  }
}
