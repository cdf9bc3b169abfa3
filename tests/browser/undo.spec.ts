/** What is changed on a screen can be undone there: by the button where it is said, and by a key; but never over a later change. */
import { test, type Page } from '@playwright/test'
import type { Limits } from '#core/sending/quota'
import type { CourseStanding } from '#core/views/course'
import type { SubscriberView } from '#core/views/people'
import { expect } from './expect'
import { axe, fillNumber, inOneWindow, type Opened, visit } from './opened'

let opened: Opened
let page: Page
let personId: number
inOneWindow(async (one) => {
  opened = one
  page = one.page
  await one.porch.optIn('sheet-kit', { email: 'ada@example.com', first_name: 'Ada' })
  personId = (await one.porch.do<{ rows: { id: number }[] }>('GET', 'subscribers?search=ada')).rows[0]!.id
})
const limits = () => opened.porch.do<Limits>('GET', 'sending-limits')
const person = () => opened.porch.do<SubscriberView>('GET', `subscribers/${personId}`)
const undo = () => page.getByRole('alert').getByRole('button', { name: 'Undo' })
async function limitTo(aDay: string) {
  await fillNumber(page.getByLabel('At most', { exact: true }), aDay)
  await page.getByRole('button', { name: 'Save the limits' }).click()
  await expect(page.getByText('The limits are saved.')).toBeVisible()
}

test('a setting goes back to what it was, on the screen, too', async () => {
  await visit(page, '/settings')
  await limitTo('3')
  expect((await limits()).aDay).toBe(3)
  await undo().click()
  await expect(page.getByText('Undone')).toBeVisible()
  await axe(page)
  expect((await limits()).aDay).toBeNull()
  await expect(page.getByLabel('At most', { exact: true })).toHaveValue('')
})

test('what has been changed elsewhere since is left alone, and it is said', async () => {
  await page.reload()
  await limitTo('4')
  await opened.porch.do('PUT', 'sending-limits', { ...await limits(), aDay: 9 })
  await undo().click()
  await expect(page.getByText('It has been changed since, so nothing was undone.')).toBeVisible()
  expect((await limits()).aDay).toBe(9)
})

test('a key undoes what was done last, and what was done before it after that; while writing it is the field’s own', async () => {
  await visit(page, `/subscribers/${personId}`)
  const tags = async () => (await person()).tags.map(({ name }) => name)
  await expect(page.getByRole('button', { name: 'Remove the tag sheet kit' })).toBeVisible()
  await page.getByRole('button', { name: 'Remove the tag sheet kit' }).click()
  await expect(page.getByText('Removed the tag “sheet kit”.')).toBeVisible()
  await page.getByRole('button', { name: 'Correct' }).click()
  await page.getByLabel('First name').fill('Adelaide')
  await page.keyboard.press('ControlOrMeta+z')
  expect(await tags()).not.toContain('sheet kit')
  await page.getByLabel('First name').fill('Adelaide')
  await page.getByRole('button', { name: 'Save the details' }).click()
  await expect(page.getByText('The details are saved.')).toBeVisible()
  expect((await person()).person.firstName).toBe('Adelaide')
  await page.locator('h1').click()
  await page.keyboard.press('ControlOrMeta+z')
  await expect.poll(async () => (await person()).person.firstName).toBe('Ada')
  expect(await tags()).not.toContain('sheet kit')
  await page.keyboard.press('ControlOrMeta+z')
  await expect.poll(tags).toContain('sheet kit')
  await page.keyboard.press('ControlOrMeta+z')
  await expect(page.getByRole('alert').filter({ hasText: 'Not undone' })).toHaveCount(0)
})

test('what would be deleted for good can be archived instead, and that can be undone', async () => {
  const { id } = await opened.porch.do<{ id: number }>('POST', 'links', {
    name: 'the paper mill', url: 'https://mill.example.com/', does: [], asks: false, note: '',
  })
  await visit(page, `/links/${id}`)
  await page.getByRole('button', { name: /^Delete/ }).click()
  await expect(page.getByRole('dialog').getByText('Deleting cannot be undone.')).toBeVisible()
  // It waits for what names the link.
  await expect(page.getByRole('dialog').getByRole('button', { name: 'Delete the link' })).toBeEnabled()
  await axe(page)
  await page.getByRole('dialog').getByRole('button', { name: 'Archive it instead' }).click()
  await expect(page.getByText('Archived. Find it under “Archived” in its list.')).toBeVisible()
  await visit(page, '/links')
  await expect(page.getByRole('link', { name: 'the paper mill' })).toHaveCount(0)
  expect(await opened.porch.do<{ id: number }[]>('GET', 'links')).toContainEqual(expect.objectContaining({ id }))
})

test('taking a page down, and taking somebody out of a course, is undone where it was done', async () => {
  const { pageId, courseId } = opened.made
  await visit(page, `/pages/${pageId}`)
  await page.getByRole('button', { name: 'Take it down' }).click()
  await page.getByRole('alertdialog').getByRole('button', { name: 'Take it down' }).click()
  await expect(page.getByText('Draft. Only you can see it.')).toBeVisible()
  expect((await opened.porch.fetch('/practice/p/sheet-kit')).status).toBe(404)
  await undo().click()
  await expect(page.getByText(/Published, version 1\./)).toBeVisible()
  expect((await opened.porch.fetch('/practice/p/sheet-kit')).status).toBe(200)

  const inside = async () =>
    (await opened.porch.do<CourseStanding>('GET', `courses/${courseId}/people?from=0`)).rows.map(row => row.personId)
  await visit(page, `/courses/${courseId}?part=people`)
  await page.getByRole('button', { name: 'What to do with Ada' }).click()
  await page.getByRole('menuitem', { name: /^Remove from the course/ }).click()
  await page.getByRole('dialog').getByRole('button', { name: 'Remove from the course' }).click()
  await expect(page.getByText(/^Ada.* has left\.$/)).toBeVisible()
  expect(await inside()).not.toContain(personId)
  await undo().click()
  await expect(page.getByRole('button', { name: 'What to do with Ada' })).toBeVisible()
  expect(await inside()).toContain(personId)
})
