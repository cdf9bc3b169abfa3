/** A course with a hold and a fork, as its owner builds it, starts it, and changes it while it runs; and the sending hours it keeps. */
import { readFileSync } from 'node:fs'
import { test, type Locator, type Page } from '@playwright/test'
import { askers } from '../built/askers'
import { expect } from './expect'
import { atRest, axe as axeOn, choose as chooseOn, fillNumber, inOneWindow, moveClock, type Opened, visit } from './opened'

let opened: Opened
let page: Page

inOneWindow((now) => {
  opened = now
  page = now.page
})

const axe = () => axeOn(page)
const choose = (label: string | RegExp, option: string) => chooseOn(page, label, option)
const saved = () => expect(page.getByText('Saved', { exact: true })).toBeVisible()
const close = () => page.getByRole('complementary').getByRole('button', { name: 'Close', exact: true }).click()
const asks = askers(() => opened.porch)
async function add(where: string, kind: string) {
  await page.getByRole('button', { name: `a step, ${where}`, exact: true }).click()
  await page.getByRole('list', { name: `Kinds of step, ${where}` }).getByRole('button', { name: kind }).click()
}
async function write(title: string, subject: string, body: string) {
  await page.getByLabel('Working title; readers never see it').fill(title)
  await page.getByRole('textbox', { name: 'Subject', exact: true }).fill(subject)
  await page.getByRole('button', { name: 'Write the email' }).click()
  await page.getByRole('textbox', { name: 'Body of the email' }).fill(body)
  await page.getByRole('navigation', { name: 'Emails of the course' }).getByRole('button').first().click()
}
const clock = (by: 'hour' | 'day') => moveClock(opened.porch, by)

test('sending hours are painted by keyboard and pointer, and every date of a course keeps them', async () => {
  await visit(page, '/settings')
  const week = page.getByRole('region', { name: 'Sending hours' }).or(page.getByRole('form', { name: 'Sending hours' }))
  await week.getByRole('button', { name: 'Monday to Friday, 08:00–18:00' }).click()
  await expect(week.getByText('Mon to Fri 08:00–18:00', { exact: true })).toBeVisible()
  // Saturday mornings, too: five halves of an hour by keyboard.
  await week.getByRole('grid').focus()
  for (let n = 0; n < 5; n++) await page.keyboard.press('ArrowDown')
  await page.keyboard.press('Space')
  for (let n = 0; n < 3; n++) await page.keyboard.press('Shift+ArrowRight')
  await expect(week.getByText('Mon to Fri 08:00–18:00, Sat 08:00–10:00', { exact: true })).toBeVisible()
  const [from, to] = [
    await week.getByRole('gridcell', { name: 'Saturday 08:00' }).boundingBox(),
    await week.getByRole('gridcell', { name: 'Saturday 09:30' }).boundingBox(),
  ]
  await page.mouse.move(from!.x + 2, from!.y + 5)
  await page.mouse.down()
  await page.mouse.move(to!.x + 2, to!.y + 5, { steps: 4 })
  await page.mouse.up()
  await expect(week.getByText('Mon to Fri 08:00–18:00', { exact: true })).toBeVisible()
  await axe()
  await week.getByRole('button', { name: 'Save the sending hours' }).click()
  await expect(week.getByRole('button', { name: 'Save the sending hours' })).toBeDisabled()
  await visit(page, `/courses/${opened.made.courseId}`)
  await expect(page.getByText('Its emails leave Mon to Fri 08:00–18:00.')).toBeVisible()
  // Whatever day it is: the first was asked for, what comes later keeps to the week.
  for (const when of (await page.locator('.when').allInnerTexts()).slice(1)) expect(when).not.toMatch(/Sat|Sun/)
  await page.getByRole('button', { name: 'Set its own hours' }).click()
  await axe()
})

test('a hold and a fork stand with their ways side by side, with the dates of the way that is chosen', async () => {
  await visit(page, '/courses')
  await page.getByRole('button', { name: 'New course' }).click()
  await page.getByLabel('Name of the email course').fill('Five evenings')
  await fillNumber(page.getByRole('spinbutton', { name: 'How many emails' }), '1')
  await page.getByRole('button', { name: 'Make the course' }).click()
  await choose('Belongs to the list', 'letters')
  await page.locator('.card').first().click()
  await write('Which book', 'Which book first?', 'Tell me which.')
  await page.getByRole('button', { name: 'Close', exact: true }).click()
  await add('at the end of the course', 'a hold')
  await choose('Until: in which email', 'in “Which book”')
  await expect(page.getByRole('heading', { name: /clicks any link in “Which book”, at most/ })).toBeVisible()
  await choose('Until: what happens', 'gets a tag')
  await choose('Until: which tag', 'sheet kit')
  await fillNumber(page.getByLabel('At most: how many'), '2')
  await axe()
  await close()
  await expect(page.getByRole('button', { name: /Hold until someone gets the tag “sheet kit”, at most 2 days \(24 hours\)/ })).toBeVisible()
  await add('It happened', 'an email')
  await write('Thank you', 'Thank you', 'You told me.')
  await close()
  await add('Not within 2 days (24 hours)', 'a fork')
  await page.getByRole('region', { name: 'Path 1' }).getByRole('button', { name: 'a condition' }).first().click()
  await choose('Belongs 1: about what', 'Score')
  await axe()
  await close()
  await add('Everybody else', 'an email')
  await write('Once more', 'Once more', 'Which one?')
  await close()
  await add('People with 15 points or more', 'something done')
  await page.getByRole('button', { name: 'something', exact: true }).click()
  await choose('Action 1: what is done', 'add a to-do')
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
  await expect(page.getByText('Choose the step to continue at.').first()).toBeVisible()
  await page.getByRole('button', { name: 'Remove this step' }).click()
  await expect(page.getByText(/was removed/)).toBeVisible()
  await saved()
  await page.getByRole('button', { name: 'Start the course' }).click()
  await page.getByRole('dialog').getByRole('button', { name: /Start/ }).click()
  await expect(page.getByText(/Email course, running/)).toBeVisible()
  // Brought in by a rule, like anybody else who opts in.
  const { id } = (await opened.porch.do<{ id: number, name: string }[]>('GET', 'courses')).find(({ name }) => name === 'Five evenings')!
  await opened.porch.do('POST', 'rules', {
    when: { kind: 'joined-list', thingId: opened.made.listId }, who: { kind: 'all', of: [] }, then: [{ kind: 'enrol', courseId: id }],
    often: { kind: 'each' }, on: true, note: '', evenInCircle: true,
  })
  await opened.porch.optIn('sheet-kit', { email: 'ada@example.com', first_name: 'Ada' })
  for (let n = 0; n < 8; n++) await clock('day')
  await page.reload()
  await expect(page.getByRole('region', { name: /^Not within/ }).getByText('1 person so far').first()).toBeVisible()
  expect((await asks.mailTo('ada@example.com', 3)).map(({ subject }) => subject)).toEqual(
    expect.arrayContaining(['Which book first?', 'Once more', 'The last']),
  )
})

test('a step is copied, paused and moved where it stands', async () => {
  await page.locator('.card').first().click()
  await page.getByRole('button', { name: 'Copy', exact: true }).click()
  await expect(page.getByRole('heading', { name: 'Email 2', exact: true })).toBeVisible()
  await page.getByRole('button', { name: 'Pause here' }).click()
  await expect(page.getByText('Paused: people wait before it')).toBeVisible()
  await page.getByRole('button', { name: 'Later', exact: true }).click()
  await page.getByRole('button', { name: 'Let people continue' }).click()
  await page.getByRole('button', { name: 'Remove this email' }).click()
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(page.locator('.step')).toHaveCount(3)
  await saved()
  // Dragged by its post to behind the next one; back by its buttons.
  const titles = () =>
    page.locator('.steps > li').evaluateAll(rows => rows.map(row => row.textContent?.match(/Which book|Hold|Last|The end/)?.[0] ?? ''))
  const before = await titles()
  const drag = async (from: number, to: number) => {
    const [a, b] = [
      await page.locator('.steps > li .grip').nth(from).boundingBox(), await page.locator('.steps > li .grip').nth(to).boundingBox(),
    ]
    await page.mouse.move(a!.x + a!.width / 2, a!.y + 20)
    await page.mouse.down()
    await page.mouse.move(b!.x + b!.width / 2, b!.y + b!.height - 4, { steps: 12 })
    await page.mouse.up()
  }
  await page.locator('#work').evaluate(work => work.scrollTo(0, 0))
  await drag(0, 1)
  await expect.poll(titles).not.toEqual(before)
  await saved()
  await page.locator('.steps > li').nth(1).locator('.card').first().click()
  await page.getByRole('button', { name: 'Earlier', exact: true }).click()
  await close()
  await expect.poll(titles).toEqual(before)
  await saved()
})

test('a step is dragged out of a way and into another, and put back by its panel; nothing is lost on the way', async () => {
  const inWay = (name: RegExp, title: string) =>
    page.getByRole('region', { name }).locator('.row-of-way').first().locator(':scope > .block', { hasText: title })
  const ownRow = (title: string) => page.locator('.steps > .item').filter({ has: page.locator('.step', { hasText: title }) })
  const everywhere = (title: string) => page.locator('.block').filter({ has: page.locator(':scope > .card', { hasText: title }) }).last()
    .locator(':scope > .grip').or(ownRow(title).locator('.grip'))
  const drag = async (grip: Locator, onto: Locator) => {
    const from = await grip.boundingBox()
    await page.mouse.move(from!.x + from!.width / 2, from!.y + 12)
    await page.mouse.down()
    // What is dragged makes room where it passes, so that its goal moves, too.
    for (let n = 0; n < 3; n++) {
      const to = await onto.boundingBox()
      await page.mouse.move(to!.x + to!.width / 2, to!.y + 6, { steps: 12 })
    }
    await page.mouse.up()
  }
  /** A hand corrects what went a row too far; so does this. */
  const dragUntil = (title: string, onto: Locator, there: Locator) => expect(async () => {
    if (await there.count() === 0) await drag(everywhere(title), onto)
    await expect(there).toHaveCount(1, { timeout: 1000 })
    await expect(everywhere(title)).toHaveCount(1, { timeout: 1000 })
  }).toPass()
  await page.setViewportSize({ width: 1280, height: 1800 })
  await expect(inWay(/^It happened/, 'Thank you')).toHaveCount(1)
  await dragUntil('Thank you', page.locator('.steps > .item').last(), ownRow('Thank you'))
  await expect(inWay(/^It happened/, 'Thank you')).toHaveCount(0)
  await dragUntil(
    'Thank you', page.getByRole('region', { name: /^Everybody else/ }).locator('.row-of-way').first(),
    inWay(/^Everybody else/, 'Thank you'),
  )
  await expect(ownRow('Thank you')).toHaveCount(0)
  // A hold cannot be put into a way of its own.
  await drag(
    page.locator('.steps > .item:has(.other) .grip').first(),
    page.getByRole('region', { name: /^It happened/ }).locator('.row-of-way').first(),
  )
  await expect(page.locator('.steps > .item:has(.other)')).toHaveCount(1)
  await inWay(/^Everybody else/, 'Thank you').locator(':scope > .card').click()
  await choose('It is in', '“It happened” of: Hold until someone gets the tag “sheet kit”, at most 2 days (24 hours)')
  await expect(inWay(/^It happened/, 'Thank you')).toHaveCount(1)
  await axe()
  await close()
  await saved()
  await page.setViewportSize({ width: 1280, height: 800 })
  // Saved as it stands.
  await page.reload()
  await expect(inWay(/^It happened/, 'Thank you')).toHaveCount(1)
  await expect(inWay(/^Everybody else/, 'Once more')).toHaveCount(1)
})

test('the dates are shown for a real person, from when they came', async () => {
  // They pick someone before the search for what they typed has returned: its answer must not open the list again.
  let answer = () => {}
  const chosen = new Promise<void>(done => answer = done)
  await page.route(/\/api\/subscribers\?search=ada/, async (route) => {
    await chosen
    await route.continue()
  })
  await page.getByRole('button', { name: 'or a real person' }).click()
  const field = page.getByLabel('A real person as the sample joiner')
  await field.click()
  await expect(page.getByRole('option', { name: /Ada/ })).toBeVisible()
  const asked = page.waitForRequest(/search=ada/)
  await field.fill('ada')
  await asked
  await page.getByRole('option', { name: /Ada/ }).click()
  await expect(page.locator('.p-autocomplete-overlay')).toHaveCount(0)
  const answered = page.waitForResponse(/search=ada/)
  answer()
  await (await answered).finished()
  await atRest(page)
  await expect(page.locator('.p-autocomplete-overlay')).toHaveCount(0)
  await expect(page.getByText(/Ada, ada@example.com joined then/)).toBeVisible()
  await axe()
})

test('an email reacts to how it is read, and goes once more under another subject', async () => {
  await page.locator('.card').first().click()
  await page.getByRole('button', { name: 'something when it is opened, clicked, or not' }).click()
  const what = page.getByRole('region', { name: 'What happens 1' })
  await choose('What happens 1: when', 'When no reader opens it')
  await what.getByRole('button', { name: 'send it again' }).click()
  await what.getByRole('textbox', { name: 'Subject of the second sending' }).fill('Did you see this?')
  await what.getByRole('button', { name: 'something done' }).click()
  await choose('What happens 1, action 1: what is done', 'change the score by')
  await page.getByLabel('Don’t send it if it would be late by more than').check()
  await axe()
  await close()
  await saved()
  await page.getByRole('button', { name: 'Publish the changes' }).click()
  await expect(page.getByRole('dialog').getByText('has other settings')).toBeVisible()
  await page.getByRole('dialog').getByRole('button', { name: 'Publish the changes' }).click()
  await expect(page.getByText(/The changes apply to/)).toBeVisible()
})

test('it is rehearsed by readers side by side, and a kept rehearsal says when it is not true any more', async () => {
  await page.getByRole('button', { name: 'Rehearsal', exact: true }).click()
  const stage = page.getByRole('region', { name: 'Readers side by side' })
  await expect(stage.getByText('was sent “Which book”').first()).toBeVisible()
  await expect(stage.getByText('Silent')).toBeVisible()
  await axe()
  await stage.getByRole('button', { name: 'change' }).nth(1).click()
  const form = page.getByRole('dialog')
  await form.getByLabel('Name').fill('Slow')
  // A number that is passed by without one has none, in whatever way it is told.
  await form.getByLabel('They unsubscribe on day').press('Tab')
  await axe()
  await fillNumber(form.getByLabel('They unsubscribe on day'), '4')
  await form.getByRole('button', { name: 'Rehearse' }).click()
  await expect(stage.getByText('unsubscribed from everything', { exact: true })).toBeVisible()
  await stage.getByRole('button', { name: 'save', exact: true }).nth(1).click()
  await expect(page.getByText('The same story, line by line.')).toBeVisible()
  // The hold lasts a day longer: the story is another one.
  await page.getByRole('button', { name: 'Steps', exact: true }).click()
  await page.getByRole('button', { name: /Hold until someone gets the tag/ }).click()
  await fillNumber(page.getByLabel('At most: how many'), '3')
  await close()
  await saved()
  await page.getByRole('button', { name: 'Rehearsal', exact: true }).click()
  await expect(page.getByText('Another story now:')).toBeVisible()
  // Which emails move depends on where the weekend lies; that the hold ends another day does not.
  await expect(page.getByText(/^no longer: .*because what they waited for did not happen in time/)).toBeVisible()
  await axe()
  await page.getByRole('button', { name: 'Forget it' }).click()
  await expect(page.getByText('Another story now:')).toBeHidden()
})

test('ways in and out stand in one place, and one person is let in, moved, stopped and taken out by hand', async () => {
  await opened.porch.optIn('sheet-kit', { email: 'bram@example.com', first_name: 'Bram' })
  await page.getByRole('button', { name: 'Ways in and out' }).click()
  const ways = page.getByRole('region', { name: 'Ways in' })
  await expect(
    ways.getByText(/When someone joins the list “letters”: start the course “Five evenings”|the house rule/).first()
  ).toBeVisible()
  await page.getByRole('button', { name: 'a way out' }).click()
  await choose('Way out 1: what happens', 'replies')
  await choose('Way out 1: from where', 'only from “Last” on')
  await page.getByRole('button', { name: 'something', exact: true }).click()
  await choose('At the end 1: what is done', 'change the score by')
  await ways.getByRole('button', { name: 'Only some' }).click()
  await axe()
  await ways.getByRole('button', { name: 'Everybody', exact: true }).click()
  await saved()
  await page.reload()
  await expect(page.getByRole('group', { name: 'Way out 1' })).toBeVisible()
  await page.getByRole('button', { name: 'People inside' }).click()
  const row = page.getByRole('row', { name: /Bram/ })
  // The house rule let him in, not his own asking: at a weekend the first email still waits for Monday.
  await expect(row).toContainText(/Hold until|Which book/)
  await axe()
  await row.getByRole('button', { name: /What to do with/ }).click()
  await page.getByRole('menuitem', { name: 'Pause here' }).click()
  await expect(row).toContainText('paused by you')
  await row.getByRole('button', { name: /What to do with/ }).click()
  await page.getByRole('menuitem', { name: 'Resume' }).click()
  await expect(row).not.toContainText('paused by you')
  await row.getByRole('button', { name: /What to do with/ }).click()
  await page.getByRole('menuitem', { name: /Move to another step/ }).click()
  await choose('Step to continue at', 'Last')
  await page.getByRole('dialog').getByRole('button', { name: 'Move them there' }).click()
  await expect(row).toContainText('Last')
  await row.getByRole('button', { name: /What to do with/ }).click()
  await page.getByRole('menuitem', { name: /Remove from the course/ }).click()
  await page.getByRole('dialog').getByRole('button', { name: 'Remove from the course' }).click()
  await expect(row).toHaveCount(0)
  await page.getByRole('button', { name: 'Ways in and out' }).click()
  await page.getByLabel('Add by hand').fill('bram')
  await page.getByRole('option', { name: /Bram/ }).click()
  await page.getByRole('button', { name: 'Add', exact: true }).click()
  await expect(page.getByText(/has joined\.$/)).toBeVisible()
  await page.getByRole('button', { name: 'Results' }).click()
  await expect(page.getByRole('group', { name: 'How people move through this course' })).toBeVisible()
  await page.getByRole('button', { name: /from came in to left|from Which book to left/ }).first().press('Enter')
  await expect(page.getByRole('link', { name: /Bram/ })).toBeVisible()
  await axe()
  await close()
})

test('a finished course is copied, started for those outside by their own dates, and taken along', async () => {
  await visit(page, '/courses')
  await page.getByRole('button', { name: 'Copy the course: Which book first?' }).click()
  await expect(page.getByText(/is there as a draft/)).toBeVisible()
  await expect(page.getByText(/Made for it: .*the tag “likes: coptic”/)).toBeVisible()
  await axe()
  await page.getByRole('link', { name: 'Look at it' }).click()
  await expect(page.getByText('One click, and I know what to send you')).toBeVisible()
  await page.getByRole('button', { name: 'Ways in and out' }).click()
  await choose('Joining one of these lists', 'letters')
  await saved()
  await page.getByRole('button', { name: 'Start the course' }).click()
  const dialog = page.getByRole('dialog')
  await expect(dialog.getByText(/2 people have what starts it/)).toBeVisible()
  await dialog.getByLabel(/By the date they got it/).check()
  await expect(dialog.getByRole('listitem').first()).toBeVisible()
  await axe()
  await dialog.getByLabel(/Let them join from the first step, spread/).check()
  await dialog.getByRole('button', { name: 'Start, and take in 2 people' }).click()
  await expect(page.getByText('2 people are on their way in.')).toBeVisible()
  await clock('hour')
  await page.reload()
  await expect(page.getByText(/scheduled to join: the next on/)).toBeVisible()
  await page.getByRole('button', { name: 'Steps', exact: true }).click()
  const download = page.waitForEvent('download')
  await page.getByRole('link', { name: 'as a folder of Markdown files' }).click()
  const path = await (await download).path()
  await visit(page, '/courses')
  await page.getByLabel('A course as a file').setInputFiles({ name: 'course.zip', mimeType: 'application/zip', buffer: readFileSync(path) })
  await expect(page.getByRole('heading', { level: 1, name: 'Which book first? (2)' })).toBeVisible()
  await visit(page, '/courses')
  await page.getByLabel('A course as a file').setInputFiles({ name: 'x.json', mimeType: 'application/json', buffer: Buffer.from('{}') })
  await expect(page.getByText('This file is not a course exported from here.')).toBeVisible()
})

test('limits are set, the coming days tell what goes when, and the engine room what waits', async () => {
  await visit(page, '/settings')
  const form = page.getByRole('form', { name: 'How many emails one person gets' })
  await form.getByLabel('At least').fill('30')
  await form.getByLabel('At most', { exact: true }).fill('2')
  await form.getByLabel('At most', { exact: true }).press('Tab')
  await form.getByLabel(/waits for the first free day/).check()
  await form.getByRole('button', { name: 'Save the limits' }).click()
  await expect(form.getByRole('button', { name: 'Save the limits' })).toBeDisabled()
  await axe()
  await visit(page, '/calendar')
  await expect(page.getByRole('button', { name: /emails?$/ }).first()).toBeVisible()
  await expect(page.getByText(/At a hold or a fork, people are split/)).toBeVisible()
  await axe()
  await visit(page, '/engine')
  await expect(page.getByText('The engine is at work.')).toBeVisible()
  await expect(page.getByRole('row', { name: /Course steps/ })).toContainText(/\d{2}:\d{2}/)
  await axe()
})

test('an email is sent to one person once more, from where it is asked why they got it', async () => {
  await visit(page, '/subscribers?search=ada%40')
  await page.getByRole('link', { name: /ada@example.com/ }).click()
  await choose('Which email', 'Last')
  const why = page.getByRole('region', { name: /Why did they/ })
  await expect(why.getByRole('status')).toContainText('It was sent')
  const before = (await asks.mailTo('ada@example.com', 3)).filter(({ subject }) => subject === 'The last').length
  await why.getByRole('button', { name: 'Send it to them again' }).click()
  await clock('day')
  await clock('day')
  await clock('day')
  await expect.poll(async () => (await asks.mailTo('ada@example.com', 4)).filter(({ subject }) => subject === 'The last').length)
    .toBe(before + 1)
  await expect(why.getByRole('status')).toContainText('It was sent')
  await axe()
})
