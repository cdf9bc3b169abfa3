/**
 * The twenty wishes of docs/guide/recipes.md: each is set on the screens as it is written there, in a handful of steps, and then does what
 * it says.
 */
import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { test, type Page } from '@playwright/test'
import { newOffer, type OfferContent } from '#core/offers/offer'
import { emailsOf } from '#core/sequence/draft'
import type { CourseView } from '#core/views/course'
import type { DeskView } from '#core/views/desk'
import type { RailView } from '#core/views/frame'
import type { HooksView } from '#core/views/hooks'
import type { PageView } from '#core/views/pages'
import { askers } from '../built/askers'
import { ROOT, type Porch } from '../built/porch'
import { expect } from './expect'
import { choose as chooseOn, inOneWindow, moveClock, type Opened, visit } from './opened'

let opened: Opened
let page: Page
let porch: Porch
/** Numbers of what there is, by its name. */
const ids: Record<string, number> = {}
/** What its owner has pressed, chosen or typed since this was last emptied. */
let steps = 0
/** A step takes a person about four seconds, looking included: so many are under a minute. */
const MOST_STEPS = 14

/** The sentence that the guide promises for a wish. */
function promised(wish: number): string {
  const row = readFileSync(join(ROOT, 'docs/guide/recipes.md'), 'utf8').split('\n').find(line => line.startsWith(`| ${wish}. `))!
  return /\*(When[^*]+)\*/.exec(row.split(' | ')[2]!)![1]!
}

async function sell(name: string, slug: string, price: OfferContent['price'], gives: Partial<OfferContent['gives']> = {}): Promise<void> {
  const { id } = await porch.do<{ id: number }>('POST', 'offers', { name })
  const base = newOffer(name)
  await porch.do('PUT', `offers/${id}`, {
    name, slug, draft: { ...base, price, abandonedAfterHours: 1, gives: { ...base.gives, listIds: [ids['your classes']!], ...gives } },
  })
  await porch.do('POST', `offers/${id}/publish`)
  ids[name] = id
}

inOneWindow(async (now) => {
  opened = now
  ;({ page, porch } = now)
  const make = async (path: string, name: string, more: object = {}) =>
    ids[name] = (await porch.do<{ id: number }>('POST', path, { name, ...more })).id
  for (const name of ['bench letters', 'your classes', 'free course']) await make('lists', name, { publicName: name, description: '' })
  for (const name of ['met at the stall', 'likes: coptic', 'gone quiet', 'has booked', 'bench club', 'undecided', 'ready']) {
    await make('tags', name, { note: '' })
  }
  for (const name of ['birthday', 'club until']) await make('fields', name, { label: name, kind: 'date', choices: [] })
  await porch.do('POST', 'sources', { name: 'workshop flyer' })
  for (const [
    name, url,
  ] of [['A coptic book', 'https://saltmarsh.example.com/coptic'], ['not for me', 'https://saltmarsh.example.com/later']] as const) {
    await make('links', name, { url, note: '', does: [], asks: false })
  }
  // The course has two letters, the first with two links in it.
  const { courseId } = now.made
  const { name, draft } = await porch.do<CourseView>('GET', `courses/${courseId}`)
  const button = (label: string, url: string) => ({ type: 'button' as const, attrs: { label, url, tagId: null } })
  const [one, two] = emailsOf(draft)
  const first =
    { ...one!, content: { ...one!.content, body: { type: 'doc' as const, content: [
      button('A coptic book', 'https://saltmarsh.example.com/coptic'), button('not for me', 'https://saltmarsh.example.com/later'),
    ] } } }
  await porch.do('PUT', `courses/${courseId}`, { name, draft: { ...draft, steps: [first, two!] } })
  await porch.do('POST', `courses/${courseId}/publish`)
  const kit = await porch.do<PageView>('GET', `pages/${now.made.pageId}`)
  await make('pages', 'Which book first?')
  await porch.do('PUT', `pages/${ids['Which book first?']}`, {
    name: 'Which book first?', slug: 'which-book', draft: { ...kit.draft, tagIds: [] },
  })
  await porch.do('POST', `pages/${ids['Which book first?']}/publish`)
  await sell('Long-Stitch Journals', 'long-stitch', { currency: 'EUR', amount: 4900, paying: 'once', parts: 1 })
  await sell('Leather and Board', 'leather', { currency: 'EUR', amount: 2900, paying: 'once', parts: 1 })
  await sell('Bench Club', 'club', { currency: 'EUR', amount: 900, paying: 'once', parts: 1 })
})

const asks = askers(() => porch)
const choose = async (label: string | RegExp, option: string) => {
  steps += 2
  await chooseOn(page, label, option)
}
const press = async (name: string | RegExp, within = page.locator('body')) => {
  steps++
  await within.getByRole('button', { name, exact: typeof name === 'string' }).first().click()
}
const fill = async (label: string, text: string) => {
  steps++
  const field = page.getByLabel(label, { exact: true })
  await field.fill(text)
  // A number counts once its field is left.
  if (await field.getAttribute('role') === 'spinbutton') await field.press('Tab')
}
/** Writes the email that a rule sends. Its words take as long as words take, and do not count. */
const write = async (title: string, subject: string, body: string) => {
  await press('write it')
  await page.getByLabel('Working title; readers never see it').fill(title)
  await page.getByRole('textbox', { name: 'Subject', exact: true }).fill(subject)
  await page.getByRole('textbox', { name: 'Body of the email' }).fill(body)
  await press('Done')
}
/** Where a rule is begun: the whole sentence, or beside something. */
async function begin(): Promise<void> {
  steps = 1
  await visit(page, '/house-rules/new')
}
const when = async (what: string, which?: [kind: string, name: string]) => {
  await choose('When: what happens', what)
  if (which) await choose(`When: which ${which[0]}`, which[1])
}
const act = async (label: string, what: string, which?: [label: string, name: string]) => {
  await choose(`${label}: what is done`, what)
  if (which) await choose(`${label}: ${which[0]}`, which[1])
}
const does = async (n: number, what: string, which?: [label: string, name: string]) => {
  if (n > 1 || await page.getByRole('group', { name: 'Action 1' }).count() === 0) {
    await press(/something( else)?$/, page.getByRole('region', { name: 'The rule' }))
  }
  await act(`Action ${n}`, what, which)
}
/** It reads as the guide says it does, is at work, and took no more than a minute. */
async function keep(wish: number): Promise<void> {
  await expect(page.locator('.says > .sentence')).toHaveText(promised(wish), { useInnerText: true })
  await press(/^Save the (rule|changes)$/)
  await expect(page.getByText('The rule is saved and at work')).toBeVisible()
  expect(steps).toBeLessThanOrEqual(MOST_STEPS)
}
/** Beside something: the first half is there; the second is said. */
async function beside(wish: number, path: string, part: string | null, what: string | null, say: () => Promise<void>): Promise<void> {
  steps = 1
  await visit(page, path)
  if (part) await press(part)
  const here = page.getByRole('region', { name: 'House rules' })
  await press('a rule', here)
  if (what) await choose('What happens', what)
  await say()
  await press('Save the rule', here)
  await expect(here.locator('.sentence').filter({ hasText: promised(wish) })).toBeVisible()
  expect(steps).toBeLessThanOrEqual(MOST_STEPS)
}

/* What happens then */

const pathOf = (location: string | null) => new URL(location!, porch.url).pathname

const optIn = async (address: string, slug = 'sheet-kit', query = '') => {
  const html = await (await porch.fetch(`/practice/p/${slug}${query}`)).text()
  await porch.optIn(slug, {
    email: address, first_name: address.split('@')[0]!, touch: /name="touch" value="([^"]+)"/.exec(html)?.[1] ?? '',
  })
}
/** Goes to the till of an offer, and pays there if that is meant. */
async function goToPay(address: string, slug: string, pays = true): Promise<void> {
  const till = pathOf((await porch.fetch(`/practice/s/${slug}`, {
    method: 'POST', body: new URLSearchParams({ email: address, first_name: address.split('@')[0]! }),
  })).headers.get('location'))
  if (pays) await porch.fetch(till, { method: 'POST', body: new URLSearchParams({ card: 'works' }) })
}
const clock = (by: 'hour' | 'day' | 'next-send' | 'to', at?: number) => moveClock(porch, by, at)
const tagsOf = async (address: string) => (await asks.personOf(address)).tags.map(({ name }) => name)
const follow = async (address: string, name: string) => {
  // Their first letter, which is the last of the newest.
  const mail = (await asks.mailTo(address)).at(-1)
  const html = await (await porch.api('GET', `mailbox/${mail!.id}/html`)).text()
  const href = [...html.matchAll(/<a[^>]+href="([^"]+)"[^>]*>([^<]*)/g)].find(([, , label]) => label!.trim() === name)![1]!
  const { pathname, search } = new URL(href, porch.url)
  return porch.fetch(pathname + search, {
    headers: { 'user-agent': 'Mozilla/5.0 (X11; Linux x86_64; rv:140.0) Gecko/20100101 Firefox/140.0' },
  })
}

test('1 owners stop hearing about what they own: beside the offer, where its buyers come into the course that sells it', async () => {
  await beside(1, `/offers/${ids['Long-Stitch Journals']}`, 'What it gives', null, () =>
    act('What is done', 'remove from the course', ['which course', 'Fold, Sew, Cover']))
  await optIn('owner@example.com')
  expect((await asks.personOf('owner@example.com')).courses).toMatchObject([{ status: 'open' }])
  await goToPay('owner@example.com', 'long-stitch')
  expect((await asks.personOf('owner@example.com')).courses).toMatchObject([{ status: 'left' }])
})

test('2 a tag by where they came from', async () => {
  await begin()
  await press('Only for some…')
  await press('a condition', page.getByRole('region', { name: 'People included' }))
  await choose(/about what$/, 'Source')
  await choose(/which source$/, '“workshop flyer”')
  await does(1, 'add the tag', ['which tag', 'met at the stall'])
  await keep(2)
  await optIn('stall@example.com', 'sheet-kit', '?from=workshop-flyer')
  await optIn('street@example.com')
  expect([await tagsOf('stall@example.com'), await tagsOf('street@example.com')].map(tags => tags.includes('met at the stall'))).toEqual([
    true, false,
  ])
})

test('3 and 4 an interest by a click, and no more about an offer: on the links', async () => {
  await beside(3, `/links/${ids['A coptic book']}`, null, null, () => act('What is done', 'add the tag', ['which tag', 'likes: coptic']))
  steps = 1
  await visit(page, `/links/${ids['not for me']}`)
  await press('something')
  await choose('Consequence 1: what is done', 'send nothing more about')
  await choose('Consequence 1: of which offer', 'Leather and Board')
  await press('Save the changes')
  await expect(page.getByText('The link is saved')).toBeVisible()
  expect(steps).toBeLessThanOrEqual(MOST_STEPS)
  await optIn('reader@example.com')
  await follow('reader@example.com', 'A coptic book')
  await clock('hour')
  await follow('reader@example.com', 'not for me')
  await clock('hour')
  expect(await tagsOf('reader@example.com')).toContain('likes: coptic')
  expect((await asks.personOf('reader@example.com')).noMore).toMatchObject([{ name: 'Leather and Board' }])
})

test('5 only who really meant it: a second press on a page of ours', async () => {
  steps = 1
  await visit(page, `/links/${ids['not for me']}`)
  steps++
  await page.getByText('only after a second click').click()
  await press('Save the changes')
  await expect(page.getByText('The link is saved')).toBeVisible()
  await optIn('careful@example.com')
  const asked = await follow('careful@example.com', 'not for me')
  expect(await (await porch.fetch(pathOf(asked.headers.get('location')))).text()).toContain('Yes, that is what I want')
  await clock('hour')
  expect((await asks.personOf('careful@example.com')).noMore).toEqual([])
})

for (const [wish, name, edit] of [
  [6, 'Welcome back', async () => {}],
  [13, 'Tag people who go quiet', () => choose('Action 1: which tag', 'gone quiet')],
  [14, 'Someone is getting interested', async () => {}],
] as const) {
  test(`${wish} copied from the ready ones: ${name}`, async () => {
    steps = 1
    await visit(page, '/house-rules')
    await press('Copy a template')
    await press(`Copy the rule: ${name}`)
    await expect(page.locator('.says > .sentence')).toBeVisible()
    await edit()
    await keep(wish)
  })
}

test('7 thank for a second download', async () => {
  steps = 1
  await visit(page, '/house-rules')
  await press('Copy a template')
  await press('Copy the rule: Say thanks for a second download')
  await choose('When: which page', 'Which book first?')
  await keep(7)
  await optIn('twice@example.com')
  await optIn('twice@example.com', 'which-book')
  await optIn('other@example.com', 'which-book')
  await clock('next-send')
  await asks.mailWith('twice@example.com', 'A second one, how nice')
  expect((await asks.personOf('other@example.com')).emails.map(({ title }) => title)).toEqual([])
})

test('8 somebody went to pay and did not: beside the offer', async () => {
  await beside(8, `/offers/${ids['Long-Stitch Journals']}`, 'What it gives', 'goes to pay and does not', async () => {
    await act('What is done', 'add a to-do')
    await fill('What is done: what is to be done', 'Ask whether something was unclear')
  })
  await goToPay('shy@example.com', 'long-stitch', false)
  await goToPay('bold@example.com', 'long-stitch')
  await clock('hour')
  await clock('hour')
  expect((await asks.personOf('shy@example.com')).todos).toMatchObject([{ text: 'Ask whether something was unclear' }])
  expect((await asks.personOf('bold@example.com')).todos).toEqual([])
})

test('9 money went back: nothing more about it, and a to-do', async () => {
  steps = 1
  await visit(page, '/house-rules')
  await press('Copy a template')
  await press('Copy the rule: After a refund')
  await choose('When: which offer', 'Leather and Board')
  await choose('Action 1: of which offer', 'Leather and Board')
  await keep(9)
  await goToPay('sorry@example.com', 'leather')
  const { purchases: [own] } = await asks.personOf('sorry@example.com')
  await porch.do('POST', `purchases/${own!.id}/refund`, { paymentId: own!.payments[0]!.id, amount: 2900 })
  const { noMore, todos } = await asks.personOf('sorry@example.com')
  expect([noMore.map(({ name }) => name), todos.map(({ text }) => text)]).toEqual([
    ['Leather and Board'], ['Write and ask what was missing'],
  ])
})

test('10 buyers get their lessons: no rule, the offer itself', async () => {
  steps = 1
  await visit(page, `/offers/${ids['Bench Club']}`)
  await press('What it gives')
  await choose('starts the course', 'Fold, Sew, Cover')
  await press('Publish the changes')
  await expect(page.getByText('Buyers now see version 2.')).toBeVisible()
  expect(steps).toBeLessThanOrEqual(MOST_STEPS)
  await goToPay('member@example.com', 'club')
  expect((await asks.personOf('member@example.com')).courses).toMatchObject([{ status: 'open' }])
})

test('11 and 12 a birthday letter, and a letter a week before something runs out', async () => {
  await begin()
  await when('reaches a date', ['field', 'birthday'])
  steps++
  await page.getByText('every year', { exact: true }).click()
  await does(1, 'send one email')
  await write('Birthday', 'A small book for your day', 'Fold one sheet three times.')
  await keep(11)
  await begin()
  await when('reaches a date', ['field', 'club until'])
  await fill('When: how many days', '7')
  await choose('When: before or after the date', 'days before')
  await does(1, 'send one email')
  await write('Your year is nearly over', 'One week left', 'It ends in a week.')
  await keep(12)
  const { now } = await porch.do<RailView>('GET', 'rail')
  const day = (days: number) => new Date(now + days * 86_400_000).toISOString().slice(0, 10)
  await optIn('dated@example.com')
  const { person } = await asks.personOf('dated@example.com')
  await porch.do('PUT', `subscribers/${person.id}`, {
    firstName: 'Dated', zone: null, country: null, fields: { [ids.birthday!]: `1990${day(1).slice(4)}`, [ids['club until']!]: day(9) },
  })
  for (let n = 0; n < 3; n++) await clock('day')
  for (const subject of ['A small book for your day', 'One week left']) await asks.mailWith('dated@example.com', subject)
})

test('15 after the course: beside it', async () => {
  await beside(15, `/courses/${opened.made.courseId}`, null, null, () =>
    act('What is done', 'add to the list', ['which list', 'bench letters']))
  await optIn('finisher@example.com')
  for (let n = 0; n < 2; n++) await clock('day')
  expect(
    (await asks.personOf('finisher@example.com')).lists.filter(({ leftAt }) => leftAt === null).map(({ name }) => name),
  ).toContain('bench letters')
})

test('16 and 17 one list means another, and one tag ends another: on the list and on the tag, shown as rules', async () => {
  steps = 1
  await visit(page, '/tags-and-lists')
  await press('your classes')
  await press('another list, too')
  await choose('What follows 1: which list', 'bench letters')
  await choose('What follows 1: when', 'once Fold, Sew, Cover is finished')
  await press('Save the list')
  await expect(page.getByRole('dialog')).toHaveCount(0)
  await press('ready')
  await choose('People who get it lose', 'undecided')
  await press('Save the tag')
  await expect(page.getByRole('dialog')).toHaveCount(0)
  expect(steps).toBeLessThanOrEqual(2 * MOST_STEPS)
  await visit(page, '/house-rules')
  for (const wish of [16, 17]) await expect(page.locator('.sentence').filter({ hasText: promised(wish) })).toBeVisible()
  const { person } = await asks.personOf('finisher@example.com')
  for (const name of ['undecided', 'ready']) await porch.do('POST', `subscribers/${person.id}/tags/${ids[name]}`)
  expect(await tagsOf('finisher@example.com')).toEqual(expect.not.arrayContaining(['undecided']))
})

test('18 they replied: said on their page', async () => {
  await begin()
  await when('replies')
  await does(1, 'remove from the course', ['which course', 'Fold, Sew, Cover'])
  await keep(18)
  await optIn('writer@example.com')
  const { person } = await asks.personOf('writer@example.com')
  await visit(page, `/subscribers/${person.id}`)
  await press('They replied')
  await expect(page.getByText('replied, by hand', { exact: true })).toBeVisible()
  expect((await asks.personOf('writer@example.com')).courses).toMatchObject([{ status: 'left' }])
})

test('19 and 20 something outside should know, and something outside tells', async () => {
  const {
    id: hookOut,
  } = await porch.do<{ id: number }>('POST', 'hooks/out', { name: 'the print shop', url: 'https://print.example.com/hook' })
  await porch.do('POST', 'hooks/in', {
    name: 'the booking form', reading: { proof: 'bearer', emailAt: 'email', nameAt: 'name', event: 'hook-called', unknown: 'leave' },
  })
  expect(hookOut).toBeGreaterThan(0)
  await beside(19, `/offers/${ids['Bench Club']}`, 'What it gives', 'buys', () =>
    act('What is done', 'call a webhook', ['which address', 'the print shop']))
  await begin()
  await when('is named in a webhook call', ['incoming webhook', 'the booking form'])
  await does(1, 'add the tag', ['which tag', 'has booked'])
  await keep(20)
  await goToPay('club@example.com', 'club')
  const hooks = await porch.do<HooksView>('GET', 'hooks')
  expect(hooks.deliveries.map(({ hook }) => hook)).toEqual(['the print shop'])
  const [form] = hooks.in
  await fetch(form!.url, {
    method: 'POST', headers: { 'content-type': 'application/json', 'authorization': `Bearer ${form!.secret}` },
    body: JSON.stringify({ email: 'club@example.com' }),
  })
  expect(await tagsOf('club@example.com')).toContain('has booked')
})

test('what was copied acts, too: who comes back is welcomed, who turns warm is told of, who is silent is marked', async () => {
  await optIn('back@example.com')
  await clock('next-send')
  const [mail] = await asks.mailTo('back@example.com')
  await porch.fetch(
    /^List-Unsubscribe: <http:\/\/localhost:\d+(\/[^>]+)>/m.exec(mail!.source)![1]!,
    { method: 'POST', body: new URLSearchParams({ 'List-Unsubscribe': 'One-Click' }) },
  )
  expect((await asks.personOf('back@example.com')).person.status).toBe('unsubscribed')
  // Whoever left is asked by email first: somebody else could have typed their address.
  await optIn('back@example.com')
  const asked = await asks.mailWith('back@example.com', 'Please confirm, and it’s yours')
  await porch.fetch(/http:\/\/localhost:\d+(\/\S*\/c\/\S+)/.exec(asked.text)![1]!, {
    method: 'POST', body: new URLSearchParams({ answer: 'yes' }),
  })
  await clock('next-send')
  await asks.mailWith('back@example.com', 'Good to see you again')
  // Twenty points for each thing bought, and some before.
  for (const slug of ['leather', 'long-stitch']) await goToPay('club@example.com', slug)
  expect((await porch.do<DeskView>('GET', 'desk')).notices.map(({ text }) => text)).toEqual([
    'Someone is getting interested: a good moment for a personal line',
  ])
  const { now } = await porch.do<RailView>('GET', 'rail')
  await clock('to', now + 91 * 86_400_000)
  expect(await tagsOf('street@example.com')).toContain('gone quiet')
})
