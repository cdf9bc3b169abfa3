/** A chooser: copied, tried, published, and answered by visitors with and without JavaScript, in the browser throughout. */
import { test, type Page } from '@playwright/test'
import { expect } from './expect'
import { axe, choose as chooseOn, fillNumber, inOneWindow, type Opened, openList, visit } from './opened'

let opened: Opened
let page: Page

inOneWindow(async (now) => {
  opened = now
  page = now.page
  for (const field of [
    { name: 'level', label: 'Level', kind: 'choice', choices: ['new', 'old hand'] },
    { name: 'loaves', label: 'Loaves so far', kind: 'number', choices: [] },
  ]) await opened.porch.do('POST', 'fields', field)
})

const choose = (label: string | RegExp, option: string) => chooseOn(page, label, option)
const saved = () => expect(page.getByText('Saved', { exact: true })).toBeVisible()

test('it begins as a finished page, and says which page each answer leads to before anybody answers', async () => {
  await visit(page, '/pages')
  await page.getByRole('button', { name: 'New opt-in page' }).click()
  await page.getByLabel('Name (only you see it)').fill('First loaf')
  await page.getByRole('radio', { name: /^A chooser/ }).check()
  await page.getByRole('button', { name: 'Make the page' }).click()
  await page.getByRole('button', { name: 'After the button' }).click()
  await expect(page.getByRole('status').filter({ hasText: 'They see' })).toHaveText('They see the page for everyone else.')
  await choose('What does a day look like when you could bake?', 'A whole day at home')
  await choose('Is there a sourdough in your kitchen?', 'Yes, and it has a name')
  await expect(page.getByRole('status').filter({ hasText: 'They see' })).toHaveText('They see Dark rye.')
  await expect(
    page.frameLocator('iframe[title="On a phone"]').getByRole('heading', { level: 1 }),
  ).toHaveText('Yours is the dark rye')
  await axe(page)
})

test('a page of one’s own for some answers: a condition, tags and words; one that nobody can come to is said so', async () => {
  await page.getByRole('button', { name: 'A result page for some answers' }).click()
  const own = page.getByRole('region', { name: 'result page 4' })
  await own.getByLabel('Result page 4; what you call it').fill('Crisp')
  await choose('Crisp, condition 1: which question', 'What kind of loaf do you want?')
  await choose('Crisp, condition 1: answers', 'A crust that sings')
  await expect(page.getByText('Crisp: no answers lead there.')).toBeVisible()
  const crisp = page.getByRole('region', { name: 'Crisp' })
  for (let n = 0; n < 3; n++) await page.getByRole('button', { name: 'Move Crisp up' }).click()
  await expect(page.getByText('no answers lead there')).toBeHidden()
  await crisp.getByLabel('Headline').fill('Yours sings')
  await crisp.getByRole('button', { name: 'Make a new tag' }).click()
  await crisp.getByLabel('Name of the new tag').fill('fits: crusty')
  await crisp.getByRole('button', { name: 'Make it' }).click()
  await expect(crisp.getByLabel('Name of the new tag')).toBeHidden()
  await saved()
  await axe(page)
})

test('an answer sets a field, and so does the page', async () => {
  await page.getByRole('button', { name: 'The form', exact: true }).click()
  await choose('Yes, and it has a name: set a field', 'level')
  await choose('Yes, and it has a name sets level', 'old hand')
  await axe(page)
  await page.getByRole('button', { name: 'What it gives' }).click()
  await choose('The page: set a field', 'loaves')
  await fillNumber(page.getByRole('spinbutton', { name: 'The page sets loaves' }), '0')
  await expect(page.getByText('The page promises a file, and its email is written')).toBeVisible()
  await page.getByRole('button', { name: 'No file' }).click()
  await openList(page, 'They join')
  await page.getByRole('option', { name: 'letters' }).click()
  await page.keyboard.press('Escape')
  await page.getByRole('button', { name: 'Confirmation' }).click()
  await page.getByText('Nobody', { exact: true }).click()
  await saved()
  await page.getByRole('button', { name: 'Publish the page' }).click()
  await expect(page.getByText('Visitors now see version 1.')).toBeVisible()
})

test('two windows on one page: the later is told, and chooses which of the two counts', async () => {
  const other = await opened.context.newPage()
  await other.goto(page.url())
  await other.getByRole('button', { name: 'Address' }).click()
  await page.getByRole('button', { name: 'Address' }).click()
  await expect(other.getByLabel('Name (only you see it)')).toHaveValue('First loaf')
  const name = page.getByLabel('Name (only you see it)')
  await name.fill('Loaf in this window')
  await saved()
  await other.getByLabel('Name (only you see it)').fill('Loaf in the other')
  await expect(other.getByText('Not saved: this was changed in another window.')).toBeVisible()
  await axe(other)
  await other.getByRole('button', { name: 'Show the other version' }).click()
  await expect(other.getByLabel('Name (only you see it)')).toHaveValue('Loaf in this window')
  await other.getByLabel('Name (only you see it)').fill('Loaf in the other')
  await expect(other.getByText('Saved', { exact: true })).toBeVisible()
  await name.fill('First loaf')
  await expect(page.getByText('Not saved: this was changed in another window.')).toBeVisible()
  await page.getByRole('button', { name: 'Keep this version' }).click()
  await saved()
  await other.close()
  await page.reload()
  await expect(name).toHaveValue('First loaf')
})

test('a visitor comes from question to question, cannot skip one that is needed, can go back, and reads what fits', async ({ browser }) => {
  const context = await browser.newContext({ baseURL: opened.porch.url, viewport: { width: 390, height: 800 } })
  const visitor = await context.newPage()
  visitor.on('pageerror', error => opened.faults.push(error.message))
  await visitor.goto('/practice/p/first-loaf')
  await expect(visitor.getByText('1 of 4')).toBeVisible()
  await expect(visitor.getByLabel('Email address')).toBeHidden()
  await visitor.getByRole('button', { name: 'Next' }).click()
  await expect(visitor.getByRole('alert')).toHaveText('This answer is needed to go on.')
  await axe(visitor)
  await visitor.getByLabel('Ten minutes here and there').check()
  await visitor.getByRole('button', { name: 'Next' }).click()
  await expect(visitor.getByText('What kind of loaf do you want?')).toBeFocused()
  await visitor.getByRole('button', { name: 'Back' }).click()
  await expect(visitor.getByLabel('Ten minutes here and there')).toBeChecked()
  await expect(visitor.getByRole('alert')).toHaveCount(0)
  await visitor.getByRole('button', { name: 'Next' }).click()
  // The Enter key goes on, too, and sends nothing before the last turn.
  await visitor.getByLabel('A crust that sings').check()
  await visitor.keyboard.press('Enter')
  await visitor.getByLabel('Yes, and it has a name').check()
  await visitor.keyboard.press('Enter')
  await expect(visitor.getByText('4 of 4')).toBeVisible()
  await axe(visitor)
  await visitor.getByRole('button', { name: 'Show me my loaf' }).click()
  await expect(visitor.getByText('4 of 4')).toBeVisible()
  await expect(visitor.getByLabel('Email address')).toHaveAttribute('aria-invalid', 'true')
  await visitor.getByLabel('Email address').fill('singer@example.com')
  await visitor.getByRole('button', { name: 'Show me my loaf' }).click()
  await expect(visitor.getByRole('heading', { level: 1 })).toHaveText('Yours sings')
  await context.close()
})

test('without JavaScript all questions stand there, the address last', async ({ browser }) => {
  const context = await browser.newContext({ baseURL: opened.porch.url, javaScriptEnabled: false })
  const visitor = await context.newPage()
  await visitor.goto('/practice/p/first-loaf')
  for (const answer of ['A whole day at home', 'A dark one that lasts all week', 'Yes, and it has a name']) {
    await visitor.getByLabel(answer).check()
  }
  await visitor.getByLabel('Email address').fill('plain@example.com')
  await visitor.getByRole('button', { name: 'Show me my loaf' }).click()
  await expect(visitor.getByRole('heading', { level: 1 })).toHaveText('Yours is the dark rye')
  await context.close()
})

test('the results say where the answers led; behind a number stand the people, with their tags and fields', async () => {
  await page.getByRole('link', { name: 'Results' }).click()
  const led = page.getByRole('region', { name: 'Results by answers' })
  await expect(led.getByRole('row', { name: /^Crisp 1/ })).toBeVisible()
  await expect(led.getByRole('row', { name: /^Dark rye 1/ })).toBeVisible()
  await expect(led.getByRole('row', { name: /^everyone else 0/ })).toBeVisible()
  await axe(page)
  await led.getByRole('row', { name: /^Crisp 1/ }).getByRole('link').click()
  await expect(page.getByText(/result: “Crisp”/)).toBeVisible()
  await page.getByRole('link', { name: 'singer@example.com' }).click()
  const facts = page.getByRole('region', { name: 'Facts' })
  await expect(facts.getByText('fits: crusty')).toBeVisible()
  await expect(facts.getByText('old hand')).toBeVisible()
  await expect(facts.getByText('0', { exact: true })).toBeVisible()
})
