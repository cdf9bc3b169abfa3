/** The built application with a list, a tag, a page and a course, opened by its owner in a browser. */
import { test, type Browser, type BrowserContext, type Locator, type Page } from '@playwright/test'
import type { RailView } from '#core/views/frame'
import { startFurnished, type Furnished } from '../built/furnished'
import { Porch, until } from '../built/porch'
import { expect } from './expect'
import { faultsOf } from './faults'

export interface Opened {
  porch: Porch
  made: Furnished
  context: BrowserContext
  page: Page
  /** What failed in the page since it was last emptied. */
  faults: string[]
  close(): Promise<void>
}

async function openSigned(browser: Browser): Promise<Opened> {
  const { porch, made } = await startFurnished()
  const context = await browser.newContext({ baseURL: porch.url, viewport: { width: 1280, height: 800 } })
  const [name, value] = porch.cookie.split('=')
  await context.addCookies([{ name: name!, value: value!, url: porch.url }])
  const page = await context.newPage()
  const faults: string[] = []
  page.on('pageerror', error => faults.push(error.message))
  page.on('console', message => message.type() === 'error' && !/4(04|09|12|22)/.test(message.text()) && faults.push(message.text()))
  await page.goto('/')
  await expect(page.getByRole('heading', { level: 1 })).toHaveText(/porch$/)
  return {
    porch, made, context, page, faults,
    async close() {
      await context.close()
      await porch.stop()
    },
  }
}

/** The application as it is started for the first time: no password, nothing made. */
export type Fresh = Pick<Opened, 'porch' | 'context' | 'page' | 'faults'>

/** The tests of a file follow one another in its window, from the first run on; no script may fail. `begin` is given what is open. */
export function fromTheFirstRun(begin: (fresh: Fresh) => void): void {
  const faults: string[] = []
  let fresh: Fresh | undefined
  test.describe.configure({ mode: 'serial' })
  test.beforeAll(async ({ browser }) => {
    const porch = await (await Porch.start({ PORCH_PASSWORD: '' })).ready()
    // As most people have it: with all that moves.
    const context = await browser.newContext({
      baseURL: porch.url, viewport: { width: 1280, height: 800 }, reducedMotion: 'no-preference',
    })
    const page = await context.newPage()
    page.on('pageerror', error => faults.push(error.message))
    page.on('console', message => message.type() === 'error' && !/422|404/.test(message.text()) && faults.push(message.text()))
    begin(fresh = { porch, context, page, faults })
  })
  test.afterAll(async () => {
    await fresh?.context.close()
    await fresh?.porch.stop()
  })
  test.afterEach(() => {
    expect(faults.splice(0), 'no script fails and nothing breaks the content security policy').toEqual([])
  })
}

/**
 * The tests of a file follow one another in one window; nothing may fail in it. `begin` is given what is open, and makes what these tests
 * need besides.
 */
export function inOneWindow(begin: (opened: Opened, browser: Browser) => Promise<void> | void): void {
  let opened: Opened | undefined
  test.describe.configure({ mode: 'serial' })
  test.beforeAll(async ({ browser }) => {
    opened = await openSigned(browser)
    await begin(opened, browser)
  })
  test.afterAll(() => opened?.close())
  test.afterEach(() => {
    expect(opened?.faults.splice(0), 'no script fails and nothing breaks the content security policy').toEqual([])
  })
}

/** Moves the practice clock, and waits until everything due by then is done. */
export async function moveClock(porch: Porch, by: 'hour' | 'day' | 'next-send' | 'to', at?: number): Promise<void> {
  await porch.do('POST', 'clock', { by, at })
  await until(async () => {
    const { movingTo, backlog } = await porch.do<RailView>('GET', 'rail')
    return movingTo === null && backlog === 0
  }, 'the clock')
}

interface Inside { __vue_app__: { config: { globalProperties: { $nuxt: NuxtApp } } } }
interface NuxtApp { $router: { push(path: string): Promise<unknown> }, hooks: { hookOnce(name: 'page:finish', done: () => void): void } }

/**
 * Goes to a screen as the application's own links do; one that is shown already is loaded anew. Whole loads are slower, and are tried
 * where a file begins, on each screen of the demo, and wherever a test says so with `goto` or `reload`.
 */
export async function visit(page: Page, path: string): Promise<void> {
  const [here, there] = [new URL(page.url()), new URL(path, page.url())]
  if (here.href === there.href) {
    await page.goto(path)
    return
  }
  await page.evaluate(async ({ path, isOtherScreen }) => {
    const { $nuxt: nuxt } = (document.querySelector('#__nuxt') as unknown as Inside).__vue_app__.config.globalProperties
    const shown = isOtherScreen && new Promise<void>(done => nuxt.hooks.hookOnce('page:finish', done))
    const refused = await nuxt.$router.push(path)
    if (refused) throw new Error(`The application does not go to ${path}: ${String(refused)}`)
    await shown
  }, { path, isOtherScreen: here.pathname !== there.pathname })
  // What was told of the screen before would be taken for something told of this one. It stays while the pointer rests on it, and may
  // come just now, in answer to what was pressed last.
  await expect.poll(() => page.locator('.p-toast-message').evaluateAll(told => told.map(message =>
    message.querySelector<HTMLElement>('.p-toast-close-button')!.click()).length)).toBe(0)
  await atRest(page)
}

/** What was scrolled is told to the page at its next frame, and what changed is drawn by then. */
export const atRest = (page: Page) => page.evaluate(() => new Promise(done => requestAnimationFrame(() => requestAnimationFrame(done))))

/**
 * Opens the list that has this label, by the keyboard: a pointer can make the screen scroll, which closes it, and so can the focus where
 * the list lies further down: what did not open, or did not stay open, is opened again.
 */
export async function openList(page: Page, label: string | RegExp): Promise<void> {
  await expect(async () => {
    const list = page.getByRole('combobox', { name: label, exact: typeof label === 'string' })
    await list.focus()
    await atRest(page)
    if (await list.getAttribute('aria-expanded') !== 'true') await page.keyboard.press('ArrowDown')
    await expect(list).toHaveAttribute('aria-expanded', 'true', { timeout: 1000 })
    await expect(page.locator(`[id="${await list.getAttribute('aria-controls')}"]`)).toBeVisible({ timeout: 1000 })
    await atRest(page)
    await expect(list).toHaveAttribute('aria-expanded', 'true', { timeout: 100 })
  }).toPass()
}

/** A number counts once its field is left: from the field itself, wherever the focus has gone meanwhile. */
export async function fillNumber(field: Locator, text: string): Promise<void> {
  await field.fill(text)
  await field.press('Tab')
}

/** Chooses of the list that has this label. */
export async function choose(page: Page, label: string | RegExp, option: string): Promise<void> {
  const overlay = page.locator('.p-select-overlay, .p-multiselect-overlay')
  await openList(page, label)
  await page.getByRole('option', { name: option, exact: true }).last().click()
  // A list of which several can be chosen stays open; where nothing is, Escape would close the panel it stands in.
  if (await overlay.evaluateAll(panels => panels.some(panel => panel.classList.contains('p-multiselect-overlay')))) {
    await page.keyboard.press('Escape')
  }
  await expect(overlay).toHaveCount(0)
}

const FRAME = ['nav.wall', 'aside.rail']
/** How wide each window was when the frame around its screens was looked at. */
const framedAt = new WeakMap<Page, number>()

/**
 * Looks a screen over: the first one in a window with the frame that is around all of them. (In the demo, each is looked at with it.) A
 * list that is just closing is not part of the page any more; what is still fading in has not got its colours yet.
 */
export async function axe(page: Page): Promise<void> {
  // Loaded is not drawn yet.
  await expect(page.locator('h1').first()).toBeVisible()
  await expect(page.locator('.p-select-overlay, .p-autocomplete-overlay')).toHaveCount(0)
  await expect.poll(() => page.evaluate(() => document.getAnimations()
    .filter(({ playState, effect }) => playState === 'running' && effect?.getComputedTiming().endTime !== Infinity).length)).toBe(0)
  // What tells briefly that something is done goes when it likes, and is half gone for a moment.
  const { width } = page.viewportSize()!
  expect(await faultsOf(page, { except: ['.p-toast', ...framedAt.get(page) === width ? FRAME : []] })).toEqual([])
  if (await page.locator(FRAME[0]!).count() > 0) framedAt.set(page, width)
}
