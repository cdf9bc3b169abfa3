/** Where the screens lead to. */
import { readdirSync, readFileSync, statSync } from 'node:fs'
import { join } from 'node:path'
import { expect, it } from 'vitest'

const root = join(import.meta.dirname, '../..')
const filesOf = (folder: string): string[] => readdirSync(folder).flatMap((name) => {
  const path = join(folder, name)
  return statSync(path).isDirectory() ? filesOf(path) : /\.(ts|vue)$/.test(name) ? [path] : []
})

it('every address that a screen leads to begins with a screen there is', () => {
  const screens = new Set(readdirSync(join(root, 'app/pages')).map(name => name.replace(/\.vue$/, '').replace(/^index$/, '')))
  const led = ['app', 'core', 'usecases'].flatMap(room => filesOf(join(root, room))).flatMap(file =>
    [...readFileSync(file, 'utf8').matchAll(
      /(?:\bto(?:="|: |="`|=")|:to="[^"]*?|navigateTo\(\{? ?(?:path: )?|screen: |path: )['`]?\/([a-z-]*)(?=[/?'"`$])/g,
    )].map(([, name]) => name!))
  expect(led.length).toBeGreaterThan(80)
  expect([...new Set(led)].filter(name => !screens.has(name))).toEqual([])
})
