/**
 * Takes the pictures of docs/screenshots/ from a practice workspace made for it.
 * Run it after a main view has changed: node tools/screenshots.mjs
 */
import { mkdirSync } from 'node:fs'
import { join } from 'node:path'
import { DEMO_URL, launch, signIn, withDemo } from './demoBrowser.mjs'
import { ROOT, main, say } from './say.mjs'

const FOLDER = join(ROOT, 'docs', 'screenshots')

/** Name of the picture, address, and what to do there before it is taken. */
const VIEWS = [
  ['today', '/'],
  ['opt-in-page', '/pages/1', page => page.frameLocator('iframe').getByText('In the kit, free and at once').scrollIntoViewIfNeeded()],
  ['page-results', '/pages/1/results', page => page.getByText('“workshop flyer”').waitFor()],
  ['offer', '/offers/2'],
  ['public-page', '/practice/p/sheet-kit'],
  ['choices', '/mailbox', async (page) => {
    await page.getByRole('link', { name: /What would you like to bind/ }).first().click()
    const away = page.waitForEvent('popup')
    await page.frameLocator('iframe').getByText('Choose what you get, or unsubscribe').click()
    await page.goto((await away).url())
    await (await away).close()
  }],
  ['courses', '/courses', page => page.getByText('emails go out in the next 7 days').waitFor()],
  ['course', '/courses/1'],
  ['email', '/courses/1?email=cover', async (page) => {
    await page.getByText(/^\d+ of 102 kB$/).waitFor()
    await page.getByRole('tab', { name: /likes: long-stitch/ }).click()
    await page.locator('#work').evaluate(work => work.scrollTo(0, 0))
  }],
  ['broadcast', '/broadcasts/11', async (page) => {
    await page.getByText(/^From .* to /).waitFor()
    await page.getByText('What else they get that day').waitFor()
  }],
  ['broadcast-results', '/broadcasts/9', async (page) => {
    await page.frameLocator('iframe').getByText('Take a parcel').waitFor()
    await page.getByText('Within parts of its people').waitFor()
    await page.locator('#work').evaluate(work => work.scrollTo(0, 640))
  }],
  ['broadcast-again', '/broadcasts/10', async (page) => {
    await page.getByRole('region', { name: 'Where they clicked' }).scrollIntoViewIfNeeded()
    await page.frameLocator('iframe').getByText('See the bench at night').waitFor()
    await page.getByRole('button', { name: 'Send it again to some' }).click()
    await page.waitForTimeout(1200)
    await page.getByRole('textbox', { name: 'Subject of the second sending' }).pressSequentially('Two lamps, one bench')
    await page.getByRole('dialog').getByText(/people? gets? it\.|get it\./).first().waitFor()
  }],
  ['email-parts', '/email-parts?at=templates', page => page.frameLocator('iframe').first().getByText('Good to have you here').waitFor()],
  ['calendar', '/calendar', page => page.getByText('More than 2 emails in a day').waitFor()],
  ['practice-mailbox', '/mailbox', async (page) => {
    await page.getByRole('link', { name: /What would you like to bind/ }).first().click()
    await page.frameLocator('iframe').getByText('A coptic book').waitFor()
  }],
  ['subscribers', '/subscribers'],
  ['subscriber', '/subscribers?tag=5', async (page) => {
    await page.locator('a.address').nth(2).click()
    await page.getByRole('heading', { name: 'History' }).waitFor()
  }],
  ['segment', '/segments', async (page) => {
    await page.getByRole('link', { name: 'Knows what to bind next' }).click()
    await page.getByText('Also in other segments').waitFor()
  }],
  ['house-rules', '/house-rules'],
]

await main(() => withDemo(async () => {
  const browser = await launch()
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } })
  mkdirSync(FOLDER, { recursive: true })
  await signIn(page)
  for (const [name, address, prepare] of VIEWS) {
    await page.setViewportSize({ width: 1280, height: 800 })
    await page.goto(DEMO_URL + address)
    await page.waitForLoadState('networkidle')
    await prepare?.(page)
    await page.waitForTimeout(500)
    await page.screenshot({ path: join(FOLDER, `${name}.png`) })
    say(`docs/screenshots/${name}.png`)
  }
  await browser.close()
}))
