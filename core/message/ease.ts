/** How easily an English text is read. */
import { flesch } from 'flesch'
import { syllable } from 'syllable'

/** Below so many words one long word decides. */
const LEAST_WORDS = 100
const WORD = /\p{L}[\p{L}’'-]*/gu

/** Flesch's reading ease (1948): 60 is plain English, 100 very easy. Null where a text has too few words to say it. */
export function easeOf(text: string): number | null {
  const words = text.match(WORD) ?? []
  if (words.length < LEAST_WORDS) return null
  const sentences = text.split(/[.!?:;](?:\s|$)|\n/).filter(part => /\p{L}/u.test(part)).length
  return flesch({ word: words.length, sentence: sentences, syllable: words.reduce((sum, word) => sum + Math.max(1, syllable(word)), 0) })
}
