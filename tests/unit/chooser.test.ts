/** Answers that pick a page. */
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { fieldsOf, giftsOf, missingForPublishing, newPage, type PageContent } from '#core/page/content'
import { newForm, readAnswers, type Ask, type Typed } from '#core/page/form'
import { formHtml } from '#core/page/formHtml'
import { noMark, editMark } from '#core/page/editing'
import { answers } from '#core/page/templates/words'
import { newResultPage, neverPicked, pickResult, type AnswerTest, type ResultPage } from '#core/page/result'
import { endingOf, redirectsOf } from '#core/page/cameTo'
import { pageFrom } from '#core/page/stored'
import { NO_TOUCH } from '#core/page/touch'

const TODAY = '2026-11-26'
const one = (id: string, required = true): Ask => ({
  id, kind: 'choice', label: `Question ${id}`, required, many: false, options: answers('x', 'y', 'z'),
})
const several = (id: string): Ask => ({
  id, kind: 'choice', label: `Question ${id}`, required: false, many: true, options: answers('x', 'y', 'z'),
})
const books: Ask = { id: 'a9', kind: 'field', fieldId: 7, label: 'Books', required: false }
const chosen = (askId: string, ...optionIds: string[]): AnswerTest => ({ askId, is: 'chosen', optionIds })
const not = (askId: string, ...optionIds: string[]): AnswerTest => ({ askId, is: 'not-chosen', optionIds })
const atLeast = (number: number): AnswerTest => ({ askId: 'a9', is: 'field', test: { is: 'number', sign: '>=', number } })
const page = (id: string, kind: 'all' | 'any', ...of: AnswerTest[]): ResultPage => ({
  ...newResultPage(id, null), name: id, when: { kind, of },
})

const pick = (pages: ResultPage[], asks: Ask[], typed: Typed) =>
  pickResult(pages, asks, readAnswers({ ...newForm(), asks }, new Map([[7, { kind: 'number', choices: [] }]]), typed).answered, TODAY)?.id
    ?? null

describe('the page that answers pick', () => {
  const asks = [one('a1'), several('a2'), books]
  const pages = [
    page('r1', 'all', chosen('a1', 'o1'), atLeast(5)), page('r2', 'any', chosen('a1', 'o2', 'o3'), chosen('a2', 'o3')),
    page('r3', 'all', not('a2', 'o1', 'o2')),
  ]

  it.each<[Typed, string | null]>([
    [{ a1: ['o1'], a9: ['5'] }, 'r1'],
    [{ a1: ['o1'], a9: ['4'] }, 'r3'],
    [{ a1: ['o1'] }, 'r3'],
    [{ a1: ['o3'], a9: ['5'] }, 'r2'],
    [{ a1: ['o1'], a2: ['o1', 'o3'] }, 'r2'],
    [{ a1: ['o1'], a2: ['o1'] }, null],
    [{ a1: ['o1'], a2: ['o1'], a9: ['many'] }, null],
    // What was not offered is no answer, and one answer is one.
    [{ a1: ['o9'], a2: ['o1'] }, null],
    [{ a1: ['o1', 'o2'], a2: ['o1'] }, null],
    [{}, 'r3'],
  ])('for %j is %s', (typed, id) => expect(pick(pages, asks, typed)).toBe(id))

  it('is none where a page asks nothing, or asks about what is not asked', () => {
    expect(pick([page('r1', 'all'), page('r2', 'any')], asks, { a1: ['o1'] })).toBe(null)
    expect(pick([page('r1', 'all', chosen('a7', 'o1'))], asks, { a1: ['o1'] })).toBe(null)
  })

  const anyTest = fc.oneof(
    fc.record({
      askId: fc.constantFrom('a1', 'a2'), is: fc.constantFrom('chosen' as const, 'not-chosen' as const),
      optionIds: fc.uniqueArray(fc.constantFrom('o1', 'o2', 'o3'), { minLength: 1 }),
    }),
    fc.integer({ min: 0, max: 3 }).map(atLeast))
  const anyPages = fc.array(
    fc.record({ kind: fc.constantFrom('all' as const, 'any' as const), of: fc.array(anyTest, { minLength: 1, maxLength: 3 }) }),
    { maxLength: 4 },
  ).map(list => list.map(({ kind, of }, n) => page(`r${n}`, kind, ...of)))
  const anyAnswers = fc.record({
    a1: fc.constantFrom('o1', 'o2', 'o3').map(id => [id]), a2: fc.uniqueArray(fc.constantFrom('o1', 'o2', 'o3')),
    a9: fc.option(fc.integer({ min: 0, max: 4 }).map(n => [String(n)]), { nil: [] }),
  })

  it('is always the first whose condition is true, and never one that is said to be out of reach', () => {
    fc.assert(fc.property(anyPages, anyAnswers, (pages, typed) => {
      const id = pick(pages, asks, typed)
      // Alone, an earlier page would not have been picked; the picked one would.
      for (const other of pages) {
        const alone = pick([other], asks, typed) !== null
        if (other.id === id) {
          expect(alone).toBe(true)
          break
        }
        expect(alone).toBe(false)
      }
      expect(neverPicked(pages, asks)).not.toContain(id)
    }))
  })

  it('can be reached by some answer wherever it is not said to be out of reach', () => {
    const three = ['o1', 'o2', 'o3']
    const subsets = Array.from({ length: 8 }, (_, bits) => three.filter((_, n) => bits & 1 << n))
    fc.assert(fc.property(anyPages.map(pages => pages.map(page => ({
      ...page, when: { ...page.when, of: page.when.of.filter(test => test.is !== 'field') },
    })).filter(page => page.when.of.length > 0)), (pages) => {
      const reached = new Set(three.flatMap(a1 => subsets.map(a2 => pick(pages, asks, { a1: [a1], a2 }))))
      expect(new Set(neverPicked(pages, asks))).toEqual(new Set(pages.map(({ id }) => id).filter(id => !reached.has(id))))
    }))
  })

  it('gives up on more ways to answer than anybody waits for', () => {
    const many: Ask = { ...several('a1'), options: answers(...'abcdefghijklmnopqrst'.split('')) } as Ask
    expect(neverPicked([page('r1', 'all', chosen('a1', 'o1'))], [many])).toBe(null)
  })
})

describe('a page with result pages', () => {
  const told: PageContent = {
    ...newPage('Which?'), listIds: [1], fields: [{ fieldId: 3, value: 'chooser' }],
    form: { ...newForm(), oneByOne: true, asks: [
      one('a1'),
      { ...one('a2'), options: answers('x', 'y').map(option => ({ ...option, fields: [{ fieldId: 4, value: option.label }] })) } as Ask,
    ] },
    resultPages: [{
      ...page('r1', 'all', chosen('a1', 'o1')), thanks: { ...newPage().thanks, headline: 'One' },
    }, { ...page('r2', 'all', chosen('a2', 'o1')), redirectUrl: 'https://shop.example.com/two' }],
  }
  const missing = (change: Partial<PageContent>) =>
    missingForPublishing({ ...told, ...change }).map(({ field, problem }) => `${field}: ${problem}`)
  const [first, second] = told.resultPages as [ResultPage, ResultPage]

  it('wants of each a condition that can be true, and somewhere to come to', () => {
    expect(missing({})).toEqual([])
    expect(missing({ resultPages: [{ ...first, when: { kind: 'all', of: [] } }] })).toEqual([
      expect.stringMatching(/^r1: .*needs a condition/),
    ])
    expect(missing({ resultPages: [{ ...first, when: { kind: 'all', of: [chosen('a1')] } }] })).toEqual([
      expect.stringMatching(/^r1: .*needs a condition/),
    ])
    for (const gone of [chosen('a7', 'o1'), chosen('a1', 'o9'), atLeast(1)]) expect(
      missing({ resultPages: [{ ...first, when: { kind: 'any', of: [gone] } }] }),
    ).toEqual([expect.stringMatching(/no longer offers/)])
    expect(missing({ resultPages: [first, { ...second, when: first.when }] })).toEqual([expect.stringMatching(/^r2: Nobody can reach/)])
    expect(missing({ resultPages: [{ ...first, thanks: { ...first.thanks, headline: ' ' } }] })).toEqual([
      expect.stringMatching(/^r1: .*headline/),
    ])
    expect(missing({ resultPages: [{ ...second, redirectUrl: 'javascript:alert(1)' }] })).toEqual([expect.stringMatching(/^r2: .*https/)])
  })

  it('ends with the result, else with the words for who is known, else with those for everybody', () => {
    const forKnown = { tagIds: [], thanks: { ...newPage().thanks, headline: 'Welcome back' } }
    const headline = (resultId: string | null, known: boolean) => endingOf({ ...told, forKnown }, { resultId, known }).thanks.headline
    expect([headline('r1', true), headline('r1', false), headline(null, true), headline(null, false), headline('r9', true)]).toEqual([
      'One', 'One', 'Welcome back', 'Thank you', 'Welcome back',
    ])
    expect(endingOf(told, { resultId: 'r2', known: false }).redirectUrl).toBe('https://shop.example.com/two')
    expect(redirectsOf({ ...told, redirectUrl: 'https://a.example.com' })).toEqual([
      'https://a.example.com', 'https://shop.example.com/two',
    ])
  })

  it('says which fields it asks for and sets', () => {
    expect(fieldsOf({ ...told, form: { ...told.form, asks: [...told.form.asks, books] } })).toEqual([3, 4, 7])
    expect(giftsOf(told)).toEqual([{ fieldId: 3, value: 'chooser' }, { fieldId: 4, value: 'x' }, { fieldId: 4, value: 'y' }])
  })

  it('is read from before there were any', () => {
    const { fields: _, resultPages: __, ...before } = told
    const { oneByOne: ___, ...form } = before.form
    const asks = form.asks.map(ask =>
      ask.kind === 'choice' ? { ...ask, options: ask.options.map(({ id, label, tagIds }) => ({ id, label, tagIds })) } : ask)
    const read = pageFrom(JSON.parse(JSON.stringify({ ...before, form: { ...form, asks } })))
    expect([read.fields, read.resultPages, read.form.oneByOne, giftsOf(read)]).toEqual([[], [], false, []])
  })

  it('shows its questions before the address where they come one by one; on the canvas all of them together', () => {
    const view = { fields: new Map(), action: '/p/x', touch: NO_TOUCH }
    const turned = formHtml({ ...view, form: told.form, mark: noMark }).source
    expect(turned.match(/class="turn"/g)).toHaveLength(3)
    expect(turned.indexOf('Question a2')).toBeLessThan(turned.indexOf('name="email"'))
    expect(formHtml({ ...view, form: told.form, mark: editMark }).source).not.toContain('class="turn"')
    const plain = formHtml({ ...view, form: { ...told.form, oneByOne: false }, mark: noMark }).source
    expect([plain.includes('turn'), plain.indexOf('Question a2') > plain.indexOf('name="email"')]).toEqual([false, true])
  })
})
