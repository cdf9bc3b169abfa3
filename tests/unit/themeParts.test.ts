/** The controls of the screens, and the parts of their theme that are shipped. */
import { existsSync, readdirSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import { expect, it } from 'vitest'
import Aura from '../../app/theme/aura'

const root = join(import.meta.dirname, '../..')

const textsIn = (folder: string): string[] => readdirSync(folder, { recursive: true, encoding: 'utf8' })
  .filter(name => /\.(vue|ts)$/.test(name)).map(name => readFileSync(join(folder, name), 'utf8'))
const controlsIn = (text: string): string[] => [...text.matchAll(/(?:from |import\()['"]primevue\/([a-z]+)['"]/g)].map(([, name]) => name!)

/** What a control is made of, and what that is made of. */
function madeOf(name: string, known = new Set<string>()): Set<string> {
  const folder = join(root, 'node_modules/primevue', name)
  if (known.has(name) || !existsSync(folder)) return known
  known.add(name)
  for (const part of readdirSync(folder).filter(file => file.endsWith('.vue'))) {
    for (const inner of controlsIn(readFileSync(join(folder, part), 'utf8'))) madeOf(inner, known)
  }
  return known
}

it('every control that is used, and every one inside it, has its part of the theme; no other is shipped', () => {
  const used = new Set(textsIn(join(root, 'app')).flatMap(controlsIn).flatMap(name => [...madeOf(name)]))
  expect(used.size).toBeGreaterThan(20)
  const themed = [...used].filter(name => existsSync(join(root, 'node_modules/@primeuix/themes/dist/aura', name)))
  expect(Object.keys(Aura.components).sort()).toEqual(themed.sort())
  expect(Aura.css).toContain('.p-datatable')
})
