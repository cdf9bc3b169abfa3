/** ISO 4217, list one of the current codes, as its maintenance agency publishes it (shipped, as XML, by the package currency-codes). */
import { readFileSync } from 'node:fs'
import { createRequire } from 'node:module'
import { describe, expect, it } from 'vitest'
import { CURRENCIES, minorDigits } from '#core/money/money'

const XML = readFileSync(createRequire(import.meta.url).resolve('currency-codes/iso-4217-list-one.xml'), 'utf8')
const published = new Map([
  ...XML.matchAll(/<Ccy>([A-Z]{3})<\/Ccy>\s*<CcyNbr>\d+<\/CcyNbr>\s*<CcyMnrUnts>(\d|N\.A\.)<\/CcyMnrUnts>/g),
].map(([, code, digits]) => [code!, digits!]))

describe('minor units of currencies', () => {
  it('are those of ISO 4217 for each that we take', () => {
    expect(published.size).toBeGreaterThan(170)
    expect(CURRENCIES.length).toBeGreaterThan(150)
    for (const currency of CURRENCIES) expect(String(minorDigits(currency)), currency).toBe(published.get(currency))
  })

  it('differ where the standard says so', () => {
    expect(['EUR', 'USD', 'HUF', 'JPY', 'ISK', 'CLP', 'KWD', 'BHD', 'TND'].map(minorDigits)).toEqual([2, 2, 2, 0, 0, 0, 3, 3, 3])
  })
})
