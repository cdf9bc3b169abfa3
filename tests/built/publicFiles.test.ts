import { readdirSync, readFileSync, statSync } from 'node:fs'
import { extname, join } from 'node:path'
import { brotliDecompressSync, gunzipSync, gzipSync } from 'node:zlib'
import { afterAll, beforeAll, expect, it } from 'vitest'
import { Porch, ROOT } from './porch'

const folder = join(ROOT, '.output/public')
/** Every file there is, whatever it is called: anybody can ask for any of them by its name. */
const files = readdirSync(folder, { recursive: true, encoding: 'utf8' }).filter(name => statSync(join(folder, name)).isFile())
const packed = (name: string) => ['.gz', '.br'].includes(extname(name))
const kindOf = (name: string) => extname(packed(name) ? name.slice(0, -3) : name)

/** What a browser is meant to get. A file of any other kind came there by accident. */
const MEANT = ['.js', '.css', '.html', '.json', '.svg', '.woff2']

let porch: Porch
beforeAll(async () => {
  porch = await (await Porch.start()).ready()
})
afterAll(() => porch.stop())

function textOf(name: string): string {
  const bytes = readFileSync(join(folder, name))
  return (name.endsWith('.gz') ? gunzipSync(bytes) : name.endsWith('.br') ? brotliDecompressSync(bytes) : bytes).toString('latin1')
}

it('A5: every public file is of a kind that a browser is meant to get', () => {
  expect(files.length).toBeGreaterThan(40)
  expect(files.filter(name => !MEANT.includes(kindOf(name)))).toEqual([])
  // A picture of the whole icon font is an older format of it.
  expect(files.filter(name => name.includes('primeicons')).map(kindOf)).toEqual(['.woff2'])
})

/** What only the server's code has. */
const SIGNS = {
  sql: /\b(SELECT\s.+\sFROM|INSERT\s+INTO|CREATE\s+TABLE|PRAGMA|journal_mode)\b|outbox_go/s,
  server: /better-sqlite3|node:(fs|crypto|net|path)|argon2|PORCH_DATA|from ['"](#|h3['"])/,
}
const foundIn = (text: string): string[] => Object.entries(SIGNS).filter(([, sign]) => sign.test(text)).map(([name]) => name)

it('nothing of the server stands in any public file', () => {
  expect(files.flatMap(name => foundIn(textOf(name)).map(found => `${name}: ${found}`))).toEqual([])
})

it('would be found if it did: each sign is found in the server as it was built, packed or not', () => {
  const server = join(ROOT, '.output/server')
  const built = readdirSync(server).filter(name => /^web.*\.mjs$/.test(name)).map(name => readFileSync(join(server, name), 'utf8'))
  for (const name of Object.keys(SIGNS)) expect(built.filter(text => foundIn(text).includes(name)).length, name).toBeGreaterThan(0)
  const leak = built.find(text => foundIn(text).includes('sql'))!
  expect(foundIn(gunzipSync(gzipSync(leak)).toString('latin1'))).toContain('sql')
})

it('and nothing in them is fetched from elsewhere: fonts and icons ship with it', () => {
  const styles = files.filter(name => name.endsWith('.css')).map(textOf).join('\n')
  const wanted = [...styles.matchAll(/url\(["']?([^)"']+)/g)].map(([, target]) => target!).filter(target => !target.startsWith('data:'))
  expect(wanted.length).toBeGreaterThan(5)
  expect(wanted.filter(target => /^(https?:)?\/\//.test(target))).toEqual([])
})

it('what a browser runs before anything else is small: under 70 kB, as it is sent', async () => {
  const shell = await (await porch.fetch('/')).text()
  const entries = [...shell.matchAll(/<script type="module" src="([^"]+)"/g)].map(([, src]) => src!)
  expect(entries).toHaveLength(1)
  // The name it has in the folder, with what it was packed by beside it; what it imports by name would have to come with it.
  const packed = readFileSync(join(folder, `${entries[0]}.br`))
  expect(brotliDecompressSync(packed).toString()).not.toMatch(/(^|;)import[{*"]|from"\.\//)
  expect(packed.length).toBeLessThan(70_000)
  const sent = await porch.fetch(entries[0]!, { headers: { 'accept-encoding': 'br' } })
  expect(sent.headers.get('content-encoding')).toBe('br')
})

it('a screen’s page names all that the screen is made of, and tells only its owner where the clocks stand', async () => {
  const partsOf = async (path: string) => {
    const shell = await (await porch.fetch(path, { headers: { cookie: porch.cookie } })).text()
    const [, beginning] = /<script type="application\/json" id="beginning">(.*?)<\/script>/.exec(shell)!
    const parts = [...shell.matchAll(/<link rel="(?:modulepreload|preload)"[^>]*href="([^"]+)"/g)].map(([, href]) => href!)
    return { parts, beginning: JSON.parse(beginning!) as unknown }
  }
  const stranger = await partsOf('/courses/1')
  expect(stranger.beginning).toEqual({ signedIn: false, clocks: {} })
  await porch.signIn()
  const course = await partsOf('/courses/1')
  const clock = { now: expect.any(Number) as number, zone: expect.any(String) as string, backlog: 0, eventId: 0, mailId: 0 }
  expect(course.beginning).toEqual({ signedIn: true, clocks: { practice: clock } })
  expect(course.parts).toEqual(stranger.parts)
  for (const part of course.parts) expect([part, (await porch.fetch(part)).status]).toEqual([part, 200])
  // Each is named once, and what its first script imports is among them.
  expect(new Set(course.parts).size).toBe(course.parts.length)
  const imported = (part: string) =>
    [...readFileSync(join(folder, part), 'utf8').matchAll(/\bfrom"\.\/([\w-]+\.js)"/g)].map(([, name]) => `/_nuxt/${name}`)
  const scripts = course.parts.filter(part => part.endsWith('.js'))
  const [entry] = /\/_nuxt\/[\w-]+\.js/.exec(await (await porch.fetch('/')).text())!
  expect(scripts.flatMap(imported).filter(part => !scripts.includes(part) && part !== entry)).toEqual([])
  // What surrounds every screen comes with the first page, too, and not only once the first script asks for it.
  const shell = await (await porch.fetch('/courses/1', { headers: { cookie: porch.cookie } })).text()
  const named = [...new Set([...shell.matchAll(/href="(\/_nuxt\/[\w.-]+\.js)"/g)].map(([, href]) => href!))]
  expect(named.filter(part => readFileSync(join(folder, part), 'utf8').includes('To the page'))).toHaveLength(1)
  // The fonts of every screen are requested with the page, not after its first text.
  expect(shell.match(/<link rel="preload" as="font"/g)).toHaveLength(3)
  // A fixed address is not taken for one of the things that stand there, and what is large comes when it is opened.
  expect((await partsOf('/pages/sources')).parts).not.toEqual((await partsOf('/pages/1')).parts)
  const ofOffer = (await partsOf('/offers/1')).parts.filter(part => part.endsWith('.js'))
  const all = ofOffer.map(part => readFileSync(join(folder, part), 'utf8')).join('')
  expect([all.includes('ProseMirror'), all.length > 100_000]).toEqual([false, true])
})

it('no script imports itself by way of others: such scripts cannot start', () => {
  const names = readdirSync(join(folder, '_nuxt')).filter(name => name.endsWith('.js'))
  const imports = new Map(names.map(name => [name, [
    ...readFileSync(join(folder, '_nuxt', name), 'utf8').matchAll(/(?:\bfrom|\bimport)"\.\/([\w-]+\.js)"/g),
  ].map(([, imported]) => imported!)]))
  expect([...imports.values()].flat().length).toBeGreaterThan(names.length)
  const waits = new Set<string>()
  const ready = new Set<string>()
  const visit = (name: string) => {
    if (ready.has(name)) return
    expect([...waits]).not.toContain(name)
    waits.add(name)
    imports.get(name)?.forEach(visit)
    waits.delete(name)
    ready.add(name)
  }
  names.forEach(visit)
  expect(ready.size).toBe(names.length)
})
