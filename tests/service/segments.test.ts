import { describe, expect, it } from 'vitest'
import type { Condition, Leaf } from '#core/audience/condition'
import { circleOf, READY_SEGMENTS } from '#core/audience/segment'
import { sayEvent } from '#core/events'
import { appendEvent, eventsOfPerson } from '#data/events'
import { allSegments, dueInSegmentQueue, insideCounts } from '#data/segments'
import type { WorkspaceContext } from '#usecases/context'
import { correctPerson, giveTagByHand, takeTagByHand } from '#usecases/know/byHand'
import { createPage, savePage } from '#usecases/arrive/pages'
import { fieldLines } from '#usecases/views/fields'
import { pageView } from '#usecases/views/pages'
import { removeField, saveField } from '#usecases/know/fields'
import { removeSegment, saveSegment } from '#usecases/know/segments'
import { saveConsentRule } from '#usecases/settings/workspace'
import { audienceMore, audienceView } from '#usecases/views/audience'
import { segmentLines } from '#usecases/views/segments'
import { DAY, furnish, HOUR, moveTo, openContext, thursdayNoon, visit } from './workshop'

const all = (...of: Condition[]): Condition => ({ kind: 'all', of })
const has = (tagId: number): Leaf => ({ kind: 'tag', tagId, since: null })
const inside = (context: WorkspaceContext, name: string) =>
  insideCounts(context.db).get(allSegments(context.db).find(segment => segment.name === name)!.id) ?? 0
const moves = (context: WorkspaceContext, personId: number) => eventsOfPerson(context.db, personId).filter(event =>
  event.kind === 'entered-segment' || event.kind === 'left-segment')
  .map(event => `${(event.at - thursdayNoon) / HOUR} ${sayEvent(event)}`).reverse()

describe('a segment', () => {
  it('is entered and left as events, each caused by the event that brought it about', async () => {
    const { context, interestId } = await furnish(openContext())
    saveSegment(context, null, { name: 'coptic', note: '', condition: all(has(interestId)) })
    const id = visit(context, 'ada@example.com')
    await moveTo(context, thursdayNoon + HOUR)
    giveTagByHand(context, id, interestId)
    await moveTo(context, thursdayNoon + 2 * HOUR)
    takeTagByHand(context, id, interestId)
    await moveTo(context, thursdayNoon + 3 * HOUR)
    expect(moves(context, id).filter(move => move.includes('coptic'))).toEqual([
      '1 entered the segment “coptic”', '2 left the segment “coptic”',
    ])
    const events = eventsOfPerson(context.db, id)
    const entered = events.find(event => event.kind === 'entered-segment' && event.segmentName === 'coptic')!
    expect(sayEvent(events.find(event => event.id === entered.causeId)!)).toBe('got the tag “interest: coptic”, by hand')
    expect(segmentLines(context).find(line => line.name === 'coptic')).toMatchObject({
      people: 0, entered30: 1, left30: 1, says: 'tagged “interest: coptic”',
    })
  })

  it('is left by time alone at the very millisecond, in one move as in many', async () => {
    const stories = []
    for (const stops of [[10], Array.from({ length: 240 }, (_, n) => (n + 1) / 24)]) {
      const { context } = await furnish(openContext())
      const id = visit(context, 'ada@example.com')
      for (const days of stops) await moveTo(context, thursdayNoon + days * DAY)
      stories.push(moves(context, id))
      context.db.close()
    }
    expect(stories[0]).toEqual(stories[1])
    expect(stories[0]).toContain(`${7 * 24 + 1 / HOUR} left the segment “Newcomers of the last 7 days”`)
  })

  it('that asks about emails is entered when one is sent; without such a segment nobody is re-evaluated for it', async () => {
    const { context } = await furnish(openContext())
    const id = visit(context, 'ada@example.com')
    await moveTo(context, thursdayNoon)
    const isQueuedBySending = () => {
      appendEvent(context.db, 'sent', context.clock.now(), { personId: id })
      return dueInSegmentQueue(context.db, context.clock.now(), 10).length > 0
    }
    expect(isQueuedBySending()).toBe(false)
    const sent: Leaf = { kind: 'email', fate: 'sent', which: null, within: null, times: 2, url: null }
    const twice = saveSegment(context, null, { name: 'twice', note: '', condition: all(sent) })
    const among = saveSegment(context, null, { name: 'among', note: '', condition: all({ kind: 'segment', segmentId: twice }) })
    expect(isQueuedBySending()).toBe(true)
    await moveTo(context, thursdayNoon + 2 * DAY)
    const emails = eventsOfPerson(context.db, id).filter(event => event.kind === 'sent' && event.stepId !== null)
    const second = emails.map(({ at }) => at).sort((a, b) => a - b)[1]!
    expect(moves(context, id).filter(move => /twice|among/.test(move)).sort()).toEqual([
      `${(second - thursdayNoon) / HOUR} entered the segment “among”`, `${(second - thursdayNoon) / HOUR} entered the segment “twice”`,
    ])
    removeSegment(context, among)
    removeSegment(context, twice)
    await moveTo(context, thursdayNoon + 2 * DAY + 1)
    expect(isQueuedBySending()).toBe(false)
  })

  it('changed, takes nobody in or out by an event: the question changed, not the people', async () => {
    const { context, tagId, interestId } = await furnish(openContext())
    const id = visit(context, 'ada@example.com')
    const segmentId = saveSegment(context, null, { name: 'mine', note: '', condition: all(has(tagId)) })
    await moveTo(context, thursdayNoon + HOUR)
    expect(inside(context, 'mine')).toBe(1)
    saveSegment(context, segmentId, { name: 'mine', note: '', condition: all(has(interestId)) })
    await moveTo(context, thursdayNoon + 2 * HOUR)
    expect(inside(context, 'mine')).toBe(0)
    expect(moves(context, id).filter(move => move.includes('mine'))).toEqual([])
  })

  it('using others follows them, and a circle is refused with its path', async () => {
    const { context, tagId } = await furnish(openContext())
    const one = saveSegment(context, null, { name: 'one', note: '', condition: all(has(tagId)) })
    const two = saveSegment(context, null, { name: 'two', note: '', condition: all({ kind: 'segment', segmentId: one }) })
    const three = saveSegment(context, null, {
      name: 'three', note: '', condition: all({ kind: 'none', of: [{ kind: 'segment', segmentId: two }] }),
    })
    expect(() => saveSegment(context, one, {
      name: 'one', note: '', condition: all({ kind: 'any', of: [{ kind: 'segment', segmentId: three }] }),
    })).toThrow('“one” uses “three” uses “two” uses “one”')
    expect(() =>
      saveSegment(context, one, { name: 'one', note: '', condition: all({ kind: 'segment', segmentId: one }) })).toThrow('“one” uses “one”')
    expect(() => removeSegment(context, one)).toThrow('the segment “two” needs it')
    visit(context, 'ada@example.com')
    await moveTo(context, thursdayNoon + HOUR)
    expect(['one', 'two', 'three'].map(name => inside(context, name))).toEqual([1, 1, 0])
    saveSegment(context, one, { name: 'one', note: '', condition: all({ kind: 'none', of: [has(tagId)] }) })
    await moveTo(context, thursdayNoon + 2 * HOUR)
    expect(['one', 'two', 'three'].map(name => inside(context, name))).toEqual([0, 0, 1])
    removeSegment(context, three)
  })

  it('asking for what is not there, or too deep, is refused in words', async () => {
    const { context } = await furnish(openContext())
    const save = (condition: Condition, name = 'x') => () => saveSegment(context, null, { name, note: '', condition })
    expect(save(all(has(99)))).toThrow(/a tag that does not exist/)
    expect(save(all(all(all(all(all())))))).toThrow(/three levels deep/)
    expect(save(all(), ' ')).toThrow(/a name/)
    expect(save(all(), 'newcomers OF the last 7 days')).toThrow(/already/)
    const everyone = allSegments(context.db)[0]!
    expect(() => saveSegment(context, everyone.id, { ...everyone, condition: all() })).toThrow(/cannot be changed/)
    expect(() => removeSegment(context, everyone.id)).toThrow(/cannot be deleted/)
  })

  it('finds circles however long, and none where there is none', () => {
    const uses = (id: number): Condition => all({ kind: 'segment', segmentId: id })
    const chain = new Map(Array.from({ length: 200 }, (_, n) => [n + 1, n < 199 ? uses(n + 2) : all()] as const))
    expect(circleOf(200, uses(1), chain)).toHaveLength(201)
    expect(circleOf(201, uses(1), chain)).toBeNull()
    expect(READY_SEGMENTS.every(segment => circleOf(0, segment.condition, new Map()) === null)).toBe(true)
  })
})

describe('an audience as it is edited', () => {
  it('tells its number, who is held back and by the first reason, five of them, and the overlap', async () => {
    const { context, tagId } = await furnish(openContext())
    const ids = Array.from({ length: 8 }, (_, n) => visit(context, `p${n}@example.com`, `P${n}`))
    context.db.prepare(`UPDATE people SET status = 'bounced', country = 'PT', consent_at = NULL WHERE id = ?`).run(ids[0])
    context.db.prepare(`UPDATE people SET country = 'PT', consent_at = NULL WHERE id IN (?, ?)`).run(ids[1], ids[2])
    context.db.prepare(`UPDATE people SET status = 'resting' WHERE id IN (?, ?)`).run(ids[2], ids[3])
    saveSegment(context, null, {
      name: 'two of them', note: '',
      condition: all({ kind: 'any', of: [{ kind: 'source', is: 'nowhere' }, { kind: 'status', is: ['resting'] }] }),
    })
    await moveTo(context, thursdayNoon + HOUR)
    const view = audienceView(context, { condition: all(has(tagId)), segmentId: null })
    expect(view).toMatchObject({
      people: 8, says: 'tagged “sheet kit”',
      heldBack: [{ reason: 'bounced', people: 1 }, { reason: 'no-consent', people: 2 }, { reason: 'resting', people: 1 }],
    })
    expect(view.five.map(person => person.name)).toEqual(['P7', 'P6', 'P5', 'P4', 'P3'])
    expect(
      audienceMore(context, { condition: all(has(tagId)), segmentId: null }).overlap.find(one => one.name === 'two of them'),
    ).toMatchObject({ people: 2, both: 2 })
  })

  it('goes by where consent is needed, which is a setting', async () => {
    const { context } = await furnish(openContext())
    const id = visit(context, 'ada@example.com')
    context.db.prepare('UPDATE people SET consent_at = NULL WHERE id = ?').run(id)
    const mayBeMailed = () => audienceView(context, { condition: all({ kind: 'may-be-mailed' }), segmentId: null }).people
    expect(mayBeMailed()).toBe(1)
    saveConsentRule(context, { countries: ['PT'], unknownNeeds: true })
    expect(mayBeMailed()).toBe(0)
    await moveTo(context, thursdayNoon + 5 * DAY)
    expect(eventsOfPerson(context.db, id).filter(event => event.kind === 'sent')).toHaveLength(0)
    expect(eventsOfPerson(context.db, id).filter(event => event.kind === 'held-back').map(event => event.detail)).toEqual([
      'no-consent', 'no-consent', 'no-consent',
    ])
  })
})

describe('a field', () => {
  it('is read by its kind, asked for in conditions, renamed safely, and not deleted while something uses it', async () => {
    const { context } = await furnish(openContext())
    const id = visit(context, 'ada@example.com')
    const number = saveField(context, null, { name: 'books bound', label: '', kind: 'number', choices: [] })
    const choice = saveField(context, null, { name: 'press', label: 'Which press?', kind: 'choice', choices: ['nipping', 'Lying', ' '] })
    const date = saveField(context, null, { name: 'birthday', label: '', kind: 'date', choices: [] })
    const facts = (fields: Record<string, string>) => correctPerson(context, id, { firstName: 'Ada', zone: null, country: 'PT', fields })
    expect(() => facts({ [date]: '31/02/2020', [number]: 'many' })).toThrow(/A number looks like.*A date looks/)
    facts({ [number]: '1,5', [choice]: 'lying', [date]: '1968-02-29' })
    expect(audienceView(context, {
      condition: all({ kind: 'field', fieldId: number, test: { is: 'number', sign: '=', number: 1.5 } }), segmentId: null,
    }).people).toBe(1)
    expect(audienceView(context, {
      condition: all({ kind: 'field', fieldId: date, test: { is: 'before', date: '1970-01-01' } }), segmentId: null,
    }).people).toBe(1)
    expect(() =>
      saveField(context, choice, { name: 'press', label: '', kind: 'choice', choices: ['nipping'] })).toThrow('1 person has “Lying”')
    expect(() => saveField(context, number, { name: 'Press', label: '', kind: 'number', choices: [] })).toThrow(/already/)
    const segmentId = saveSegment(context, null, {
      name: 'binders', note: '', condition: all({ kind: 'field', fieldId: number, test: { is: 'known' } }),
    })
    saveField(context, number, { name: 'books finished', label: '', kind: 'number', choices: [] })
    expect(segmentLines(context).find(line => line.id === segmentId)!.says).toBe('whose “books finished” is known')
    expect(fieldLines(context).find(line => line.id === number)!.uses).toMatchObject([{ kind: 'segment', id: segmentId, how: 'asked in' }])
    expect(() => removeField(context, number, 1)).toThrow('the segment “binders”')
    removeSegment(context, segmentId)
    // A page that asks for it, too, keeps it, until neither what is written nor what visitors see does.
    const pageId = createPage(context, 'Asking')
    const { slug, draft } = pageView(context, pageId)
    savePage(context, pageId, { name: 'Asking', slug, draft: {
      ...draft, form: { ...draft.form, asks: [{ id: 'a1', kind: 'field', fieldId: number, label: 'How many?', required: false }] },
    } })
    expect(() => removeField(context, number, 1)).toThrow('the page “Asking”')
    savePage(context, pageId, { name: 'Asking', slug, draft })
    expect(() => removeField(context, number, 0)).toThrow('known for 1 person')
    removeField(context, number, 1)
    expect(eventsOfPerson(context.db, id).map(sayEvent)).toContain('“press” changed, by hand')
  })
})
