/** The pages that visitors and readers see, asked over HTTP. */
import { request as httpRequest } from 'node:http'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { createPictureMaker } from '#adapters/pictures'
import type { PageContent } from '#core/page/content'
import type { PictureView } from '#core/page/picture'
import { answers } from '#core/page/templates/words'
import { newPromised } from '#core/page/promise'
import type { PageLine, PageResults, PageView } from '#core/views/pages'
import { everyPage } from '../everyPage'
import { askers } from './askers'
import { startFurnished, type Furnished, SETTINGS } from './furnished'
import { type Porch } from './porch'

let porch: Porch
let made: Furnished
beforeAll(async () => {
  ;({ porch, made } = await startFurnished({ PORCH_TRUST_PROXY: '1' }))
})
afterAll(() => porch.stop())

const { memory, from, countOf, personOf, mailTo } = askers(() => porch)

describe('opting in', () => {
  it('without JavaScript: a plain form, thanked on a page of its own', async () => {
    const html = await (await porch.fetch('/practice/p/sheet-kit')).text()
    expect(html).toMatch(/<form method="post" action="\/practice\/p\/sheet-kit"/)
    const answer = await porch.optIn('sheet-kit', { email: 'ada@example.com', first_name: 'Ada' }, from())
    expect([answer.status, answer.headers.get('location')]).toEqual([303, '/practice/p/sheet-kit/thanks'])
    expect(await (await porch.fetch('/practice/p/sheet-kit/thanks')).text()).toContain('Thank you')
    const { person, consents } = await personOf('ada@example.com')
    expect(person).toMatchObject({ firstName: 'Ada', status: 'active', source: 'page:sheet-kit' })
    expect(consents[0]).toMatchObject({
      wording: expect.stringContaining('unsubscribe'), ip: expect.stringMatching(/^198\.51\.100\./), pageVersion: 1,
    })
  })

  it('twice with one address is one subscriber with two opt-ins', async () => {
    for (const email of ['bo@example.com', 'BO@Example.com']) await porch.optIn('sheet-kit', { email }, from())
    expect(await countOf('search=bo@example.com')).toBe(1)
    expect((await personOf('bo@example.com')).events.filter(event => event.kind === 'opted-in')).toHaveLength(2)
  })

  it('keeps the visitor\'s zone, if it is one', async () => {
    await porch.optIn('sheet-kit', { email: 'k@example.com', zone: 'Asia/Kathmandu' }, from())
    await porch.optIn('sheet-kit', { email: 'l@example.com', zone: '../../etc' }, from())
    expect((await personOf('k@example.com')).person.zone).toBe('Asia/Kathmandu')
    expect((await personOf('l@example.com')).person.zone).toBeNull()
  })

  it('with a bad address is told so at the field, and what was typed stays', async () => {
    const answer = await porch.optIn('sheet-kit', { email: 'ada at example', first_name: '"><script>' }, from())
    expect(answer.status).toBe(422)
    const html = await answer.text()
    expect(html).toMatch(/id="email-problem">[^<]*spaces/)
    expect(html).toContain('value="ada at example"')
    expect(html).toContain('value="&quot;&gt;&lt;script&gt;"')
    expect(html).toMatch(/aria-invalid="true" aria-describedby="email-problem"/)
  })

  it('with an address of an office or a throw-away domain is asked once whether it is meant, or refused, as the owner says', async () => {
    for (const email of ['info@example.com', 'ada@mailinator.com']) {
      const asked = await porch.optIn('sheet-kit', { email }, from())
      const html = await asked.text()
      expect([asked.status, html]).toEqual([422, expect.stringMatching(/id="email-problem">[^<]*click the button again/)])
      expect(await countOf(`search=${email}`)).toBe(0)
      // Another address than the one that was asked about is asked about anew.
      expect((await porch.optIn('sheet-kit', { email, meant: `x${email}` }, from())).status).toBe(422)
      expect((await porch.optIn('sheet-kit', { email, meant: /name="meant" value="([^"]*)"/.exec(html)![1]! }, from())).status).toBe(303)
    }
    await porch.do('PUT', 'odd-addresses', { role: 'take', throwaway: 'refuse' })
    expect((await porch.optIn('sheet-kit', { email: 'office@example.com' }, from())).status).toBe(303)
    expect((await porch.optIn('sheet-kit', { email: 'bo@mailinator.com', meant: 'bo@mailinator.com' }, from())).status).toBe(422)
    expect((await porch.api('PUT', 'odd-addresses', { role: 'maybe', throwaway: 'take' })).status).toBe(422)
  })

  it('a robot that fills in what nobody sees is thanked and not let in', async () => {
    const answer = await porch.optIn('sheet-kit', { email: 'robot@example.com', website: 'https://spam.example.org' }, from())
    expect(answer.status).toBe(303)
    expect(await countOf('search=robot@')).toBe(0)
  })

  it('too often from one address is stopped with a sentence, and others still come in', async () => {
    const robot = { 'x-forwarded-for': '203.0.113.77' }
    const answers: number[] = []
    for (let n = 0; n < 1000; n += 10) answers.push(...await Promise.all(
      Array.from({ length: 10 }, async (_, k) => (await porch.optIn('sheet-kit', { email: `many${n + k}@example.com` }, robot)).status),
    ))
    expect([303, 429].map(status => answers.filter(answer => answer === status).length)).toEqual([20, 980])
    const stopped = await porch.optIn('sheet-kit', { email: 'many99@example.com' }, robot)
    expect([stopped.status, await stopped.text()]).toEqual([429, expect.stringMatching(/wait ten minutes/)])
    expect((await porch.optIn('sheet-kit', { email: 'human@example.com' }, from())).status).toBe(303)
  })

  it('a body without an end is read no further than it may be, whatever its headers say', async () => {
    const endless = (path: string, headers: Record<string, string>) => new Promise<number | string>((resolve) => {
      const request = httpRequest(
        `${porch.url}${path}`, { method: 'POST', headers: { ...headers, 'transfer-encoding': 'chunked' } },
        answer => resolve(answer.statusCode!),
      )
      request.on('error', error => resolve((error as NodeJS.ErrnoException).code!))
      const chunk = Buffer.alloc(1_000_000, 'x')
      let sent = 0
      const more = () => sent++ > 600 ? resolve('was read without end') : request.write(chunk, () => setImmediate(more))
      more()
    })
    const before = memory()
    const form = { 'content-type': 'application/x-www-form-urlencoded' }
    for (const [path, headers] of [
      ['/practice/p/sheet-kit', form], ['/practice/m/x', form],
      ['/api/session', { 'content-type': 'application/json', 'origin': porch.url }],
    ] as const) {
      expect(['ECONNRESET', 'EPIPE', 404, 413], path).toContain(await endless(path, headers))
    }
    // What was thrown away may still wait to be collected, some 50 MB of each; keeping all of one would be 600.
    expect(memory() - before).toBeLessThan(400_000_000)
    expect((await porch.optIn('sheet-kit', { email: 'after@example.com' }, from())).status).toBe(303)
  })

  it('a page that is not there, or a body of a megabyte, is an answer and not a fault', async () => {
    const nothing = await porch.fetch('/practice/p/nothing-here')
    expect([nothing.status, await nothing.text()]).toEqual([404, expect.stringContaining('Page not found')])
    for (const fields of [
      { email: 'x'.repeat(1_000_000) }, { email: 'long@example.com', first_name: 'x'.repeat(100_000) },
    ] as Record<string, string>[]) {
      const tooLong = await porch.optIn('sheet-kit', fields, from())
      expect([tooLong.status, await tooLong.text()]).toEqual([413, expect.stringContaining('more than the form can take')])
    }
    expect((await porch.fetch('/p/sheet-kit')).status).toBe(404)
  })

  it('weighs less than 60 kB in all, with style, script and both files of its font', async () => {
    const text = async (path: string) => (await porch.fetch(path)).text()
    const html = await text('/practice/p/sheet-kit')
    const parts = [...html.matchAll(/(?:href|src)="(\/[^"]+\.(?:css|js))"/g)].map(([, path]) => path!)
    const fonts = [...(await text(parts.find(path => path.endsWith('.css'))!)).matchAll(/url\(([^)]+)\)/g)].map(([, path]) => path!)
    expect([parts.length, fonts.length]).toEqual([2, 2])
    // As much as goes over the line: browsers take it packed.
    const sizes = await Promise.all([...parts, ...fonts].map(async (path) => {
      const answer = await porch.fetch(path, { headers: { 'accept-encoding': 'gzip' } })
      return answer.headers.has('content-encoding') ? Number(answer.headers.get('content-length')) : (await answer.arrayBuffer()).byteLength
    }))
    expect(Math.min(...sizes)).toBeGreaterThan(100)
    expect(html.length + sizes.reduce((sum, size) => sum + size, 0)).toBeLessThan(60_000)
  })
})

describe('a page of every sort of section and question', () => {
  const linkIn = (text: string, kind: string) => new RegExp(`http://localhost:\\d+(/practice/${kind}/[\\w.-]+)`).exec(text)![1]!
  let pageId = 0
  let draft: PageContent
  const save = (change: Partial<PageContent>) =>
    porch.api('PUT', `pages/${pageId}`, { name: 'Every', slug: 'every', draft: { ...draft, ...change } })

  it('takes a picture and a file, is published, and is drawn with all of it', async () => {
    const { draw } = createPictureMaker()
    const png =
      await draw('<svg xmlns="http://www.w3.org/2000/svg" width="1000" height="500"><rect width="1000" height="500" fill="#20506b"/></svg>')
    const picture = await (await porch.upload('pictures?name=a.png', png)).json() as PictureView
    expect(picture).toMatchObject({ width: 1000, height: 500, widths: [480, 960, 1000] })
    const file = await (await porch.upload(
      'files?name=kit%20%E2%9C%82.pdf&type=application/pdf', new TextEncoder().encode('%PDF-1.7 sheets'),
    )).json() as { id: number }
    const fieldId = (await porch.do<{ id: number }>('POST', 'fields', { name: 'town', label: 'Your town', kind: 'text', choices: [] })).id
    pageId = (await porch.do<{ id: number }>('POST', 'pages', { name: 'Every' })).id
    const every = everyPage('Words & <words>')
    draft = {
      ...every,
      sections: every.sections.map(section => section.kind === 'picture' ? { ...section, pictureId: picture.id } : section),
      form: {
        ...every.form, firstName: 'may',
        boxes: [{ id: 'b1', wording: 'Letters, too', required: false, listIds: [made.listId], tagIds: [] }],
        asks: [
          { id: 'a1', kind: 'field', fieldId, label: 'Your town', required: true },
          { id: 'a3', kind: 'choice', label: 'What?', required: false, many: true, options: answers(['Coptic', made.tagId], 'Other') },
        ],
      },
      listIds: [made.listId], tagIds: [], promised: newPromised(file.id, 'kit.pdf'),
    }
    expect((await save({})).status).toBe(200)
    expect((await porch.api('POST', `pages/${pageId}/publish`)).status).toBe(200)
    const html = await (await porch.fetch('/practice/p/every')).text()
    for (const size of ['480.webp', '1000.webp', 'share.jpg']) {
      const answer = await porch.fetch(`/practice/i/${picture.id}-${size}`)
      expect([answer.status, answer.headers.get('content-type')]).toEqual([200, size.endsWith('jpg') ? 'image/jpeg' : 'image/webp'])
    }
    expect(html).toContain(`<meta property="og:image" content="http://localhost:${porch.port}/practice/i/${picture.id}-share.jpg">`)
    expect(html).toMatch(/<img src="\/practice\/i\/\d+-960\.webp"[^>]* alt="Words &amp; &lt;words&gt;">/)
    expect((await porch.fetch(`/practice/i/${picture.id}-481.webp`)).status).toBe(404)
  })

  it('goes along in the export of the workspace, byte for byte', async () => {
    const whole = await porch.do<Record<'pictures' | 'files', { id: number, name: string, type: string, base64: string }[]>>(
      'GET', 'workspace/export',
    )
    const { pictureId } = draft.sections.find(section => section.kind === 'picture')!
    const picture = whole.pictures.find(({ id }) => id === pictureId)!
    expect(Buffer.from(picture.base64, 'base64').equals(
      Buffer.from(await (await porch.fetch(`/practice/i/${pictureId}-1000.webp`)).arrayBuffer()),
    )).toBe(true)
    expect(whole.files.map(({ name, type, base64 }) => [name, type, Buffer.from(base64, 'base64').toString()])).toEqual([
      ['kit ✂.pdf', 'application/pdf', '%PDF-1.7 sheets'],
    ])
  })

  it('is answered: what is missing is told beside its question, and what was typed stays', async () => {
    const wrong = await porch.optIn('every', { email: 'ev@example.com', a3: 'o1', b1: 'yes' }, from())
    const html = await wrong.text()
    expect(wrong.status).toBe(422)
    expect(html).toMatch(/id="a1-problem">Please fill this in\./)
    expect(html).toMatch(/name="a3" value="o1" checked/)
    expect(html).toMatch(/name="b1" value="yes" checked/)
  })

  it('asks for the yes, gives nothing to who only looks, and everything once to who says it; the file is fetched and counted', async () => {
    const answer = await porch.optIn('every', { email: 'ev@example.com', a1: 'Lisboa', a3: 'o1', b1: 'yes' }, from())
    expect([answer.status, answer.headers.get('location')]).toEqual([303, '/practice/p/every/wait'])
    expect(await (await porch.fetch('/practice/p/every/wait')).text()).toContain(SETTINGS.senderAddress)
    const [asked] = await mailTo('ev@example.com')
    const way = linkIn(asked!.text, 'c')
    for (let n = 0; n < 3; n++) expect(await (await porch.fetch(way)).text()).toContain('Was it you?')
    expect(await personOf('ev@example.com')).toMatchObject({ person: { status: 'pending' }, tags: [], consents: [] })
    expect(asked!.source).not.toContain('/o/')
    for (const bent of [`${way}x`, way.replace('/c/', '/f/'), way.replace('/c/', '/m/'), way.replace('/practice', '')]) {
      expect((await porch.fetch(bent)).status, bent).toBe(404)
    }

    for (let n = 0; n < 2; n++) expect(
      (await porch.fetch(way, { method: 'POST', body: new URLSearchParams({ answer: 'yes' }) })).status,
    ).toBe(303)
    const person = await personOf('ev@example.com')
    expect(person).toMatchObject({ person: { status: 'active' }, fields: [{ value: 'Lisboa' }] })
    expect(person.tags.map(({ id }) => id)).toEqual([made.tagId])
    expect(person.consents.map(({ wording }) => wording).sort()).toEqual(['Letters, too', 'Words & <words>'])
    expect(person.events.filter(event => event.kind === 'confirmed')).toHaveLength(1)

    const brought = (await mailTo('ev@example.com', 2)).find(mail => mail.text.includes('/f/'))!
    const file = await porch.fetch(linkIn(brought.text, 'f'))
    expect([await file.text(), file.headers.get('content-disposition'), file.headers.get('x-content-type-options')]).toEqual([
      '%PDF-1.7 sheets', `attachment; filename="kit _.pdf"; filename*=UTF-8''kit%20%E2%9C%82.pdf`, 'nosniff',
    ])
    expect(await porch.do<PageResults>('GET', `pages/${pageId}/results`)).toMatchObject({ counted: 1, notConfirmed: 0, fetched: 1 })
  })

  it('is there for any other site, with nothing of who asks', async () => {
    const script = await porch.fetch('/embed.js')
    expect([script.status, (await script.arrayBuffer()).byteLength < 8000]).toEqual([200, true])
    const form =
      await porch.fetch('/practice/p/every/form?utm_source=blog', {
        headers: { origin: 'https://blog.example.org', referer: 'https://blog.example.org/', accept: 'application/json' },
      })
    expect([
      form.status, form.headers.get('access-control-allow-origin'), form.headers.get('access-control-allow-credentials'),
      form.headers.get('set-cookie'),
    ]).toEqual([200, '*', null, null])
    const { html } = await form.json() as { html: string }
    expect(html).toContain(`action="${porch.url}/practice/p/every"`)
    expect(html).toContain('utm_source=blog&amp;referrer=blog.example.org')
    const answer = await porch.optIn('every', {
      email: 'blog@example.com', a1: 'Faro',
    }, { ...from(), accept: 'application/json', origin: 'https://blog.example.org' })
    expect([answer.status, answer.headers.get('access-control-allow-origin'), await answer.json()]).toEqual([
      200, '*', { classes: expect.any(String), html: expect.stringContaining('One more step') },
    ])
    const wrong = await porch.optIn('every', { email: '<script>' }, { ...from(), accept: 'application/json' })
    expect([wrong.status, (await wrong.json() as { html: string }).html]).toEqual([422, expect.stringContaining('&lt;script&gt;')])
    expect((await porch.fetch('/practice/p/nothing/form')).status).toBe(404)
    // What the owner's own screens ask for is there for no other site.
    const settings = await porch.api('GET', 'settings', undefined, { origin: 'https://blog.example.org' })
    expect(settings.headers.get('access-control-allow-origin')).toBeNull()
  })

  it('is refused what is not what it says, and what runs', async () => {
    const svg = new TextEncoder().encode('<svg xmlns="http://www.w3.org/2000/svg"><script>alert(1)</script></svg>')
    for (const bytes of [
      svg, new TextEncoder().encode('GIF89a not really'),
      Buffer.concat([Buffer.from([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a]), Buffer.alloc(50)]), new Uint8Array(),
    ]) {
      const answer = await porch.upload('pictures?name=a.png', bytes)
      expect([answer.status, await answer.text()]).toEqual([422, expect.stringContaining('cannot be read')])
    }
    expect((await porch.upload('pictures?name=a.png', Buffer.alloc(10_000_001))).status).toBe(413)
    expect((await save({ redirectUrl: 'javascript:alert(1)' })).status).toBe(422)
    expect((await save({ thanks: { ...draft.thanks, onward: [{ label: 'x', url: 'data:text/html,x' }] } })).status).toBe(422)
    expect((await save({ listIds: [9999] })).status).toBe(422)
    expect((await save({ sections: [...draft.sections, ...draft.sections] })).status).toBe(422)
    expect((await save({ theme: { ...draft.theme, colour: 'x);}' as never } })).status).toBe(422)
  })

  it('sends people on only to where its owner said, and its policy allows just that', async () => {
    await save({ redirectUrl: 'https://saltmarsh.example.com/welcome?a=1', confirming: { ...draft.confirming, who: 'nobody' } })
    await porch.api('POST', `pages/${pageId}/publish`)
    const page = await porch.fetch('/practice/p/every?redirect=https://evil.example.net&redirectUrl=https://evil.example.net')
    expect(page.headers.get('content-security-policy')).toContain("form-action 'self' https://saltmarsh.example.com;")
    const answer =
      await porch.optIn(
        'every', { email: 'on@example.com', a1: 'Porto', redirectUrl: 'https://evil.example.net', next: '//evil.example.net' }, from()
      )
    expect([answer.status, answer.headers.get('location')]).toEqual([303, 'https://saltmarsh.example.com/welcome?a=1'])
  })

  it('can be chosen anew from its emails: address by address signed, button by button', async () => {
    const [mail] = (await mailTo('ev@example.com', 2))
    const way = linkIn(mail!.text, 'm')
    const press = (fields: Record<string, string>) => porch.fetch(way, { method: 'POST', body: new URLSearchParams(fields) })
    for (const fields of [
      { do: 'pause' }, { do: 'go-on' }, { do: 'everything' }, { do: 'why', why: 'other' }, { do: 'come-back' },
      { do: 'save', list: String(made.listId) },
    ] as Record<string, string>[]) expect((await press(fields)).status, JSON.stringify(fields)).toBe(303)
    expect((await personOf('ev@example.com')).person.status).toBe('active')
    // Their own address of the page they came by names them to whoever comes by it.
    const own = /class="own" href="[^"]*(\/practice\/p\/every\?by=[^"]+)"/.exec(await (await porch.fetch(way)).text())![1]!
    const by = /name="by" value="([^"]+)"/.exec(await (await porch.fetch(own)).text())![1]!
    expect((await porch.optIn('every', { email: 'friend@example.com', a1: 'Beja', by }, from())).status).toBe(303)
    expect((await personOf('friend@example.com')).passedBy).toMatchObject({ name: 'ev@example.com' })
    const wrong = await press({ do: 'address', address: '"><script>' })
    expect([wrong.status, await wrong.text()]).toEqual([422, expect.stringContaining('&lt;script&gt;')])
    expect((await press({ do: 'why', why: 'because' })).status).toBe(400)
    expect((await press({ do: 'take-back' })).status).toBe(303)
    expect((await press({ do: 'take-back' })).status).toBe(409)
  })
})

describe('a chooser', () => {
  const own = 'https://shop.example.com'
  beforeAll(async () => {
    const { id } = await porch.do<{ id: number }>('POST', 'pages', { name: 'Which loaf', beginning: 'chooser' })
    const { draft } = await porch.do<PageView>('GET', `pages/${id}`)
    const resultPages = draft.resultPages.map(page => page.id === 'r3' ? { ...page, redirectUrl: `${own}/milk` } : page)
    await porch.do('PUT', `pages/${id}`, {
      name: 'Which loaf', slug: 'loaf',
      draft: { ...draft, listIds: [made.listId], resultPages, promised: null, confirming: { ...draft.confirming, who: 'nobody' } },
    })
    await porch.do('POST', `pages/${id}/publish`)
  })
  const answer = (fields: Record<string, string>, headers = {}) =>
    porch.optIn('loaf', { email: 'loaf@example.com', ...fields }, { ...from(), ...headers })

  it('leads to the page that fits the answers, or elsewhere where its owner said; within another site its words come in place', async () => {
    const where = async (a1: string, a2: string, a3: string) => (await answer({ a1, a2, a3 })).headers.get('location')
    expect([
      await where('o2', 'o3', 'o3'), await where('o3', 'o3', 'o1'), await where('o1', 'o2', 'o1'), await where('o1', 'o3', 'o1'),
    ]).toEqual(
      ['/practice/p/loaf/thanks?result=r1', '/practice/p/loaf/thanks?result=r2', `${own}/milk`, '/practice/p/loaf/thanks'])
    expect(await (await porch.fetch('/practice/p/loaf/thanks?result=r1')).text()).toContain('Yours is the dark rye')
    expect(await (await answer({ a1: 'o2', a2: 'o3', a3: 'o3' }, { accept: 'application/json' })).json()).toMatchObject({
      html: expect.stringContaining('Yours is the dark rye'),
    })
    expect(await (await answer({ a1: 'o1', a2: 'o2', a3: 'o1' }, { accept: 'application/json' })).json()).toEqual({
      redirect: `${own}/milk`,
    })
    expect((await porch.fetch('/practice/p/loaf')).headers.get('content-security-policy')).toContain(`form-action 'self' ${own};`)
  })

  it('answers whatever is put in the place of a result with the page for everybody', async () => {
    for (const odd of ['r99', '<script>alert(1)</script>', '__proto__', 'r1&result=r2']) {
      const said = await (await porch.fetch(`/practice/p/loaf/thanks?result=${odd.includes('&') ? odd : encodeURIComponent(odd)}`)).text()
      expect(said, odd).toContain('Yours is soda bread')
      expect(said).not.toContain('<script>alert')
    }
  })

  it('wants its questions answered, and keeps what was', async () => {
    const wrong = await answer({ a1: 'o2', a2: 'o9' })
    const html = await wrong.text()
    expect([wrong.status, html.match(/id="a\d-problem">Choose one\./g)?.length]).toEqual([422, 2])
    expect(html).toMatch(/name="a1" value="o2" checked/)
  })

  it.each<[string, (draft: PageContent) => unknown]>([
    ['a condition that is none', draft => ({ ...draft, resultPages: [{ ...draft.resultPages[0], when: { kind: 'none', of: [] } }] })],
    ['two results of one name', draft => ({ ...draft, resultPages: [draft.resultPages[0], draft.resultPages[0]] })],
    ['an address that runs', draft => ({ ...draft, resultPages: [{ ...draft.resultPages[0], redirectUrl: 'javascript:alert(1)' }] })],
    ['a value for a field that is not there', draft => ({ ...draft, fields: [{ fieldId: 9999, value: 'x' }] })],
    ['a field set twice', draft => ({ ...draft, fields: [{ fieldId: 1, value: 'x' }, { fieldId: 1, value: 'y' }] })],
  ])('is refused %s', async (_, bend) => {
    const { id } = (await porch.do<PageLine[]>('GET', 'pages')).find(({ slug }) => slug === 'loaf')!
    const { name, slug, draft } = await porch.do<PageView>('GET', `pages/${id}`)
    expect((await porch.api('PUT', `pages/${id}`, { name, slug, draft: bend(draft) })).status).toBe(422)
    expect((await porch.do<PageView>('GET', `pages/${id}`)).draft).toEqual(draft)
  })
})

describe('an email in the practice mailbox', () => {
  const pathOf = (url: string) => url.slice(url.indexOf('/practice'))
  const linksIn = (text: string, kind: string) =>
    [...text.matchAll(new RegExp(`http://localhost:\\d+(/practice/${kind}/[\\w.-]+)`, 'g'))].map(([, path]) => path!)

  it('arrives at once, is opened and followed, and gives its tag; a redirect goes only where it pointed', async () => {
    await porch.optIn('sheet-kit', { email: 'open@example.com', first_name: 'Odile' }, from())
    const [mail] = await mailTo('open@example.com')
    expect(mail).toMatchObject({ subject: 'One, friend', to: 'open@example.com', openedAt: null, clickedAt: null })
    const [first, second] = linksIn(mail!.text, 'l')
    const source = await (await porch.api('GET', `mailbox/${mail!.id}/source`)).text()
    expect(source).toMatch(/^List-Unsubscribe-Post: List-Unsubscribe=One-Click\r$/m)

    const html = await (await porch.api('GET', `mailbox/${mail!.id}/html`)).text()
    const picture = await porch.fetch(pathOf(/src="([^"]+\/o\/[^"]+)"/.exec(html)![1]!))
    expect(picture.headers.get('content-type')).toBe('image/gif')
    // Invented sites are not there: practice says where the link would have led.
    const landing = await porch.fetch(second!)
    expect(await landing.text()).toContain('https://saltmarsh.example.com/pressed')
    const person = await personOf('open@example.com')
    expect(person.emails.at(-1)).toMatchObject({ openedAt: expect.any(Number), clickedAt: expect.any(Number) })
    expect(person.events.map(event => event.kind)).toEqual(expect.arrayContaining(['opened', 'clicked']))

    for (const bent of [first!.replace(/.$/, ''), `${first}x`, first!.replace('/l/', '/l/x'), first!.replace('/practice', '')]) {
      expect((await porch.fetch(bent)).status, bent).toBe(404)
    }
  })

  it('asking for a link\'s headers alone is no click', async () => {
    await porch.optIn('sheet-kit', { email: 'head@example.com' }, from())
    const [mail] = await mailTo('head@example.com')
    await porch.fetch(linksIn(mail!.text, 'l')[0]!, { method: 'HEAD' })
    expect((await personOf('head@example.com')).emails[0]!.clickedAt).toBeNull()
  })

  // RFC 8058 section 8: the request of its first example, and the multipart one of its third; a GET changes nothing (section 3.1).
  it.each([
    ['as a form', { 'content-type': 'application/x-www-form-urlencoded' }, 'List-Unsubscribe=One-Click'],
    [
      'as multipart', { 'content-type': 'multipart/form-data; boundary=---FormBoundaryjWmhtjORrn' },
      '-----FormBoundaryjWmhtjORrn\r\nContent-Disposition: form-data; name="List-Unsubscribe"\r\n\r\nOne-Click\r\n-----FormBoundaryjWmhtjORrn--\r\n',
    ],
  ])('is left by one POST %s, without cookies, and by no GET', async (how, headers, body) => {
    const address = `leaver-${how.replaceAll(' ', '-')}@example.com`
    await porch.optIn('sheet-kit', { email: address }, from())
    const [mail] = await mailTo(address)
    const way = /^List-Unsubscribe: <http:\/\/localhost:\d+(\/[^>]+)>/m.exec(mail!.source)![1]!
    expect((await porch.fetch(way)).status).toBe(200)
    expect((await personOf(address)).person.status).toBe('active')
    const answer = await porch.fetch(way, { method: 'POST', headers, body })
    expect([answer.status, answer.headers.get('set-cookie')]).toEqual([200, null])
    expect((await porch.fetch(way, { method: 'POST', headers, body })).status).toBe(200)
    const { person, courses } = await personOf(address)
    expect([person.status, courses[0]!.status]).toEqual(['unsubscribed', 'left'])
    expect((await porch.fetch(way.replace(/.$/, last => last === 'x' ? 'y' : 'x'), { method: 'POST', headers, body })).status).toBe(404)
  })

  it('leads to a page of choices, where one course, one list or everything is left', async () => {
    await porch.optIn('sheet-kit', { email: 'chooser@example.com' }, from())
    const [mail] = await mailTo('chooser@example.com')
    const way = linksIn(mail!.text, 'm')[0]!
    const html = await (await porch.fetch(way)).text()
    expect(html).toContain('cho…@example.com')
    expect(html).not.toContain('chooser@')
    expect(html.indexOf('Leave only this course')).toBeLessThan(html.indexOf('Leave everything'))
    const answer = await porch.fetch(way, { method: 'POST', body: new URLSearchParams({ do: 'course' }) })
    expect(answer.status).toBe(303)
    expect(await (await porch.fetch(answer.headers.get('location')!)).text()).toContain('Done.')
    expect((await personOf('chooser@example.com'))).toMatchObject({ person: { status: 'active' }, courses: [{ status: 'left' }] })
    for (const [leave, status] of [['odd', 400], ['', 400], ['list-99', 404], ['list-1e9', 400]] as const) {
      const odd = await porch.fetch(way, { method: 'POST', body: new URLSearchParams({ do: leave }) })
      expect([odd.status, odd.headers.get('content-type')], leave).toEqual([status, 'text/html; charset=utf-8'])
    }
  })
})
