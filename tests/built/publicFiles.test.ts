import { readdirSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import { expect, it } from 'vitest'
import { ROOT } from './porch'

const folder = join(ROOT, '.output/public')
const files = readdirSync(folder, { recursive: true, encoding: 'utf8' }).filter(name => /\.(js|css|html|json|map)$/.test(name))

it('nothing of the server stands in the files that a browser gets', () => {
  expect(files.length).toBeGreaterThan(10)
  const signs = /\b(SELECT\s.+\sFROM|INSERT\s+INTO|CREATE\s+TABLE|PRAGMA|journal_mode)\b|better-sqlite3|node:(fs|crypto|net|path)|argon2|PORCH_PASSWORD|outbox_go/s
  expect(files.filter(name => signs.test(readFileSync(join(folder, name), 'utf8')))).toEqual([])
})

it('and nothing in them is fetched from elsewhere: fonts and icons ship with it', () => {
  const styles = files.filter(name => name.endsWith('.css')).map(name => readFileSync(join(folder, name), 'utf8')).join('\n')
  const wanted = [...styles.matchAll(/url\(["']?([^)"']+)/g)].map(([, target]) => target!).filter(target => !target.startsWith('data:'))
  expect(wanted.length).toBeGreaterThan(5)
  expect(wanted.filter(target => /^(https?:)?\/\//.test(target))).toEqual([])
})
