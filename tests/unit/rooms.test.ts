import { readdirSync, readFileSync, statSync } from 'node:fs'
import { dirname, join, relative, resolve } from 'node:path'
import { describe, expect, it } from 'vitest'
import { SEND_KINDS } from '#core/sending/kinds'

const root = join(import.meta.dirname, '../..')

/** Who may import whom: the table of the design, section 3. The engine's entry alone may import runtime. */
const MAY_IMPORT: Record<string, string[]> = {
  core: [],
  data: ['core'],
  usecases: ['core', 'data'],
  adapters: ['core'],
  standins: ['core'],
  runtime: ['core', 'data', 'adapters', 'standins'],
  engine: ['core', 'data', 'usecases'],
  server: ['core', 'usecases', 'runtime'],
  app: ['core'],
  demo: ['core', 'usecases', 'runtime'],
}
const EXCEPTIONS: Record<string, string[]> = { 'engine/main.ts': ['runtime'] }

/** Small and pure. */
const PACKAGES_OF_CORE = [
  'currency-codes', 'd3', 'dequal', 'diff', 'flesch', 'i18n-iso-countries/langs/en.json', 'luxon', 'markdown-it',
  'markdown-it/lib/token.mjs', 'papaparse', 'syllable', 'tldts', 'yaml',
]

function filesOf(folder: string): string[] {
  return readdirSync(folder).flatMap((name) => {
    const path = join(folder, name)
    return statSync(path).isDirectory() ? filesOf(path) : /\.(ts|vue)$/.test(name) ? [path] : []
  })
}

const importsOf = (text: string) => [...text.matchAll(/(?:\bfrom\s+|\bimport\s+|\bimport\(\s*)'([^']+)'/g)].map(([, target]) => target!)

/** The room that an import leads to; null for a package. */
function roomOf(file: string, target: string): string | null {
  if (target.startsWith('.')) return relative(root, resolve(dirname(file), target)).split('/')[0]!
  if (target.startsWith('~/')) return 'app'
  const alias = /^#(\w+)\//.exec(target)?.[1]
  return alias && alias in MAY_IMPORT ? alias : null
}

describe.each(Object.keys(MAY_IMPORT))('the room %s', (room) => {
  const files = filesOf(join(root, room))

  it('imports only from the rooms it may', () => {
    expect(files.length).toBeGreaterThan(0)
    const trespasses = files.flatMap((file) => {
      const name = relative(root, file)
      const allowed = [room, ...MAY_IMPORT[room]!, ...EXCEPTIONS[name] ?? []]
      return importsOf(readFileSync(file, 'utf8'))
        .map(target => ({ target, to: roomOf(file, target) }))
        .filter(({ to, target }) => to !== null && !allowed.includes(to) && !target.endsWith('package.json'))
        .map(({ target }) => `${name} imports ${target}`)
    })
    expect(trespasses).toEqual([])
  })
})

it('finds a trespass where there is one', () => {
  expect(importsOf(`import type { A } from '#data/people'\nconst b = await import('../server/http')`)).toEqual([
    '#data/people', '../server/http',
  ])
  expect(roomOf(join(root, 'app/pages/index.vue'), '../../data/people')).toBe('data')
  expect(roomOf(join(root, 'core/events.ts'), '#data/people')).toBe('data')
})

it('core uses small pure packages only, and no Node modules', () => {
  const foreign = filesOf(join(root, 'core')).flatMap(file => importsOf(readFileSync(file, 'utf8')))
    .filter(target => !target.startsWith('.') && !target.startsWith('#core/') && !PACKAGES_OF_CORE.includes(target))
  expect(foreign).toEqual([])
})

it('SQL stands in data/ only, and where the meanings of a condition stand side by side', () => {
  const statements = /\b(SELECT\s.+\sFROM|INSERT\s+(OR \w+ )?INTO|UPDATE\s+\w+\s+SET|DELETE\s+FROM)\b/s
  const elsewhere = Object.keys(MAY_IMPORT).filter(room => room !== 'data').flatMap(room => filesOf(join(root, room)))
    .filter(file => statements.test(readFileSync(file, 'utf8'))).map(file => relative(root, file))
  expect(elsewhere.sort()).toEqual(['core/audience/sql.ts', 'core/audience/then.ts'])
})

describe('the kinds of send', () => {
  const names = Object.keys(SEND_KINDS)
  /** Lists of two or more of them: as an array, as alternatives of a type, as keys of a record, or as a list in SQL. */
  const listed = (text: string): string[] => {
    const found = [...text.matchAll(/(?:'[a-z-]+'\s*[,|]\s*)+'[a-z-]+'/g)].map(([all]) => all.match(/[a-z-]+/g)!)
    const compared = [
      ...text.matchAll(/(?:kind (?:===|!==|<>|=) '[a-z-]+'\s*(?:\|\||&&|AND|OR)\s*[\w.]*)+kind (?:===|!==|<>|=) '[a-z-]+'/g),
    ].map(([all]) => [...all.matchAll(/'([a-z-]+)'/g)].map(one => one[1]!))
    return [...found, ...compared].filter(list => list.length > 1 && list.every(name => names.includes(name))).map(list => list.join(', '))
  }

  it('are listed in their registry, and nowhere else', () => {
    expect(listed(`kind IN ('course', 'rule')`)).toEqual(['course, rule'])
    expect(listed(`row.kind !== 'course' && row.kind !== 'rule'`)).toEqual(['course, rule'])
    const found = Object.keys(MAY_IMPORT).flatMap(room => filesOf(join(root, room)))
      .filter(file => !/core\/sending\/kinds\.ts$|data\/migrations\//.test(file))
      .flatMap(file => listed(readFileSync(file, 'utf8')).map(list => `${relative(root, file)}: ${list}`))
    expect(found).toEqual([])
  })
})
