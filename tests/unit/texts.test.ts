import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { join, relative } from 'node:path'
import { tmpdir } from 'node:os'
import { afterAll, describe, expect, it } from 'vitest'
import { GLOSSARY, glossaryDocument, type Entry } from '#core/glossary'
import { easeOf, easeOfScreens, tooHard } from '../../tools/reading.mjs'
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

describe('how easily screens are read', () => {
  it('is Flesch’s measure over whole texts: 206.835 − 1.015 words a sentence − 84.6 syllables a word (Flesch 1948)', () => {
    const { words, ease } = easeOf(['The cat sat on the mat.', 'Save', 'Save the rule'])
    expect([words, Math.round(ease * 1000) / 1000]).toEqual([6, 116.145])
    const hard = 'Notwithstanding considerable administrative complications, implementation necessitates collaboration.'
    expect(easeOf([hard]).ease)
      .toBeLessThan(0)
    expect(easeOf([]).ease).toBe(100)
  })

  it('is at least 60 for every screen with a hundred words, and a screen that is not is found', () => {
    const screens = easeOfScreens()
    expect(screens.length).toBeGreaterThan(20)
    expect(tooHard(screens)).toEqual([])
    expect(tooHard([{ screen: 'app/pages/hard.vue', words: 200, ease: 59.9 }])).toHaveLength(1)
  })
})

describe('the glossary', () => {
  it('is the document of the guide, word for word', () => {
    const document = readFileSync(join(import.meta.dirname, '../../docs/guide/words.md'), 'utf8')
    expect(document, 'write it anew: node tools/glossary.mjs').toBe(glossaryDocument())
  })

  it('says each word once, and short', () => {
    const entries = Object.values<Entry>(GLOSSARY)
    expect(new Set(entries.map(({ word }) => word)).size).toBe(entries.length)
    for (const { word, says, how = [] } of entries) {
      for (const text of [says, ...how]) expect(text.split(' ').length, `${word}: ${text}`).toBeLessThanOrEqual(32)
      expect(how.length, word).toBeLessThanOrEqual(3)
    }
  })
})
