/** What broke in the hands of a new user, on the screens; the numbers are those of the list of what broke. */
import { expect, test, type Page } from '@playwright/test'
import { emailsOf } from '#core/sequence/draft'
import type { CourseView } from '#core/views/course'
import { PASSWORD } from '../built/porch'
import { axe as axeOn, inOneWindow, type Opened } from './opened'

let opened: Opened
let page: Page
inOneWindow((one) => {
  opened = one
  page = one.page
})
const axe = () => axeOn(page)

test('B1: a page that leads into a course and not onto its list says so in three places, and one click mends it', async () => {
  const { porch, made } = opened
  const { id: listId } = await porch.do<{ id: number }>('POST', 'lists', {
    name: 'free course', publicName: 'The free course', description: '', offered: false,
  })
  const { name, draft } = await porch.do<CourseView>('GET', `courses/${made.courseId}`)
  await porch.do('PUT', `courses/${made.courseId}`, { name, draft: { ...draft, listId } })
  await porch.do('POST', `courses/${made.courseId}/publish`, {})
  const note = page.getByText(/People who come by the page “.*” would get no email of/)
  await page.goto(`/pages/${made.pageId}`)
  await expect(note).toBeVisible()
  await page.goto('/')
  await page.getByRole('link', { name: /^People who come by/ }).click()
  await expect(note).toBeVisible()
  await axe()
  await page.getByRole('button', { name: 'Let the page add them to the list' }).click()
  await expect(page.getByText('They join free course now')).toBeVisible()
  await expect(note).toHaveCount(0)
  await page.goto(`/pages/${made.pageId}?part=gives`)
  await expect(page.getByText('free course').first()).toBeVisible()
  await expect(note).toHaveCount(0)
})

test('B6: a time and a date can be typed, by keyboard alone, and what cannot be read is said and changes nothing', async () => {
  const { porch, made } = opened
  await page.goto(`/courses/${made.courseId}`)
  await page.getByRole('button', { name: /^3 ·/ }).click()
  const field = page.getByRole('textbox', { name: 'Clock time' })
  const savedTime = async () => (emailsOf((await porch.do<CourseView>(
    'GET', `courses/${made.courseId}`
  )).draft)[2]!.when as { time?: string }).time
  for (const [typed, time] of [['09:30', '09:30'], ['7', '07:00'], ['18.45', '18:45']] as const) {
    await field.click()
    await page.keyboard.press('ControlOrMeta+a')
    await page.keyboard.type(typed)
    await page.keyboard.press('Tab')
    await expect(field).toHaveValue(time)
    await expect.poll(savedTime).toBe(time)
  }
  await field.click()
  await page.keyboard.press('ControlOrMeta+a')
  await page.keyboard.type('half past nine')
  await page.keyboard.press('Tab')
  await expect(page.getByText('“half past nine” cannot be read as a time. Type it like 09:30.')).toBeVisible()
  await expect(field).toHaveValue('half past nine')
  await axe()
  expect(await savedTime()).toBe('18:45')
})

test('B11: an address is never lost in the text, and the mailbox shows what arrived meanwhile', async () => {
  const { porch, made } = opened
  await page.goto(`/courses/${made.courseId}`)
  await page.getByRole('button', { name: /^2 ·/ }).click()
  const body = page.getByRole('textbox', { name: 'Body' })
  await body.click()
  await page.keyboard.press('ControlOrMeta+End')
  await page.getByRole('button', { name: 'Link', exact: true }).first().click()
  await page.getByLabel('Leads to').fill('https://example.com/made')
  await page.keyboard.press('Enter')
  await expect(body.getByText('https://example.com/made')).toBeVisible()
  await page.goto('/mailbox')
  await expect(page.getByText('No mail yet')).toBeVisible()
  await porch.optIn('sheet-kit', { email: 'meanwhile@example.com' })
  // Nobody touches the screen, and the practice clock stands still.
  await expect(page.getByText('meanwhile@example.com').first()).toBeVisible()
})

test('A3: signing out everywhere ends this window, too; an address that is not there says so', async () => {
  await page.goto('/settings')
  await page.getByRole('button', { name: 'Sign out everywhere' }).click()
  await page.getByRole('alertdialog').getByRole('button', { name: 'Sign out everywhere' }).click()
  await expect(page.getByRole('heading', { name: 'Sign in' })).toBeVisible()
  await page.goto('/courses')
  await expect(page.getByRole('heading', { name: 'Sign in' })).toBeVisible()
  await page.getByLabel('Password', { exact: true }).fill(PASSWORD)
  await page.getByRole('button', { name: 'Sign in' }).click()
  await expect(page.getByRole('heading', { level: 1, name: 'Courses' })).toBeVisible()
  await page.goto('/nothing-here')
  await expect(page.getByRole('heading', { name: 'Page not found' })).toBeVisible()
  await axe()
})
