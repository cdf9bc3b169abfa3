/** What is sold, until when; and how long that still is. */
import type { CountdownNode, OfferNode } from '../content'
import type { Writer } from '../writer'
import { mjButton } from './button'
import type { BlockKind } from './block'

/** An offer that cannot be bought has no place in an email: nothing is sent of it. */
export const offer: BlockKind<OfferNode> = {
  word: 'Offer',
  hasWords: () => true,
  links: ({ attrs: { shown, label } }, use) => shown && use(shown.url, label.trim() || shown.name, {}),
  html(write, { attrs: { shown, label } }) {
    if (!shown) return { row: '' }
    const { name, price, reduced, code, closesAt, url } = shown
    const { line, second } = write.paint
    const coupon = code === null
      ? ''
      : `<br><span class="second" style="color:${second}">With the code <strong>${write.literal(code)}</strong>.</span>`
    const closing = closesAt === null ? '' : `<br><strong>Closes ${write.fact(`moment ${closesAt}`)}</strong>`
    const cost = reduced === null
      ? `<strong>${write.literal(price)}</strong>`
      : `<s class="second" style="color:${second}">${write.literal(price)}</s> <strong>${write.literal(reduced)}</strong>`
    return { section: `<mj-section padding="4px 0 14px"><mj-column width="100%">
<mj-divider border-width="1px" border-color="${line}" padding="0 24px 12px" css-class="line" /></mj-column>
<mj-column width="60%"><mj-text padding="0 24px 10px"><strong style="font-size:18px">${write.literal(name)}</strong>${coupon}${closing}</mj-text></mj-column>
<mj-column width="40%"><mj-text padding="0 24px 6px">${cost}</mj-text>${mjButton(write, label.trim() || 'See it', write.nextLink(url), null)}</mj-column>
<mj-column width="100%"><mj-divider border-width="1px" border-color="${line}" padding="0 24px 4px" css-class="line" /></mj-column>
</mj-section>` }
  },
  text(write, { attrs: { shown, label } }) {
    if (!shown) return ''
    const { name, price, reduced, code, closesAt, url } = shown
    return [
      `${write.literal(name)}: ${reduced === null ? write.literal(price) : `${write.literal(reduced)} instead of ${write.literal(price)}`}`,
      ...code === null ? [] : [`With the code ${write.literal(code)}.`],
      ...closesAt === null ? [] : [`Closes ${write.fact(`moment ${closesAt}`)}`],
      `${write.literal(label.trim() || 'See it')}:`, write.nextLink(url),
    ].join('\n')
  },
}

/** Counted when the email leaves. What is over says so instead. */
export const countdown: BlockKind<CountdownNode> = {
  word: 'Countdown',
  hasWords: () => true,
  html(write, { attrs }) {
    if (attrs.until === null) return { row: '' }
    const [left, date] = partsOf(write, attrs, attrs.until)
    return { row: `<mj-text align="center" css-class="countdown"><strong style="font-size:20px">${left}</strong><br><span class="second" style="color:${write.paint.second}">${date}</span></mj-text>` }
  },
  text(write, { attrs }) {
    return attrs.until === null ? '' : partsOf(write, attrs, attrs.until).join('\n')
  },
}

const partsOf = (write: Writer, { before, after }: CountdownNode['attrs'], until: number): [left: string, date: string] =>
  [write.fact(`left ${until}`, after, null, before.trim() === '' ? '' : `${before.trim()} `), write.fact(`moment ${until}`)]
