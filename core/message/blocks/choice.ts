/** A question with a few answers, each a link that notes what its reader chose. */
import type { ChoiceNode } from '../content'
import type { Writer } from '../writer'
import { eitherWay, type BlockKind } from './block'

/** So many stand side by side. */
const BESIDE = 3

export const CHOICES = { least: 2, most: 6 } as const

/** In the place of an address: it leads to a page of ours. */
export const CHOICE_URL = 'choice:'

export const choice: BlockKind<ChoiceNode> = {
  word: 'Choice',
  hasWords: ({ attrs }) => attrs.choices.some(({ label }) => label.trim() !== ''),
  links({ attrs }, use) {
    const { choices, says, onlyOne } = attrs
    for (const { label, tagId } of choices) {
      const takes = onlyOne ? choices.flatMap(other => other.tagId !== null && other.tagId !== tagId ? [other.tagId] : []) : []
      use(`${CHOICE_URL}${label}`, label, { tagId, answers: { question: choices.map(one => one.label).join(' / '), says, takes } })
    }
  },
  html(write, { attrs: { choices } }) {
    const links = choices.map(one => ({ ...one, href: write.nextLink(`${CHOICE_URL}${one.label}`) }))
    const words = ({ label, hint, href }: typeof links[number]) =>
      `<a href="${href}" style="color:${write.paint.accent};text-decoration:none"><strong>${write.literal(label)}</strong>${hint ? `<br><span class="second" style="color:${write.paint.second};font-size:14px">${write.literal(hint)}</span>` : ''}</a>`
    if (write.isLetter) {
      const lines = links.map(one => eitherWay(words(one).replace('text-decoration:none', 'text-decoration:underline')))
      return { row: lines.map(line => `<mj-text>${line}</mj-text>`).join('\n') }
    }
    const rows = Array.from({ length: Math.ceil(links.length / BESIDE) }, (_, n) => links.slice(n * BESIDE, (n + 1) * BESIDE))
    return { section: rows.map(row => `<mj-section padding="0 18px 6px">${row.map(one => `
<mj-column padding="0 6px 8px" inner-border="1px solid ${write.paint.accent}" inner-border-radius="${write.look.corners === 'square' ? 0 : 6}px">
<mj-text align="center" padding="12px 10px" css-class="choice">${words(one)}</mj-text>
</mj-column>`).join('')}
</mj-section>`).join('\n') }
  },
  text: (write: Writer, { attrs }) => attrs.choices
    .map(({ label, hint }) =>
      `- ${write.literal(label)}${hint ? `, ${write.literal(hint)}` : ''}:\n  ${write.nextLink(`${CHOICE_URL}${label}`)}`)
    .join('\n'),
}
