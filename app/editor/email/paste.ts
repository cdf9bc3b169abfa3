/**
 * What is pasted from a word processor, a mail program or a web page: its structure is kept (headings, lists, links, bold, italic), the
 * mess is dropped. HTML in, HTML out; the editor reads from it what it knows.
 */

const DROPPED = 'style, script, meta, link, title, head > *, xml, noscript, iframe, object, form, input, button, svg, img, picture, video'
/** Blocks of which only what is in them counts. */
const BOXES = 'div, section, article, main, header, footer, aside, nav, center, figure, figcaption, address, details, summary'
const HEADINGS: Record<string, string> = { H1: 'h2', H4: 'h3', H5: 'h3', H6: 'h3' }
const ITEM = /mso-list:\s*\S*\s*level(\d)/i
const NUMBERED = /^\s*(?:\d+|[a-z]|[ivx]+)[.)]/i

export function cleanPasted(html: string): string {
  // Styles are read and never applied, and nothing runs: the policy of this page would stop it, and say so.
  const inert = html.replace(/<!--\[if[\s\S]*?<!\[endif\]-->/gi, '').replace(/<\/?o:p[^>]*>/gi, '')
    .replace(/<style\b[\s\S]*?<\/style>/gi, '').replace(/<[a-z][^>]*>/gi, tag => tag.replace(/\s(on\w+|style)\s*=/gi, ' data-$1='))
  const doc = new DOMParser().parseFromString(inert, 'text/html')
  const { body } = doc
  for (const element of body.querySelectorAll(DROPPED)) element.remove()
  listsOfParagraphs(doc)
  marksOfStyles(doc)
  for (const table of body.querySelectorAll('table')) unfold(doc, table)
  for (const heading of body.querySelectorAll(Object.keys(HEADINGS).join(','))) rename(doc, heading, HEADINGS[heading.tagName]!)
  for (const box of [...body.querySelectorAll(BOXES)].reverse()) unbox(doc, box)
  for (const block of body.querySelectorAll('p, h2, h3')) keepAlign(block)
  for (const element of body.querySelectorAll('*')) {
    for (const { name } of [...element.attributes]) {
      if (name !== 'data-align' && !(element.tagName === 'A' && name === 'href')) element.removeAttribute(name)
    }
  }
  for (const link of body.querySelectorAll('a')) {
    if (!/^(https?:|mailto:|tel:)/i.test(link.getAttribute('href') ?? '')) link.replaceWith(...link.childNodes)
  }
  for (const span of body.querySelectorAll('span, font, u, ins')) span.replaceWith(...span.childNodes)
  for (const block of body.querySelectorAll('p, h2, h3, li')) if (isEmpty(block)) block.remove()
  return body.innerHTML.replaceAll('\u00a0', ' ').trim()
}

const styleOf = (element: Element): string => element.getAttribute('data-style') ?? ''

/** Said by a style or by the old attribute; what begins where it begins anyway says nothing. */
function keepAlign(block: Element): void {
  const said = /(?:^|;)\s*text-align:\s*(center|right|end)/i.exec(styleOf(block))?.[1] ?? block.getAttribute('align')
  const align = ({ center: 'center', right: 'end', end: 'end' } as Record<string, string>)[said?.toLowerCase() ?? '']
  block.removeAttribute('data-align')
  if (align) block.setAttribute('data-align', align)
}

const isEmpty = (element: Element) => element.textContent!.replaceAll('\u00a0', ' ').trim() === '' && !element.querySelector('br + *')

function rename(doc: Document, element: Element, name: string): void {
  const renamed = doc.createElement(name)
  renamed.append(...element.childNodes)
  for (const kept of ['data-style', 'align']) if (element.hasAttribute(kept)) renamed.setAttribute(kept, element.getAttribute(kept)!)
  element.replaceWith(renamed)
}

/** A word processor writes an item of a list as a paragraph with a sign before it. */
function listsOfParagraphs(doc: Document): void {
  let list: { element: Element, level: number } | null = null
  for (const paragraph of doc.body.querySelectorAll('p')) {
    const level = ITEM.exec(styleOf(paragraph))?.[1]
    if (level === undefined) {
      list = null
      continue
    }
    const sign = [...paragraph.querySelectorAll('span')].find(span => /mso-list:\s*ignore/i.test(styleOf(span)))
    const name = NUMBERED.test(sign?.textContent ?? '') ? 'ol' : 'ul'
    sign?.remove()
    const follows = list?.element.nextElementSibling === paragraph || list?.element.contains(paragraph)
    if (!list || !follows || (list.level === Number(level) && list.element.localName !== name)) {
      list = { element: doc.createElement(name), level: Number(level) }
      paragraph.before(list.element)
    }
    const item = doc.createElement('li')
    item.append(...paragraph.childNodes)
    list.element.append(item)
    paragraph.remove()
  }
}

/** Bold and italic are often said by a style, and unsaid by one, too. */
function marksOfStyles(doc: Document): void {
  for (const element of doc.body.querySelectorAll('span, b, strong, i, em, font, a')) {
    const weight = /(?:^|;)\s*font-weight:\s*(\w+)/i.exec(styleOf(element))?.[1]
    const isBold = weight === 'bold' || Number(weight) >= 600
    if ((element.tagName === 'B' || element.tagName === 'STRONG') && (weight === 'normal' || weight === '400')) {
      element.replaceWith(...element.childNodes)
      continue
    }
    if (element.tagName !== 'SPAN' && element.tagName !== 'FONT') continue
    if (isBold) wrap(doc, element, 'strong')
    if (/(?:^|;)\s*font-style:\s*italic/i.test(styleOf(element))) wrap(doc, element, 'em')
  }
}

function wrap(doc: Document, element: Element, name: string): void {
  const mark = doc.createElement(name)
  mark.append(...element.childNodes)
  element.append(mark)
}

/** A table that only places things becomes what is in it; one of words becomes a line a row. */
function unfold(doc: Document, table: Element): void {
  if (!table.isConnected) return
  const rows = [...table.querySelectorAll('tr')].filter(row => row.closest('table') === table)
  const simple = rows.length > 1 && rows.every(row => row.cells.length > 1 && !row.querySelector('table, p, div, ul, ol, h1, h2, h3'))
  const box = doc.createElement('div')
  for (const row of rows) {
    if (simple) {
      const line = doc.createElement('p')
      line.textContent = [...row.cells].map(cell => cell.textContent!.trim()).filter(Boolean).join(', ')
      box.append(line)
    }
    else for (const cell of row.cells) {
      const inside = doc.createElement('div')
      inside.append(...cell.childNodes)
      box.append(inside)
    }
  }
  table.replaceWith(box)
}

const BLOCK = 'p, h1, h2, h3, h4, h5, h6, ul, ol, blockquote, pre, hr, table'

/** Words that stand in a box without a paragraph get one. */
function unbox(doc: Document, box: Element): void {
  if (!box.querySelector(BLOCK)) rename(doc, box, 'p')
  else box.replaceWith(...box.childNodes)
}
