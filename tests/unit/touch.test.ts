import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { NO_TOUCH, readTouch, sayTouch, touchOf, writeTouch, type Touch } from '#core/page/touch'

const nobody = () => undefined

describe('what brought a visitor', () => {
  it('is what the address says, and the site the browser came from', () => {
    expect(touchOf({
      utm_source: 'Guild Letter', utm_medium: 'EMAIL', utm_campaign: ' autumn \n2026 ', from: 'flyer',
    }, 'https://www.papercraft.example.org/post?id=7#top', 'porch.example.com'))
      .toEqual({
        ...NO_TOUCH, named: 'flyer', source: 'guild letter', medium: 'email', campaign: 'autumn 2026', referrer: 'papercraft.example.org',
      })
  })

  it.each<[string, string | null]>([['nothing', null], ['an empty word', ''], [
    'no address', 'not a url',
  ], ['our own page', 'https://porch.example.com/p/kit'], ['a program', 'android-app://org.example.reader'], [
    'a script', 'javascript:alert(1)',
  ]])('is nothing where the browser says %s', (_what, referrer) => {
    expect(touchOf({}, referrer, 'porch.example.com')).toEqual(NO_TOUCH)
  })

  it('given twice, or as something else than a word, it counts as not said', () => {
    expect(touchOf({ utm_source: ['a', 'b'], utm_medium: { x: 1 }, from: 7 }, null, 'x')).toEqual(NO_TOUCH)
  })

  it('whatever is typed into an address comes out as one short line, and goes through a form unchanged', () => {
    fc.assert(fc.property(fc.record(Object.fromEntries([
      'from', 'utm_source', 'utm_medium', 'utm_campaign', 'utm_term', 'utm_content',
    ].map(key => [
      key, fc.oneof(fc.string({ unit: 'binary', maxLength: 20 }), fc.string({ unit: 'binary', minLength: 70, maxLength: 200 })),
    ]))), (query) => {
      const touch = touchOf(query, null, 'x')
      for (const part of Object.values(touch)) expect(part).toMatch(/^[^\p{C}]{0,80}$/u)
      expect(readTouch(writeTouch(touch))).toEqual(touch)
    }), { numRuns: 500 })
  })

  it.each<[Partial<Touch>, string]>([
    [{}, 'unknown'], [{ referrer: 'forum.example.net' }, 'the site forum.example.net'],
    [{ source: 'letter', campaign: 'autumn', referrer: 'mail.example.com' }, 'letter / autumn'],
    [{ named: 'flyer', source: 'letter' }, '“Workshop flyer”'], [{ named: 'unknown' }, '“unknown”'],
  ])('%j is said as %s', (touch, words) => {
    expect(sayTouch({ ...NO_TOUCH, ...touch }, slug => slug === 'flyer' ? 'Workshop flyer' : nobody())).toBe(words)
  })
})
