/** The people part as its owner uses it: a table comes in, a segment is built by keyboard, something is said for many and taken back. */
import { test, type Page } from '@playwright/test'
import { expect } from './expect'
import { axe as axeOn, choose as chooseOn, inOneWindow, openList, type Opened, visit } from './opened'

let opened: Opened
let page: Page

inOneWindow((now) => {
  opened = now
  page = now.page
})

const axe = () => axeOn(page)
const choose = (label: string | RegExp, option: string) => chooseOn(page, label, option)

const ROWS = Array.from({ length: 119 }, (_, n) =>
  `guest${n}@example.com;"Guest ${n}";${n % 3 === 0 ? '31/12/1980' : ''};${['Portugal', 'United States', ''][n % 3]};${n % 2 ? 'fair' : ''}`)
const FILE = `\uFEFFE-mail;Name;Born;Country;Labels\r\n${ROWS.join('\r\n')}\r\nno address;X;;;\r\nlate@example.com;Y;31/02/1980;;fair\r\n`

test('a file that is no table is refused in plain words, and nothing is kept', async () => {
  await visit(page, '/subscribers')
  await page.getByRole('button', { name: 'Import' }).click()
  await page.getByLabel('Choose a CSV file')
    .setInputFiles({ name: 'book.xlsx', mimeType: 'text/csv', buffer: Buffer.from('PK\x03\x04 not a table', 'latin1') })
  await expect(page.getByRole('alert')).toContainText('save it as CSV')
  await page.getByLabel('Choose a CSV file')
    .setInputFiles({ name: 'towns.csv', mimeType: 'text/csv', buffer: Buffer.from('name,town\nAda,Porto\n') })
  await expect(page.getByRole('alert')).toHaveText('No column holds email addresses. It has name, town.')
  await axe()
})

test('a table comes in: columns matched, consent said, a plan first, then the engine does just that', async () => {
  await page.getByLabel('Choose a CSV file').setInputFiles({ name: 'fair.csv', mimeType: 'text/csv', buffer: Buffer.from(FILE) })
  await expect(page.getByText('fair.csv: 121 rows.')).toBeVisible()
  await expect(page.getByRole('combobox', { name: 'Where E-mail goes' })).toHaveText('email address')
  await expect(page.getByText('Guest 0 · Guest 1 · Guest 2')).toBeVisible()
  await choose('Where Born goes', 'a new field…')
  await choose('Type', 'date')
  await page.getByRole('button', { name: 'Make the field' }).click()
  await expect(page.getByRole('combobox', { name: 'Where Born goes' })).toHaveText('Born (date)')
  await page.getByRole('button', { name: 'Preview the import' }).click()
  await expect(page.getByRole('alert')).toHaveText('First say where consent came from.')
  await page.getByLabel('They agreed').check()
  await page.getByRole('button', { name: 'Preview the import' }).click()
  await expect(page.getByText('Say where they agreed, like')).toBeVisible()
  await page.getByLabel('Where they agreed').fill('on paper at the fair')
  await page.getByLabel('What they agreed to').fill('Letters, please.')
  await page.getByRole('button', { name: 'Preview the import' }).click()
  const plan = page.getByRole('region', { name: 'What the import would do' })
  await expect(plan).toContainText('120new')
  await expect(plan).toContainText('1refused')
  await expect(plan).toContainText('1 row comes in without a cell that cannot be read.')
  await expect(plan).toContainText('New tags will be made: fair.')
  await expect(plan.getByRole('row', { name: /121/ })).toContainText('An email address has no spaces in it.')
  await expect(plan.getByRole('row', { name: /122/ })).toContainText('“31/02/1980” is not a date')
  // What was planned is not what would be done any more once something is changed.
  await page.getByLabel('Source of new people').fill('spring fair')
  await expect(plan.getByRole('button', { name: /Import 120/ })).toBeDisabled()
  await axe()
  await plan.getByRole('button', { name: 'Look again' }).click()
  await expect(plan.getByRole('button', { name: /Import 120/ })).toBeEnabled()
  await axe()
  await plan.getByRole('button', { name: 'Import 120 people' }).click()
  await expect(page.getByRole('status').first()).toContainText(
    'Done: 120 are new; 1 were refused; 1 of them without a cell that could not be read',
  )
  const download = page.waitForEvent('download')
  await page.getByRole('link', { name: 'Download the rows to look at' }).click()
  const text = await (await (await download).createReadStream()).toArray().then(parts => Buffer.concat(parts as Buffer[]).toString())
  expect(text.split('\r\n')[0]).toBe('E-mail,Name,Born,Country,Labels,row,came in,reason')
  expect(text).toContain('no address,X,,,,121,no,')
  await page.getByRole('link', { name: 'Show the imported people' }).click()
  await expect(page.getByText('Only people who were added by the import “spring fair”: 120 people.')).toBeVisible()
})

test('something is said for many in one sentence, its number first, and taken back', async () => {
  const bar = page.getByRole('form', { name: 'What to do with these people' })
  await expect(bar).toContainText('120 people:')
  await choose('Which tag', 'sheet kit')
  await bar.getByRole('button', { name: 'Add it to 120 people' }).click()
  await expect(page.getByText('Done: 120 got it.')).toBeVisible()
  await page.getByRole('button', { name: 'Undo for 120 people' }).click()
  await expect(page.getByText('Done: 120 are unchanged.')).toBeVisible()
  for (const n of [0, 1, 2]) await page.getByRole('checkbox', { name: /^Pick guest/ }).nth(n).check()
  await expect(bar).toContainText('3 selected:')
  await choose('What to do', 'erase for good')
  await bar.getByRole('button', { name: 'Erase 3 people' }).click()
  const dialog = page.getByRole('dialog')
  await expect(dialog.getByRole('button', { name: 'Erase 3 people' })).toBeDisabled()
  await dialog.getByLabel('Type the number 3 to erase them').fill('3')
  await dialog.getByRole('button', { name: 'Erase 3 people' }).click()
  await expect(page.getByText('Done: 3 were erased.')).toBeVisible()
  await expect(page.getByText('1 to 100 of 117 people')).toBeVisible()
})

test('a segment with three levels is built, read aloud and kept by keyboard alone', async () => {
  await visit(page, '/segments/new')
  const gets = page.getByRole('group', { name: 'Belongs', exact: true })
  await expect(gets).toBeVisible()
  const press = async (within: ReturnType<Page['locator']>, name: string) => {
    await within.getByRole('button', { name }).last().focus()
    await page.keyboard.press('Enter')
  }
  await page.getByLabel('Name', { exact: true }).focus()
  await page.keyboard.type('From the fair or with the tag')
  /** Opens the last select with such a name and chooses by typing the beginning of an option. */
  const pick = async (name: RegExp, letters: string) => {
    await page.getByRole('combobox', { name }).last().focus()
    await page.keyboard.press('Enter')
    await page.keyboard.type(letters, { delay: 30 })
    await page.keyboard.press('Enter')
    await expect(page.getByRole('listbox')).toHaveCount(0)
  }
  await press(gets, 'a group')
  await pick(/about what$/, 'How')
  await press(gets.getByRole('group').first(), 'a group')
  await pick(/about what$/, 'Tag')
  await expect(page.getByText(/people/).first()).toBeVisible()
  await axe()
  await press(page.getByRole('main'), 'Save the segment')
  await expect(page.getByText(/as saved/)).toBeVisible()
  await expect(page.getByText('people who were added by the import “spring fair” or tagged “fair”.')).toBeVisible()
})

async function alsoGives(tag: string) {
  await openList(page, 'People who get it also get')
  await page.getByRole('option', { name: tag, exact: true }).click()
  // The list listens for a press beside it only once it has quite opened.
  await expect(async () => {
    await page.getByText('When someone gets or loses it (from now on)').click()
    await expect(page.getByRole('listbox')).toHaveCount(0, { timeout: 1000 })
  }).toPass()
}

test('what follows from a tag, a circle refused with its path, merging and deleting', async () => {
  await visit(page, '/tags-and-lists')
  await page.getByRole('button', { name: 'fair', exact: true }).click()
  await alsoGives('sheet kit')
  await axe()
  await page.getByRole('button', { name: 'Save the tag' }).click()
  await expect(page.getByText('also gives sheet kit')).toBeVisible()
  await page.getByRole('button', { name: 'sheet kit', exact: true }).click()
  await alsoGives('fair')
  await page.getByRole('button', { name: 'Save the tag' }).click()
  await expect(page.getByRole('dialog').getByRole('alert')).toContainText(
    'That would go in a circle: when someone gets the tag “sheet kit”: add the tag “fair”; then, as someone gets the tag “fair”: add the tag “sheet kit”; and so on, from the beginning.',
  )
  await page.getByRole('button', { name: 'Delete it' }).click()
  await expect(page.getByRole('dialog')).toContainText(/The course Fold, Sew, Cover.* is no longer started by it/)
  await page.getByRole('button', { name: 'Keep it' }).click()
  await page.getByRole('button', { name: 'Merge it into another tag' }).click()
  await choose('Merge it into', 'fair')
  await page.getByRole('button', { name: 'Merge it into fair' }).click()
  await expect(page.getByRole('button', { name: 'sheet kit', exact: true })).toHaveCount(0)
  await expect(page.getByRole('row', { name: /^fair/ })).toContainText('starts Fold, Sew, Cover')
})

test('one person: another address, why not, everything as JSON, two made one', async () => {
  await visit(page, '/subscribers?search=guest50%40')
  await page.getByRole('link', { name: 'guest50@example.com' }).click()
  await page.getByRole('button', { name: 'Change the address' }).click()
  await page.getByLabel('Address', { exact: true }).fill('guest51@example.com')
  await page.getByRole('dialog').getByRole('button', { name: 'Change the address' }).click()
  await expect(page.getByRole('dialog').getByRole('alert')).toContainText('is a subscriber already')
  await page.getByLabel('Address', { exact: true }).fill('fifty@example.com')
  await page.getByRole('dialog').getByRole('button', { name: 'Change the address' }).click()
  await expect(page.getByText(/guest50@example.com until/)).toBeVisible()
  await choose('Which email', 'Two')
  // The tag that was given and taken back had begun the course, which goes on.
  await expect(page.getByText(/^Not yet: they are waiting for Two, due/)).toBeVisible()
  await axe()
  const download = page.waitForEvent('download')
  await page.getByRole('link', { name: 'Everything about them as JSON' }).click()
  const everything = JSON.parse(
    await (await (await download).createReadStream()).toArray().then(parts => Buffer.concat(parts as Buffer[]).toString()),
  ) as { address: string, formerAddresses: unknown[] }
  expect([everything.address, everything.formerAddresses.length]).toEqual(['fifty@example.com', 1])
  await page.getByRole('button', { name: 'Merge with another record' }).click()
  await page.getByLabel('Who else is the same person?').fill('guest51')
  await page.getByRole('button', { name: /guest51@example.com/ }).click()
  await expect(page.getByRole('dialog')).toContainText('The status is then active')
  await page.getByRole('button', { name: 'Merge the two' }).click()
  await expect(page.getByText(/guest51@example.com until/)).toBeVisible()
  await visit(page, '/subscribers?search=guest51')
  await expect(page.getByText('Nobody fits.')).toBeVisible()
})

test('a source gets a name and an address, and who came by it stands behind its number', async () => {
  await visit(page, '/pages/1')
  await page.getByRole('link', { name: 'Results' }).click()
  await page.getByLabel('New address').fill('Workshop flyer')
  await page.getByRole('button', { name: 'Create address' }).click()
  await expect(page.getByText('/p/sheet-kit?from=workshop-flyer')).toBeVisible()
  await page.getByLabel('New address').fill('workshop FLYER')
  await page.getByRole('button', { name: 'Create address' }).click()
  await expect(page.getByRole('alert')).toHaveText('There is already a source with this name.')
  await axe()
  // The browser of this test says that it is a machine, and is not counted: a reader's own looks.
  const asReader = { 'user-agent': 'Mozilla/5.0 (X11; Linux x86_64) Gecko/20100101 Firefox/140.0' }
  const { porch } = opened
  const form = await (await porch.fetch('/practice/p/sheet-kit?from=workshop-flyer', { headers: asReader })).text()
  for (let n = 0; n < 3; n++) await porch.fetch('/practice/p/sheet-kit?from=workshop-flyer', { headers: asReader })
  await porch.optIn('sheet-kit', { email: 'flyer@example.com', touch: /name="touch" value="([^"]*)"/.exec(form)![1]! })
  const row = page.getByRole('row').filter({ hasText: '“Workshop flyer”' })
  await expect(async () => {
    await page.reload()
    await expect(row).toContainText('25%', { timeout: 1000 })
  }).toPass()
  await expect(row).toContainText('between 5% and 70%')
  await row.getByRole('link', { name: '1', exact: true }).click()
  await expect(page.getByText('who opted in on “Sheet kit” (source: “Workshop flyer”)')).toBeVisible()
  await page.getByRole('link', { name: 'flyer@example.com' }).click()
  await expect(page.getByText('Source', { exact: true }).first()).toBeVisible()
  await expect(page.getByText('“Workshop flyer”')).toBeVisible()
})

test('money spent on a source is written down by month, and shared among the people behind its number', async () => {
  await visit(page, '/pages')
  await page.getByRole('link', { name: 'Sources' }).click()
  const row = page.getByRole('row').filter({ hasText: '“Workshop flyer”' })
  await row.getByRole('button', { name: 'Money spent on “Workshop flyer”: nothing yet' }).click()
  const panel = page.getByRole('complementary', { name: 'Money spent on “Workshop flyer”' })
  const thisMonth = panel.getByRole('textbox').first()
  await thisMonth.fill('12.345')
  await panel.getByRole('button', { name: 'Save amounts' }).click()
  await expect(panel.getByRole('alert')).toHaveText('EUR has 2 digits after the point: an amount looks like 40 or 40.50.')
  await axe()
  await thisMonth.fill('12,34')
  await panel.getByRole('button', { name: 'Save amounts' }).click()
  await expect(panel).toBeHidden()
  await expect(row.getByRole('cell')).toHaveText(['“Workshop flyer”', '4', '1', '0', '€12.34', '€12.34', ''])
  await axe()
  await row.getByRole('link', { name: '1', exact: true }).click()
  await expect(page.getByText(/who first came from “Workshop flyer”/)).toBeVisible()
  await expect(page.getByRole('link', { name: 'flyer@example.com' })).toBeVisible()
})
