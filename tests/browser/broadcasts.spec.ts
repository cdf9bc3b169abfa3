/** A broadcast is written, counted, scheduled, taken back, sent, paused, resumed, looked at, and sent again to those who missed it. */
import { test, type Page } from '@playwright/test'
import type { BroadcastView } from '#core/views/broadcast'
import type { MailboxView } from '#core/views/mailbox'
import { expect } from './expect'
import { axe, choose, fillNumber, inOneWindow, moveClock, type Opened, visit } from './opened'

let opened: Opened
let page: Page
let id: number
inOneWindow(async (one) => {
  opened = one
  page = one.page
  for (const name of ['Ana', 'Bo', 'Cleo', 'Dora']) await one.porch.optIn(
    'sheet-kit', { email: `${name.toLowerCase()}@example.com`, first_name: name }
  )
  // Their first emails are not what this is about.
  await moveClock(one.porch, 'day')
})
const saved = () => expect(page.getByText('Saved', { exact: true })).toBeVisible()
const part = (name: string) => page.getByRole('navigation', { name: 'Parts of the broadcast' }).getByRole('button', { name })
const sill = () => page.getByRole('region', { name: 'Sending' })
const view = () => opened.porch.do<BroadcastView>('GET', `broadcasts/${id}`)

test('it is written, and its numbers open onto people before anything leaves', async () => {
  await visit(page, '/broadcasts')
  await axe(page)
  await page.getByRole('button', { name: 'New broadcast' }).click()
  await page.getByRole('textbox', { name: 'Subject', exact: true }).click()
  await page.keyboard.type('Six new papers')
  await page.getByRole('textbox', { name: 'Body of the email' }).click()
  await page.keyboard.type('They came in from Fabriano. /but')
  await page.keyboard.press('Enter')
  await page.getByLabel('Button text').fill('See the papers')
  await page.getByLabel('and leads to').fill('https://saltmarsh.example.com/papers')
  await saved()
  id = Number(/\/broadcasts\/(\d+)/.exec(page.url())![1])
  await part('Who and when').click()
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Six new papers')
  const who = page.getByRole('region', { name: 'People who get it' })
  // They all are newcomers still.
  await expect(who.getByText('4 newcomer')).toBeVisible()
  await expect(sill().getByText('Nobody gets it.')).toBeVisible()
  await axe(page)
  await who.getByRole('link', { name: '4', exact: true }).last().click()
  await expect(page.getByText(/held back: newcomer: broadcast “Six new papers”/)).toBeVisible()
  await expect(page.getByRole('link', { name: 'ana@example.com' })).toBeVisible()
  await page.goBack()
  await page.getByRole('switch', { name: 'Newcomers, days' }).click()
  await expect(sill().getByRole('button', { name: 'Send to 4 people' })).toBeEnabled()
})

test('who gets it is said in a sentence, and counted as it is said', async () => {
  await page.getByRole('button', { name: 'Change the audience' }).click()
  const dialog = page.getByRole('dialog', { name: 'People who get it, and people who never do' })
  await dialog.getByRole('group', { name: 'Never' }).getByRole('button', { name: 'a condition' }).click()
  await choose(page, 'Never 1: about what', 'Opt-in on a page')
  await axe(page)
  await dialog.getByRole('button', { name: 'Use this' }).click()
  await expect(page.getByRole('region', { name: 'People who get it' }).getByText('4 in never')).toBeVisible()
  await page.getByRole('button', { name: 'Change the audience' }).click()
  await dialog.getByRole('button', { name: 'Remove Never 1' }).click()
  await dialog.getByRole('button', { name: 'Use this' }).click()
  await expect(sill().getByRole('button', { name: 'Send to 4 people' })).toBeEnabled()
})

test('it is scheduled with real dates, changed, and taken back', async () => {
  await choose(page, 'Send it', 'at a time, each reader’s own clock')
  await expect(sill().getByText(/^Nothing leaves before/)).toBeVisible()
  await sill().getByRole('button', { name: 'Schedule for 4 people' }).click()
  await expect(sill().getByText(/^Scheduled: it begins/)).toBeVisible()
  await choose(page, 'Send it', 'now')
  await expect(sill().getByText('You have changed it since it was scheduled.')).toBeVisible()
  await sill().getByRole('button', { name: 'Cancel sending' }).click()
  await expect(sill().getByRole('button', { name: 'Send to 4 people' })).toBeVisible()
  expect((await view()).state).toBe('draft')
})

test('it can be sent as before while its numbers are asked for again because something has happened', async () => {
  let answer!: () => void
  const answered = new Promise<void>(resolve => answer = resolve)
  const REACH = /\/broadcasts\/\d+\/reach$/
  await page.route(REACH, async (route) => {
    await answered
    await route.continue()
  })
  const asked = page.waitForRequest(REACH)
  await opened.porch.optIn('sheet-kit', { email: 'ana@example.com', first_name: 'Ana' })
  const question = await asked
  expect(await sill().getByRole('button', { name: 'Send to 4 people' }).isEnabled()).toBe(true)
  answer()
  await question.response()
  await page.unroute(REACH)
})

test('sent now, there is a minute to take it back; while it leaves it is paused, resumed and has its people', async () => {
  await fillNumber(page.getByLabel('Spread evenly over hours (0: at once)'), '8')
  await saved()
  await sill().getByRole('button', { name: 'Send to 4 people' }).click()
  await expect(sill().getByText(/It begins in \d+ seconds/)).toBeVisible()
  await sill().getByRole('button', { name: 'Cancel sending' }).click()
  await sill().getByRole('button', { name: 'Send to 4 people' }).click()
  await expect(sill().getByText(/It begins in \d+ seconds/)).toBeVisible()
  // The clock that moves on ends the minute.
  await moveClock(opened.porch, 'hour')
  await expect(sill().getByRole('button', { name: 'Pause' })).toBeVisible()
  await sill().getByRole('button', { name: 'Pause' }).click()
  await expect(page.getByText(/^Broadcast to the list .*, paused/)).toBeVisible()
  await axe(page)
  await moveClock(opened.porch, 'day')
  expect((await view()).progress!.waiting).toBeGreaterThan(0)
  await sill().getByRole('button', { name: /^Resume for/ }).click()
  await expect(page.getByText(/^Broadcast to the list .*, sent to 4 people/)).toBeVisible()
})

test('its results are told in words and numbers, each with its people', async () => {
  const { rows } = await opened.porch.do<MailboxView>('GET', 'mailbox')
  const of = (name: string) => rows.find(({ toAddress, subject }) => toAddress === `${name}@example.com` && subject === 'Six new papers')!
  await visit(page, `/mailbox?mail=${of('ana').id}`)
  await page.frameLocator('iframe').getByText('They came in from Fabriano.').waitFor()
  await expect.poll(
    async () => (await opened.porch.do<{ opened: { people: number } }>('GET', `broadcasts/${id}/results`)).opened.people
  ).toBe(1)
  await visit(page, `/broadcasts/${id}`)
  await expect(page.getByText('0 of 4 clicked: 0%, between 0% and 49%.')).toBeVisible()
  const numbers = page.getByRole('region', { name: 'In numbers' })
  await numbers.getByRole('listitem').filter({ hasText: 'reader opens' }).getByRole('button', { name: '1' }).click()
  await expect(page.getByRole('link', { name: 'Ana, ana@example.com' })).toBeVisible()
  await axe(page)
  await page.getByRole('button', { name: 'Close' }).click()
  await expect(page.frameLocator('iframe[title="The email with how many followed each link"]').getByText('See the papers')).toBeVisible()
  await page.getByRole('group', { name: 'Which parts' }).getByRole('button', { name: 'Domains' }).click()
  const parts = page.getByRole('region', { name: 'Within parts of its people' })
  await parts.getByRole('button', { name: 'example.com: 1 Reader opens' }).click()
  await expect(page.getByRole('heading', { name: 'example.com: opened it' })).toBeVisible()
  await expect(page.getByRole('link', { name: 'Ana, ana@example.com' })).toBeVisible()
  await expect(page.getByRole('link', { name: 'Bo, bo@example.com' })).toBeHidden()
  await page.getByRole('button', { name: 'Close' }).click()
  await part('Email').click()
  await expect(page.frameLocator('iframe').getByText('They came in from Fabriano.')).toBeVisible()
})

test('it is shared on the public page, and taken from there', async () => {
  await part('Results').click()
  await page.getByRole('switch', { name: 'On your public page' }).click()
  const url = (await page.getByRole('link', { name: /\/letters\/\d+$/ }).getAttribute('href'))!
  const path = new URL(url).pathname
  const visitor = await (await page.context().browser()!.newContext({ baseURL: opened.porch.url })).newPage()
  await visitor.goto(path.replace(/\/\d+$/, ''))
  await axe(visitor)
  await visitor.getByRole('link', { name: 'Six new papers' }).click()
  await expect(visitor.getByText('They came in from Fabriano.')).toBeVisible()
  await expect(visitor.getByRole('link', { name: 'See the papers' })).toHaveAttribute('href', 'https://saltmarsh.example.com/papers')
  const feed = await opened.porch.fetch(path.replace(/\d+$/, 'feed.xml'))
  expect([
    feed.status, feed.headers.get('content-type'), (await feed.text()).includes('<title type="html"><![CDATA[Six new papers]]></title>'),
  ])
    .toEqual([200, 'application/atom+xml; charset=utf-8', true])
  await page.getByRole('switch', { name: 'On your public page' }).click()
  await expect(page.getByText('Only the people it was sent to can read it.')).toBeVisible()
  expect((await opened.porch.fetch(path)).status).toBe(404)
  expect((await opened.porch.fetch(`${path}x`)).status).toBe(404)
  await visitor.context().close()
})

test('it goes along as a file and by a link, and becomes a draft where it is imported', async () => {
  const menu = async (item: string) => {
    await page.getByRole('button', { name: 'Copy or archive' }).click()
    return page.getByRole('menuitem', { name: item })
  }
  for (const [item, name] of [
    ['Export as an email (.eml)', 'six-new-papers.eml'], ['Export for another workspace (JSON)', 'six-new-papers.json'],
  ]) {
    const download = page.waitForEvent('download')
    await (await menu(item!)).click()
    expect((await download).suggestedFilename()).toBe(name)
  }
  await (await menu('Copy by link')).click()
  const dialog = page.getByRole('dialog', { name: 'Copy by link' })
  await dialog.getByRole('switch').click()
  const url = await dialog.getByLabel('Link to the copy').inputValue()
  await axe(page)
  expect(await (await opened.porch.fetch(new URL(url).pathname)).json()).toMatchObject({
    format: 'keen-porch broadcast', name: 'Six new papers',
  })
  await visit(page, '/broadcasts')
  await page.getByRole('button', { name: 'Import' }).click()
  const taking = page.getByRole('dialog', { name: 'Import a broadcast' })
  await taking.getByLabel('Link to a copy').fill('papers')
  await taking.getByRole('button', { name: 'Import' }).click()
  await expect(taking.getByRole('alert')).toContainText('begins with https://')
  await axe(page)
  await taking.getByLabel('Link to a copy').fill(url)
  await taking.getByRole('button', { name: 'Import' }).click()
  await expect(page.getByText(/^Broadcast to the list .*, not sent yet/)).toBeVisible()
  await visit(page, `/broadcasts/${id}`)
  await (await menu('Copy by link')).click()
  await dialog.getByRole('switch').click()
  await expect(dialog.getByLabel('Link to the copy')).toBeHidden()
  expect((await opened.porch.fetch(new URL(url).pathname)).status).toBe(404)
  await page.keyboard.press('Escape')
})

test('it is sent again to those who have not opened it, under another subject', async () => {
  await page.getByRole('button', { name: 'Send it again to some' }).click()
  const dialog = page.getByRole('dialog', { name: 'Send it again' })
  await expect(dialog.getByRole('combobox', { name: 'To people' })).toBeFocused()
  await expect(dialog.getByText('3 people get it.')).toBeVisible()
  await dialog.getByRole('button', { name: 'Send to 3 people' }).click()
  await expect(dialog.getByRole('alert')).toContainText('subject of its own')
  await dialog.getByRole('textbox', { name: 'Subject of the second sending' }).click()
  await page.keyboard.type('Before the paper is gone')
  await axe(page)
  await dialog.getByRole('button', { name: 'Send to 3 people' }).click()
  await expect(page.getByRole('region', { name: 'Sent again' }).getByText('Before the paper is gone')).toBeVisible()
  await moveClock(opened.porch, 'hour')
  await expect(page.getByRole('region', { name: 'Sent again' }).getByText('3 sent')).toBeVisible()
  const { rows } = await opened.porch.do<MailboxView>('GET', 'mailbox')
  expect(rows.filter(({ subject }) => subject === 'Before the paper is gone').map(({ toAddress }) => toAddress).sort()).toEqual([
    'bo@example.com', 'cleo@example.com', 'dora@example.com',
  ])
})

test('those who did not open it are written to with one press; all sending stops with one switch', async () => {
  await page.getByRole('region', { name: 'In numbers' }).getByRole('listitem').filter({ hasText: 'neither opened nor clicked' })
    .getByRole('button').click()
  await page.getByRole('button', { name: 'Write to them' }).click()
  await expect(page.getByRole('textbox', { name: 'Body of the email' })).toBeVisible()
  await part('Who and when').click()
  await expect(page.getByText(/were sent “Six new papers”/)).toBeVisible()
  await visit(page, '/engine')
  await page.getByRole('button', { name: 'Stop all sending' }).click()
  await page.getByRole('alertdialog').getByRole('button', { name: 'Stop all sending' }).click()
  await expect(page.getByText(/All sending is stopped since/)).toBeVisible()
  await visit(page, '/')
  await axe(page)
  await page.getByRole('button', { name: 'Release it' }).click()
  await expect(page.getByRole('button', { name: 'Stop all sending' })).toBeVisible()
})
