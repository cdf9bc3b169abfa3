/**
 * Measures how soon each screen can be used after a cold start: node tools/coldLoads.mjs
 *
 * Each load has a browser process of its own, so nothing is cached or compiled. It is let finish starting first, which takes both
 * processors of a small machine for a second. A screen can be used once its heading is there and the last task of at least 50 ms has ended
 * (a "long task" of the W3C's Long Tasks API). Medians of three loads, on the demo.
 */
import { DEMO_URL, launch, signIn, withDemo } from './demoBrowser.mjs'
import { main, say } from './say.mjs'

const SCREENS = [
  '/', '/to-dos', '/pages', '/pages/1', '/pages/1/results', '/pages/sources', '/offers', '/offers/2', '/offers/2/sales', '/offers/past',
  '/subscribers', '/subscribers/20', '/subscribers/import', '/subscribers/done', '/segments', '/segments/8', '/tags-and-lists', '/links',
  '/links/3', '/house-rules', '/house-rules/8', '/courses', '/courses/1', '/courses/1?email=cover', '/broadcasts', '/broadcasts/9',
  '/broadcasts/11', '/email-parts', '/calendar', '/engine', '/mailbox', '/keys', '/webhooks', '/senders', '/settings',
]
const LOADS = 3
/** How long a browser is given to finish starting. */
const STARTING_MS = 2000
/** How long a screen is watched after its heading has appeared. */
const WATCHED_MS = 1500

/** Runs in the page. */
function watch() {
  const watched = globalThis.watched = { seenAt: 0, longEndedAt: 0 }
  new PerformanceObserver((list) => {
    for (const { startTime, duration } of list.getEntries()) watched.longEndedAt = Math.max(watched.longEndedAt, startTime + duration)
  }).observe({ type: 'longtask', buffered: true })
  new MutationObserver(() => {
    if (!watched.seenAt && document.querySelector('main h1')) watched.seenAt = performance.now()
  }).observe(document, { subtree: true, childList: true })
}

async function load(address, storageState) {
  const browser = await launch()
  const context = await browser.newContext({ storageState, viewport: { width: 1280, height: 800 } })
  const page = await context.newPage()
  await page.addInitScript(watch)
  await page.waitForTimeout(STARTING_MS)
  await page.goto(DEMO_URL + address, { waitUntil: 'commit' })
  await page.locator('main h1').waitFor()
  await page.waitForTimeout(WATCHED_MS)
  const { seenAt, longEndedAt } = await page.evaluate(() => globalThis.watched)
  await browser.close()
  return { seen: seenAt, usable: Math.max(seenAt, longEndedAt) }
}

const median = numbers => [...numbers].sort((a, b) => a - b)[Math.floor(numbers.length / 2)]

await main(() => withDemo(async () => {
  const browser = await launch()
  const page = await browser.newPage()
  await signIn(page)
  const state = await page.context().storageState()
  await browser.close()
  say('| screen | heading (ms) | usable (ms) |\n| --- | ---: | ---: |')
  const usable = []
  for (const address of SCREENS) {
    const loads = []
    for (let n = 0; n < LOADS; n++) loads.push(await load(address, state))
    usable.push(median(loads.map(each => each.usable)))
    say(`| ${address} | ${Math.round(median(loads.map(each => each.seen)))} | ${Math.round(usable.at(-1))} |`)
  }
  say(`\nUsable within a second: ${usable.filter(ms => ms < 1000).length} of ${usable.length}; half of them within ${Math.round(median(usable))} ms.`)
}))
