/** Writes the inside of blocks in one of the two parts of an email, counting links in reading order. */
import { linkMark, type InlineNode, type PlaceholderNode } from './content'
import { escapeHtml } from './escape'
import { dayOf, DEFAULT_LOOK, type EmailLook, type Paint } from './look'
import { factOf, formOf, placeholder, type Form } from './placeholders'
import { linkKey, typed, type Part, type Places } from './template'
import { hrefOf, isTracked } from './webAddress'

/** What is done with HTML that is not ours: cleaned, or read as words. */
export interface Foreign { clean(source: string): string, words(source: string): string }

export class Writer {
  #link = 0
  #noted = 0
  #choice = 0
  readonly #notes: string[] = []
  readonly paint: Paint
  constructor(
    readonly part: Part, readonly places: Places, readonly foreign: Foreign, readonly look: EmailLook = DEFAULT_LOOK,
    /** As typed by hand: what would be drawn is written. */
    readonly isLetter = false,
  ) {
    this.paint = dayOf(look)
  }

  literal(value: string): string {
    return this.part === 'html' ? escapeHtml(typed(value)) : typed(value)
  }

  /** Where something stands that only a person brings. */
  fact(fact: string, or = '', as: Form | null = null, before = ''): string {
    return this.places.mark({ fact, or: typed(or), ...as && { as }, ...before && { before: typed(before) } })
  }

  ready(ready: string): string {
    return this.places.mark({ ready })
  }

  placeholder({ attrs }: PlaceholderNode): string {
    return this.fact(factOf(attrs), attrs.fallback, formOf(attrs))
  }

  /** Where the next link in reading order leads. */
  nextLink(url: string): string {
    return isTracked(url) ? this.ready(linkKey(this.#link++)) : this.literal(hrefOf(url, 'any') ?? '')
  }

  inline(node: InlineNode): string {
    const html = this.part === 'html'
    if (node.type === 'hardBreak') return html ? '<br>' : '\n'
    if (node.type === 'placeholder') {
      const { link } = placeholder(node.attrs.field)
      return link ? this.#linked(this.literal(node.attrs.fallback), this.ready(link)) : this.placeholder(node)
    }
    let written = this.literal(node.text)
    if (html && node.marks?.some(mark => mark.type === 'bold')) written = `<strong>${written}</strong>`
    if (html && node.marks?.some(mark => mark.type === 'italic')) written = `<em>${written}</em>`
    const link = linkMark(node)
    if (!link) return written
    return this.#linked(written, this.nextLink(link.attrs.href))
  }

  #linked(words: string, href: string): string {
    if (this.part === 'html') return `<a href="${href}" style="color:${this.paint.accent}">${words}</a>`
    this.#notes.push(`[${++this.#noted}] ${href}`)
    return `${words} [${this.#noted}]`
  }

  /**
   * Several versions, of which a person gets one; choices are numbered from 0 in reading order. `mark`: how a mark is kept where it stands.
   */
  cases<Case>(all: readonly Case[], write: (one: Case) => string, mark = (text: string) => text): string {
    const { places } = this
    const begin = places.cases(String(this.#choice++))
    // Whatever a reader gets, the numbers of their notes have no gap before the choice, nor twice the same behind it.
    const first = this.#noted
    let last = first
    const written = all.map((one) => {
      this.#noted = first
      const text = write(one)
      last = Math.max(last, this.#noted)
      return text
    })
    this.#noted = last
    return `${mark(begin)}${written.join(mark(places.nextCase))}${mark(places.endCases)}`
  }

  /** In the text part addresses stand on lines of their own, below the block whose words lead there. */
  withNotes(block: string): string {
    return [block, ...this.#notes.splice(0)].filter(line => line !== '').join('\n')
  }

  inlines(nodes: InlineNode[] = []): string {
    return nodes.map(node => this.inline(node)).join('')
  }
}
