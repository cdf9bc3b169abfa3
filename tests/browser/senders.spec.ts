/** Who emails are from, and what goes with an email besides its words. */
import { test, type Page } from '@playwright/test'
import type { MailboxView } from '#core/views/mailbox'
import { expect } from './expect'
import { axe, choose, fillNumber, inOneWindow, type Opened, visit } from './opened'

let opened: Opened
let page: Page
let stepId: string
inOneWindow(async (one) => {
  opened = one
  page = one.page
  const { draft } = await one.porch.do<{ draft: { steps: { id: string }[] } }>('GET', `courses/${one.made.courseId}`)
  stepId = draft.steps[0]!.id
})
const openEmail = async () => {
  await visit(page, `/courses/${opened.made.courseId}?email=${stepId}`)
  await expect(page.getByRole('textbox', { name: 'Body of the email' })).toBeVisible()
}
const saved = () => expect(page.getByText('Saved', { exact: true })).toBeVisible()

test('a sender is added, is told what is wrong with its address, and its domain is asked and signs', async () => {
  await visit(page, '/settings')
  await page.getByRole('link', { name: 'Senders and their domains' }).click()
  await axe(page)
  await page.getByRole('button', { name: 'New sender' }).click()
  await page.getByLabel('Name readers see').fill('The shop')
  await page.getByLabel('Address', { exact: true }).fill('shop at the bindery')
  await page.getByRole('button', { name: 'Add the sender' }).click()
  await expect(page.getByRole('alert')).toBeVisible()
  await page.getByLabel('Address', { exact: true }).fill('shop@gmail.com')
  await expect(page.getByText(/Only its owner may send/)).toBeVisible()
  await page.getByLabel('Address', { exact: true }).fill('shop@sales.saltmarsh.example.com')
  await axe(page)
  await page.getByRole('button', { name: 'Add the sender' }).click()
  const shop = page.getByRole('article', { name: 'The shop' })
  await expect(shop.getByText('Confirmed')).toBeVisible()

  const domain = page.getByRole('region', { name: 'sales.saltmarsh.example.com' })
  await domain.getByRole('button', { name: 'Check now' }).click()
  await expect(domain.getByText('Emails are not signed.')).toBeVisible()
  // The stand-in answers for the domain above, too.
  await choose(page, 'Receivers of mail that is not yours', 'refuse it')
  await expect(domain.getByText(/may be refused/)).toBeVisible()
  await domain.getByRole('button', { name: 'Make a key' }).click()
  await expect(domain.getByText('porch._domainkey.sales.saltmarsh.example.com')).toBeVisible()
  await expect(domain.getByText(/may be refused/)).toBeVisible()
  await axe(page)
})

test('an email says who it is from; that its domain lets it be refused is told before it leaves, until the key is published', async () => {
  // What is asked about the email before it was changed is answered last.
  let release = (): void => undefined
  const held = new Promise<void>(resolve => release = resolve)
  await page.route('**/api/emails/preview', async (route) => {
    await held
    await route.continue()
  }, { times: 1 })
  await openEmail()
  await choose(page, 'From', 'The shop, shop@sales.saltmarsh.example.com')
  const checks = page.getByRole('region', { name: 'Before it leaves' })
  await expect(checks.getByText('Emails from sales.saltmarsh.example.com may be refused')).toBeVisible()
  const late = page.waitForResponse('**/api/emails/preview')
  release()
  await (await late).finished()
  await saved()
  await expect(checks.getByText('Emails from sales.saltmarsh.example.com may be refused')).toBeVisible()
  await visit(page, '/senders')
  const domain = page.getByRole('region', { name: 'sales.saltmarsh.example.com' })
  await domain.getByLabel('the key is published').check()
  await expect(domain.getByText('signs every email from here')).toBeVisible()
  await openEmail()
  await expect(page.getByRole('combobox', { name: 'From' })).toHaveText(/The shop/)
  await expect(checks.getByText('shop@sales.saltmarsh.example.com')).toBeVisible()
  await expect(checks.getByText(/may be refused/)).toBeHidden()
})

test('several subjects are tried side by side, and one is taken', async () => {
  await page.getByRole('button', { name: 'Try several subjects' }).click()
  await page.getByRole('textbox', { name: 'Subject 2' }).click()
  await page.keyboard.type('Which 3 books will you sew before the evening of the very last day?')
  const like = page.getByRole('region', { name: 'What it is like' })
  for (const says of ['It asks a question.', 'It names a number.', 'It speaks of “you”.', 'It names a time.']) {
    await expect(like.getByText(says)).toBeVisible()
  }
  await expect(like.getByText(/A phone cuts off/)).toBeVisible()
  await axe(page)
  await page.getByRole('button', { name: 'Use this subject' }).click()
  await expect(page.getByRole('textbox', { name: 'Subject', exact: true })).toHaveText(/Which 3 books/)
  await saved()
})

test('files, articles and a link to read it in a browser go out with the email, signed, and lead where they should', async () => {
  const body = page.getByRole('textbox', { name: 'Body of the email' })
  await body.click()
  await page.keyboard.press('ControlOrMeta+a')
  await page.keyboard.press('Backspace')
  await page.keyboard.type('/file')
  await page.keyboard.press('Enter')
  const kit = { name: 'Twelve sheets.pdf', mimeType: 'application/pdf', buffer: Buffer.from('%PDF-1.7 twelve sheets') }
  const form = page.getByRole('region', { name: 'File', exact: true })
  await form.getByLabel('File', { exact: true }).setInputFiles(kit)
  await expect(form.getByText('Twelve sheets.pdf')).toBeVisible()
  await body.click()
  await page.keyboard.press('ControlOrMeta+Home')
  await page.keyboard.press('ArrowDown')
  await page.keyboard.type('/articles')
  await page.keyboard.press('Enter')
  await page.getByLabel('Title of article 1').fill('Paper that folds')
  await page.getByLabel('Address of article 1').fill('https://saltmarsh.example.com/gone')
  await expect(page.getByText('“Paper that folds” does not answer')).toBeVisible()
  await page.getByLabel('Address of article 1').fill('https://saltmarsh.example.com/paper')
  await expect(page.getByText('“Paper that folds” does not answer')).toBeHidden()
  await page.getByLabel('Begin with a link to read it in a browser').check()
  await page.getByLabel('Add utm values to its links').check()
  await page.getByLabel('Campaign').fill('paper')
  await expect(page.getByText('https://saltmarsh.example.com/paper?utm_source=saltmarsh-bindery&utm_medium=email&utm_campaign=paper')).toBeVisible()
  await page.getByLabel('File to attach').setInputFiles({ ...kit, name: 'Beside.pdf' })
  await expect(page.getByRole('button', { name: 'Detach Beside.pdf' })).toBeVisible()
  await axe(page)
  await saved()
  await page.getByRole('button', { name: 'Publish the changes' }).click()
  await page.getByRole('dialog').getByRole('button', { name: 'Publish the changes' }).click()
  await expect(page.getByText(/The changes apply to/)).toBeVisible()

  const { porch } = opened
  await porch.optIn('sheet-kit', { email: 'ada@example.com' })
  await expect.poll(async () => (await porch.do<MailboxView>('GET', 'mailbox?search=ada@')).rows.length).toBeGreaterThan(0)
  const [mail] = (await porch.do<MailboxView>('GET', 'mailbox?search=ada@')).rows
  const source = await (await porch.api('GET', `mailbox/${mail!.id}/source`)).text()
  expect(source).toMatch(/^DKIM-Signature: /)
  expect(source).toContain('From: The shop <shop@sales.saltmarsh.example.com>')
  expect(source).toContain('filename=Beside.pdf')
  const plain = source.replace(/=\r\n/g, '').replaceAll('=3D', '=')
  const at = (path: string) => new RegExp(`/practice/${path}/[\\w.-]+`).exec(plain)![0]
  const file = await porch.fetch(at('e'))
  expect([file.headers.get('content-type'), await file.text()]).toEqual(['application/pdf', kit.buffer.toString()])
  await page.goto(at('v'))
  await expect(page.getByText('Paper that folds')).toBeVisible()
  await expect(page.getByText('Twelve sheets.pdf')).toBeVisible()
  await page.goto(at('l'))
  await expect(page.getByText(/utm_campaign=paper/)).toBeVisible()
})

test('another sender is used for everything else, one is removed, and each is undone', async () => {
  await page.goto('/senders')
  const shop = page.getByRole('article', { name: 'The shop' })
  await page.getByRole('button', { name: 'Use The shop for everything else' }).click()
  await expect(shop.getByText('used for everything else', { exact: true })).toBeVisible()
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(shop.getByText('used for everything else', { exact: true })).toBeHidden()
  await page.getByRole('button', { name: 'Remove The shop' }).click()
  await expect(shop).toBeHidden()
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(shop).toBeVisible()
})

test('a new sender is warmed up: its days are shown, saved, told, and ended', async () => {
  await visit(page, '/senders')
  const card = page.getByRole('article').first()
  await card.getByRole('button', { name: /^Warm-up of/ }).click()
  const dialog = page.getByRole('dialog', { name: /^Warm up/ })
  await fillNumber(dialog.getByLabel('First day'), '20')
  await fillNumber(dialog.getByLabel('a day, up to'), '10')
  await dialog.getByRole('button', { name: 'Start the warm-up' }).click()
  await expect(dialog.getByRole('alert')).toContainText('ends with more emails a day')
  await fillNumber(dialog.getByLabel('a day, up to'), '100')
  await expect(dialog.getByText(/^Used every day, it ends on/)).toBeVisible()
  await axe(page)
  await dialog.getByRole('button', { name: 'Start the warm-up' }).click()
  await expect(card.getByText(/0 of 20 emails sent today/)).toBeVisible()
  await axe(page)
  await card.getByRole('button', { name: /^Warm-up of/ }).click()
  await dialog.getByRole('button', { name: 'End the warm-up' }).click()
  await expect(card.getByText(/sent today/)).toBeHidden()
  await page.getByRole('alert').filter({ hasText: 'The warm-up has ended.' }).getByRole('button', { name: 'Undo' }).click()
  await expect(card.getByText(/0 of 20 emails sent today/)).toBeVisible()
  await card.getByRole('button', { name: /^Warm-up of/ }).click()
  await dialog.getByRole('button', { name: 'End the warm-up' }).click()
})
