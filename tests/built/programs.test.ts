import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import type { KeysView } from '#core/views/keys'
import { fromZip, toZip } from '#runtime/zip'
import { startFurnished, type Furnished } from './furnished'
import { type Porch } from './porch'

let porch: Porch
let made: Furnished
let secret: string
beforeAll(async () => {
  ;({ porch, made } = await startFurnished())
  secret = (await porch.do<{ secret: string }>('POST', 'keys', {
    name: 'the shop', scopes: ['people:write', 'tags:write', 'clock:read', 'courses:write'],
  })).secret
})
afterAll(() => porch.stop())

const ask = (method: string, path: string, {
  body, headers = {},
}: { body?: string | Uint8Array<ArrayBuffer>, headers?: Record<string, string> } = {}) =>
  porch.fetch(path, { method, ...body !== undefined && { body }, headers: { authorization: `Bearer ${secret}`, ...headers } })
const keys = async () => (await porch.do<KeysView>('GET', 'keys')).keys

describe('a program', () => {
  it('adds somebody once, gives a tag and finds them, without a session and from no page of ours', async () => {
    const add = () => ask('POST', '/practice/v1/people', {
      body: '{"email":"ada@example.com","firstName":"Ada"}', headers: { 'idempotency-key': 'fair-1' },
    })
    const [one, two] = [await add(), await add()]
    expect([one.status, two.status, one.headers.get('idempotent-replayed'), two.headers.get('idempotent-replayed')]).toEqual([
      201, 201, null, 'true',
    ])
    const { id } = await one.json() as { id: number }
    expect(await two.json()).toEqual({ id })
    const tagged = await ask('PUT', `/practice/v1/people/${id}/tags/${made.tagId}`)
    expect([tagged.status, await tagged.text()]).toEqual([204, ''])
    expect(await (await ask('GET', '/practice/v1/people?email=ada@example.com&limit=1')).json()).toMatchObject({
      people: [{ id, firstName: 'Ada', tags: [{ id: made.tagId }] }], next: null,
    })
    expect((await keys())[0]!.lastUsedAt).toBeGreaterThan(Date.now() - 120_000)
  })

  it('is told what is wrong: no key, no such place, not allowed, no JSON, too much', async () => {
    expect((await porch.fetch('/practice/v1/people')).status).toBe(401)
    expect((await ask('GET', '/v1/people')).status).toBe(404)
    expect((await ask('GET', '/practice/v1/nonsense')).status).toBe(404)
    expect((await ask('GET', '/practice/v1/events')).status).toBe(403)
    expect((await ask('GET', '/practice/v1/people/1/tags/1')).headers.get('allow')).toBe('PUT, DELETE')
    expect((await ask('POST', '/practice/v1/people', { body: '{' })).status).toBe(400)
    expect((await ask('POST', '/practice/v1/people', { body: ' '.repeat(300_000) })).status).toBe(413)
    const wrong = await ask('POST', '/practice/v1/people', { body: '{"email":"ada@@example.com"}' })
    expect([wrong.status, await wrong.json()]).toEqual([
      422, { problem: 'An email address has only one @.', fields: [{ field: 'email', problem: 'An email address has only one @.' }] },
    ])
  })

  it('keeps a course as a folder of Markdown, and puts it back changed; a very large one keeps nobody waiting', async () => {
    const path = `/practice/v1/courses/${made.courseId}`
    const answer = await ask('GET', `${path}/folder`)
    expect([answer.status, answer.headers.get('content-type')]).toEqual([200, 'application/zip'])
    const folder = fromZip(new Uint8Array(await answer.arrayBuffer()))
    folder['course.yaml'] = folder['course.yaml']!.replace(/^name: .*$/m, 'name: From the repository')
    const put = await ask('PUT', path, { body: toZip(folder) as Uint8Array<ArrayBuffer> })
    expect([put.status, await put.json()]).toEqual([200, expect.objectContaining({ made: [], lost: [] })])
    expect(await (await ask('GET', path)).json()).toMatchObject({ definition: { name: 'From the repository' } })
    expect((await ask('PUT', path, { body: ' '.repeat(2_100_000) })).status).toBe(413)
    const nested =
      `{"format":"keen-porch course","version":2,"name":"x","names":{},"draft":{"steps":[${'{"kind":"fork","ways":[]},'.repeat(70_000)}{}]}}`
    const slow = ask('PUT', path, { body: nested })
    // Other requests are answered meanwhile.
    let answered = 0
    let over = false
    void slow.then(() => over = true)
    for (; !over; answered++) await porch.fetch('/api/health')
    expect((await slow).status).toBe(422)
    expect(answered).toBeGreaterThan(5)
  })

  it('cannot use the owner’s own addresses with its key, and the owner’s session opens nothing to it', async () => {
    expect((await ask('GET', '/api/subscribers')).status).toBe(401)
    expect((await porch.fetch('/practice/v1/people', { headers: { cookie: porch.cookie } })).status).toBe(401)
    expect((await porch.fetch('/api/keys')).status).toBe(401)
  })

  it('reads the document without a key; it names this workspace', async () => {
    const answer = await porch.fetch('/practice/v1/openapi.json')
    const document = await answer.json() as {
      servers: { url: string }[],
      paths: Record<string, { post?: { requestBody: { content: Record<string, { schema: { required: string[] } }> } } }>,
    }
    expect([answer.status, answer.headers.get('content-type')]).toEqual([200, expect.stringContaining('application/json')])
    expect(document.servers[0]!.url).toMatch(/\/practice\/v1$/)
    expect(document.paths['/people']!.post!.requestBody.content['application/json']!.schema.required).toEqual(['email'])
  })

  it('whose key was ended is refused', async () => {
    await porch.api('DELETE', `keys/${(await keys())[0]!.id}`)
    expect((await ask('GET', '/practice/v1/clock')).status).toBe(401)
  })

  it('that tries key after key has to wait', async () => {
    const answers = await Promise.all(
      Array.from({ length: 70 }, (_, n) => porch.fetch('/practice/v1/clock', { headers: { authorization: `Bearer porch_practice_${n}` } })),
    )
    expect(answers.some(({ status, headers }) => status === 429 && headers.get('retry-after') === '60')).toBe(true)
  })
})
