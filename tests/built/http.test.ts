import { readFileSync } from 'node:fs'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { emailsOf } from '#core/sequence/draft'
import type { CourseView } from '#core/views/course'
import type { SubscribersView } from '#core/views/people'
import type { PageResults } from '#core/views/pages'
import type { SourcesView } from '#core/views/sources'
import type { TodayView } from '#core/views/today'
import { allOperations } from '#server/operations/index'
import { askers } from './askers'
import { startFurnished, type Furnished, SETTINGS } from './furnished'
import { type Porch, until } from './porch'

let porch: Porch
let made: Furnished
beforeAll(async () => {
  ;({ porch, made } = await startFurnished({ PORCH_TRUST_PROXY: '1' }))
})
afterAll(() => porch.stop())

const { from, subscribers, countOf, personOf, mailTo } = askers(() => porch)

describe('the database', () => {
  // https://www.sqlite.org/howtocorrupt.html, section 2.2.1: two copies of the library in one process lose each other's locks.
  it('is opened by one copy of its library per process, reading threads included', async () => {
    await Promise.all([
      subscribers(''), porch.do('GET', 'today'), porch.do('POST', 'audience/more', { condition: { kind: 'all', of: [] }, segmentId: null }),
    ])
    for (const pid of porch.children()) {
      const libraries = new Set(readFileSync(`/proc/${pid}/maps`, 'utf8').match(/\S*sqlite\S*\.node$/gm))
      expect([...libraries], `process ${pid}`).toHaveLength(1)
    }
  })
})

describe('a screen that asks again and again', () => {
  it('is answered its newest question; an older one is answered truly or told that it is out of date', async () => {
    const ask = (search: string, asker: string) => porch.api('GET', `subscribers?search=${search}`, undefined, { 'porch-asker': asker })
    for (let round = 0; round < 5; round++) {
      // Sent together they arrive in any order: whichever comes last is the newest.
      const answers = await Promise.all(['x', 'xy', 'sheet', 'ada', 'nobody-is-called-that'].map(search => ask(search, `table-${round}`)))
      const statuses = answers.map(answer => answer.status)
      expect(statuses).toContain(200)
      expect(statuses.filter(status => status !== 200 && status !== 409)).toEqual([])
      const alone = await ask('nobody-is-called-that', `table-${round}`)
      expect([alone.status, (await alone.json() as SubscribersView).rows]).toEqual([200, []])
    }
    // With their numbers, as our screens say them, the last is always answered, in whatever order they come.
    for (let round = 1; round <= 5; round++) {
      const answers = await Promise.all([5, 4, 3, 2, 1].map(nth => ask(String(nth), `numbered ${round * 10 + nth}`)))
      expect(answers[0]!.status).toBe(200)
    }
    // Two screens do not take each other's place.
    const both = await Promise.all(Array.from({ length: 6 }, (_, n) => ask('', `screen-${n} 1`)))
    expect(both.map(answer => answer.status)).toEqual(Array(6).fill(200))
  })

  it('a question that cannot be answered is refused with its reason, and the next one is answered', async () => {
    const odd = await porch.api(
      'GET', `subscribers?where=${encodeURIComponent(JSON.stringify({ kind: 'all', of: [{ kind: 'tag', tagId: 99_999, since: null }] }))}`,
    )
    expect([odd.status, await odd.text()]).toEqual([422, expect.stringContaining('that does not exist')])
    expect((await porch.api('GET', 'courses/99999')).status).toBe(404)
    expect((await porch.api('GET', 'subscribers')).status).toBe(200)
    expect((await porch.api('GET', 'pages/99999/results')).status).toBe(404)
    expect((await porch.api('GET', `pages/${made.pageId}/results?days=100000`)).status).toBe(422)
  })
})

describe('what brought visitors', () => {
  const results = () => porch.do<PageResults>('GET', `pages/${made.pageId}/results?days=7`)
  const look = (query: string, headers: Record<string, string> = {}, method = 'GET') => porch.fetch(`/practice/p/sheet-kit${query}`, {
    method, headers: { 'user-agent': 'Mozilla/5.0 (X11; Linux x86_64) Gecko/20100101 Firefox/140.0', ...headers },
  })

  it('is counted by what the address and the browser say, without robots and without a cookie', async () => {
    const answers =
      [await look('?utm_source=Letter&utm_medium=email'), await look('?utm_source=letter&utm_medium=EMAIL'), await look(
        '', { referer: 'https://www.forum.example.net/thread/9' }
      )]
    for (const answer of answers) expect([answer.status, answer.headers.get('set-cookie')]).toEqual([200, null])
    await look('?from=robots', { 'user-agent': 'Examplebot/2.1 (+https://example.com/bot)' })
    await look('?from=robots', { 'user-agent': '' })
    await look('?from=robots', {}, 'HEAD')
    await look('?from=robots', { 'sec-purpose': 'prefetch;prerender' })
    const bySource = await until(async () => {
      const view = await results()
      return view.visits === 3 && view.bySource
    }, 'three visits')
    expect(bySource.map(row => [row.says, row.visits])).toEqual([['letter / email', 2], ['the site forum.example.net', 1]])
  })

  it('goes with the form, also when something typed was wrong, and nothing in it is obeyed', async () => {
    const page = await (await look(`?from=flyer&utm_term=${encodeURIComponent('"><script>alert(1)</script>')}`)).text()
    expect(page).not.toContain('<script>alert')
    const touch = /name="touch" value="([^"]*)"/.exec(page)![1]!.replaceAll('&amp;', '&')
    const wrong = await porch.optIn('sheet-kit', { email: 'not an address', touch }, from())
    expect(/name="touch" value="([^"]*)"/.exec(await wrong.text())![1]!.replaceAll('&amp;', '&')).toBe(touch)
    await porch.optIn('sheet-kit', { email: 'brought@example.com', touch }, from())
    expect((await personOf('brought@example.com')).brought!.first).toBe('“flyer”')
    await porch.optIn('sheet-kit', { email: 'brought2@example.com', touch: `${'x='.repeat(2000)}` }, from())
    expect((await personOf('brought2@example.com')).brought!.first).toBe('unknown')
  })
})

describe('money spent on a source', () => {
  const put = (body: unknown) => porch.api('PUT', 'sources/costs', body)

  it('is kept and told again; what cannot be read is told at its month, and nothing of it is kept', async () => {
    const source = { kind: 'utm', word: '<b>ads</b>' }
    const month = new Date().toISOString().slice(0, 7)
    expect(await (await put({ source, months: [{ month, typed: '1,234.50' }] })).json()).toMatchObject({
      currency: 'EUR', months: [{ month, typed: '1234.50' }, ...Array(11).fill({ typed: '' })],
    })
    const wrong = await put({ source, months: [{ month, typed: '7' }, { month: '2026-01', typed: '-7' }] })
    expect([wrong.status, await wrong.json()]).toMatchObject([
      422, { fields: [{ field: 'months.2026-01', problem: 'An amount cannot be below zero.' }] },
    ])
    const { lines } = await porch.do<SourcesView>('GET', 'sources?months=1')
    expect(lines.find(line => line.source.word === source.word)).toMatchObject({
      spent: [{ amount: 123450, currency: 'EUR' }], subscribers: 0, perSubscriber: null,
    })
  })

  it.each([
    [{ months: [] }], [{ source: { kind: 'by post', word: 'x' }, months: [] }],
    [{ source: { kind: 'utm', word: 'x' }, months: [{ month: '2026-01', typed: 7 }, { month: '2026-01', typed: '8' }] }],
    [{ source: { kind: 'utm', word: 'x'.repeat(200) }, months: [] }],
  ])('is not taken as %j', async body => expect((await put(body)).status).toBe(422))

  it.each(['months=0', 'months=1000', 'months=x'])('is not looked at over %s', async query =>
    expect((await porch.api('GET', `sources?${query}`)).status).toBe(422))
})

describe('what two windows change', () => {
  it.each(['pages', 'courses'])('is not overwritten unseen: %s', async (what) => {
    const { id } = await porch.do<{ id: number }>('POST', what, { name: `Two windows on ${what}` })
    type Seen = { name: string, slug?: string, draft: Record<string, unknown>, revision: string }
    const seen = await porch.do<Seen>('GET', `${what}/${id}`)
    const save = (name: string, revision: string | null) => porch.api(
      'PUT', `${what}/${id}`, { name, ...seen.slug && { slug: seen.slug }, draft: seen.draft },
      revision === null ? {} : { 'if-match': `"${revision}"` },
    )
    const first = await save('Mine', seen.revision)
    const { revision } = await first.json() as Seen
    expect([first.status, revision === seen.revision]).toEqual([200, false])
    // The other window still has the old one before it.
    const late = await save('Theirs', seen.revision)
    expect([late.status, await late.json()]).toEqual([412, { problem: 'This was changed in another window.' }])
    for (const act of what === 'pages' ? ['publish'] : ['start', 'publish']) expect((await porch.api(
      'POST', `${what}/${id}/${act}`, act === 'start' ? { include: { kind: 'none' } } : undefined, { 'if-match': `"${seen.revision}"` },
    )).status, act).toBe(412)
    expect((await porch.do<Seen>('GET', `${what}/${id}`)).name).toBe('Mine')
    // What was saved and whose answer was lost is sent again by the old revision: that is no conflict.
    expect((await save('Mine', seen.revision)).status).toBe(200)
    // Saving the same again is no change, and who says that theirs counts is heard.
    expect([(await save('Mine', revision)).status, (await save('Mine', revision)).status, (await save('Theirs', null)).status]).toEqual([
      200, 200, 200,
    ])
    expect((await porch.do<Seen>('GET', `${what}/${id}`)).name).toBe('Theirs')
  })
})

describe('who may do what', () => {
  it('every operation but those of the door needs a session', async () => {
    const operations = allOperations()
    expect(operations.length).toBeGreaterThan(150)
    const open = operations.filter(([, , operation]) => operation.open).map(([method, path]) => `${method} ${path}`)
    expect(open.sort()).toEqual(['GET /health', 'GET /session', 'POST /password', 'POST /session'])
    for (const [method, path, operation] of operations) {
      if (operation.open) continue
      const answer = await porch.fetch(`/api${path.replaceAll(/:\w+/g, '1')}`, { method, headers: { origin: porch.url } })
      expect(answer.status, `${method} ${path}`).toBe(401)
    }
  })

  it.each([
    ['from another site', { origin: 'https://evil.example.org' }],
    ['from a name that begins like ours', { origin: 'http://localhost.evil.example.org' }],
    ['from a page without an origin', { origin: 'null' }],
  ])('a change %s is refused, although the cookie is right', async (_what, headers) => {
    expect((await porch.api('POST', 'tags', { name: 'x', note: '' }, headers)).status).toBe(403)
  })

  it('the session\'s cookie is out of reach of scripts and other sites', async () => {
    const cookie = (await porch.signIn()).headers.get('set-cookie')!
    expect(cookie).toMatch(/HttpOnly/i)
    expect(cookie).toMatch(/SameSite=Lax/i)
    expect(cookie).not.toMatch(/Secure/i)
  })

  it('a wrong password is refused, and the eleventh try waits whatever it is', async () => {
    const headers = { 'origin': porch.url, 'content-type': 'application/json', 'x-forwarded-for': '203.0.113.9' }
    const guess = (password: string) => porch.fetch('/api/session', { method: 'POST', headers, body: JSON.stringify({ password }) })
    for (let n = 0; n < 10; n++) expect((await guess('wrong')).status).toBe(422)
    expect((await guess('a password for tests')).status).toBe(429)
  })

  it('a password that is set is not set again from outside', async () => {
    expect((await porch.fetch('/api/password', {
      method: 'POST', headers: { 'origin': porch.url, 'content-type': 'application/json' },
      body: JSON.stringify({ password: 'another password' }),
    })).status).toBe(409)
  })
})

describe('headers', () => {
  it('let nothing run but our own', async () => {
    const application = await porch.fetch('/', { headers: { accept: 'text/html' } })
    const policy = application.headers.get('content-security-policy')!
    expect(policy).toContain('default-src \'none\'')
    expect(policy).toContain('frame-ancestors \'none\'')
    expect(policy).not.toMatch(/unsafe-(inline|eval)/)
    const page = await porch.fetch('/practice/p/sheet-kit')
    expect(page.headers.get('content-security-policy')).toMatch(/default-src 'none'.*script-src 'self'.*frame-ancestors 'none'/)
    for (const answer of [application, page]) expect(answer.headers.get('x-content-type-options')).toBe('nosniff')
  })
})

const LINE = { subject: 'x', day: null }
/** A course of an outline. */
const outlineOf = (lines: object[], time = '08:00') => ({ kind: 'outline', outline: { lines, everyDays: 1, time } })

describe('what does not make sense', () => {
  it.each([
    ['is not JSON', 'POST', 'tags', '{"name":', 400],
    ['lacks a field', 'POST', 'tags', { note: 'x' }, 422],
    ['has a name of 500 letters', 'POST', 'tags', { name: 'x'.repeat(500), note: '' }, 422],
    ['has an empty name', 'POST', 'tags', { name: '  ', note: '' }, 422],
    ['has a name that is taken', 'POST', 'tags', { name: 'Sheet Kit', note: '' }, 422],
    ['asks for what is not there', 'GET', 'courses/999', undefined, 404],
    ['has an odd number', 'GET', 'courses/1e99', undefined, 404],
    ['asks for an unknown status', 'GET', 'subscribers?status=odd', undefined, 422],
    ['moves the clock back', 'POST', 'clock', { by: 'to', at: 1000 }, 422],
    ['moves the clock a thousand years', 'POST', 'clock', { by: 'to', at: 99_999_999_999_999 }, 422],
    ['chooses a zone that is none', 'PUT', 'settings', { ...SETTINGS, zone: 'Europe/Atlantis' }, 422],
    ['chooses a mail server that is none', 'PUT', 'settings', { ...SETTINGS, smtpUrl: 'https://mail.example.com' }, 422],
    ['starts a running course', 'POST', 'courses/1/start', { include: { kind: 'none' } }, 409],
    ['goes live without a mail server', 'POST', 'live', { smtpUrl: null }, 409],
    ['begins a course with 61 emails', 'POST', 'courses', { name: 'x', beginning: outlineOf(Array(61).fill(LINE)) }, 422],
    ['begins a course with none', 'POST', 'courses', { name: 'x', beginning: outlineOf([]) }, 422],
    ['begins a course at no time', 'POST', 'courses', { name: 'x', beginning: outlineOf([LINE], '25:61') }, 422],
    ['begins a course as a template that is none', 'POST', 'courses', {
      name: 'x', beginning: { kind: 'template', key: 'constructor' },
    }, 404],
    ['makes a page and a course on a list that is none', 'POST', 'pages/with-course', {
      name: 'x', beginning: null, course: { kind: 'empty' }, listId: 99_999,
    }, 422],
    ['asks for the weeks of what has none', 'GET', 'weeks/constructor', undefined, 404],
    ['seeks 300 letters', 'GET', `find?text=${'x'.repeat(300)}`, undefined, 422],
    ['puts the first steps away by half', 'PUT', 'setup', { hidden: 'half' }, 422],
    ['copies to a workspace that does not exist', 'POST', 'across/page/1', { replace: null }, 404],
    ['copies what is no thing', 'POST', 'across/constructor/1', { replace: null }, 404],
    ['is far too large', 'POST', 'tags', { name: 'x', note: 'y'.repeat(3_000_000) }, 413],
  ])('a request that %s gets a plain sentence', async (_what, method, path, body, status) => {
    const answer = await porch.api(method, path, body)
    expect(answer.status).toBe(status)
    const { problem } = await answer.json() as { problem: string }
    expect(problem).toMatch(/^[A-Z“].{8,}[.:]?$/s)
    expect(problem).not.toMatch(/undefined|null|Error|SQL|schema|stack/)
  })

  it('a course cannot hold what is no email: links that run, blocks that are not ours, tags that are gone', async () => {
    const { name, draft } = await porch.do<CourseView>('GET', `courses/${made.courseId}`)
    const bodies = [
      { type: 'doc', content: [{ type: 'script', text: 'alert(1)' }] },
      { type: 'doc', content: [{ type: 'button', attrs: { label: 'x', url: 'https://a.example.com', tagId: 999 } }] },
      { type: 'doc', content: 'x' },
    ]
    for (const body of bodies) {
      const [first, ...rest] = emailsOf(draft)
      const answer = await porch.api('PUT', `courses/${made.courseId}`, {
        name, draft: { ...draft, steps: [{ ...first, content: { ...first!.content, body } }, ...rest] },
      })
      expect(answer.status).toBe(422)
    }
    expect((await porch.do<CourseView>('GET', `courses/${made.courseId}`)).draft).toEqual(draft)
  })
})

describe('the clock', () => {
  it('moves, the engine plays what comes due, and every number says the same', async () => {
    await porch.optIn('sheet-kit', { email: 'clock@example.com' }, from())
    await mailTo('clock@example.com')
    const { now } = await porch.do<TodayView>('GET', 'today')
    await porch.do('POST', 'clock', { by: 'to', at: now + 7 * 86_400_000 })
    await until(async () => (await porch.do<{ movingTo: number | null }>('GET', 'rail')).movingTo === null, 'the clock to arrive')
    expect((await mailTo('clock@example.com', 3)).map(mail => mail.subject).reverse()).toEqual([
      'One, friend', 'Two, friend', 'Three, friend',
    ])
    const course = await porch.do<CourseView>('GET', `courses/${made.courseId}`)
    for (const numbers of course.numbers) {
      for (const number of ['waiting', 'sent', 'opened', 'clicked', 'unsubscribed', 'heldBack'] as const) {
        expect(
          await countOf(`course=${made.courseId}&step=${numbers.stepId}&number=${number}`), `${number} of ${numbers.stepId}`,
        ).toBe(numbers[number])
      }
    }
    const { counts } = course
    expect(counts.inside + counts.finished + counts.left).toBe(counts.started)
    const today = await porch.do<TodayView>('GET', 'today')
    expect(today.figures!.sent28).toBe(course.numbers.reduce((sum, { sent }) => sum + sent, 0))
    expect(today.figures!.active).toBe(await countOf('status=active'))
  })
})
