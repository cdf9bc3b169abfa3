import { mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { join, relative } from 'node:path'
import { tmpdir } from 'node:os'
import { afterAll, describe, expect, it } from 'vitest'
import { textsOf } from '../../tools/texts.mjs'
import { phrasesIn } from '../../tools/words.mjs'

const folder = mkdtempSync(join(tmpdir(), 'porch-texts-'))
afterAll(() => rmSync(folder, { recursive: true, force: true }))

function textsIn(name: string, source: string) {
  writeFileSync(join(folder, name), source)
  return textsOf(relative(join(import.meta.dirname, '../..'), join(folder, name))).map(({ line, text }) => `${line} ${text}`)
}

describe('the texts of a file', () => {
  it('are what a person reads, of a program', () => {
    expect(textsIn('a.ts', [
      `import { x } from 'some package'`, `const one = 'Two words'`, 'const two = `Three ${one ? "more words" : `of ${x} it`} here`',
      `const asked = prepare(db, 'SELECT id FROM people')`, `api('GET /courses/:id')`, `type Kind = 'not one' | 'of them'`,
    ].join('\n'))).toEqual(['2 Two words', '3 Three … here', '3 more words', '3 of … it'])
  })

  it('and of a component: what stands in it, its labels, and what is put in', () => {
    expect(textsIn('A.vue', [
      '<script setup lang="ts">', `const says = 'From the script'`, '</script>', '<template>',
      '  <p class="one two" :title="`${n} people of it`">Words over', '    two lines {{ n ? `and ${n} more` : "nothing else" }}</p>',
      '  <Button label="Save the rule" :class="`not this one`" @click="say(\'what it did\')" />', '</template>',
    ].join('\n'))).toEqual([
      '2 From the script', '5 … people of it', '5 Words over two lines', '6 and … more', '6 nothing else', '7 Save the rule',
      '7 what it did',
    ])
  })
})

it('phrases that may not come back are found, and their like is not', () => {
  expect(phrasesIn('This page is not there any more.').map(({ better }) => better)).toEqual(['no longer exists', 'no longer …'])
  expect(phrasesIn('Who buys it gets the tag.')).toHaveLength(1)
  expect(phrasesIn('People who buy it get the tag. This page no longer exists.')).toEqual([])
})
