/** What broke in the hands of a new user, on the screens; the numbers are those of the list of what broke. */
import { test, type Page, type Request } from '@playwright/test'
import type { Condition } from '#core/audience/condition'
import { emailsOf } from '#core/sequence/draft'
import type { CourseView } from '#core/views/course'
import { PASSWORD } from '../built/porch'
import { expect } from './expect'
import { axe as axeOn, choose as chooseOn, inOneWindow, type Opened, visit } from './opened'

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
  const note = page.getByText(/People from the page “.*” would get no emails from/)
  await visit(page, `/pages/${made.pageId}`)
  await expect(note).toBeVisible()
  await visit(page, '/')
  await page.getByRole('link', { name: /^People from/ }).click()
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
  await visit(page, `/courses/${made.courseId}`)
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
  await visit(page, `/courses/${made.courseId}`)
  await page.getByRole('button', { name: /^2 ·/ }).click()
  await page.getByRole('button', { name: 'Write the email' }).click()
  const body = page.getByRole('textbox', { name: 'Body' })
  await body.click()
  await page.keyboard.press('ControlOrMeta+End')
  await page.getByRole('button', { name: 'Link', exact: true }).first().click()
  await page.getByLabel('Leads to').fill('https://example.com/made')
  await page.keyboard.press('Enter')
  await expect(body.getByText('https://example.com/made')).toBeVisible()
  await visit(page, '/mailbox')
  await expect(page.getByText('No mail yet')).toBeVisible()
  await porch.optIn('sheet-kit', { email: 'meanwhile@example.com' })
  // Nobody touches the screen, and the practice clock stands still.
  await expect(page.getByText('meanwhile@example.com').first()).toBeVisible()
})

test('B4: deleting says what could not do without it and for how many, and another takes its place with one press', async () => {
  const { porch, made } = opened
  const segment = (name: string, condition: Condition) => porch.do<{ id: number }>('POST', 'segments', { name, note: '', condition })
  const readers = await segment('readers', { kind: 'all', of: [{ kind: 'status', is: ['active'] }] })
  await segment('lately', { kind: 'all', of: [{ kind: 'arrived', when: { kind: 'last-days', days: 30 } }] })
  const { name, draft } = await porch.do<CourseView>('GET', `courses/${made.courseId}`)
  await porch.do('PUT', `courses/${made.courseId}`, {
    name, draft: { ...draft, entry: { kind: 'all', of: [{ kind: 'segment', segmentId: readers.id }] } },
  })
  await porch.do('POST', `courses/${made.courseId}/publish`, {})
  await visit(page, `/segments/${readers.id}`)
  await page.getByRole('button', { name: 'Delete' }).click()
  const dialog = page.getByRole('dialog', { name: 'Delete readers?' })
  await expect(dialog).toContainText(/The course .*, with (nobody|\d+ (person|people)) inside, cannot work without it/)
  await expect(dialog.getByRole('button', { name: 'Delete the segment' })).toBeDisabled()
  await axe()
  await chooseOn(page, 'Replace with', 'lately')
  await dialog.getByRole('button', { name: 'Put lately in its place' }).click()
  await expect(dialog.getByText('It was replaced.')).toBeVisible()
  await dialog.getByRole('button', { name: 'Delete the segment' }).click()
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Segments')
  await expect(page.getByRole('link', { name: 'readers' })).toHaveCount(0)
  const after = await porch.do<CourseView>('GET', `courses/${made.courseId}`)
  expect([after.hasChanges, JSON.stringify(after.draft.entry)]).toEqual([false, expect.not.stringContaining(`"segmentId":${readers.id}`)])
})

test('B12: a screen is drawn once, and asks each of its questions once', async () => {
  await visit(page, '/')
  await expect(page.getByRole('heading', { level: 1 })).toBeVisible()
  const asked: string[] = []
  const note = (request: Request) => asked.push(new URL(request.url()).pathname)
  page.on('request', note)
  for (const [link, paths] of [
    ['Subscribers', ['/api/subscribers', '/api/subscribers/count']], ['Tags and lists', ['/api/tags', '/api/lists']],
  ] as const) {
    asked.length = 0
    // The frame asks by itself now and then; what is counted is asked by the screen.
    await page.getByRole('navigation').getByRole('link', { name: new RegExp(`^${link}`) }).click()
    await expect(page.getByRole('heading', { level: 1 })).toHaveText(link)
    await expect(page.locator('#work tbody tr').first()).toBeVisible()
    for (const path of paths) expect(asked.filter(one => one === path), path).toHaveLength(1)
  }
  // What several parts of a screen need is requested once for all of them.
  for (const [address, sign, paths] of [
    [`/courses/${opened.made.courseId}`, page.getByRole('region', { name: 'House rules' }), ['/api/rules', '/api/rules/parts']],
    [`/courses/${opened.made.courseId}?email=two`, page.getByRole('textbox', { name: 'Body of the email' }), [
      '/api/fields', '/api/coupons',
    ]],
  ] as const) {
    asked.length = 0
    await page.goto(address)
    await expect(sign.first()).toBeVisible()
    await page.waitForLoadState('networkidle')
    for (const path of paths) expect(asked.filter(one => one === path), path).toHaveLength(1)
  }
  page.off('request', note)
  await visit(page, '/tags-and-lists')
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Tags and lists')
  // A screen further down begins at its top.
  await page.locator('#work').evaluate(work => work.scrollTo(0, 400))
  await page.getByRole('navigation').getByRole('link', { name: /^Courses/ }).click()
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Courses')
  expect(await page.locator('#work').evaluate(work => work.scrollTop)).toBe(0)
})

test('B13: no screen is wider than a phone; where somebody is stands out at night, too', async () => {
  const { made } = opened
  const size = page.viewportSize()!
  await page.setViewportSize({ width: 390, height: 800 })
  for (const path of [
    `/courses/${made.courseId}`, `/courses/${made.courseId}?part=entries`, `/pages/${made.pageId}?part=gives`, '/settings', '/subscribers',
    '/tags-and-lists', '/segments', '/links',
  ]) {
    await page.goto(path)
    await expect(page.locator('#work h1')).toBeVisible()
    await page.waitForLoadState('networkidle')
    expect(await page.locator('#work').evaluate(work => work.scrollWidth - work.clientWidth), path).toBeLessThanOrEqual(0)
  }
  await page.setViewportSize(size)
  for (const part of ['', '?part=numbers']) {
    await page.goto(`/courses/${made.courseId}${part}`)
    await expect(page.locator('#work h1')).toBeVisible()
    expect(await page.locator('#work').evaluate(work => work.scrollWidth - work.clientWidth), part).toBeLessThanOrEqual(0)
  }
  // Brighter by a third at least: WCAG 2.2, relative luminance; the ratio is ours.
  await page.emulateMedia({ colorScheme: 'dark' })
  const light = await page.locator('.entry.here').first().evaluate((here) => {
    const canvas = document.createElement('canvas').getContext('2d')!
    const luminance = (colour: string) => {
      canvas.fillStyle = colour
      canvas.fillRect(0, 0, 1, 1)
      const [r, g, b] = [...canvas.getImageData(0, 0, 1, 1).data].map((part) => {
        const share = part / 255
        return share <= 0.04045 ? share / 12.92 : ((share + 0.055) / 1.055) ** 2.4
      }) as [number, number, number]
      return 0.2126 * r + 0.7152 * g + 0.0722 * b
    }
    return (luminance(getComputedStyle(here).backgroundColor) + 0.05) / (luminance(getComputedStyle(here.closest('.wall')!).backgroundColor)
      + 0.05)
  })
  expect(light).toBeGreaterThan(1.33)
  await page.emulateMedia({ colorScheme: 'light' })
})

test('B7: a running course is stopped and goes on, is copied, put away, brought back, and its copy deleted', async () => {
  const { made, porch } = opened
  const menu = async (item: string) => {
    await page.getByRole('button', { name: 'Copy or archive' }).click()
    await page.getByRole('menuitem', { name: item }).click()
  }
  const { name } = await porch.do<CourseView>('GET', `courses/${made.courseId}`)
  await visit(page, `/courses/${made.courseId}`)
  await page.getByRole('button', { name: 'Stop the course' }).click()
  await page.getByRole('alertdialog').getByRole('button', { name: 'Stop the course' }).click()
  await expect(page.getByText(/Stopped since .* No emails go out/)).toBeVisible()
  await axe()
  await menu('Archive it')
  await expect(page.getByText('Archived. Find it')).toBeVisible()
  await visit(page, '/courses')
  await expect(page.getByRole('link', { name, exact: true })).toHaveCount(0)
  await page.getByRole('button', { name: 'Archived (1)' }).click()
  await page.getByRole('link', { name, exact: true }).click()
  // What goes on stands in its list again.
  await page.getByRole('button', { name: 'Resume the course' }).click()
  await expect(page.getByText(/Email course, running/)).toBeVisible()
  await menu('Make a copy')
  await expect(page.getByRole('heading', { level: 1, name: `${name}, copy` })).toBeVisible()
  await expect(page.getByText(/Email course, not started/)).toBeVisible()
  await page.getByRole('button', { name: 'Delete this course' }).click()
  await page.getByRole('button', { name: 'Delete the course' }).click()
  await expect(page).toHaveURL(/courses$/)
  await expect(page.getByRole('link', { name, exact: true })).toBeVisible()
  await expect(page.getByRole('link', { name: `${name}, copy` })).toHaveCount(0)
})

test('A3: signing out everywhere ends this window, too; an address that is not there says so', async () => {
  await visit(page, '/settings')
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
  // What this window was just asking at that moment is refused, and the browser says so.
  opened.faults.splice(0, opened.faults.length, ...opened.faults.filter(fault => !fault.includes('401')))
})
