/** No single request makes others wait. Measured by how long it occupies the server's event loop, not by wall time. */
import { existsSync, mkdtempSync, readFileSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { pathToFileURL } from 'node:url'
import { deflateRawSync } from 'node:zlib'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { toZip } from '#adapters/zip'
import { emptyMessage, type RichText } from '#core/message/content'
import type { CourseView } from '#core/views/course'
import type { PageView } from '#core/views/pages'
import { startFurnished } from './furnished'
import { Porch } from './porch'

const PROMISED_MS = 200
const folder = mkdtempSync(join(tmpdir(), 'porch-delay-'))
let porch: Porch
let page: PageView
let course: CourseView
const WATCHED = { DELAY_FOLDER: folder, NODE_OPTIONS: `--import ${pathToFileURL(join(import.meta.dirname, 'delay.mjs'))}` }
beforeAll(async () => {
  const furnished = await startFurnished(WATCHED)
  porch = furnished.porch
  const { pageId, courseId } = furnished.made
  page = await porch.do('GET', `pages/${pageId}`)
  course = await porch.do('GET', `courses/${courseId}`)
})
afterAll(async () => {
  await porch.stop()
  rmSync(folder, { recursive: true, force: true })
})

async function startAnew() {
  await porch.stop({ keepData: true })
  porch = await (await Porch.start(WATCHED, porch.data)).ready()
  await porch.signIn()
}

const wait = (ms: number) => new Promise(resolve => setTimeout(resolve, ms))

/**
 * The longest time the request occupies the event loop. The best of three counts: what really blocks does so every time, while a first use
 * or garbage collection does not.
 */
async function delayOf(attack: () => Promise<Response>, most = 3): Promise<{ delay: number, status: number, said: string }> {
  const [web] = porch.children()
  const tries: number[] = []
  let answer!: Response
  let said = ''
  // Making what is sent can take longer than connections are kept: those that were closed meanwhile have to be noticed first.
  await wait(50)
  for (let n = 0; n < most; n++) {
    // The turn of the loop may have started shortly before.
    const began = Date.now() - 20
    answer = await attack()
    said = await answer.text()
    await wait(50)
    const notes = existsSync(join(folder, String(web))) ? readFileSync(join(folder, String(web)), 'utf8').trim().split('\n') : []
    const kept = notes.map(note => note.split(' ').map(Number) as [at: number, ms: number]).filter(([at]) => at >= began)
    tries.push(Math.max(0, ...kept.map(([, ms]) => ms)))
    if (tries.at(-1)! < PROMISED_MS) break
  }
  return { delay: Math.min(...tries), status: answer.status, said }
}

const many = <Item>(n: number, item: (n: number) => Item) => Array.from({ length: n }, (_, k) => item(k))
const json = (path: string, body: unknown, method = 'PUT') => () => porch.api(method, path, body)
const upload = (path: string, bytes: Uint8Array) => () => porch.upload(path, bytes)
const nested = (depth: number) => `${'{"a":'.repeat(depth)}1${'}'.repeat(depth)}`

/** Entries that all point to one stream and say that nothing comes out of it. */
function sharingZip(entries: number, size: number): Uint8Array {
  const stream = deflateRawSync(Buffer.alloc(size, 'a'))
  const header = (signature: number, name: string, at: number) => {
    const central = signature === 0x02014b50
    const head = Buffer.alloc(central ? 46 : 30)
    head.writeUInt32LE(signature, 0)
    const base = central ? 10 : 8
    head.writeUInt16LE(8, base)
    head.writeUInt32LE(stream.length, base + 10)
    head.writeUInt32LE(1, base + 14)
    head.writeUInt16LE(name.length, base + 18)
    if (central) head.writeUInt32LE(at, 42)
    return Buffer.concat([head, Buffer.from(name)])
  }
  const local = Buffer.concat([header(0x04034b50, 'a.md', 0), stream])
  const central = Buffer.concat(many(entries, n => header(0x02014b50, `${n}.md`, 0)))
  const end = Buffer.alloc(22)
  end.writeUInt32LE(0x06054b50, 0)
  end.writeUInt16LE(entries, 10)
  end.writeUInt32LE(central.length, 12)
  end.writeUInt32LE(local.length, 16)
  return Buffer.concat([local, central, end])
}

describe('A3: one request, whatever is in it, makes nobody else wait', () => {
  const email = (content: RichText['content']) => json('emails/preview', {
    content: { ...emptyMessage(), body: { type: 'doc', content } }, listId: null, ownerId: null, kind: 'broadcast', personId: null,
    firstName: '', chosen: null,
  }, 'POST')
  it('not even the first one of its kind after a start, where all that it needs is made ready', async () => {
    // A machine that stands still for a moment counts as processor time, too. Another try needs another start.
    const tries: number[] = []
    do {
      if (tries.length > 0) await startAnew()
      const delays: number[] = []
      for (const first of [
        json(`courses/${course.id}`, { name: 'x', draft: course.draft }),
        json(`pages/${page.id}`, { name: 'x', slug: 'x', draft: page.draft }),
        email([{ type: 'button', attrs: { label: 'Go', url: '', tagId: null } }]),
        () => porch.fetch('/'),
      ]) {
        const { delay, status, said } = await delayOf(first, 1)
        expect(status, said).toBe(200)
        delays.push(delay)
      }
      tries.push(Math.max(...delays))
    } while (tries.at(-1)! >= PROMISED_MS && tries.length < 3)
    expect(Math.min(...tries)).toBeLessThan(PROMISED_MS)
  })

  const tags = '<p style="color:red;margin:0"><a href="https://example.com/?a=1&amp;b=2">a</a> <b>b</b></p>'
  it.each<[string, (attempt: number) => RichText['content'], number[]]>([
    ['400 buttons', attempt => many(400, n => ({ type: 'button', attrs: { label: `Go ${attempt} ${n}`, url: '', tagId: null } })), [200]],
    ['a long text', attempt => many(400, n => ({ type: 'paragraph', content: many(10, k => ({
      type: 'text', text: `${'word '.repeat(20)} ${attempt} ${n} ${k} `, marks: [{ type: 'bold' }],
    })) })), [200]],
    ['2,400 articles', attempt => many(400, () => ({ type: 'articles', attrs: { label: 'Read on', articles: many(6, n => ({
      title: `Article ${attempt} ${n}`, text: 'Some words', url: 'https://example.com/', pictureId: null, alt: '',
    })) } })), [200, 503]],
    ['a megabyte of HTML', attempt => many(10, () => ({
      type: 'html', attrs: { source: `${attempt}${tags.repeat(99_000 / tags.length)}` },
    })), [200, 503]],
  ])('an email of %s', async (_, body, statuses) => {
    // Looked at a second time it would be there already.
    let attempts = 0
    const { delay, status, said } = await delayOf(() => email(body(attempts++))())
    expect(statuses, said.slice(0, 300)).toContain(status)
    expect(delay).toBeLessThan(PROMISED_MS)
  })

  const section = { id: 's', kind: 'headline', name: 'n', hidden: false, text: 't', under: 'u' }
  it.each<[string, () => () => Promise<Response>, number[]]>([
    [
      '150,000 sections on a page',
      () => json(`pages/${page.id}`, { ...page, draft: { ...page.draft, sections: many(150_000, () => ({})) } }), [413, 422],
    ],
    [
      '3,000 sections',
      () => json(`pages/${page.id}`, { ...page, draft: { ...page.draft, sections: many(3000, n => ({ ...section, id: `s${n}` })) } }),
      [422],
    ],
    [
      '60 sections of many questions',
      () => json(`pages/${page.id}`, { name: 'x', slug: 'x', draft: { ...page.draft, sections: many(60, n => ({
        ...section, id: `q${n}`, kind: 'questions', title: '',
        questions: many(40, () => ({ question: 'q', answer: { type: 'doc', content: [] } })),
      })) } }), [200, 422],
    ],
    [
      '150,000 steps of a course',
      () => json(`courses/${course.id}`, { name: 'x', draft: { ...course.draft, steps: many(150_000, () => ({})) } }), [413, 422],
    ],
    ['steps within steps within steps', () => json(`courses/${course.id}`, { name: 'x', draft: { ...course.draft, steps: many(150, n => ({
      id: `h${n}`, kind: 'hold', when: { kind: 'at-once' }, ifPast: 'at-once', zone: 'workspace',
      until: { kind: 'event', when: { kind: 'bought', thingId: null } }, atMost: { count: 1, unit: 'days' }, didNot: [],
      did: many(10, k => ({ id: `e${n}-${k}`, kind: 'end', when: { kind: 'at-once' }, ifPast: 'at-once', zone: 'workspace' })),
    })) } }), [200, 422]],
    ['something nested 100,000 deep', () => json(`pages/${page.id}`, nested(100_000)), [400, 413, 422]],
    ['a sign-in with 150,000 unknown keys', () => json('session', Object.fromEntries(many(150_000, n => [`k${n}`, 1])), 'POST'), [413]],
    ['a form with 150,000 fields', () => () => porch.api('POST', 'session', many(150_000, n => `k${n}=1`).join('&'), {
      'content-type': 'application/x-www-form-urlencoded',
    }), [413, 422]],
    [
      'a ZIP file that holds a thousand times its size',
      () => upload('courses/bring', toZip({ 'course.yaml': 'a: 1\n', 'a.md': 'a'.repeat(30_000_000) })), [422],
    ],
    ['a ZIP file whose entries share one stream and lie about it', () => upload('courses/bring', sharingZip(2000, 5_000_000)), [422]],
    ['a ZIP file full of YAML that refers to itself', () => upload(
      'courses/bring',
      toZip({ 'course.yaml': `a0: &a0 [x, x]\n${many(40, n => `a${n + 1}: &a${n + 1} [*a${n}, *a${n}, *a${n}]`).join('\n')}\n` }),
    ), [422, 503]],
    ['Markdown full of emphasis', () => upload(
      'courses/bring',
      toZip({ 'course.yaml': 'format: keen-porch-course\n', 'a.md': `---\nid: a\n---\n${'*a _b **c __d '.repeat(40_000)}` }),
    ), [422, 503]],
    ['a table of 20 MB of empty lines', () => upload('imports?name=a.csv', Buffer.alloc(20_000_000, '\n')), [422]],
    [
      'an honest table of 200,000 people',
      () => upload('imports?name=a.csv', Buffer.from(`email,name\n${many(200_000, n => `p${n}@example.com,Ada ${n}`).join('\n')}\n`)),
      [200],
    ],
    ['a table of one line without an end', () => upload('imports?name=a.csv', Buffer.alloc(20_000_000, 'a')), [422]],
  ])('%s', async (_, attack, statuses) => {
    const { delay, status, said } = await delayOf(attack())
    expect(statuses, said.slice(0, 300)).toContain(status)
    if (status >= 400) expect((JSON.parse(said) as { problem: string }).problem.length).toBeGreaterThan(10)
    expect(delay).toBeLessThan(PROMISED_MS)
    // It is as well as before.
    expect((await porch.fetch('/api/health')).ok).toBe(true)
  })

  it('from strangers, neither', async () => {
    const page = () =>
      porch.fetch('/practice/p/sheet-kit', { method: 'POST', body: new URLSearchParams(many(2000, n => [`f${n}`, 'x'.repeat(5)])) })
    expect((await delayOf(page)).delay).toBeLessThan(PROMISED_MS)
    const big = () => porch.fetch('/practice/p/sheet-kit', {
      method: 'POST', body: 'a'.repeat(1_900_000), headers: { 'content-type': 'application/x-www-form-urlencoded' },
    })
    expect((await delayOf(big)).delay).toBeLessThan(PROMISED_MS)
    const program = () => porch.fetch('/practice/v1/people', {
      method: 'POST', body: JSON.stringify({ tags: many(50_000, () => ({})) }),
      headers: { 'content-type': 'application/json', 'authorization': 'Bearer nobody' },
    })
    expect((await delayOf(program)).delay).toBeLessThan(PROMISED_MS)
  })
})
