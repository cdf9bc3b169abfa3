/** A course with a hold and a fork, as its owner builds it, starts it, and changes it while it runs; and the sending hours it keeps. */
import { expect, test, type Page } from '@playwright/test'
import { askers } from '../built/askers'
import { axe as axeOn, choose as chooseOn, inOneWindow, moveClock, type Opened } from './opened'

let opened: Opened
let page: Page

inOneWindow((now) => {
  opened = now
  page = now.page
})

const axe = () => axeOn(page)
const choose = (label: string | RegExp, option: string) => chooseOn(page, label, option)
const saved = () => expect(page.getByText('Saved', { exact: true })).toBeVisible()
const close = () => page.getByRole('button', { name: 'Close', exact: true }).click()
const asks = askers(() => opened.porch)
async function add(where: string, kind: string) {
  await page.getByRole('button', { name: `a step, ${where}`, exact: true }).click()
  await page.getByRole('list', { name: `Kinds of step, ${where}` }).getByRole('button', { name: kind }).click()
}
async function write(title: string, subject: string, body: string) {
  await page.getByLabel('Working title; readers never see it').fill(title)
  await page.getByRole('textbox', { name: 'Subject', exact: true }).fill(subject)
  await page.getByRole('textbox', { name: 'Body of the email' }).fill(body)
}
const clock = (by: 'hour' | 'day') => moveClock(opened.porch, by)

test('sending hours are painted by keyboard and pointer, and every date of a course keeps them', async () => {
  await page.goto('/settings')
  const week = page.getByRole('region', { name: 'Sending hours' }).or(page.getByRole('form', { name: 'Sending hours' }))
  await week.getByRole('button', { name: 'Monday to Friday, 08:00–18:00' }).click()
  await expect(week.getByText('Mon to Fri 08:00–18:00', { exact: true })).toBeVisible()
  // Saturday mornings, too: five halves of an hour by keyboard.
  await week.getByRole('grid').focus()
  for (let n = 0; n < 5; n++) await page.keyboard.press('ArrowDown')
  await page.keyboard.press('Space')
  for (let n = 0; n < 3; n++) await page.keyboard.press('Shift+ArrowRight')
  await expect(week.getByText('Mon to Fri 08:00–18:00, Sat 08:00–10:00', { exact: true })).toBeVisible()
  const [from, to] = [await week.getByRole('gridcell', { name: 'Saturday 08:00' }).boundingBox(), await week.getByRole('gridcell', { name: 'Saturday 09:30' }).boundingBox()]
  await page.mouse.move(from!.x + 2, from!.y + 5)
  await page.mouse.down()
  await page.mouse.move(to!.x + 2, to!.y + 5, { steps: 4 })
  await page.mouse.up()
  await expect(week.getByText('Mon to Fri 08:00–18:00', { exact: true })).toBeVisible()
  await axe()
  await week.getByRole('button', { name: 'Save the sending hours' }).click()
  await expect(week.getByRole('button', { name: 'Save the sending hours' })).toBeDisabled()
  await page.goto(`/courses/${opened.made.courseId}`)
  await expect(page.getByText('Its emails leave Mon to Fri 08:00–18:00.')).toBeVisible()
  // Whatever day it is: the first was asked for, what comes later keeps to the week.
  for (const when of (await page.locator('.when').allInnerTexts()).slice(1)) expect(when).not.toMatch(/Sat|Sun/)
  await page.getByRole('button', { name: 'Narrow this course' }).click()
  await axe()
})

test('a hold and a fork stand with their ways side by side, with the dates of the way that is chosen', async () => {
  await page.goto('/courses')
  await page.getByRole('button', { name: 'New course' }).click()
  await page.getByLabel('Name of the email course').fill('Five evenings')
  await page.getByRole('button', { name: 'Make the course' }).click()
  await choose('Belongs to the list', 'letters')
  await page.locator('.card').first().click()
  await write('Which book', 'Which book first?', 'Tell me which.')
  await page.getByRole('button', { name: 'Close', exact: true }).click()
  await add('at the end of the course', 'a hold')
  await choose('Until: in which email', 'in “Which book”')
  await expect(page.getByRole('heading', { name: /follows any link in “Which book”, at most/ })).toBeVisible()
  await choose('Until: what happens', 'gets a tag')
  await choose('Until: which tag', 'sheet kit')
  await page.getByLabel('At most how many').fill('2')
  await page.keyboard.press('Tab')
  await axe()
  await close()
  await expect(page.getByRole('button', { name: /Hold until someone gets the tag sheet kit, at most 2 days of 24 hours/ })).toBeVisible()
  await add('It happened', 'an email')
  await write('Thank you', 'Thank you', 'You told me.')
  await close()
  await add('Not within 2 days of 24 hours', 'a fork')
  await page.getByRole('region', { name: 'Way 1' }).getByRole('button', { name: 'a condition' }).first().click()
  await choose('Belongs 1: about what', 'Score')
  await axe()
  await close()
  await add('Everybody else', 'an email')
  await write('Once more', 'Once more', 'Which one?')
  await close()
  await add('With 15 points or more', 'something done')
  await page.getByRole('button', { name: 'something', exact: true }).click()
  await choose('Action 1: what is done', 'make a to-do')
  await page.getByLabel('Action 1: what is to be done').fill('ask them myself')
  await close()
  await add('at the end of the course', 'an email')
  await write('Last', 'The last', 'Good night.')
  await close()
  await saved()
  // By the limit, then by the way of those who told it.
  const last = page.locator('.step').last()
  const day = async () => (await last.locator('.when').innerText()).trim()
  const before = await day()
  await page.getByRole('region', { name: 'It happened' }).getByRole('button', { name: 'It happened', exact: true }).click()
  await expect.poll(day).not.toBe(before)
  await axe()
})

test('what is unfinished is said at its step; started, people take their ways, and are counted there', async () => {
  await add('at the end of the course', 'a jump')
  await close()
  await saved()
  await page.getByRole('button', { name: 'Start the course' }).click()
  await expect(page.getByText('Say before which step it goes on.').first()).toBeVisible()
  await page.getByRole('button', { name: 'Remove this step' }).click()
  await expect(page.getByText(/was taken out/)).toBeVisible()
  await saved()
  await page.getByRole('button', { name: 'Start the course' }).click()
  await page.getByRole('dialog').getByRole('button', { name: /Start/ }).click()
  await expect(page.getByText(/Email course, running/)).toBeVisible()
  // Brought in by a rule, like anybody else who opts in.
  const { id } = (await opened.porch.do<{ id: number, name: string }[]>('GET', 'courses')).find(({ name }) => name === 'Five evenings')!
  await opened.porch.do('POST', 'rules', { when: { kind: 'joined-list', thingId: opened.made.listId }, who: { kind: 'all', of: [] }, then: [{ kind: 'enrol', courseId: id }], often: { kind: 'each' }, on: true, note: '', evenInCircle: true })
  await opened.porch.optIn('sheet-kit', { email: 'ada@example.com', first_name: 'Ada' })
  for (let n = 0; n < 8; n++) await clock('day')
  await page.reload()
  await expect(page.getByRole('region', { name: /^Not within/ }).getByText('1 person so far').first()).toBeVisible()
  expect((await asks.mailTo('ada@example.com', 3)).map(({ subject }) => subject)).toEqual(expect.arrayContaining(['Which book first?', 'Once more', 'The last']))
})

test('a step is copied, paused and moved where it stands', async () => {
  await page.locator('.card').first().click()
  await page.getByRole('button', { name: 'Copy', exact: true }).click()
  await expect(page.getByRole('heading', { name: 'Email 2', exact: true })).toBeVisible()
  await page.getByRole('button', { name: 'Pause here' }).click()
  await expect(page.getByText('Paused: people wait before it')).toBeVisible()
  await page.getByRole('button', { name: 'Later', exact: true }).click()
  await page.getByRole('button', { name: 'Let people on' }).click()
  await page.getByRole('button', { name: 'Remove this email' }).click()
  await page.getByRole('button', { name: 'Put it back' }).click()
  await expect(page.locator('.step')).toHaveCount(3)
  await saved()
})
