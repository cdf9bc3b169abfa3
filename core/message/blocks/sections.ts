/** How blocks follow one another in MJML. */
import type { BlockNode } from '../content'
import type { Writer } from '../writer'
import type { BlockKind } from './block'

export type KindOf = (node: BlockNode) => BlockKind<BlockNode>

/** Blocks that follow one another share a column; what is as wide as the email stands between. `last`: a row of ours at the end. */
export function sectionsOf(write: Writer, nodes: readonly BlockNode[], kindOf: KindOf, last = ''): string {
  const sections: string[] = []
  let rows: string[] = []
  const close = () => {
    if (rows.length > 0) sections.push(`<mj-section padding="0"><mj-column>\n${rows.join('\n')}\n</mj-column></mj-section>`)
    rows = []
  }
  for (const node of nodes) {
    const written = kindOf(node).html(write, node)
    if ('row' in written) {
      if (written.row !== '') rows.push(written.row)
      continue
    }
    close()
    sections.push(written.section)
  }
  if (last !== '') rows.push(last)
  close()
  return sections.join('\n')
}

/** In the text part each block has an empty line behind it. */
export function textsOf(write: Writer, nodes: readonly BlockNode[], kindOf: KindOf): string {
  return nodes.map((node) => {
    const kind = kindOf(node)
    const text = write.withNotes(kind.text(write, node))
    return text === '' || kind.endsItself ? text : `${text}\n\n`
  }).join('')
}
