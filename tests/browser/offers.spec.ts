/** An offer with a coupon and a closing time, in the browser throughout: made, bought, refused, disputed, refunded and closed. */
import { test, type Page } from '@playwright/test'
import { askers } from '../built/askers'
import { expect } from './expect'
import { axe, choose as chooseOn, inOneWindow, moveClock, type Opened, visit } from './opened'

let opened: Opened
let page: Page
/** A visitor's own window. */
let shop: Page

inOneWindow(async (now, browser) => {
  opened = now
  page = now.page
  shop = await (await browser.newContext({ baseURL: opened.porch.url })).newPage()
  await opened.porch.optIn('sheet-kit', { email: 'ana@example.com', first_name: 'Ana' })
  // What buyers come into.
  const { id } = await opened.porch.do<{ id: number }>('POST', 'courses', { name: 'Lesson by lesson' })
  const { name, draft } = await opened.porch.do<{ name: string, draft: { steps: { content: object }[] } }>('GET', `courses/${id}`)
  const content = {
    workingTitle: 'Lesson one', subject: [{ type: 'text', text: 'Lesson one' }], preview: [],
    body: { type: 'doc', content: [{ type: 'paragraph', content: [{ type: 'text', text: 'Thread the needle.' }] }] },
  }
  await opened.porch.do('PUT', `courses/${id}`, { name, draft: {
    ...draft, listId: opened.made.listId, wayInTagIds: [],
    steps: [{ ...draft.steps[0], when: { kind: 'elapsed', count: 2, unit: 'days', from: 'joining' }, content }],
  } })
  await opened.porch.do('POST', `courses/${id}/start`, { include: { kind: 'none' } })
})
test.afterAll(() => shop?.context().close())

const choose = (label: string | RegExp, option: string) => chooseOn(page, label, option)
/** The address in an email that leads this way. */
const wayIn = ({ text }: { text: string }, way: RegExp): string => text.match(/https?:\/\/\S+/g)!.find(url => way.test(url))!
const saved = () => expect(page.getByText('Saved', { exact: true })).toBeVisible()
const part = (name: string) => page.getByRole('navigation', { name: 'Parts of the offer' }).getByRole('button', { name })

/** Time moves on, and what the screen then asks about its offer is answered as it is now, but arrives only when told to. */
async function answeredLate(): Promise<() => Promise<void>> {
  const address = /\/api\/offers\/1$/
  let arrive = () => {}
  const mayArrive = new Promise<void>(resolve => arrive = resolve)
  const isAnswered = new Promise<void>((resolve) => {
    void page.route(address, async (route) => {
      if (route.request().method() !== 'GET') return route.fallback()
      const response = await route.fetch()
      resolve()
      await mayArrive
      await route.fulfill({ response })
    })
  })
  await opened.porch.do('POST', 'clock', { by: 'hour' })
  await isAnswered
  return async () => {
    const arrived = page.waitForResponse(response => address.test(response.url()) && response.request().method() === 'GET')
    arrive()
    await (await arrived).finished()
    // It may have asked once more meanwhile: that is answered before the way is free again.
    await page.unrouteAll({ behavior: 'wait' })
  }
}

test('it is made: price, closing time, places, waiting list and what buying gives; what is missing is said where it is', async () => {
  await visit(page, '/offers')
  await expect(page.getByRole('heading', { name: 'Make the first offer' })).toBeVisible()
  await page.getByRole('button', { name: 'New offer' }).click()
  await page.getByLabel('Name (buyers see it on their receipt)').fill('Long-Stitch Journals')
  await page.getByRole('button', { name: 'Make the offer' }).click()
  await page.getByRole('button', { name: 'Publish the offer' }).click()
  await expect(page.getByText('Not published yet. Enter a price.')).toBeVisible()
  for (const [typed, wrong] of [
    ['0.001', 'EUR has 2 digits after the point'], ['-5', 'An amount cannot be below zero'], ['free', 'An amount looks like 40'],
  ] as const) {
    await page.getByRole('textbox', { name: 'Price', exact: true }).fill(typed)
    await expect(page.getByRole('alert').filter({ hasText: wrong })).toBeVisible()
  }
  await page.getByRole('textbox', { name: 'Price', exact: true }).fill('180,00')
  await page.getByRole('button', { name: 'In instalments' }).click()
  await expect(page.getByText('€60.00 at once')).toBeVisible()
  await page.getByRole('button', { name: 'Once', exact: true }).click()
  await page.getByLabel('It closes', { exact: true }).check()
  await page.getByLabel('Places', { exact: true }).check()
  await expect(page.frameLocator('iframe[title="On a phone"]').getByText('€180.00')).toBeVisible()
  await axe(page)
  await part('What it gives').click()
  await choose('joins', 'letters')
  await choose('starts the course', 'Lesson by lesson')
  await choose('and leaves these courses', 'Fold, Sew, Cover')
  await expect(page.getByText('Buyers start Lesson by lesson.')).toBeVisible()
  await axe(page)
  await saved()
  await page.getByRole('button', { name: 'Publish the offer' }).click()
  await expect(page.getByText('Buyers now see version 1.')).toBeVisible()
  await expect(page.getByText(/^Can be bought until .*, 12 places are left\. Version 1\. Nothing sold yet\./)).toBeVisible()
})

test('a coupon takes off, and says to what', async () => {
  await part('Coupons').click()
  await page.getByRole('button', { name: 'New coupon' }).click()
  await page.getByLabel('Code').fill('EARLY')
  await page.getByLabel('Percent', { exact: true }).fill('101')
  await page.keyboard.press('Tab')
  await page.getByRole('button', { name: 'Make the coupon' }).click()
  await expect(page.getByText('Enter 0.01 to 100 percent.')).toBeVisible()
  await page.getByLabel('Percent', { exact: true }).fill('30')
  await page.keyboard.press('Tab')
  await expect(page.getByText('€180.00 becomes €126.00.')).toBeVisible()
  await axe(page)
  await page.getByRole('button', { name: 'Make the coupon' }).click()
  await expect(page.getByRole('row', { name: /EARLY 30 % off to €126\.00/ })).toBeVisible()
})

async function buy(email: string, name: string, code: string, card: string) {
  await shop.goto('/practice/s/long-stitch-journals')
  await shop.getByLabel('First name').fill(name)
  await shop.getByLabel('Email address').fill(email)
  await shop.getByLabel('Coupon').fill(code)
  await shop.getByRole('button', { name: 'Go to the checkout' }).click()
  if (card === '') return
  await shop.getByLabel(card, { exact: true }).check()
  await shop.getByRole('button', { name: /^Pay/ }).click()
}

test('it is bought after a wrong code and a refused card, and takes its buyer out of one course and into another', async () => {
  await buy('ana@example.com', 'Ana', 'LATE', '')
  await expect(shop.getByText('This code is not known.')).toBeVisible()
  await expect(shop.getByLabel('Email address')).toHaveValue('ana@example.com')
  await axe(shop)
  await shop.getByLabel('Coupon').fill(' early')
  await shop.getByRole('button', { name: 'Go to the checkout' }).click()
  await expect(shop.getByText('No money moves here.')).toBeVisible()
  await axe(shop)
  await shop.getByLabel('A card that is refused').check()
  await shop.getByRole('button', { name: 'Pay €126.00' }).click()
  await expect(shop.getByRole('alert')).toHaveText('The card was refused. Nothing was paid; choose another card, or go back.')
  await shop.getByLabel('A card that works', { exact: true }).check()
  await shop.getByRole('button', { name: 'Pay €126.00' }).click()
  await expect(shop.getByRole('heading', { name: 'It’s yours' })).toBeVisible()

  await visit(page, '/subscribers')
  await page.getByRole('link', { name: 'ana@example.com' }).click()
  const courses = page.getByRole('region', { name: 'Courses' })
  await expect(courses.getByText(/Lesson by lesson, inside/)).toBeVisible()
  await expect(courses.getByText(/Fold, Sew, Cover, left/)).toBeVisible()
  const purchases = page.getByRole('region', { name: 'Purchases' })
  await expect(purchases.getByText(/^Bought on .* for €126\.00\.$/)).toBeVisible()
  await expect(page.getByText('left the course “Fold, Sew, Cover” because of a purchase')).toBeVisible()
  await axe(page)
  const own = await purchases.getByRole('link', { name: 'Their own page' }).getAttribute('href')
  await shop.goto(own!)
  await expect(shop.getByRole('heading', { name: 'Long-Stitch Journals' })).toBeVisible()
  await axe(shop)
  await shop.getByRole('link', { name: /^Receipt \d{4}-0001/ }).click()
  await expect(shop.getByRole('row', { name: 'Total €126.00' })).toBeVisible()
  await axe(shop)
})

test('money goes back in part and then as a whole, never more than was paid, and every page says so', async () => {
  await visit(page, '/subscribers')
  await page.getByRole('link', { name: 'ana@example.com' }).click()
  await page.getByRole('button', { name: /^Give back of €126\.00/ }).click()
  await page.getByLabel('Amount to refund').fill('126.01')
  await page.getByRole('button', { name: 'Give back €126.01' }).click()
  await expect(page.getByText(/^At most €126\.00 of this payment is left/)).toBeVisible()
  await page.getByLabel('Amount to refund').fill('26')
  await page.getByRole('button', { name: 'Give back €26.00' }).click()
  await expect(page.getByText('€126.00, €26.00 back')).toBeVisible()
  await expect(page.getByText('was refunded €26.00 for “Long-Stitch Journals”').first()).toBeVisible()
  await page.getByRole('button', { name: /^Give back of/ }).click()
  await page.getByRole('button', { name: 'Give back €100.00' }).click()
  await expect(page.getByText(/All of it, €126\.00, went back to them: it is no longer theirs\./)).toBeVisible()
  await expect(page.getByRole('region', { name: 'Courses' }).getByText(/Lesson by lesson, left/)).toBeVisible()
  await shop.goBack()
  await shop.reload()
  await expect(shop.getByText('All of it, €126.00, went back to you: it is no longer yours.')).toBeVisible()
})

test('a dispute wants a look on Today, and opens the buyer behind it', async () => {
  await buy('rui@example.com', 'Rui', '', 'A card whose owner disputes the payment a week later')
  await expect(shop.getByRole('heading', { name: 'It’s yours' })).toBeVisible()
  // Ten days later, which is still before it closes.
  await opened.porch.do('POST', 'clock', { by: 'day' })
  for (let day = 0; day < 7; day++) {
    await expect.poll(async () => (await opened.porch.do<{ movingTo: number | null }>('GET', 'rail')).movingTo)
      .toBeNull()
    await opened.porch.do('POST', 'clock', { by: 'day' })
  }
  await visit(page, '/')
  await expect(page.getByText('1 buyer disputes their payment')).toBeVisible()
  await axe(page)
  await page.getByText('1 buyer disputes their payment').click()
  await expect(page.getByRole('row', { name: /Rui €180\.00 disputed with the bank/ })).toBeVisible()
  await expect(page.getByText('€306.00')).toBeVisible()
  await axe(page)
  await page.getByRole('region', { name: 'By coupon' }).getByRole('button', { name: '1: EARLY' }).click()
  await page.getByRole('combobox', { name: 'Which ones' }).focus()
  await expect(page.getByRole('row', { name: /Ana €0\.00 fully refunded EARLY/ })).toBeVisible()
})

test('closed, it takes a waiting list, which is told when it opens again', async () => {
  // Where what stands around the screen is late, dates begin at the right time all the same.
  let railMayCome = () => {}
  const railComes = new Promise<void>(resolve => railMayCome = resolve)
  await page.route(/\/api\/(rail|frame)$/, route => railComes.then(() => route.fallback()))
  await visit(page, '/offers/1?part=price')
  await page.getByLabel('It opens again', { exact: true }).check()
  await expect(page.getByRole('textbox', { name: 'It opens again: the day' })).toHaveValue(/ 20\d\d$/)
  railMayCome()
  await page.unroute(/\/api\/(rail|frame)$/)
  await saved()
  await part('Waiting list').click()
  await page.getByLabel(/^Waiting list/).and(page.getByRole('checkbox')).check()
  await saved()
  const answerNow = await answeredLate()
  await choose('They join', 'letters')
  await saved()
  await answerNow()
  // How it would go is seen before anybody waits.
  await expect(page.getByRole('region', { name: 'Email when it opens' }).getByText('11 people')).toBeVisible()
  await page.getByRole('button', { name: 'Publish the changes' }).click()
  await expect(page.getByText('Buyers now see version 2.')).toBeVisible()
  await axe(page)
  for (let day = 0; day < 4; day++) {
    await expect.poll(async () => (await opened.porch.do<{ movingTo: number | null }>('GET', 'rail')).movingTo)
      .toBeNull()
    await opened.porch.do('POST', 'clock', { by: 'day' })
  }
  await expect.poll(async () => {
    await shop.goto('/practice/s/long-stitch-journals')
    return shop.getByText(/^Closed\. It opens again /).isVisible()
  }).toBe(true)
  await axe(shop)
  await shop.getByLabel('Email address').fill('wait@example.com')
  await shop.getByRole('button', { name: 'Tell me when it opens' }).click()
  await expect(shop.getByRole('heading', { name: 'One more step' })).toBeVisible()
  const mails = askers(() => opened.porch)
  await shop.goto(wayIn(await mails.mailWith('wait@example.com', 'Shall we tell you when it opens?'), /\/w\//))
  await axe(shop)
  await shop.getByRole('button', { name: 'Yes, it was me' }).click()
  await expect(shop.getByRole('heading', { name: 'You are on the list' })).toBeVisible()
  await visit(page, '/offers/1?part=waiting')
  await page.getByRole('link', { name: '1 person', exact: true }).click()
  await expect(page.getByRole('link', { name: 'wait@example.com' })).toBeVisible()
  await visit(page, '/')
  await expect(page.getByText('1 person waits for Long-Stitch Journals')).toBeVisible()
  await visit(page, '/offers')
  await expect(page.getByRole('row', { name: /Long-Stitch Journals €180\.00 Closed\. It opens again .* 1 €180\.00$/ })).toBeVisible()
  await axe(page)
  const { draft } = await opened.porch.do<{ draft: { opensAgainAt: number } }>('GET', 'offers/1')
  await moveClock(opened.porch, 'to', draft.opensAgainAt)
  await shop.goto(wayIn(await mails.mailWith('wait@example.com', 'It can be bought now'), /\/l\//))
  await expect(shop.getByRole('button', { name: 'Go to the checkout' })).toBeVisible()
  await visit(page, '/offers/1?part=waiting')
  await expect(page.getByText('1 person was emailed before.')).toBeVisible()
})

test('past sales come in from a file, and are told row by row where they cannot', async () => {
  await visit(page, '/offers')
  await page.getByRole('link', { name: 'Import past sales' }).click()
  const rows = [
    'Order;E-Mail;Total;Date', '1;rui@example.com;1.049,50;24/03/2026', '1;rui@example.com;5;24/03/2026', '2;rui@;5;24/03/2026',
    '3;nobody@example.com;5;24/03/2026',
  ]
  await page.getByLabel('Choose a CSV file').setInputFiles({ name: 'old.csv', mimeType: 'text/csv', buffer: Buffer.from(rows.join('\n')) })
  await expect(page.getByText('1 sale of 4 rows, €1,049.50.')).toBeVisible()
  await expect(page.getByText('The order 1 is in row 2 already.')).toBeVisible()
  await expect(page.getByText('1 row is left out: no subscriber has the address.')).toBeVisible()
  await axe(page)
  await page.getByRole('button', { name: 'Import 1 sale' }).click()
  await expect(page.getByText('1 sale came in.')).toBeVisible()
})

test('the segments that ask for it know who has what', async () => {
  await visit(page, '/segments')
  await page.getByRole('link', { name: 'Buyers' }).click()
  await expect(page.getByText('1 person', { exact: true }).first()).toBeVisible()
  await axe(page)
})
