/** A lesson with versions, a part, a choice and a countdown: written, looked at as several people, sent as tests, and answered. */
import { test, type Page, type Route } from '@playwright/test'
import { EVERYBODY } from '#core/audience/condition'
import type { BlockNode } from '#core/message/content'
import type { DraftEmail } from '#core/sequence/draft'
import type { CourseView } from '#core/views/course'
import type { PageView } from '#core/views/pages'
import { askers } from '../built/askers'
import { expect } from './expect'
import { atRest, axe, choose, inOneWindow, moveClock, type Opened, visit } from './opened'

let opened: Opened
let page: Page
let stepId: string
const asks = askers(() => opened.porch)
inOneWindow(async (one) => {
  opened = one
  page = one.page
  const { porch } = one
  stepId = (await course()).draft.steps[0]!.id
  const { id: tagId } = await porch.do<{ id: number }>('POST', 'tags', { name: 'undecided', note: '' })
  for (const [name, first] of [['ada', 'Ada'], ['bo', 'Bo'], ['cy', ''], ['dee', 'Dee']] as const) {
    await porch.optIn('sheet-kit', { email: `${name}@example.com`, first_name: first })
  }
  const { rows } = await porch.do<{ rows: { id: number }[] }>('GET', 'subscribers?search=bo@')
  await porch.do('POST', `subscribers/${rows[0]!.id}/tags/${tagId}`)
})
const course = () => opened.porch.do<CourseView>('GET', `courses/${opened.made.courseId}`)
async function blocks(): Promise<BlockNode[]> {
  await expect(page.getByText('Saved', { exact: true })).toBeVisible()
  const [step] = (await course()).draft.steps
  return step?.kind === 'email' ? step.content.body.content : []
}
const body = () => page.getByRole('textbox', { name: 'Body of the email' })
const preview = () => page.getByRole('region', { name: 'Preview as' })
const show = (view: string) =>
  page.getByRole('group', { name: 'Write it, or see how it arrives' }).getByRole('button', { name: view, exact: true }).click()
const frame = () => page.frameLocator('iframe[title="The email on a computer"]')

test('a part is written once, and stands in an email by its name', async () => {
  await visit(page, '/email-parts')
  await page.getByRole('button', { name: 'New part' }).click()
  await page.getByLabel('Name; readers never see it').fill('Signature')
  await page.getByRole('textbox', { name: 'The part' }).click()
  await page.keyboard.type('Until Thursday, @sender')
  await page.keyboard.press('Enter')
  await page.getByRole('button', { name: 'Put it in' }).click()
  await axe(page)
  await page.getByRole('button', { name: 'Keep it', exact: true }).click()
  await expect(page.getByText('in no email yet')).toBeVisible()
  await axe(page)
  await visit(page, `/courses/${opened.made.courseId}?email=${stepId}`)
  await body().click()
  await page.keyboard.press('ControlOrMeta+a')
  await page.keyboard.press('Backspace')
  await page.keyboard.type('Good morning.')
  await page.keyboard.press('Enter')
  await page.keyboard.type('/sig')
  await expect(page.getByRole('option', { name: /Signature/ })).toBeVisible()
  await page.keyboard.press('Enter')
  await expect(page.getByText('Until Thursday,')).toBeVisible()
  await expect(page.getByRole('link', { name: 'Change this part' })).toBeVisible()
  await expect.poll(async () => (await blocks()).map(({ type }) => type)).toEqual(['paragraph', 'part'])
})

test('a block is only for some: for whom is chosen in a sentence, counted, and written in where it stands', async () => {
  await page.getByRole('button', { name: 'What to do with Text', exact: true }).first().click()
  await page.getByRole('menuitem', { name: 'Only for some' }).click()
  const who = page.getByRole('dialog', { name: 'People who get this version' })
  await expect(who.getByRole('button', { name: 'Use this' })).toBeDisabled()
  await who.getByRole('region', { name: 'People included' }).getByRole('button', { name: 'a condition', exact: true }).click()
  await choose(page, /which tag$/, 'sheet kit')
  await axe(page)
  await who.getByRole('button', { name: 'Use this' }).click()
  // Where it is written in has the focus at once: of what is typed then, no letter is lost.
  expect(await page.getByRole('button', { name: 'One for everybody else' }).evaluate((button: HTMLElement) => {
    button.click()
    return document.activeElement!.getAttribute('aria-label')
  })).toBe('Body of the email')
  await page.keyboard.type('You have not taken the kit.')
  await expect(page.getByRole('tab', { name: /^Everybody else 0$/ })).toHaveAttribute('aria-selected', 'true')
  await expect(page.getByRole('tab', { name: /^Tagged “sheet kit” 4$/ })).toBeVisible()
  await page.getByRole('button', { name: 'Add a version', exact: true }).first().click()
  await who.getByRole('region', { name: 'People included' }).getByRole('button', { name: 'a condition', exact: true }).click()
  await choose(page, /which tag$/, 'undecided')
  await who.getByLabel('What you call them, if the sentence is long').fill('A few')
  await who.getByRole('button', { name: 'Use this' }).click()
  await page.keyboard.type('You are one of a few.')
  await expect(page.getByRole('tab', { name: /^A few/ })).toHaveAttribute('aria-selected', 'true')
  await axe(page)
  const only = page.getByRole('region', { name: 'Only for' })
  await only.getByRole('button', { name: 'Try it earlier' }).click()
  await expect.poll(async () => {
    const [first] = await blocks()
    return first?.type === 'onlyFor' ? first.content.map(({ attrs }) => attrs.name ?? (attrs.who ? 'tag' : 'rest')) : null
  }).toEqual(['A few', 'tag', 'rest'])
  // Another subject for the same people.
  await page.getByRole('button', { name: 'Another subject for some' }).click()
  await who.getByRole('region', { name: 'People included' }).getByRole('button', { name: 'a condition', exact: true }).click()
  await choose(page, /which tag$/, 'sheet kit')
  await who.getByRole('button', { name: 'Use this' }).click()
  await page.getByRole('textbox', { name: 'Subject of version 1' }).click()
  await page.keyboard.type('For you, @fir')
  await page.keyboard.press('Enter')
  await page.getByRole('button', { name: 'Put it in' }).click()
  await expect.poll(async () => JSON.stringify((await course()).draft.steps[0])).toContain('"subjectFor":[{')
})

test('a choice and a countdown are put in, and what is missing is told beside it', async () => {
  await page.getByRole('button', { name: 'Add a block after Signature' }).click()
  await page.getByRole('option', { name: /^Choice/ }).click()
  await page.getByLabel('Choice 1 says').fill('Coptic')
  await page.getByLabel('Choice 2 says').fill('')
  await expect(page.getByRole('region', { name: 'Before it leaves' }).getByText('A choice has no words')).toBeVisible()
  await page.getByLabel('Choice 2 says').fill('Long-stitch')
  await choose(page, 'Choice 2 adds the tag', 'undecided')
  await page.getByLabel('Then our page says').fill('You get its notes.')
  await axe(page)
  await page.getByRole('button', { name: 'Add a block after Choice' }).click()
  await page.getByRole('option', { name: /^Countdown/ }).click()
  await expect(page.getByRole('region', { name: 'Before it leaves' }).getByText('A countdown has no end')).toBeVisible()
  await page.getByRole('region', { name: 'Countdown' }).getByRole('checkbox').click()
  // At eight in the evening of the seventh day: less than seven days for those who run this late.
  await expect(page.getByText(/^Closes in [67] days/)).toBeVisible()
  await expect(page.getByRole('region', { name: 'Before it leaves' }).getByText('A countdown has no end')).toBeHidden()
  await axe(page)
})

test('it is looked at as one after another of those who get something else, as anybody, and as nobody in particular', async () => {
  const count = 2
  await preview().getByRole('button', { name: 'Look at it as one of them' }).click()
  await show('Computer')
  for (const [n, words] of ['Good morning.', 'You are one of a few.', 'Good morning.'].entries()) {
    await expect(preview().getByText(`Version ${n % count + 1} of ${count}`)).toBeVisible()
    await expect(frame().getByText(words)).toBeVisible()
    await preview().getByRole('button', { name: 'The next version' }).click()
  }
  await expect(preview().getByText(/^Is (not )?among people/).first()).toBeVisible()
  await preview().getByRole('button', { name: 'Someone else' }).click()
  await preview().getByLabel('Preview as').fill('ada')
  await page.getByRole('option', { name: /ada@example\.com/ }).click()
  await expect(preview().getByText('ada@example.com')).toBeVisible()
  await expect(page.getByText('For you, friend', { exact: true })).toBeVisible()
  await axe(page)
  await preview().getByRole('button', { name: 'Someone else' }).click()
  await preview().getByRole('button', { name: 'is not', exact: true }).click()
  await expect(frame().getByText('You have not taken the kit.')).toBeVisible()
  // A slow answer about one reader does not take the place of the next one’s.
  const held: Route[] = []
  await page.route('**/api/emails/preview', (route) => {
    if (/"personId":\d/.test(route.request().postData()!)) held.push(route)
    else return route.continue()
  })
  await preview().getByRole('button', { name: 'Look at it as one of them' }).click()
  await expect.poll(() => held.length).toBe(2)
  await preview().getByRole('button', { name: 'Someone else' }).click()
  await preview().getByRole('button', { name: 'is not', exact: true }).click()
  await expect(preview().getByText('Somebody without a name')).toBeVisible()
  for (const route of held) {
    await route.continue()
    await (await route.request().response())!.finished()
  }
  await atRest(page)
  await expect(page.getByText('One, friend', { exact: true })).toBeVisible()
  await expect(preview().getByText(/^Is (not )?among people/)).toHaveCount(0)
  await page.unroute('**/api/emails/preview')
  await page.getByRole('button', { name: 'Send me a copy' }).click()
  await choose(page, 'As it is read by', `one reader of each version: ${count} emails`)
  await page.getByRole('dialog', { name: 'Send a copy' }).getByRole('button', { name: 'Send it' }).click()
  await expect(page.getByText(`${count} tests are on the way to the practice mailbox.`)).toBeVisible()
})

test('a letter has nothing drawn in it; a template comes in its place, and going back is one press', async () => {
  await show('Write')
  await page.getByRole('button', { name: 'Letter', exact: true }).click()
  await show('Computer')
  await expect(frame().getByRole('link', { name: 'Coptic' })).toHaveCSS('text-decoration-line', 'underline')
  await show('Write')
  await page.getByRole('button', { name: 'Designed', exact: true }).click()
  await page.getByRole('button', { name: 'Begin with a template' }).click()
  await axe(page)
  await page.getByRole('button', { name: 'Begin with Story' }).click()
  await expect(body()).toContainText('in my second winter as a potter')
  await page.locator('.p-toast').getByRole('button', { name: 'Undo', exact: true }).click()
  await expect(page.getByText('Until Thursday,')).toBeVisible()
  await page.getByRole('button', { name: 'Keep as a template' }).click()
  await page.getByLabel('Name (only you see it)').fill('My lesson')
  await page.getByRole('button', { name: 'Keep it', exact: true }).click()
  await visit(page, '/email-parts?at=templates')
  await expect(page.getByText('My lesson')).toBeVisible()
  await page.getByRole('button', { name: 'All emails', exact: true }).click()
  await page.getByLabel('Find an email').fill('one of a few')
  await expect(page.getByRole('status').filter({ hasText: /^1 email$/ })).toBeVisible()
  await expect(page.getByRole('row', { name: /One .*Fold, Sew, Cover/ })).toContainText('undecided')
  await axe(page)
})

test('what it was before it was written anew is kept, compared in colour, and can be taken again', async () => {
  await visit(page, `/courses/${opened.made.courseId}?email=${stepId}`)
  await page.getByRole('button', { name: 'Earlier versions' }).click()
  const dialog = page.getByRole('dialog', { name: 'Earlier versions' })
  await expect(dialog.locator('del').filter({ hasText: 'Olá' })).toBeVisible()
  await expect(dialog.locator('ins').filter({ hasText: 'Good morning' })).toBeVisible()
  await axe(page)
  await dialog.getByRole('button', { name: 'Take this version again' }).click()
  await expect(body()).toContainText('Olá, a letter with')
  await page.locator('.p-toast').getByRole('button', { name: 'Undo', exact: true }).click()
  await expect(page.getByText('Until Thursday,')).toBeVisible()
  await expect.poll(async () => (await blocks())[0]?.type).toBe('onlyFor')
})

test('the look is set once beside an email that has it, and what cannot be read is not taken', async () => {
  await visit(page, '/email-parts?at=look')
  await page.getByLabel('Words', { exact: true }).fill('#BBBBBB')
  await expect(page.getByRole('alert')).toContainText('Words on the paper are hard to read')
  await expect(page.getByRole('button', { name: 'Use this look' })).toBeDisabled()
  await page.getByLabel('Words', { exact: true }).fill('#33261A')
  await page.getByLabel('Links and buttons', { exact: true }).fill('#8A2F1D')
  await axe(page)
  await page.getByRole('button', { name: 'Use this look' }).click()
  await expect(page.getByText('Emails look so from now on.')).toBeVisible()
  await visit(page, `/courses/${opened.made.courseId}?email=${stepId}`)
  await expect(page.locator('.choice').first()).toHaveCSS('color', 'rgb(138, 47, 29)')
})

test('what is chosen in it is noted on a page of ours, where it can be chosen otherwise; and it is shown as they got it', async ({ browser }) => {
  await opened.porch.do('POST', `courses/${opened.made.courseId}/publish`, { goesOn: false })
  await opened.porch.optIn('sheet-kit', { email: 'eve@example.com', first_name: 'Eve' })
  await moveClock(opened.porch, 'hour')
  const [mail] = await asks.mailTo('eve@example.com', 1)
  const address = /- Coptic:\n\s*(\S+)/.exec(mail!.text)![1]!
  const reader = await browser.newContext({ baseURL: opened.porch.url })
  const door = await reader.newPage()
  await door.goto(address)
  await expect(door.getByRole('heading', { name: 'Noted' })).toBeVisible()
  await expect(door.getByText('You chose “Coptic”.')).toBeVisible()
  await axe(door)
  await door.getByRole('button', { name: 'Long-stitch' }).click()
  await expect(door.getByText('You chose “Long-stitch”.')).toBeVisible()
  await visit(page, '/subscribers?search=eve@')
  await page.getByRole('link', { name: /Eve|eve@example\.com/ }).first().click()
  await expect(page.getByText('undecided').first()).toBeVisible()
  await door.getByRole('button', { name: 'None of them' }).click()
  await expect(door.getByText('It is as if you had not clicked.')).toBeVisible()
  await reader.close()
  await page.getByRole('button', { name: /^Show .* as they got it$/ }).first().click()
  await expect(page.frameLocator('iframe[title="The email as they saw it"]').getByText('Until Thursday,')).toBeVisible()
  await axe(page)
})

test('looking at what a program has written changes nothing of it', async () => {
  const { porch, made: { courseId } } = opened
  const say = (text: string) => ({ type: 'paragraph', content: [{ type: 'text', text }] })
  // As it is valid, and as an editor would not have written it: no block has an id, none of their marks is said, and a list is the last.
  const written = { type: 'doc', content: [
    say('Thread, and what it is for.'),
    { type: 'onlyFor', content: [
      { type: 'case', attrs: { who: EVERYBODY, name: 'All' }, content: [say('You are all here.')] },
      { type: 'case', attrs: { who: null, name: null }, content: [
        { type: 'button', attrs: { label: 'See it', url: 'https://example.com', tagId: null } },
      ] },
    ] },
    { type: 'bulletList', content: [{ type: 'listItem', content: [say('Linen')] }] },
  ] }
  const { name, draft } = await course()
  const [first, ...others] = draft.steps
  await porch.do('PUT', `courses/${courseId}`, {
    name, draft: { ...draft, steps: [{ ...first!, content: { ...(first as DraftEmail).content, body: written } }, ...others] },
  })
  await visit(page, `/courses/${courseId}?email=${stepId}`)
  await page.getByRole('tab', { name: 'Everybody else' }).click()
  await page.getByText('Linen').click()
  await page.getByRole('textbox', { name: 'Working title' }).fill('Read once')
  await expect.poll(async () => ((await course()).draft.steps[0] as DraftEmail).content.workingTitle).toBe('Read once')
  expect(((await course()).draft.steps[0] as DraftEmail).content.body).toEqual(written)
  // What is written then is kept with ids, and looked at again as before.
  await page.getByText('Linen').click()
  await page.keyboard.type('!')
  await expect.poll(async () => JSON.stringify(await blocks())).toMatch(/!/)
  expect((await blocks()).every(({ attrs }) => attrs?.id)).toBe(true)
})

test('nor does working beside the thanks of a page', async () => {
  const { porch, made: { pageId } } = opened
  const say = (text: string) => ({ type: 'paragraph', content: [{ type: 'text', text }] })
  const text = { type: 'doc', content: [{ type: 'bulletList', content: [{ type: 'listItem', content: [say('Look into your inbox')] }] }] }
  const read = () => porch.do<PageView>('GET', `pages/${pageId}`)
  const { name, slug, draft } = await read()
  await porch.do('PUT', `pages/${pageId}`, { name, slug, draft: { ...draft, thanks: { ...draft.thanks, text } } })
  await visit(page, `/pages/${pageId}?part=after`)
  await page.getByText('Look into your inbox').click()
  await page.getByRole('textbox', { name: 'Headline' }).first().fill('Look now')
  await expect.poll(async () => (await read()).draft.thanks.headline).toBe('Look now')
  expect((await read()).draft.thanks.text).toEqual(text)
})
