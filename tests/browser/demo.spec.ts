/** `npm run demo` as a visitor meets it: made by the program that ships, every main screen, by day and by night. */
import { test, type Page } from '@playwright/test'
import { type ChildProcess, spawn } from 'node:child_process'
import { mkdtempSync, readFileSync, rmSync, statSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { freePort, ROOT, until } from '../built/porch'
import { expect } from './expect'
import { faultsOf } from './faults'
import { visit } from './opened'

test.describe.configure({ mode: 'serial' })

const data = mkdtempSync(join(tmpdir(), 'porch-demo-'))
let port = 0
let said = ''
let demo: ChildProcess
/** The visitor’s one window, signed in, and what failed in it since that was last asked. */
let page: Page
const faults: string[] = []

async function start(...args: string[]) {
  said = ''
  demo = spawn(process.execPath, ['tools/demo.mjs', ...args], {
    cwd: ROOT, env: { ...process.env, NODE_ENV: 'production', PORT: String(port), PORCH_DATA: data, PORCH_PASSWORD: '' },
    stdio: ['ignore', 'pipe', 'pipe'],
  })
  for (const stream of [demo.stdout!, demo.stderr!]) stream.on('data', chunk => said += chunk)
}
async function stop() {
  demo.kill('SIGINT')
  if (demo.exitCode === null) await new Promise(resolve => demo.on('exit', resolve))
}

test.beforeAll(async ({ browser }) => {
  test.setTimeout(900_000)
  port = await freePort()
  // What stands there is made anew when asked for, whatever it is.
  writeFileSync(join(data, 'practice.db'), 'no workspace')
  await start('--fresh')
  await until(async () => said.includes('Sign in with'), 'the demo', 800_000)
  page = await browser.newPage({ baseURL: `http://localhost:${port}` })
  page.on('pageerror', error => faults.push(error.message))
  page.on('console', message => message.type() === 'error' && faults.push(message.text()))
})
test.afterAll(async () => {
  await page.context().close()
  await stop()
  rmSync(data, { recursive: true, force: true })
})

test('it says what it does, where it is and how to come in', async () => {
  expect(said).toContain('sixty days of Saltmarsh Bindery')
  expect(said).toContain(`http://localhost:${port}`)
  expect(said).not.toMatch(/error|warn/i)
  const [, password] = /Sign in with\s+(\S.*)/.exec(said)!
  await page.goto('/')
  await page.getByLabel('Password', { exact: true }).fill(password!)
  await page.getByRole('button', { name: 'Sign in' }).click()
  await expect(page.getByRole('heading', { level: 1 })).toHaveText(/porch$/)
})

/** Each screen with something that stands on it. */
const VIEWS: Record<string, [address: string, sign: string | RegExp][]> = {
  'what strangers come to': [
    ['/', 'Going out next'], ['/pages', 'Course page'], ['/pages/1', 'What it gives'], ['/pages/1/results', '“workshop flyer”'], [
      '/pages/3?part=form', 'one after the other',
    ], ['/pages/3?part=after', 'Try the answers'], ['/pages/3/results', 'Results by answers'], ['/pages/sources', 'All together'],
  ],
  'what is sold and taught': [
    ['/offers', 'Leather and Board'], ['/offers/2', 'If someone buys now'], ['/offers/2?part=page', 'Price and button'], [
      '/offers/2?part=coupons', 'GUILD',
    ], ['/offers/2?part=gives', 'and leaves these courses'], ['/offers/2?part=after', 'Receipt email'], [
      '/offers/2/sales?days=90', 'By email',
    ], ['/offers/past', 'Drop a CSV file here'], ['/courses', 'People inside, by step'],
      ['/courses/1', '5 · A cover, and what comes next'], [
      '/courses/1?part=entries', 'After the end',
    ], ['/courses/1?part=rehearsal', 'finished “'], ['/courses/1?part=people', 'longest wait first'],
    ['/calendar', 'More than 2 emails in a day'], ['/engine', 'Scheduled work'],
  ],
  'who is known': [
    ['/subscribers', /1 to 100 of 494 people/],
    ['/subscribers/import', 'Drop a CSV file here'], ['/subscribers/done', 'Import “spring fair.csv”'],
    ['/segments', 'Knows what to bind next'], ['/segments/8', 'could be sent something now'],
    ['/subscribers?status=bounced', 'refused@example.net'], ['/subscribers/20', 'History'], ['/tags-and-lists', 'likes: coptic'],
  ],
  'what acts by itself': [
    ['/house-rules', 'When someone goes quiet'], ['/house-rules/8', 'Recent activity of this rule'], ['/house-rules/new', 'From now on'], [
      '/links', 'Print the sheet kit',
    ], ['/links/3', 'Results'], ['/links/new', 'What a click does'], ['/to-dos', 'Write a card to the new member'], [
      '/webhooks', 'Recent outgoing calls',
    ], ['/keys', 'For developers'], ['/mailbox', /emails delivered here/], ['/settings', 'Go live'],
  ],
}

/** Each screen is opened by its address; another part of one, as its links do. */
const loaded = new Set<string>()
async function open(address: string) {
  const screen = new URL(address, page.url()).pathname.replace(/\d+/g, 'n')
  await (loaded.has(screen) ? visit(page, address) : page.goto(address))
  loaded.add(screen)
}

for (const part of Object.keys(VIEWS)) {
  test(`${part}: nothing fails, nothing is hard to read, by day and by night`, async () => {
    // A slow machine takes many seconds for each of these screens.
    test.setTimeout(900_000)
    for (const [address, sign] of VIEWS[part]!) {
      await open(address)
      await expect(page.getByText(sign).first()).toBeVisible()
      for (const colorScheme of ['dark', 'light'] as const) {
        await page.emulateMedia({ colorScheme, reducedMotion: 'reduce' })
        // By night only the colours are others, and those around the work are the same on every screen.
        const found = await faultsOf(page, colorScheme === 'dark'
          ? { rules: ['color-contrast'], except: address === '/' ? [] : ['.wall', '.rail'] }
          : {})
        expect(found, `${address} ${colorScheme}`).toEqual([])
      }
      expect(await page.evaluate(() => [document.documentElement, document.querySelector('#work')!].map(part =>
        part.scrollWidth - part.clientWidth)), address).toEqual([0, 0])
    }
    expect(faults.splice(0)).toEqual([])
  })
}

test('its past has happened: opens, clicks, leaving and refusals, and every rate of what it says', async () => {
  await visit(page, '/courses/1')
  const [, inside, started, ended, left] = /(\d+) people inside, (\d+) started, (\d+) finished, (\d+) left/.exec(
    await page.getByText(/Email course, running/).innerText(),
  )!.map(Number)
  // Four hundred opted in; some of those who were asked to say yes have not, and those who came to the chooser start no course.
  const figures = async (pageId: number, ...words: string[]) => {
    await visit(page, `/pages/${pageId}/results?days=90`)
    return Promise.all(
      words.map(async word => Number(await page.locator('.figures > div').filter({ hasText: word }).getByRole('link').first().innerText())),
    )
  }
  const [answered] = await figures(3, 'are in')
  const [pressed, counted, fetched] = await figures(1, 'people clicked the button', 'are in', 'fetched the file')
  expect([answered! > 40, pressed! > counted!, counted! > fetched!, fetched! > 120]).toEqual([true, true, true, true])
  expect([started! < 400 - answered!, started! >= 400 - answered! - (pressed! - counted!) - 2]).toEqual([true, true])
  expect(inside! + ended! + left!).toBe(started)
  expect([inside! > 5, ended! > 240, left! > 2]).toEqual([true, true, true])
  await visit(page, '/courses/1')
  const first = page.getByRole('listitem').filter({ hasText: '1 · Sheet kit' })
  // Addresses that are refused on purpose: where the yes is asked for first, they never come in.
  const sent = Number(await first.getByRole('link').first().innerText())
  expect([started! - 2 <= sent, sent <= started!]).toEqual([true, true])
  await expect(first.getByTitle(new RegExp(`reader opens: \\d+ of ${sent}`))).toBeVisible()
})

test('the keyboard alone leads from the top to the work, along the wall, and into a table', async () => {
  await page.goto('/')
  await expect(page.getByText('Going out next')).toBeVisible()
  await page.keyboard.press('Tab')
  await expect(page.getByRole('link', { name: 'To the page' })).toBeFocused()
  // Finding anything comes first, and then the areas.
  for (let n = 0; n < 6; n++) await page.keyboard.press('Tab')
  await expect(page.getByRole('link', { name: /Subscribers/ })).toBeFocused()
  expect(await page.evaluate(() => getComputedStyle(document.activeElement!).outlineStyle)).toBe('solid')
  await page.keyboard.press('Enter')
  await expect(page.getByLabel('Find by address or name')).toBeVisible()
  await page.getByRole('link', { name: 'To the page' }).focus()
  await page.keyboard.press('Enter')
  // How it works, and the two things that the head of the page offers; then the table.
  for (let n = 0; n < 4; n++) await page.keyboard.press('Tab')
  await expect(page.getByLabel('Find by address or name')).toBeFocused()
  await page.keyboard.type('refused@example.net')
  await expect(page.getByText('1 person', { exact: true })).toBeVisible()
  for (let n = 0; n < 20 && !(await page.getByRole('link', { name: 'refused@example.net' })
    .evaluate(link => link === document.activeElement)); n++) await page.keyboard.press('Tab')
  await page.keyboard.press('Enter')
  await expect(page.getByText('not sent: 550 5.1.1 No such mailbox')).toBeVisible()
})

test('started again it is there with its data and its keys, and makes nothing anew', async () => {
  const made = statSync(join(data, 'practice.db')).ino
  const keys = readFileSync(join(data, 'keys.json'), 'utf8')
  await stop()
  expect(demo.exitCode).toBe(0)
  await start()
  await until(async () => said.includes('Sign in with'), 'the demo again')
  expect(said).not.toContain('Making the practice workspace')
  expect(statSync(join(data, 'practice.db')).ino).toBe(made)
  expect(readFileSync(join(data, 'keys.json'), 'utf8')).toBe(keys)
})
