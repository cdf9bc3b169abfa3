/** What is only for some: right for everybody, at the moment the email leaves; kept as they got it, and gone with them. */
import { describe, expect, it } from 'vitest'
import type { Condition } from '#core/audience/condition'
import { holds } from '#core/audience/meaning'
import type { MessageContent, OnlyForNode } from '#core/message/content'
import { lazyFacts } from '#data/audience'
import { emailsOfPerson } from '#data/outbox'
import type { WorkspaceContext } from '#usecases/context'
import { saveCourse } from '#usecases/courses/save'
import { momentOf } from '#usecases/inner/moment'
import { correctPerson, giveTagByHand, takeTagByHand } from '#usecases/know/byHand'
import { erasePerson } from '#usecases/know/erase'
import { saveField } from '#usecases/know/fields'
import { saveTag } from '#usecases/know/listsAndTags'
import { InputProblem } from '#usecases/problem'
import { previewEmail } from '#usecases/sending/previewEmail'
import { play } from '#usecases/time/play'
import { emailVersions } from '#usecases/views/emailVersions'
import { sentEmail } from '#usecases/views/sentEmail'
import { DAY, email, furnish, listeningCarrier, openContext, step, tag, thursdayNoon, visit, type Workshop } from './workshop'

const says = (text: string) => ({ type: 'paragraph' as const, content: [{ type: 'text' as const, text }] })
const tagged = (tagId: number): Condition => ({ kind: 'all', of: [{ kind: 'tag', tagId, since: null }] })
const some = (cases: [who: Condition | null, text: string][]): OnlyForNode => ({
  type: 'onlyFor', attrs: { id: 'v' }, content: cases.map(([who, text]) => ({ type: 'case', attrs: { who }, content: [says(text)] })),
})
const body = (...content: MessageContent['body']['content']): Partial<MessageContent> => ({ body: { type: 'doc', content } })

/** A running course whose second email, a day later, has versions by two tags. */
async function twoTags(more: (ids: { one: number, other: number }) => Partial<MessageContent> = () => ({})) {
  const carrier = listeningCarrier()
  const context = openContext({ carrier, clock: { at: thursdayNoon } })
  const ids = { one: saveTag(context, null, tag('one')), other: saveTag(context, null, tag('other')) }
  const second = email('two', {
    ...body(
      says('Before.'), some([[tagged(ids.one), 'For one.'], [tagged(ids.other), 'For other.'], [null, 'For the rest.']]), says('After.')
    ),
    subjectFor: [{ who: tagged(ids.other), subject: [{ type: 'text', text: 'Other, look' }] }],
    ...more(ids),
  })
  const setting = await furnish(context, () => [
    step('one', { kind: 'at-once' }), step('two', { kind: 'elapsed', count: 1, unit: 'days', from: 'previous' }, second),
  ])
  return { ...setting, ...ids, carrier, second }
}
const later = async (context: Workshop) => {
  await play(context, thursdayNoon)
  await play(context, thursdayNoon + DAY)
}
const idOfSecond = (context: Workshop, personId: number) => emailsOfPerson(context.db, personId).find(({ itemId }) => itemId === 'two')!.id

describe('what is only for some', () => {
  it('is right for a thousand people against the condition in memory, with what stands in its places', async () => {
    const carrier = listeningCarrier()
    const context = openContext({ carrier, clock: { at: thursdayNoon } })
    const [one, other] = [saveTag(context, null, tag('one')), saveTag(context, null, tag('other'))]
    const townId = saveField(context, null, { name: 'town', label: '', kind: 'text', choices: [] })
    const both: Condition = { kind: 'all', of: [tagged(one), tagged(other)] }
    const inTown: Condition = { kind: 'all', of: [{ kind: 'field', fieldId: townId, test: { is: 'known' } }] }
    const cases: [Condition | null, string][] = [[both, 'BOTH'], [inTown, 'TOWN '], [tagged(one), 'ONE']]
    const block = some(cases)
    block.content[1]!.content = [{ type: 'paragraph', content: [{ type: 'text', text: 'TOWN ' }, {
      type: 'placeholder', attrs: { field: 'own', fieldId: townId, label: 'town', fallback: 'nowhere', as: 'first-large' },
    }] }]
    await furnish(context, () => [step('one', { kind: 'at-once' }, email('x', {
      ...body(says('Always.'), block), subject: [{ type: 'text', text: 'Plain' }],
      subjectFor: [{ who: tagged(other), subject: [{ type: 'text', text: 'Other' }] }],
    }))])
    // Of a thousand by a fixed rule: every mixture of two tags and a field occurs.
    for (let n = 0; n < 1000; n++) {
      const id = visit(context, `reader${n}@example.com`)
      if (n % 2 === 0) giveTagByHand(context, id, one)
      if (n % 3 === 0) giveTagByHand(context, id, other)
      if (n % 5 < 2) context.db.prepare('INSERT INTO field_values (field_id, person_id, value) VALUES (?, ?, ?)').run(
        townId, id, `évora ${n}`
      )
    }
    for (let turn = 0; turn < 60 && carrier.mails.length < 1000; turn++) await play(context, thursdayNoon)
    expect(carrier.mails).toHaveLength(1000)
    const ids = new Map((context.db.prepare('SELECT id, address FROM people').all() as { id: number, address: string }[])
      .map(({ id, address }) => [address, id]))
    const moment = momentOf(context.db, thursdayNoon)
    const seen = new Map<string, number>()
    for (const { to, subject, text, html } of carrier.mails) {
      const facts = lazyFacts(context.db, ids.get(to.address)!)!
      const n = to.address.match(/\d+/)![0]
      const fits = cases.find(([who]) => holds(who!, facts, moment))?.[1] ?? ''
      const wanted = fits === 'TOWN ' ? `TOWN Évora ${n}` : fits
      expect(text.startsWith(`Always.\n\n${wanted === '' ? '-- ' : `${wanted}\n\n-- `}`), `${to.address}: ${text}`).toBe(true)
      for (const [, word] of cases) expect(html.includes(word), to.address).toBe(word === fits)
      expect(subject).toBe(holds(tagged(other), facts, moment) ? 'Other' : 'Plain')
      seen.set(fits, (seen.get(fits) ?? 0) + 1)
    }
    expect([...seen.keys()].sort()).toEqual(['', 'BOTH', 'ONE', 'TOWN '])
    // The same numbers as were told before.
    const versions = emailVersions(context, {
      content: email('x', body(block)), listId: null, kind: 'course', ownerId: null, stepId: null,
    })
    expect([...versions.choices[0]!.cases.map(({ people }) => people), versions.choices[0]!.none])
      .toEqual(['BOTH', 'TOWN ', 'ONE', ''].map(word => seen.get(word)))
  })

  it('is decided at the moment the email leaves, not when it was planned or made', async () => {
    const { context, carrier, one } = await twoTags()
    const id = visit(context, 'ada@example.com')
    await play(context, thursdayNoon)
    const { compose } = context.composer
    let made = 0
    context.composer.compose = async (mail, filled) => {
      // Just after it was made, before the last look.
      if (++made === 1) giveTagByHand(context, id, one)
      return compose(mail, filled)
    }
    await later(context)
    expect(made).toBe(2)
    expect(carrier.mails.map(({ text }) => text.includes('For one.'))).toEqual([false, true])
    expect(carrier.mails).toHaveLength(2)
  })

  it('can be shown again as they got it, whatever has changed since, and goes when they are erased', async () => {
    const { context, carrier, one, courseId, listId, tagId } = await twoTags(() => ({
      preview: [{ type: 'placeholder', attrs: { field: 'first_name', fallback: 'you' } }],
    }))
    const id = visit(context, 'ada@example.com', 'Ada')
    giveTagByHand(context, id, one)
    await later(context)
    const got = carrier.mails[1]!
    takeTagByHand(context, id, one)
    correctPerson(context, id, { firstName: 'Somebody else', zone: null, country: null, tags: [], fields: [] } as never)
    saveCourse(context, courseId, 'Other words', { listId, wayInTagIds: [tagId], again: 'after-ending', steps: [
      step('one', { kind: 'at-once' }), step('two', { kind: 'elapsed', count: 1, unit: 'days', from: 'previous' }, email('changed')),
    ] })
    const shown = sentEmail(context, idOfSecond(context, id))
    const words = (text: string) => text.replace(/https?:\S+|#(?=\s)/g, '')
    expect([shown.subject, words(shown.text)]).toEqual([got.subject, words(got.text)])
    expect(shown).toMatchObject({ isKept: true, got: ['Is not among people tagged “other”.', 'Is among people tagged “one”.'] })
    expect(shown.html).toContain('Ada')
    erasePerson(context, id)
    expect(context.db.prepare('SELECT count(*) FROM filled_emails').pluck().get()).toBe(0)
    const after = sentEmail(context, idOfSecond(context, id))
    expect(after.isKept).toBe(false)
    expect(JSON.stringify(after)).not.toContain('Ada')
    expect(() => sentEmail(context, 999)).toThrow('This email was not sent.')
  })

  it('says who would get what: those who wait for it, one reader of each version, and why', async () => {
    const { context, one, other, second, courseId, listId } = await twoTags()
    const ids = ['a', 'b', 'c', 'd'].map(name => visit(context, `${name}@example.com`))
    giveTagByHand(context, ids[0]!, one)
    giveTagByHand(context, ids[1]!, other)
    await play(context, thursdayNoon)
    const asked = { content: second, listId, kind: 'course' as const, ownerId: courseId }
    const versions = emailVersions(context, { ...asked, stepId: 'two' })
    expect(versions).toMatchObject({ whom: 'who get it next', people: 4, different: 3 })
    expect(versions.choices).toEqual([
      { key: 'subject', blockId: null, none: 0, cases: [{ says: 'tagged “other”', people: 1 }, { says: 'everybody else', people: 3 }] },
      { key: '0', blockId: 'v', none: 0, cases: [
        { says: 'tagged “one”', people: 1 }, { says: 'tagged “other”', people: 1 }, { says: 'everybody else', people: 2 },
      ] },
    ])
    expect(versions.versions.map(({ chosen, people }) => [chosen, people])).toEqual([[[1, 2], 2], [[0, 1], 1], [[1, 0], 1]])
    for (const { chosen, reader } of versions.versions) {
      const as = (how: number[] | null) => previewEmail(context, { ...asked, personId: reader.id, firstName: '', chosen: how })
      expect(await as(null)).toEqual(await as(chosen))
    }
    // Nobody waits before a step that is not there: then whoever is inside.
    expect(emailVersions(context, { ...asked, stepId: 'none' }).whom).toBe('inside the course')
    expect(emailVersions(context, { ...asked, ownerId: null, stepId: null }).whom).toBe('on the list “letters”')
  })

  it('is refused where it asks for what is not there, and keeps a course from starting where nobody is chosen', async () => {
    const { context, courseId, listId, tagId } = await twoTags()
    const save = (content: MessageContent) => saveCourse(context as WorkspaceContext, courseId, 'x', {
      listId, wayInTagIds: [tagId], again: 'after-ending', steps: [step('one', { kind: 'at-once' }, content)],
    })
    expect(() => save(email('x', body(some([[tagged(4711), 'x']]))))).toThrow(InputProblem)
    expect(() => save(email('x', { preview: [{ type: 'placeholder', attrs: { field: 'own', fieldId: 4711, fallback: 'x' } }] }))).toThrow(
      'The email names a field that no longer exists',
    )
  })
})
