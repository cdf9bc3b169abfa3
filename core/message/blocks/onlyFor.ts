/** Several versions of a place, of which each reader gets one. */
import type { OnlyForNode } from '../content'
import { isHidden, type BlockKind } from './block'
import { sectionsOf, textsOf, type KindOf } from './sections'

const shown = (one: OnlyForNode['content'][number]) => one.content.filter(node => !isHidden(node))

/** What MJML leaves where it stands. */
const raw = (mark: string) => `<mj-raw>${mark}</mj-raw>`

/** `kindOf`: of what stands in its cases; all kinds together know this one, too. */
export const makeOnlyFor = (kindOf: KindOf): BlockKind<OnlyForNode> => ({
  word: 'Only for',
  hasWords: node => node.content.some(one => shown(one).some(inner => kindOf(inner).hasWords(inner))),
  links: (node, use) => node.content.forEach(one => shown(one).forEach(inner => kindOf(inner).links?.(inner, use))),
  html: (write, node) => ({ section: write.cases(node.content, one => sectionsOf(write, shown(one), kindOf), raw) }),
  text: (write, node) => write.cases(node.content, one => textsOf(write, shown(one), kindOf)),
  endsItself: true,
})
