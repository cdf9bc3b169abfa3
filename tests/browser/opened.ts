/** The built application with a list, a tag, a page and a course, opened by its owner in a browser. */
import AxeBuilder from '@axe-core/playwright'
import { expect, type Browser, type BrowserContext, type Page } from '@playwright/test'
import { furnish, type Furnished } from '../built/furnished'
import { PASSWORD, Porch } from '../built/porch'

export interface Opened {
  porch: Porch
  made: Furnished
  context: BrowserContext
  page: Page
  /** What failed in the page since it was last emptied. */
  faults: string[]
  close(): Promise<void>
}

export async function openSigned(browser: Browser): Promise<Opened> {
  const porch = await (await Porch.start()).ready()
  await porch.signIn()
  const made = await furnish(porch)
  const context = await browser.newContext({ baseURL: porch.url, viewport: { width: 1280, height: 800 } })
  const page = await context.newPage()
  const faults: string[] = []
  page.on('pageerror', error => faults.push(error.message))
  page.on('console', message => message.type() === 'error' && !/4(04|09|12|22)/.test(message.text()) && faults.push(message.text()))
  await page.goto('/sign-in')
  await page.getByLabel('Password', { exact: true }).fill(PASSWORD)
  await page.getByRole('button', { name: 'Sign in' }).click()
  await expect(page.getByRole('heading', { level: 1 })).toHaveText(/porch$/)
  return {
    porch, made, context, page, faults,
    async close() {
      await context.close()
      await porch.stop()
    },
  }
}

/** Looks a screen over. Frames may run nothing, and a list that is just closing is not part of the page any more; what is still fading in has not got its colours yet. */
export async function axe(page: Page): Promise<void> {
  await expect(page.locator('.p-select-overlay')).toHaveCount(0)
  await expect.poll(() => page.evaluate(() => document.getAnimations().filter(({ playState, effect }) => playState === 'running' && effect?.getComputedTiming().endTime !== Infinity).length)).toBe(0)
  const { violations } = await new AxeBuilder({ page }).exclude('iframe').setLegacyMode().analyze()
  expect(violations.map(({ id, nodes }) => `${id}: ${nodes.map(node => node.html).join(' ')}`)).toEqual([])
}
