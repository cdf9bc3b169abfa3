/** The way of a new owner from an empty folder to a running course of five emails with its page: every click and every field is counted. */
import { test, type BrowserContext, type Page } from '@playwright/test'
import { expect } from './expect'
import { axe as axeOn, fromTheFirstRun } from './opened'

let context: BrowserContext
let page: Page
fromTheFirstRun(fresh => ({ context, page } = fresh))

/** Clicks and fields, in their order. */
const acts: string[] = []
const MOST_ACTS = 30
const SUBJECTS = 'Subjects, one a line (you can paste an outline, or write them later)'

const axe = () => axeOn(page)
async function press(name: string | RegExp, role: 'button' | 'link' = 'button') {
  acts.push(`press ${name}`)
  await page.getByRole(role, { name, exact: typeof name === 'string' }).first().click()
}
async function fill(label: string, text: string) {
  acts.push(`fill ${label}`)
  await page.getByLabel(label, { exact: true }).fill(text)
}
const stair = (name: string) => page.getByRole('region', { name: 'First steps' }).getByRole('link', { name })
async function climb(name: string) {
  acts.push(`stair ${name}`)
  await stair(name).click()
}
const toToday = () => press('Today', 'link')
const isDone = (name: string) =>
  expect(page.getByRole('region', { name: 'First steps' }).locator('li.done', { hasText: name })).toBeVisible()

test('says who the emails are from', async () => {
  await page.goto('/')
  await fill('Password', 'a long enough password')
  await press('Choose this password')
  await expect(page.getByText('Setup: 0 of 7 done')).toBeVisible()
  await axe()
  await climb('Sender')
  await expect(page.getByLabel('Sender’s name')).toBeFocused()
  await fill('Name of the workspace', 'Saltmarsh Bindery')
  await fill('Sender’s name', 'Ines')
  await fill('Sender’s address', 'ines@saltmarsh.example.com')
  await fill('Postal address', 'Rua do Cais 3\nLisboa')
  await press('Save the settings')
  await expect(page.getByText('The settings are saved')).toBeVisible()
})

test('makes a page and its course in one go, from a pasted outline, and publishes the page', async () => {
  await toToday()
  await isDone('Sender')
  await climb('Opt-in page')
  await fill('Name (only you see it)', 'Five evenings')
  await expect(page.getByRole('checkbox', { name: 'And an email course that starts when someone opts in' })).toBeChecked()
  await fill(SUBJECTS,
    'Your sheet kit\nFold once, then trust it\nWhich book first?\nSewing without a frame\nThe last hour')
  await expect(page.getByRole('dialog').getByRole('listitem')).toHaveText([
    /^at once ?Your sheet kit$/, /08:00 ?Fold once/, /Which/, /Sewing/, /The last/,
  ])
  await axe()
  await press('Make the page and the course')
  const headline = page.frameLocator('iframe[title="The page, to be written in"]').getByRole('textbox', { name: 'Headline', exact: true })
  acts.push('write the headline')
  await headline.fill('One book in five evenings')
  await expect(page.getByText('Saved', { exact: true })).toBeVisible()
  await press('Publish the page')
  await expect(page.getByText('Visitors now see version 1.')).toBeVisible()
})

test('writes the five emails one after the other, and starts the course', async () => {
  await toToday()
  await isDone('List')
  await isDone('Opt-in page')
  acts.push('press the course in Needs attention')
  await page.getByRole('link', { name: 'Write the emails' }).click()
  await expect(page.getByRole('button', { name: 'by the tag opted in: Five evenings' })).toBeVisible()
  await press(/^1 ·/)
  await press('Write the email')
  const emails = page.getByRole('navigation', { name: 'Emails of the course' }).getByRole('listitem').getByRole('button')
  for (let n = 1; n <= 5; n++) {
    acts.push(`write email ${n}`)
    await expect(emails.nth(n - 1)).toHaveAttribute('aria-current', 'page')
    await page.getByRole('textbox', { name: 'Body of the email' }).click()
    await page.keyboard.type(`What to do on evening ${n}.`)
    if (n === 5) break
    acts.push('press the next email')
    await emails.nth(n).click()
  }
  await press('Start the course')
  acts.push('press Start the course')
  await page.getByRole('dialog').getByRole('button', { name: 'Start the course' }).click()
  await expect(page.getByText('The course runs. It waits for the first person.')).toBeVisible()
  expect(acts.length, acts.join('\n')).toBeLessThanOrEqual(MOST_ACTS)
  console.log(`${acts.length} actions from an empty folder to a running course of five emails with its page`)
})

test('tries it as a visitor and rehearses it; the list of first steps ticks by itself and can be put away', async () => {
  await toToday()
  await isDone('Course')
  await axe()
  const [visitor] = await Promise.all([context.waitForEvent('page'), stair('Trial').click()])
  await visitor.getByLabel('Email').fill('filipa@example.com')
  await visitor.getByRole('button', { name: 'Start my seven days' }).click()
  await expect(visitor.getByText('Day zero')).toBeVisible()
  await visitor.close()
  await page.reload()
  await isDone('Trial')
  await stair('Rehearsal').click()
  await expect(page.getByRole('region', { name: 'Readers side by side' })).toContainText('The last hour')
  await page.getByRole('link', { name: 'Today' }).click()
  await expect(page.getByText('Setup: 6 of 7 done')).toBeVisible()
  await page.getByRole('region', { name: 'First steps' }).getByRole('button', { name: 'Hide' }).click()
  await page.getByRole('button', { name: 'Show them again' }).click()
  await expect(page.getByText('Setup: 6 of 7 done')).toBeVisible()
  await page.getByRole('region', { name: 'First steps' }).getByRole('button', { name: 'Hide' }).click()
  await expect(page.getByRole('region', { name: 'First steps' })).toBeHidden()
  await page.reload()
  await expect(page.getByRole('heading', { name: 'Needs attention' })).toBeVisible()
  await expect(page.getByRole('region', { name: 'First steps' })).toBeHidden()
})

test('finds anything by Ctrl+K, and shows the keys by ?', async () => {
  await page.keyboard.press('Control+k')
  const find = page.getByRole('combobox', { name: 'Find anything' })
  await expect(find).toBeFocused()
  await find.fill('five')
  await expect(page.getByRole('option').first()).toContainText('Five evenings')
  await axe()
  await find.fill('which book')
  await expect(page.getByRole('option', { name: /Which book first/ })).toHaveAttribute('aria-selected', 'true')
  await page.keyboard.press('Enter')
  await expect(page.getByRole('complementary', { name: 'Email 3' })).toBeVisible()
  await page.keyboard.press('Escape')
  await page.keyboard.press('Control+k')
  await find.fill('too many')
  await page.keyboard.press('Enter')
  await expect(page.getByRole('heading', { name: 'How many emails one person gets' })).toBeFocused()
  await page.keyboard.press('?')
  await expect(page.getByRole('dialog', { name: 'Keys' })).toBeVisible()
  await axe()
  await page.keyboard.press('Escape')
  await expect(page.getByRole('dialog', { name: 'Keys' })).toBeHidden()
})

test('subjects and times are written in the ladder, several emails added at its end, a copy made for the day after', async () => {
  await page.goto('/courses')
  await page.getByRole('link', { name: 'Five evenings' }).click()
  await page.getByRole('button', { name: 'Edit subjects and times in place' }).click()
  await page.getByRole('textbox', { name: 'Subject of email 1' }).fill('Your kit')
  await page.keyboard.press('Enter')
  await expect(page.getByRole('textbox', { name: 'Subject of email 2' })).toBeFocused()
  await page.keyboard.press('Shift+Enter')
  await expect(page.getByRole('textbox', { name: 'Subject of email 1' })).toBeFocused()
  await axe()
  await page.getByRole('button', { name: 'Done' }).click()
  await page.getByRole('button', { name: 'a step, at the end of the course' }).click()
  await page.getByRole('button', { name: 'several emails' }).click()
  await page.getByLabel(SUBJECTS, { exact: true }).fill('Day 1: More paper\nDay 4: More thread')
  await page.getByRole('button', { name: 'Add 2 emails' }).click()
  const steps = page.locator('.ladder > .steps > li')
  await expect(steps).toHaveCount(7)
  await expect(steps.nth(5)).toContainText('Day 5')
  await expect(steps.nth(6)).toContainText('Day 8')
  await page.getByRole('button', { name: /^7 ·/ }).click()
  await page.getByRole('complementary').getByRole('button', { name: 'Copy', exact: true }).click()
  await expect(steps.nth(7)).toContainText('Day 9')
  await expect(page.getByText('Saved', { exact: true })).toBeVisible()
  await page.reload()
  await expect(page.getByRole('button', { name: /^1 · Your kit/ })).toBeVisible()
  await expect(steps).toHaveCount(8)
})
