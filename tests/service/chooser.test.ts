/** Answers that pick a page, give tags and set fields. */
import { describe, expect, it } from 'vitest'
import { toSql } from '#core/audience/sql'
import type { PageContent } from '#core/page/content'
import { newForm } from '#core/page/form'
import { answers } from '#core/page/templates/words'
import { newResultPage } from '#core/page/result'
import { peopleWhere } from '#data/audience'
import { fieldOfPerson } from '#data/fields'
import { emailsOfPerson } from '#data/outbox'
import { askAnew, confirmationView, confirm } from '#usecases/arrive/confirm'
import { optIn } from '#usecases/arrive/optIn'
import { publishPage, savePage } from '#usecases/arrive/pages'
import { momentOf } from '#usecases/inner/moment'
import { removeField, saveField } from '#usecases/know/fields'
import { saveTag } from '#usecases/know/listsAndTags'
import { InputProblem } from '#usecases/problem'
import { pageResults } from '#usecases/views/pageResults'
import { pageView } from '#usecases/views/pages'
import { subscriberView } from '#usecases/views/subscriber'
import { DAY, furnish, HOUR, moveTo, openContext, tag, thursdayNoon, type Setting } from './workshop'

interface Chooser extends Setting { levelId: number, cameId: number, copticId: number, answerId: number }

/** A page with two questions: how experienced, which sets a field, and what they would make, which picks the page. */
async function chooser(who: PageContent['confirming']['who'] = 'nobody'): Promise<Chooser> {
  const setting = await furnish(openContext())
  const { context, pageId } = setting
  const levelId = saveField(context, null, {
    name: 'level', label: 'Level', kind: 'choice', choices: ['new', 'old hand', 'came by the chooser'],
  })
  const cameId = saveField(context, null, { name: 'came', label: '', kind: 'text', choices: [] })
  const [copticId, answerId] = [saveTag(context, null, tag('fits: coptic')), saveTag(context, null, tag('answered: wet'))]
  const { name, slug, draft } = pageView(context, pageId)
  const [first, second] = answers(
    'Never sewn', 'Sewn often',
  ).map((answer, n) => ({ ...answer, fields: [{ fieldId: levelId, value: ['new', 'old hand'][n]! }] }))
  savePage(context, pageId, { name, slug, draft: {
    ...draft, confirming: { ...draft.confirming, who },
    fields: [{ fieldId: levelId, value: 'came by the chooser' }, { fieldId: cameId, value: 'chooser' }],
    form: { ...newForm(), asks: [
      { id: 'a1', kind: 'choice', label: 'Have you sewn paper?', required: false, many: false, options: [first!, second!] },
      {
        id: 'a2', kind: 'choice', label: 'What would you make?', required: true, many: false,
        options: answers(['Wet drawings', answerId], 'Words'),
      },
    ] },
    resultPages: [
      { ...newResultPage('r100001', { askId: 'a2', is: 'chosen', optionIds: ['o1'] }), name: 'Coptic', tagIds: [copticId] },
    ].map(page => ({ ...page, thanks: { ...page.thanks, headline: 'Coptic it is' } })),
  } })
  await publishPage(context, pageId)
  return { ...setting, levelId, cameId, copticId, answerId }
}

const answer = ({ context }: Setting, email: string, typed: Record<string, string[]>) =>
  optIn(context, { slug: 'sheet-kit', email, firstName: '', answers: typed, zone: '', ip: null })
const tagsOf = ({ context }: Setting, id: number) => subscriberView(context, id).tags.map(({ name }) => name).sort()

describe('a chooser', () => {
  it('gives the tags of the answers and of the page they led to, and sets fields: what was answered comes before what everybody gets', async () => {
    const setting = await chooser()
    const { context, levelId, cameId } = setting
    const [wet, words] = [
      answer(setting, 'wet@example.com', { a1: ['o2'], a2: ['o1'] }), answer(setting, 'words@example.com', { a2: ['o2'] }),
    ]
    expect([wet.resultId, words.resultId]).toEqual(['r100001', null])
    expect([tagsOf(setting, wet.personId), tagsOf(setting, words.personId)]).toEqual([
      ['answered: wet', 'fits: coptic', 'sheet kit'], ['sheet kit'],
    ])
    expect([wet, words].map(({ personId }) => [levelId, cameId].map(fieldId => fieldOfPerson(context.db, fieldId, personId)))).toEqual([
      ['old hand', 'chooser'], ['came by the chooser', 'chooser'],
    ])
  })

  it('keeps all that for the yes, and picks by the page whose button was pressed', async () => {
    const setting = await chooser('everybody')
    const { context, pageId } = setting
    const { personId, awaitsYes } = answer(setting, 'wet@example.com', { a1: ['o1'], a2: ['o1'] })
    await moveTo(context, thursdayNoon + HOUR)
    expect([awaitsYes, tagsOf(setting, personId)]).toEqual([true, []])
    const { name, slug, draft } = pageView(context, pageId)
    savePage(context, pageId, { name, slug, draft: { ...draft, resultPages: [] } })
    await publishPage(context, pageId)
    const [asking] = emailsOfPerson(context.db, personId).map(email => email.occasionId)
    expect(confirm(context, asking!)).toBe('counts')
    expect(confirmationView(context, asking!).cameTo).toEqual({ resultId: 'r100001', known: false })
    expect([tagsOf(setting, personId), fieldOfPerson(context.db, setting.levelId, personId)]).toEqual([
      ['answered: wet', 'fits: coptic', 'sheet kit'], 'new',
    ])
  })

  it('asked for anew after its time, goes by the page as it is then', async () => {
    const setting = await chooser('everybody')
    const { context, pageId, copticId } = setting
    const { personId } = answer(setting, 'words@example.com', { a2: ['o2'] })
    await moveTo(context, thursdayNoon + HOUR)
    const { name, slug, draft } = pageView(context, pageId)
    savePage(context, pageId, { name, slug, draft: { ...draft, resultPages: draft.resultPages.map(page => ({
      ...page, when: { kind: 'all', of: [{ askId: 'a2', is: 'not-chosen', optionIds: ['o1'] }] },
    })) } })
    await publishPage(context, pageId)
    await moveTo(context, thursdayNoon + 8 * DAY)
    askAnew(context, emailsOfPerson(context.db, personId).map(email => email.occasionId)[0]!)
    await moveTo(context, thursdayNoon + 8 * DAY + HOUR)
    const newest = emailsOfPerson(context.db, personId).find(email => email.kind === 'confirmation')!.occasionId
    expect([confirm(context, newest), confirmationView(context, newest).cameTo.resultId]).toEqual(['counts', 'r100001'])
    expect(subscriberView(context, personId).tags.map(({ id }) => id)).toContain(copticId)
  })

  it('is counted by where answers led, and each number is the people its condition finds', async () => {
    const setting = await chooser()
    const { context, pageId } = setting
    for (const [n, a2] of ['o1', 'o2', 'o1', 'o2', 'o2'].entries()) answer(setting, `p${n}@example.com`, { a2: [a2] })
    // Twice, to both pages: once with each.
    answer(setting, 'p0@example.com', { a2: ['o2'] })
    const { byResult, optIns } = pageResults(context, { id: pageId, days: 7 })
    expect([byResult, optIns]).toEqual([
      [{ resultId: 'r100001', name: 'Coptic', optIns: 2 }, { resultId: null, name: 'everyone else', optIns: 4 }], 5,
    ])
    const moment = momentOf(context.db, context.clock.now())
    for (const { resultId, optIns } of byResult) expect(
      peopleWhere(context.db, toSql({ kind: 'opted-in', pageId, within: null, resultId: resultId ?? 'none' }, moment)),
    ).toHaveLength(optIns)
    // A page that is taken out keeps its number.
    const { name, slug, draft } = pageView(context, pageId)
    savePage(context, pageId, { name, slug, draft: { ...draft, resultPages: [] } })
    await publishPage(context, pageId)
    expect(pageResults(context, { id: pageId, days: 7 }).byResult[0]).toEqual({
      resultId: 'r100001', name: 'a removed page', optIns: 2,
    })
  })

  it('keeps no field that is gone and no value that does not fit; a field it sets cannot be deleted under it', async () => {
    const setting = await chooser()
    const { context, pageId, levelId } = setting
    expect(() => removeField(context, levelId, 0)).toThrow(/the page “Sheet kit”/)
    const { name, slug, draft } = pageView(context, pageId)
    const save = (fields: PageContent['fields']) => () => savePage(context, pageId, { name, slug, draft: { ...draft, fields } })
    expect(save([{ fieldId: 999, value: 'x' }])).toThrow(InputProblem)
    expect(save([{ fieldId: levelId, value: 'a poet' }])).toThrow(/does not fit its field/)
    expect(save([{ fieldId: levelId, value: 3 }])).toThrow(/does not fit its field/)
    // A choice that nobody has may be taken out while pages set it: then it is not set.
    saveField(context, levelId, { name: 'level', label: 'Level', kind: 'choice', choices: ['new', 'came by the chooser'] })
    const { personId } = answer(setting, 'late@example.com', { a1: ['o2'], a2: ['o2'] })
    expect(fieldOfPerson(context.db, levelId, personId)).toBe(null)
  })
})
