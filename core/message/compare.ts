/** What changed between two writings of an email, in words: as its writer reads it, with what cannot be read named. */
import { diffLines, diffWordsWithSpace, type ChangeObject } from 'diff'
import { wordsOf } from './checks/check'
import { plainLine, type BlockNode, type MessageContent } from './content'
import { blockKind } from './blocks'

export interface Stretch { text: string, is: 'same' | 'added' | 'removed' }
/** A place of the email: its subject, its preview text, or its body. */
export interface Compared { name: string, stretches: Stretch[] }

/** A block in words; what has none by its kind, so that it is seen to come and go. */
function inWords(node: BlockNode): string {
  if (node.type === 'onlyFor') {
    const headOf = (name: string | null | undefined, n: number) => `[version ${n + 1}${name ? `: ${name}` : ''}]`
    return node.content.map(({ attrs, content }, n) => [headOf(attrs.name, n), ...content.map(inWords)].join('\n')).join('\n')
  }
  const { alt = '', choices = [] } = node.attrs as { alt?: string, choices?: { label: string }[] } | undefined ?? {}
  const words = [alt, ...choices.map(({ label }) => label), wordsOf(node).trim()].filter(text => text !== '').join('\n')
  return node.type === 'paragraph' || node.type === 'heading' ? words : `[${blockKind(node).word.toLowerCase()}] ${words}`.trim()
}
const textOf = ({ content }: MessageContent['body']): string => content.map(inWords).join('\n')

/** Only the places that differ. */
export function compareMessages(before: MessageContent, after: MessageContent): Compared[] {
  const places: [name: string, one: string, other: string][] = [
    ['Subject', plainLine(before.subject), plainLine(after.subject)],
    ['Preview text', plainLine(before.preview), plainLine(after.preview)],
    ['The email', textOf(before.body), textOf(after.body)],
  ]
  return places.filter(([, one, other]) => one !== other).map(([name, one, other]) => ({
    name, stretches: stretchesOf(one, other),
  }))
}

const toStretch = ({ value, added, removed }: ChangeObject<string>): Stretch =>
  ({ text: value, is: added ? 'added' : removed ? 'removed' : 'same' })

/** Word by word where one line took the place of another; else whole lines, so that what is unrelated does not stand mixed. */
function stretchesOf(one: string, other: string): Stretch[] {
  const lines = diffLines(`${one}\n`, `${other}\n`)
  return lines.flatMap((line, n): Stretch[] => {
    const [before, after] = [lines[n - 1], lines[n + 1]]
    if (line.removed && after?.added && line.count === 1 && after.count === 1) {
      return diffWordsWithSpace(line.value, after.value).map(toStretch)
    }
    return line.added && before?.removed && line.count === 1 && before.count === 1 ? [] : [toStretch(line)]
  })
}
