import type { Piece, Template } from '#core/message/template'
import type { Migration } from './migration'

/**
 * Emails were made into Liquid; now they are made into pieces. Only what we wrote ourselves stands in those templates, so that its few
 * forms are all there is.
 */
export const templates: Migration = {
  number: 30,
  name: 'what emails are made into is kept in pieces',
  sql: '',
  then(db) {
    const rows = db.prepare<[], { id: number, subject: string, html: string, text: string }>('SELECT id, subject, html, text FROM messages')
    const keep = db.prepare('UPDATE messages SET subject = ?, html = ?, text = ? WHERE id = ?')
    for (const { id, subject, html, text } of rows.all()) {
      const [line, rich, plain] = [piecesOf(subject, 'text'), piecesOf(html, 'html'), piecesOf(text, 'text')]
      keep.run(JSON.stringify(line), JSON.stringify(rich), JSON.stringify(plain), id)
    }
  },
}

const FORMS = new RegExp([
  String.raw`\{% if (?<fact>\w+) != blank %\}.*?\{% else %\}(?<or>.*?)\{% endif %\}`,
  String.raw`\{\{ links\[(?<link>\d+)\] \}\}`,
  String.raw`\{\{ (?<ready>pixel_url|choices_url|own_url|receipt_html|receipt_text) \}\}`,
  String.raw`\{\{ (?<plain>\w+)(?: \| escape)? \}\}`,
  String.raw`\{\{ '(?<brace>\{)' \}\}`,
].join('|'), 'gs')

const brace = (text: string) => text.replaceAll(`{{ '{' }}`, '{')
const ENTITIES: Record<string, string> = { '&amp;': '&', '&lt;': '<', '&gt;': '>', '&quot;': '"', '&#39;': '\'' }

export function piecesOf(liquid: string, part: 'html' | 'text'): Template {
  const pieces: Piece[] = []
  const add = (text: string) => {
    const last = pieces.at(-1)
    if (typeof last === 'string') pieces[pieces.length - 1] = last + text
    else if (text !== '') pieces.push(text)
  }
  let at = 0
  for (const match of liquid.matchAll(FORMS)) {
    add(liquid.slice(at, match.index))
    at = match.index + match[0].length
    const { fact, or, link, ready, plain } = match.groups!
    if (fact !== undefined) {
      const words = brace(or!)
      pieces.push({ fact, or: part === 'html' ? words.replace(/&(amp|lt|gt|quot|#39);/g, entity => ENTITIES[entity]!) : words })
    }
    else if (link !== undefined) pieces.push({ ready: `link ${link}` })
    else if (ready !== undefined) pieces.push({ ready })
    else if (plain !== undefined) pieces.push({ fact: plain, or: '' })
    else add('{')
  }
  add(liquid.slice(at))
  return pieces
}
