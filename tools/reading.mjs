/**
 * Part of `npm run lint`: how easily each screen is read, by Flesch's reading ease (Flesch 1948), over all texts that the screen and the
 * parts it is made of have. 60 is plain English.
 */
import { existsSync, readFileSync } from 'node:fs'
import { dirname, join, normalize } from 'node:path'
import { fileURLToPath } from 'node:url'
import { flesch } from 'flesch'
import { syllable } from 'syllable'
import { allTexts } from './texts.mjs'
import { ROOT, main, say } from './say.mjs'

export const LEAST_EASE = 60
/** Below so many words a screen is not measured: one long word decides. */
export const LEAST_WORDS = 100

/** Screens that may be harder, each with its reason. */
const EXCEPTIONS = {}

/** What is put in stands for a name or a number, which is as short as a word can be. */
const plain = text => text.replaceAll('…', ' it ').replace(/[“”"()]/g, '')

const WORD = /\p{L}[\p{L}’'-]*/gu
/** Labels and buttons are a word or three, and would make any screen easy: what has fewer words is not counted. */
const LEAST_OF_A_TEXT = 6

/** `{ words, ease }` of some texts: each is a sentence at least. */
export function easeOf(texts) {
  let [words, sentences, syllables] = [0, 0, 0]
  for (const text of texts) {
    const own = plain(text).match(WORD) ?? []
    if (own.length < LEAST_OF_A_TEXT) continue
    words += own.length
    sentences += Math.max(1, plain(text).split(/[.!?:;](?:\s|$)/).filter(part => /\p{L}/u.test(part)).length)
    syllables += own.reduce((sum, word) => sum + Math.max(1, syllable(word)), 0)
  }
  return { words, ease: words === 0 ? 100 : flesch({ word: words, sentence: sentences, syllable: syllables }) }
}

/** The files of the application that a screen is made of, itself included, and nothing that it only asks of the server. */
function partsOf(file, seen = new Set()) {
  if (seen.has(file)) return seen
  seen.add(file)
  for (const [, from] of readFileSync(join(ROOT, file), 'utf8').matchAll(/(?:from|import\()\s*'([^']+)'/g)) {
    const path = from.startsWith('~/') ? `app/${from.slice(2)}` : from.startsWith('.') ? normalize(join(dirname(file), from)) : null
    const found = path && [path, `${path}.ts`, `${path}.vue`].find(one => /\.(ts|vue)$/.test(one) && existsSync(join(ROOT, one)))
    if (found) partsOf(found, seen)
  }
  return seen
}

/** Every screen with its words and its ease, the hardest first. */
export function easeOfScreens() {
  const texts = Map.groupBy ? Map.groupBy(allTexts(), ({ file }) => file) : new Map()
  if (texts.size === 0) for (const one of allTexts()) texts.set(one.file, [...texts.get(one.file) ?? [], one])
  return [...texts.keys()].filter(file => file.startsWith('app/pages/'))
    .map(screen => ({ screen, ...easeOf([...partsOf(screen)].flatMap(file => texts.get(file) ?? []).map(({ text }) => text)) }))
    .filter(({ words }) => words >= LEAST_WORDS).sort((a, b) => a.ease - b.ease)
}

export const tooHard = screens => screens.filter(({ screen, ease }) => ease < LEAST_EASE && !(screen in EXCEPTIONS))

if (process.argv[1] === fileURLToPath(import.meta.url)) {
  await main(() => {
    const screens = easeOfScreens()
    if (process.argv.includes('--all')) for (const { screen, words, ease } of screens) say(`${ease.toFixed(1)}  ${words} words  ${screen}`)
    const hard = tooHard(screens)
    for (const { screen, ease } of hard) say(`${screen} is hard to read: ${ease.toFixed(1)} of at least ${LEAST_EASE}.`)
    if (hard.length > 0) process.exitCode = 1
  })
}
