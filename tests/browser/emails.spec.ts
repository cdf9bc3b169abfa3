/** An email is written on itself: blocks, their places and forms, what is pasted, and how it arrives. */
import { test, type Page } from '@playwright/test'
import sharp from 'sharp'
import type { BlockNode } from '#core/message/content'
import type { CourseView } from '#core/views/course'
import { expect } from './expect'
import { axe, choose, inOneWindow, type Opened, visit } from './opened'

let opened: Opened
let page: Page
let stepId: string
inOneWindow(async (one) => {
  opened = one
  page = one.page
  const { draft } = await course()
  stepId = draft.steps[0]!.id
})
const course = () => opened.porch.do<CourseView>('GET', `courses/${opened.made.courseId}`)
async function blocks(): Promise<BlockNode[]> {
  await expect(page.getByText('Saved', { exact: true })).toBeVisible()
  const [step] = (await course()).draft.steps
  return step?.kind === 'email' ? step.content.body.content : []
}
const body = () => page.getByRole('textbox', { name: 'Body of the email' })
const show = (view: string) =>
  page.getByRole('group', { name: 'Write it, or see how it arrives' }).getByRole('button', { name: view, exact: true }).click()
const types = async () => (await blocks()).map(({ type }) => type)
async function begin() {
  await visit(page, `/courses/${opened.made.courseId}?email=${stepId}`)
  await body().click()
  await page.keyboard.press('ControlOrMeta+a')
  await page.keyboard.press('Backspace')
}
async function menu(of: string, what: string) {
  await page.getByRole('button', { name: `What to do with ${of}`, exact: true }).last().click()
  await page.getByRole('menuitem', { name: what }).click()
}

test('blocks come by a slash and by a plus, move, double, are left out, named and taken away; each of it can be undone', async () => {
  await begin()
  await page.keyboard.type('/head')
  await page.keyboard.press('Enter')
  await page.keyboard.type('Three books')
  await page.keyboard.press('Enter')
  await page.keyboard.type('One set of sections. /qu')
  await page.keyboard.press('Enter')
  await page.keyboard.type('It opened flat at once.')
  await expect.poll(types).toEqual(['heading', 'paragraph', 'blockquote'])
  await page.getByRole('button', { name: 'Add a block after Quote' }).click()
  await expect(page.getByRole('listbox', { name: 'Add a block' })).toBeVisible()
  await axe(page)
  await page.getByRole('option', { name: /^Line/ }).click()
  await menu('Line', 'Move up')
  await expect.poll(types).toEqual(['heading', 'paragraph', 'divider', 'blockquote'])
  await page.keyboard.press('Alt+ArrowUp')
  await expect.poll(types).toEqual(['heading', 'divider', 'paragraph', 'blockquote'])
  await menu('Quote', 'Duplicate')
  await menu('Quote', 'Leave it out of the email')
  await menu('Heading', 'Name it …')
  await page.getByLabel('Name (only you see it)').fill('The three books')
  await page.getByRole('button', { name: 'Keep the name' }).click()
  await menu('Line', 'Delete')
  await expect.poll(types).toEqual(['heading', 'paragraph', 'blockquote', 'blockquote'])
  const made = await blocks()
  expect(made[0]).toMatchObject({ attrs: { level: 2, name: 'The three books' } })
  expect(made[3]).toMatchObject({ attrs: { hidden: true } })
  expect(new Set(made.map(({ attrs }) => attrs?.id)).size).toBe(4)
  await show('Text')
  const text = page.locator('figure.text pre')
  await expect(text).toContainText('Three books\n===========')
  expect((await text.textContent())!.match(/It opened flat at once/g)).toHaveLength(1)
  await show('Write')
})

test('the menu of a block stays beside it while the page scrolls', async () => {
  await begin()
  for (let lines = 0; lines < 14; lines++) {
    await page.keyboard.type(`Section ${lines}`)
    await page.keyboard.press('Enter')
  }
  const dot = page.getByRole('button', { name: 'What to do with Text', exact: true }).nth(9)
  await dot.click()
  const item = page.getByRole('menuitem', { name: 'Move up' })
  await expect(item).toBeVisible()
  await expect(item).toHaveClass(/p-menu-item/)
  const before = (await dot.boundingBox())!.y
  await dot.hover({ force: true })
  await page.mouse.wheel(0, -120)
  await expect.poll(async () => (await dot.boundingBox())!.y).toBeGreaterThan(before)
  await expect(item).toBeVisible()
  expect(Math.abs((await item.boundingBox())!.y - (await dot.boundingBox())!.y)).toBeLessThan(400)
  await page.keyboard.press('Escape')
  await expect(item).toBeHidden()
})

test('pictures come from a file, are described, and arrive as mail programs can show them', async () => {
  await begin()
  await page.keyboard.type('See below.')
  const picture = await sharp({ create: { width: 900, height: 300, channels: 3, background: '#2c6e63' } }).png().toBuffer()
  await page.getByLabel('Pictures').setInputFiles({ name: 'three books.png', mimeType: 'image/png', buffer: picture })
  await expect.poll(types).toEqual(['paragraph', 'picture'])
  await page.locator('.gutter').getByRole('button', { name: 'Picture no description' }).click()
  await page.getByLabel('Description, for people who do not see it').fill('Three small books')
  await page.getByLabel('Leads to (may stay empty)').fill('https://saltmarsh.example.com/books')
  await axe(page)
  await show('All')
  const wide = page.frameLocator('iframe[title="The email on a computer"]').getByAltText('Three small books')
  await expect(wide).toBeVisible()
  expect(await wide.evaluate((image: HTMLImageElement) => image.decode().then(() => image.naturalWidth))).toBe(900)
  await expect(page.frameLocator('iframe[title="The email without pictures"]').getByAltText('Three small books')).toBeVisible()
  const dark = page.frameLocator('iframe[title="The email in the dark"]').getByText('See below.')
  await expect(dark).toHaveCSS('color', 'rgb(232, 239, 239)')
  expect(await dark.evaluate((element) => {
    for (let one: Element | null = element; one; one = one.parentElement) {
      const { backgroundColor } = getComputedStyle(one)
      if (backgroundColor !== 'rgba(0, 0, 0, 0)') return backgroundColor
    }
    return null
  })).toBe('rgb(28, 40, 51)')
  await expect(page.locator('figure.text pre')).toContainText('[Three small books]\nhttps://saltmarsh.example.com/books')
  const phone = page.locator('iframe[title="The email on a phone"]')
  const inside = await (await phone.elementHandle())!.contentFrame()
  expect(await inside!.evaluate(() => document.documentElement.scrollWidth <= window.innerWidth)).toBe(true)
  await axe(page)
  await show('Write')
})

/** Written by hand, as such programs write it. */
const PASTED = {
  'a word processor': `<html xmlns:o="urn:schemas-microsoft-com:office:office"><head><style>p.MsoNormal{margin:0}</style></head><body>
    <!--[if gte mso 9]><xml><w:WordDocument/></xml><![endif]-->
    <h1 align=center style='mso-outline-level:1;text-align:center'><span lang=EN-GB>Sewing<o:p></o:p></span></h1>
    <p class=MsoNormal><b style='mso-bidi-font-weight:normal'><span lang=EN-GB>Three</span></b><span lang=EN-GB> stations, <i>no more</i>.<o:p></o:p></span></p>
    <p class=MsoNormal><o:p>&nbsp;</o:p></p>
    <p class=MsoListParagraphCxSpFirst style='text-indent:-18.0pt;mso-list:l0 level1 lfo1'><![if !supportLists]><span style='mso-list:Ignore'>1.<span style='font:7.0pt "Times New Roman"'>&nbsp;&nbsp;</span></span><![endif]>Pierce</p>
    <p class=MsoListParagraphCxSpLast style='text-indent:-18.0pt;mso-list:l0 level1 lfo1'><span style='mso-list:Ignore'>2.<span>&nbsp;&nbsp;</span></span>Sew</p>
    <p class=MsoNormal>See <a href="https://saltmarsh.example.com/sew">the film</a>.</p></body></html>`,
  'a mail program': `<div dir="ltr"><div style="font-family:verdana,sans-serif;text-align:right">Sewing</div><div><br></div>
    <div>Three <span style="font-weight:bold">stations</span>, <span style="font-style:italic">no more</span>.</div>
    <ul style="margin:0"><li style="margin-left:15px"><div>Pierce</div></li><li>Sew</li></ul>
    <div>See <a href="https://saltmarsh.example.com/sew" target="_blank" data-saferedirecturl="https://elsewhere.example.com/x">the film</a>.</div>
    <img src="https://elsewhere.example.com/open.gif" width="1" height="1"></div>`,
  'a web page': `<b style="font-weight:normal;" id="docs-internal-guid-1"><nav><a href="/">Home</a></nav><article><header><h2 class="t">Sewing</h2></header>
    <p style="line-height:1.38"><span style="font-weight:700;color:#000">Three</span><span> stations, <em>no more</em>.</span></p>
    <table><tbody><tr><td>Pierce</td><td>with an awl</td></tr><tr><td>Sew</td><td>with thread</td></tr></tbody></table>
    <script>alert(1)</script><p onclick="alert(2)">See <a href="https://saltmarsh.example.com/sew">the film</a>.</p></article></b>`,
}

for (const [source, html] of Object.entries(PASTED)) {
  test(`what is pasted from ${source} keeps its structure and drops the mess`, async () => {
    await begin()
    await body().evaluate((element, [text]) => {
      const data = new DataTransfer()
      data.setData('text/html', text!)
      data.setData('text/plain', 'plain')
      element.dispatchEvent(new ClipboardEvent('paste', { clipboardData: data, bubbles: true, cancelable: true }))
    }, [html])
    await expect(body()).toContainText('Sewing')
    const made = JSON.stringify(await blocks())
    expect(made).toContain('{"type":"bold"}')
    expect(made).toContain('{"type":"italic"}')
    expect(made).toMatch(/"href":"https:\/\/saltmarsh\.example\.com\/sew"/)
    if (source !== 'a mail program') expect(made).toContain('"type":"heading"')
    if (source === 'a word processor') expect(made).toMatch(/orderedList.*Pierce.*Sew/)
    if (source === 'a mail program') expect(made).toMatch(/bulletList.*Pierce.*Sew/)
    if (source === 'a web page') expect(made).toContain('Pierce, with an awl')
    const [first] = await blocks()
    const align = { 'a word processor': 'center', 'a mail program': 'end', 'a web page': undefined }[source]
    expect((first!.attrs as { align?: string }).align, 'lines stand where they stood').toBe(align)
    expect(made).not.toMatch(/mso|alert|elsewhere|1\.\s*Pierce|font-family/i)
    for (const node of await blocks()) expect(JSON.stringify(node), 'no block is empty').toMatch(/"text":/)
  })
}

test('HTML of one’s own, links elsewhere and space have a form; bad addresses are told at their place', async () => {
  await begin()
  await page.keyboard.type('/html')
  await page.keyboard.press('Enter')
  await page.getByLabel('Your HTML').fill('<p>By <b>hand</b></p><script>alert(1)</script>')
  await page.getByRole('button', { name: 'Add a block after HTML' }).click()
  await page.getByRole('option', { name: /^Elsewhere/ }).click()
  await page.getByLabel('Words of link 1').fill('My workshop')
  await page.getByLabel('Address of link 1').fill('javascript:alert(1)')
  await expect(page.getByText('A web address begins with https://, http://, mailto: or tel:')).toBeVisible()
  await page.getByLabel('Address of link 1').fill('https://saltmarsh.example.com/')
  await axe(page)
  await show('Computer')
  const frame = page.frameLocator('iframe[title="The email on a computer"]')
  await expect(frame.getByText('By hand')).toBeVisible()
  await expect(frame.getByRole('link', { name: 'My workshop' })).toBeVisible()
  expect(await frame.locator('script').count()).toBe(0)
  // The lines above stay open to be written in.
  await page.getByRole('textbox', { name: 'Subject', exact: true }).fill('A seat at the bench')
  await expect(page.getByRole('strong').filter({ hasText: 'A seat at the bench' })).toBeVisible()
  await expect(frame.getByText('By hand')).toBeVisible()
})

test('what is wrong is told beside the email while it is written, and leads to its place', async () => {
  await begin()
  const checks = page.getByRole('region', { name: 'Before it leaves' })
  await page.keyboard.type('It closes on Sunday 5 December 2026. /but')
  await page.keyboard.press('Enter')
  await page.getByLabel('Button text').fill('Take a seat')
  await expect(checks.getByText('“Take a seat” leads nowhere')).toBeVisible()
  await expect(checks.getByText('“Sunday 5 December 2026” is a Saturday')).toBeVisible()
  await expect(page.locator('.gutter').getByText('leads nowhere')).toBeVisible()
  await expect(checks.getByText(/^\d+ of 102 kB$/)).toBeVisible()
  await axe(page)
  await checks.getByRole('button', { name: 'Show me' }).nth(1).click()
  await page.keyboard.press('End')
  await page.keyboard.type(' Really.')
  await expect(body()).toContainText('Really.')
  await page.getByRole('textbox', { name: 'Subject', exact: true }).fill('')
  await checks.locator('.finding').filter({ hasText: 'There is no subject' }).getByRole('button', { name: 'Show me' }).click()
  await page.keyboard.type('A seat for you')
  await expect(checks.getByText('There is no subject')).toBeHidden()
})

test('a copy goes to oneself, as a test that nobody counts', async () => {
  await begin()
  await page.keyboard.type('Hello @fir')
  await page.keyboard.press('Enter')
  await page.getByRole('button', { name: 'Put it in' }).click()
  await page.getByRole('button', { name: 'Send me a copy' }).click()
  const form = page.getByRole('dialog', { name: 'Send a copy' })
  await expect(form.getByLabel('To, at most five addresses')).toHaveValue('ines@saltmarsh.example.com')
  await form.getByLabel('To, at most five addresses').fill('ines at saltmarsh')
  await form.getByRole('button', { name: 'Send it' }).click()
  await expect(form.getByRole('alert')).toContainText('An email address has an @ in the middle')
  await axe(page)
  await form.getByLabel('To, at most five addresses').fill('ines@saltmarsh.example.com, rui@example.com')
  await choose(page, 'As it is read by', 'somebody with a name, and somebody without')
  await form.getByRole('button', { name: 'Send it' }).click()
  await expect(page.getByText('4 tests are on the way to the practice mailbox.')).toBeVisible()
  await visit(page, '/mailbox')
  await expect(page.getByRole('link', { name: /rui@example\.com/ })).toHaveCount(2)
  await page.getByRole('link', { name: /rui@example\.com/ }).filter({ hasText: 'Test:' }).first().click()
  await expect(page.frameLocator('iframe').getByText(/^Hello (Ines|friend)/)).toBeVisible()
})

test('what was typed last is kept, whichever way one leaves', async () => {
  await visit(page, '/courses')
  await page.getByRole('link', { name: 'Fold, Sew, Cover' }).click()
  await page.getByRole('button', { name: /^1 ·/ }).click()
  await page.getByRole('button', { name: 'Write the email' }).click()
  await body().click()
  await page.keyboard.press('ControlOrMeta+a')
  await page.keyboard.type('Nothing of this is lost, to the last letter')
  await page.evaluate(() => history.back())
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Courses')
  await expect.poll(async () => JSON.stringify((await course()).draft.steps[0])).toContain('to the last letter')
})

test('an email is written on a telephone, too', async () => {
  await page.setViewportSize({ width: 390, height: 844 })
  await begin()
  await page.keyboard.type('Short and sweet')
  await expect.poll(types).toEqual(['paragraph'])
  expect(await page.evaluate(() => document.documentElement.scrollWidth <= window.innerWidth)).toBe(true)
  await axe(page)
  await page.setViewportSize({ width: 1280, height: 800 })
})
