import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { confirmationTimes, nextOfConfirmation, outcomeOf } from '#core/page/confirm'
import { newPage } from '#core/page/content'
import { newForm, readAnswers, type PageForm } from '#core/page/form'
import { answers } from '#core/page/templates/words'
import { fileOfStep, stepOfFile } from '#core/page/promise'
import { freeSectionId, newSection, SECTION_KINDS } from '#core/page/section'
import { pageFrom } from '#core/page/stored'
import { paragraphs } from '#core/page/text'
import { oddVerdict } from '#core/people/oddAddress'

describe('a page stored before pages were made of sections', () => {
  const flat = {
    headline: 'Kit', text: paragraphs('Fold it.'), asksFirstName: true, firstNameRequired: true, buttonLabel: 'Send',
    consentWording: 'Letters.', listIds: [3], tagIds: [4], thanksHeadline: 'Thanks', thanksText: paragraphs('Look.'),
  }

  it('says, asks and gives what it did, and asks nobody to confirm', () => {
    const page = pageFrom(flat)
    expect(page.sections).toMatchObject([{ kind: 'headline', text: 'Kit' }, { kind: 'text', text: flat.text }, { kind: 'form' }])
    expect(page.form).toEqual({ firstName: 'must', asks: [], oneByOne: false, boxes: [], buttonLabel: 'Send', consentWording: 'Letters.' })
    expect([page.listIds, page.tagIds, page.thanks, page.confirming.who]).toEqual([
      [3], [4], { headline: 'Thanks', text: flat.thanksText, onward: [] }, 'nobody',
    ])
    expect(pageFrom({ ...flat, asksFirstName: false }).form.firstName).toBe('no')
  })

  it('and one of today is read as it is', () => {
    expect(pageFrom(JSON.parse(JSON.stringify(newPage('Kit'))))).toEqual(newPage('Kit'))
  })
})

describe('what a form sent', () => {
  const form: PageForm = {
    ...newForm(),
    asks: [
      { id: 'a1', kind: 'field', fieldId: 1, label: 'Books', required: true },
      { id: 'a2', kind: 'choice', label: 'One', required: true, many: false, options: answers(['x', 1], ['y', 2]) },
      { id: 'a3', kind: 'choice', label: 'Many', required: false, many: true, options: answers(['x', 3], ['y', 4, 5]) },
    ],
    boxes: [{ id: 'b1', wording: 'Letters', required: true, listIds: [7], tagIds: [8] }],
  }
  const read = (typed: Record<string, string[]>) => readAnswers(form, new Map([[1, { kind: 'number', choices: [] }]]), typed)

  it('gives the value, the tags and the lists of what was answered', () => {
    expect(read({ a1: ['3'], a2: ['o2'], a3: ['o1', 'o2'], b1: ['yes'] })).toEqual({ answered: {
      fields: [{ fieldId: 1, value: 3 }], chosen: { a2: ['o2'], a3: ['o1', 'o2'] }, tagIds: [2, 3, 4, 5, 8], listIds: [7],
      agreed: ['Letters'],
    }, problems: [] })
  })

  it.each<[string, Record<string, string[]>, string[]]>([
    ['nothing at all', {}, ['a1', 'a2', 'b1']],
    ['an answer that was not offered', { a1: ['3'], a2: ['o9'], b1: ['yes'] }, ['a2']],
    ['words for a number', { a1: ['three'], a2: ['o1'], b1: ['yes'] }, ['a1']],
    ['a box with another value', { a1: ['3'], a2: ['o1'], b1: ['no'] }, ['b1']],
  ])('%s is told beside what asked', (_, typed, fields) => {
    expect(read(typed).problems.map(({ field }) => field)).toEqual(fields)
  })

  it('gives one of two answers where one is asked, and nothing for a field that is gone', () => {
    expect(read({ a1: ['3'], a2: ['o1', 'o2'], b1: ['yes'] }).answered.tagIds).toEqual([1, 8])
    expect(readAnswers(form, new Map(), { a1: ['3'], a2: ['o1'], b1: ['yes'] })).toMatchObject({ answered: { fields: [] }, problems: [] })
  })
})

describe('an asking', () => {
  it('is reminded before it ends or not at all, and its yes counts to its last moment', () => {
    fc.assert(fc.property(fc.nat(2e12), fc.integer({
      min: 1, max: 60,
    }), fc.option(fc.integer({ min: 1, max: 720 })), (now, withinDays, afterHours) => {
      const times = confirmationTimes({ withinDays, reminder: afterHours === null ? null : { subject: [], afterHours } }, now)
      expect(times.expiresAt - now).toBe(withinDays * 86_400_000)
      if (times.remindAt !== null) expect([times.remindAt > now, times.remindAt < times.expiresAt]).toEqual([true, true])
      expect(nextOfConfirmation({ ...times, remindAt: null })).toBeGreaterThan(times.expiresAt)
      const waiting = { state: 'waiting' as const, expiresAt: times.expiresAt }
      expect([outcomeOf(waiting, times.expiresAt), outcomeOf(waiting, times.expiresAt + 1)]).toEqual(['counts', 'too-late'])
    }))
  })
})

it('an odd address meets the stricter of two words', () => {
  const verdict = (role: 'take' | 'warn' | 'refuse', throwaway: 'take' | 'warn' | 'refuse') =>
    oddVerdict('info@gone.example', { role, throwaway }, true)?.way ?? 'take'
  expect([
    verdict('take', 'take'), verdict('warn', 'take'), verdict('take', 'warn'), verdict('refuse', 'warn'), verdict('warn', 'refuse'),
  ]).toEqual(['take', 'warn', 'warn', 'refuse', 'refuse'])
  expect(oddVerdict('ada@example.com', { role: 'refuse', throwaway: 'refuse' }, false)).toBeNull()
})

it('a step stands for its file and for no other; a new section has a name of its own', () => {
  fc.assert(fc.property(fc.integer({ min: 1 }), (id) => {
    expect(fileOfStep(stepOfFile(id))).toBe(id)
  }))
  for (const odd of ['file-', 'file-0', 'file-1x', 'one']) expect(() => fileOfStep(odd)).toThrow(/brings no file/)
  const sections = SECTION_KINDS.map((kind, n) => newSection(kind, `s${n + 2}`))
  expect(sections.map(({ id }) => id)).not.toContain(freeSectionId(sections))
})
