import { describe, expect, it } from 'vitest'
import type { Condition, Leaf } from '#core/audience/condition'
import { circleOf, READY_SEGMENTS } from '#core/audience/segment'
import { sayEvent } from '#core/events'
import { eventsOfPerson } from '#data/events'
import { allSegments, insideCounts } from '#data/segments'
import type { House } from '#usecases/house'
import { correctPerson, giveTagByHand, takeTagByHand } from '#usecases/know/byHand'
import { createPage, savePage } from '#usecases/arrive/pages'
import { fieldLines } from '#usecases/views/fields'
import { pageView } from '#usecases/views/pages'
import { removeField, saveField } from '#usecases/know/fields'
import { removeSegment, saveSegment } from '#usecases/know/segments'
import { saveConsentRule } from '#usecases/settings/workspace'
import { audienceMore, audienceView } from '#usecases/views/audience'
import { segmentLines } from '#usecases/views/segments'
import { DAY, furnish, HOUR, moveTo, openHouse, thursdayNoon, visit } from './workshop'

const all = (...of: Condition[]): Condition => ({ kind: 'all', of })
const has = (tagId: number): Leaf => ({ kind: 'tag', tagId, since: null })
const inside = (house: House, name: string) => insideCounts(house.db).get(allSegments(house.db).find(segment => segment.name === name)!.id) ?? 0
const moves = (house: House, personId: number) => eventsOfPerson(house.db, personId).filter(event => event.kind === 'entered-segment' || event.kind === 'left-segment')
  .map(event => `${(event.at - thursdayNoon) / HOUR} ${sayEvent(event)}`).reverse()

describe('a segment', () => {
  it('is entered and left as events, each caused by the event that brought it about', async () => {
    const { house, interestId } = await furnish(openHouse())
    saveSegment(house, null, { name: 'coptic', note: '', condition: all(has(interestId)) })
    const id = visit(house, 'ada@example.com')
    await moveTo(house, thursdayNoon + HOUR)
    giveTagByHand(house, id, interestId)
    await moveTo(house, thursdayNoon + 2 * HOUR)
    takeTagByHand(house, id, interestId)
    await moveTo(house, thursdayNoon + 3 * HOUR)
    expect(moves(house, id).filter(move => move.includes('coptic'))).toEqual(['1 is now in the segment coptic', '2 is no longer in the segment coptic'])
    const events = eventsOfPerson(house.db, id)
    const entered = events.find(event => event.kind === 'entered-segment' && event.segmentName === 'coptic')!
    expect(sayEvent(events.find(event => event.id === entered.causeId)!)).toBe('got the tag interest: coptic, by hand')
    expect(segmentLines(house).find(line => line.name === 'coptic')).toMatchObject({ people: 0, entered30: 1, left30: 1, says: 'with the tag interest: coptic' })
  })

  it('is left by time alone at the very millisecond, in one move as in many', async () => {
    const stories = []
    for (const stops of [[10], Array.from({ length: 240 }, (_, n) => (n + 1) / 24)]) {
      const { house } = await furnish(openHouse())
      const id = visit(house, 'ada@example.com')
      for (const days of stops) await moveTo(house, thursdayNoon + days * DAY)
      stories.push(moves(house, id))
      house.db.close()
    }
    expect(stories[0]).toEqual(stories[1])
    expect(stories[0]).toContain(`${7 * 24 + 1 / HOUR} is no longer in the segment Newcomers of the last 7 days`)
  })

  it('changed, takes nobody in or out by an event: the question changed, not the people', async () => {
    const { house, tagId, interestId } = await furnish(openHouse())
    const id = visit(house, 'ada@example.com')
    const segmentId = saveSegment(house, null, { name: 'mine', note: '', condition: all(has(tagId)) })
    await moveTo(house, thursdayNoon + HOUR)
    expect(inside(house, 'mine')).toBe(1)
    saveSegment(house, segmentId, { name: 'mine', note: '', condition: all(has(interestId)) })
    await moveTo(house, thursdayNoon + 2 * HOUR)
    expect(inside(house, 'mine')).toBe(0)
    expect(moves(house, id).filter(move => move.includes('mine'))).toEqual([])
  })

  it('using others follows them, and a circle is refused with its path', async () => {
    const { house, tagId } = await furnish(openHouse())
    const one = saveSegment(house, null, { name: 'one', note: '', condition: all(has(tagId)) })
    const two = saveSegment(house, null, { name: 'two', note: '', condition: all({ kind: 'segment', segmentId: one }) })
    const three = saveSegment(house, null, { name: 'three', note: '', condition: all({ kind: 'none', of: [{ kind: 'segment', segmentId: two }] }) })
    expect(() => saveSegment(house, one, { name: 'one', note: '', condition: all({ kind: 'any', of: [{ kind: 'segment', segmentId: three }] }) })).toThrow('“one” uses “three” uses “two” uses “one”')
    expect(() => saveSegment(house, one, { name: 'one', note: '', condition: all({ kind: 'segment', segmentId: one }) })).toThrow('“one” uses “one”')
    expect(() => removeSegment(house, one)).toThrow('the segment “two” needs it')
    visit(house, 'ada@example.com')
    await moveTo(house, thursdayNoon + HOUR)
    expect(['one', 'two', 'three'].map(name => inside(house, name))).toEqual([1, 1, 0])
    saveSegment(house, one, { name: 'one', note: '', condition: all({ kind: 'none', of: [has(tagId)] }) })
    await moveTo(house, thursdayNoon + 2 * HOUR)
    expect(['one', 'two', 'three'].map(name => inside(house, name))).toEqual([0, 0, 1])
    removeSegment(house, three)
  })

  it('asking for what is not there, or too deep, is refused in words', async () => {
    const { house } = await furnish(openHouse())
    const save = (condition: Condition, name = 'x') => () => saveSegment(house, null, { name, note: '', condition })
    expect(save(all(has(99)))).toThrow(/a tag that is not there/)
    expect(save(all(all(all(all(all())))))).toThrow(/three levels deep/)
    expect(save(all(), ' ')).toThrow(/a name/)
    expect(save(all(), 'newcomers OF the last 7 days')).toThrow(/already/)
    const everyone = allSegments(house.db)[0]!
    expect(() => saveSegment(house, everyone.id, { ...everyone, condition: all() })).toThrow(/law of the house/)
    expect(() => removeSegment(house, everyone.id)).toThrow(/stays/)
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
    const { house, tagId } = await furnish(openHouse())
    const ids = Array.from({ length: 8 }, (_, n) => visit(house, `p${n}@example.com`, `P${n}`))
    house.db.prepare(`UPDATE people SET status = 'bounced', country = 'PT', consent_at = NULL WHERE id = ?`).run(ids[0])
    house.db.prepare(`UPDATE people SET country = 'PT', consent_at = NULL WHERE id IN (?, ?)`).run(ids[1], ids[2])
    house.db.prepare(`UPDATE people SET status = 'resting' WHERE id IN (?, ?)`).run(ids[2], ids[3])
    saveSegment(house, null, { name: 'two of them', note: '', condition: all({ kind: 'any', of: [{ kind: 'source', is: 'nowhere' }, { kind: 'status', is: ['resting'] }] }) })
    await moveTo(house, thursdayNoon + HOUR)
    const view = audienceView(house, { condition: all(has(tagId)), segmentId: null })
    expect(view).toMatchObject({ people: 8, says: 'with the tag sheet kit', heldBack: [{ reason: 'bounced', people: 1 }, { reason: 'no-consent', people: 2 }, { reason: 'resting', people: 1 }] })
    expect(view.five.map(person => person.name)).toEqual(['P7', 'P6', 'P5', 'P4', 'P3'])
    expect(audienceMore(house, { condition: all(has(tagId)), segmentId: null }).overlap.find(one => one.name === 'two of them')).toMatchObject({ people: 2, both: 2 })
  })

  it('goes by where consent is needed, which is a setting', async () => {
    const { house } = await furnish(openHouse())
    const id = visit(house, 'ada@example.com')
    house.db.prepare('UPDATE people SET consent_at = NULL WHERE id = ?').run(id)
    const mayBeMailed = () => audienceView(house, { condition: all({ kind: 'may-be-mailed' }), segmentId: null }).people
    expect(mayBeMailed()).toBe(1)
    saveConsentRule(house, { countries: ['PT'], unknownNeeds: true })
    expect(mayBeMailed()).toBe(0)
    await moveTo(house, thursdayNoon + 5 * DAY)
    expect(eventsOfPerson(house.db, id).filter(event => event.kind === 'sent')).toHaveLength(0)
    expect(eventsOfPerson(house.db, id).filter(event => event.kind === 'held-back').map(event => event.detail)).toEqual(['no-consent', 'no-consent', 'no-consent'])
  })
})

describe('a field', () => {
  it('is read by its kind, asked for in conditions, renamed safely, and not deleted while something uses it', async () => {
    const { house } = await furnish(openHouse())
    const id = visit(house, 'ada@example.com')
    const number = saveField(house, null, { name: 'books bound', label: '', kind: 'number', choices: [] })
    const choice = saveField(house, null, { name: 'press', label: 'Which press?', kind: 'choice', choices: ['nipping', 'Lying', ' '] })
    const date = saveField(house, null, { name: 'birthday', label: '', kind: 'date', choices: [] })
    const facts = (fields: Record<string, string>) => correctPerson(house, id, { firstName: 'Ada', zone: null, country: 'PT', fields })
    expect(() => facts({ [date]: '31/02/2020', [number]: 'many' })).toThrow(/A number looks like.*A date of the calendar/)
    facts({ [number]: '1,5', [choice]: 'lying', [date]: '1968-02-29' })
    expect(audienceView(house, { condition: all({ kind: 'field', fieldId: number, test: { is: 'number', sign: '=', number: 1.5 } }), segmentId: null }).people).toBe(1)
    expect(audienceView(house, { condition: all({ kind: 'field', fieldId: date, test: { is: 'before', date: '1970-01-01' } }), segmentId: null }).people).toBe(1)
    expect(() => saveField(house, choice, { name: 'press', label: '', kind: 'choice', choices: ['nipping'] })).toThrow('1 person has “Lying”')
    expect(() => saveField(house, number, { name: 'Press', label: '', kind: 'number', choices: [] })).toThrow(/already/)
    const segmentId = saveSegment(house, null, { name: 'binders', note: '', condition: all({ kind: 'field', fieldId: number, test: { is: 'known' } }) })
    saveField(house, number, { name: 'books finished', label: '', kind: 'number', choices: [] })
    expect(segmentLines(house).find(line => line.id === segmentId)!.says).toBe('whose books finished is known')
    expect(fieldLines(house).find(line => line.id === number)!.uses).toMatchObject([{ kind: 'segment', id: segmentId, how: 'asked in' }])
    expect(() => removeField(house, number, 1)).toThrow('the segment “binders”')
    removeSegment(house, segmentId)
    // A page that asks for it, too, keeps it, until neither what is written nor what visitors see does.
    const pageId = createPage(house, 'Asking')
    const { slug, draft } = pageView(house, pageId)
    savePage(house, pageId, { name: 'Asking', slug, draft: { ...draft, form: { ...draft.form, asks: [{ id: 'a1', kind: 'field', fieldId: number, label: 'How many?', required: false }] } } })
    expect(() => removeField(house, number, 1)).toThrow('the page “Asking”')
    savePage(house, pageId, { name: 'Asking', slug, draft })
    expect(() => removeField(house, number, 0)).toThrow('known of 1 person')
    removeField(house, number, 1)
    expect(eventsOfPerson(house.db, id).map(sayEvent)).toContain('press changed, by hand')
  })
})
