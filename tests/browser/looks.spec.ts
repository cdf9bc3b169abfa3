/**
 * Every look of a public page, with every sort of section and question, in a browser: nothing overflows, and everybody can read and use it.
 */
import { test, type Page } from '@playwright/test'
import { renderOptIn } from '#core/page/render'
import { PAGE_COLOURS, PAGE_NIGHTS, PAGE_TYPES, PAGE_WIDTHS, PICTURE_PLACES, type PageTheme } from '#core/page/theme'
import { publicCss } from '#core/page/style'
import { NO_TOUCH } from '#core/page/touch'
import { everyPage } from '../everyPage'
import { expect } from './expect'
import { faultsOf, type Looked } from './faults'

const keys = <Key extends string>(of: Record<Key, unknown>) => Object.keys(of) as Key[]
/** Each colour with some sorts of letters; widths and places of the picture take turns. */
const LOOKS: PageTheme[] = keys(PAGE_COLOURS).flatMap((colour, n) => keys(PAGE_TYPES).map((type, k) => ({
  colour, type, width: keys(PAGE_WIDTHS)[(n + k) % 3]!, picture: keys(PICTURE_PLACES)[(n + k) % 4]!,
}))).filter((_, at) => at % 2 === 0)
/** Each colour once more, as visitors see it whose device is dark. */
const NIGHTS: PageTheme[] = keys(PAGE_NIGHTS).map(colour => ({ colour, type: 'clear', width: 'usual', picture: 'inside', night: true }))
const PICTURE = '<svg xmlns="http://www.w3.org/2000/svg" width="960" height="540"><rect width="960" height="540" fill="#789"/></svg>'

test.describe.configure({ mode: 'serial' })

/** The one window of all looks, and the page that stands at every address in it. */
let page: Page
let html: (problems: Record<string, string>) => string
test.beforeAll(async ({ browser }) => {
  page = await browser.newPage()
  await page.route('http://looks.example.com/**', (route) => {
    const { pathname } = new URL(route.request().url())
    if (pathname === '/public.css') return route.fulfill({ contentType: 'text/css', body: publicCss })
    if (pathname.startsWith('/i/')) return route.fulfill({ contentType: 'image/svg+xml', body: PICTURE })
    if (pathname.startsWith('/fonts/')) return route.fulfill({ status: 404 })
    return route.fulfill({ contentType: 'text/html', body: html(pathname === '/wrong'
      ? { form: 'Too often.', email: 'Type your address.', a1: 'Please fill this in.', b1: 'Please tick this box to continue.' }
      : {}) })
  })
})
test.afterAll(() => page.context().close())

test('what is hard to read, or cannot be read out, is found', async () => {
  await page.setContent(`<html lang="en"><title>x</title><main><h1>Words</h1>
    <p style="color: #999; background: #aaa">too pale</p><img src="data:," width="40" height="40"><iframe srcdoc="<p>x</p>"></iframe></main>`)
  const ids = async (looked?: Looked) => (await faultsOf(page, looked)).map(fault => fault.split(':')[0])
  expect(await ids()).toEqual(['color-contrast', 'frame-title', 'image-alt'])
  expect(await ids({ rules: ['color-contrast'] })).toEqual(['color-contrast'])
  expect(await ids({ except: ['p', 'iframe'] })).toEqual(['image-alt'])
})

test('what does not come, does not go, or is there twice, is told', async () => {
  await page.setContent('<h1>Words</h1><p>twice</p><p>twice</p><p hidden>kept back</p>')
  const told = (expected: Promise<void>, by: string) => expect(expected).rejects.toThrow(by)
  const soon = { timeout: 50 }
  await told(expect(page.getByText('nothing')).toBeVisible(soon), 'getByText(\'nothing\') to be visible')
  await told(expect(page.getByText('kept back')).toBeVisible(soon), 'getByText(\'kept back\') to be visible')
  await told(expect(page.getByText('Words')).toBeHidden(soon), 'getByText(\'Words\') to be hidden')
  // That is told at the first look, however long it takes.
  await told(expect(page.getByText('twice')).toBeVisible(), 'resolved to 2 elements')
  await told(expect(page.getByText('nothing')).not.toBeVisible(), 'Ask for the opposite')
})

for (const [at, theme] of [...LOOKS, ...NIGHTS].entries()) {
  test(Object.values(theme).map(value => value === true ? 'by night' : value).join(', '), async () => {
    await page.emulateMedia({ colorScheme: theme.night ? 'dark' : 'light' })
    html = problems => renderOptIn({
      content: { ...everyPage('Words to read'), theme }, senderName: 'Ines', postalAddress: 'Rua do Cais 3, Lisboa',
      files: { css: '/public.css', script: null }, action: '/p/x', touch: NO_TOUCH, url: '', at: path => path, now: 0, zone: 'UTC',
      pictures: new Map([[7, { id: 7, name: 'x', width: 960, height: 540, widths: [480, 960] }]]),
      fields: new Map([[1, { kind: 'text', choices: [] }], [2, { kind: 'country', choices: [] }]]), problems,
    })
    for (const [width, address] of [[1280, '/p'], [390, '/wrong']] as const) {
      await page.setViewportSize({ width, height: 800 })
      await page.goto(`http://looks.example.com${address}`)
      // How a page is built is the same in every look; colours and sizes are not.
      expect(await faultsOf(page, at < 2
        ? { tags: ['wcag2a', 'wcag2aa', 'wcag21aa', 'wcag22aa', 'best-practice'] }
        : { rules: ['color-contrast', 'target-size'] })).toEqual([])
      expect(await page.evaluate(() => document.documentElement.scrollWidth), `${width}`).toBeLessThanOrEqual(width)
    }
  })
}
