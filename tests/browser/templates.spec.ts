/**
 * The emails that others begin with, and one of every block, as mail programs draw them: narrow and wide, light and dark. Nothing is wider
 * than its window, and everybody can read it (WCAG 2.2 A and AA, as far as axe-core can tell).
 */
import { test } from '@playwright/test'
import { compileEmail } from '#adapters/compileEmail'
import type { BlockNode, MessageContent } from '#core/message/content'
import { linksOf } from '#core/message/blocks'
import { fillMessage } from '#core/message/fill'
import { DEFAULT_LOOK, type EmailLook } from '#core/message/look'
import { fileKey } from '#core/message/blocks/file'
import { linkKey } from '#core/message/template'
import { EMAIL_TEMPLATES } from '#core/message/templates/index'
import { SEND_KINDS } from '#core/sending/kinds'
import { expect } from './expect'
import { faultsOf } from './faults'

async function htmlOf(content: MessageContent, look: EmailLook, dark: boolean): Promise<string> {
  const { html } = fillMessage(await compileEmail(content, SEND_KINDS.course, look), {
    facts: {
      first_name: 'Ada', list_name: 'Letters', sender_name: 'Ines', postal_address: 'Rua do Cais 3, Lisboa', 'left 5': '3 days',
      'moment 5': 'Sunday',
    },
    ready: {
      base_url: '', pixel_url: 'data:,', choices_url: 'https://a.example.com/m', own_url: 'https://a.example.com/c',
      view_url: 'https://a.example.com/v', [fileKey(1)]: 'https://a.example.com/e',
      ...Object.fromEntries(linksOf(content.body).map(({ n, url }) => [linkKey(n), url])),
    },
    chosen: { 0: 0 },
  })
  return dark ? html.replaceAll('(prefers-color-scheme: dark)', 'all') : html
}
const says = (text: string): BlockNode => ({ type: 'paragraph', content: [{ type: 'text', text }] })
const LONG = 'Donaudampfschifffahrtsgesellschaftskapitänsmützenfabrik'
const every: MessageContent = { ...EMAIL_TEMPLATES[0]!.content, inBrowser: true, body: { type: 'doc', content: [
  says(`${LONG} and words`), { type: 'heading', attrs: { level: 2 }, content: [{ type: 'text', text: LONG }] },
  { type: 'blockquote', content: [{ type: 'paragraph', content: [{ type: 'text', text: 'Somebody else' }] }] },
  { type: 'choice', attrs: { onlyOne: true, says: '', choices: ['Coptic', 'Long-stitch in leather', 'Marbling', 'Boxes'].map(
    label => ({ label, hint: 'opens flat', tagId: null })
  ) } },
  { type: 'offer', attrs: { offerId: 1, code: 'GUILD', label: 'Take a seat', shown: {
    name: 'Long-Stitch Journals', url: 'https://a.example.com/s', price: '€180.00', reduced: '€160.00', code: 'GUILD', closesAt: 5,
    couponUntilAt: 5,
  } } },
  { type: 'articles', attrs: { label: 'Read on', articles: [
    { title: LONG, text: 'Two stitches and no glue.', url: 'https://a.example.com/', pictureId: 1, alt: '' },
    { title: 'Paper', text: '', url: 'https://a.example.com/', pictureId: null, alt: '' },
  ] } },
  { type: 'file', attrs: { fileId: 1, fileName: 'Twelve sheets.pdf', bytes: 120_000, label: '' } },
  { type: 'countdown', attrs: { offerId: null, until: 5, before: 'Closes in', after: '' } },
  { type: 'social', attrs: { links: [{ label: 'My workshop', url: 'https://a.example.com/' }] } }, { type: 'divider' },
  { type: 'onlyFor', content: [{
    type: 'case', attrs: { who: null }, content: [{ type: 'button', attrs: { label: 'Open', url: 'https://a.example.com/', tagId: null } }],
  }] },
] } }
const LOOK: EmailLook = {
  ground: '#EADFCB', paper: '#FFFBF2', ink: '#33261A', accent: '#8A2F1D', font: 'bookish', width: 'wide', corners: 'round',
}

for (const { name, content, look = DEFAULT_LOOK } of [
  ...EMAIL_TEMPLATES as readonly { name: string, content: MessageContent, look?: EmailLook }[],
  { name: 'one of every block', content: every }, { name: 'the same in another look', content: every, look: LOOK },
]) {
  test(name, async ({ page }) => {
    for (const dark of [false, true]) {
      const html = await htmlOf(content, look, dark)
      for (const width of [360, 640]) {
        await page.setViewportSize({ width, height: 900 })
        await page.setContent(html)
        const where = `${width} wide, ${dark ? 'dark' : 'light'}`
        expect(await page.evaluate(() => document.documentElement.scrollWidth - window.innerWidth), where).toBeLessThanOrEqual(0)
        // Sizes do not change by night, nor colours by width: two of the four show them all.
        if (dark !== (width === 640)) continue
        expect(await faultsOf(page, { tags: ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa'] }), where).toEqual([])
      }
    }
  })
}
