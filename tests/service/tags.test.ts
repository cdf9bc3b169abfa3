import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { expiryOf, sayExpiry, type TagExpiry } from '#core/people/tag'
import { sayEvent } from '#core/events'
import { localOf } from '#core/time/zone'
import { wholeStory } from '#data/events'
import { hasTag } from '#data/marks'
import { giveTagByHand } from '#usecases/know/byHand'
import { saveTag } from '#usecases/know/listsAndTags'
import { subscriberView } from '#usecases/views/subscriber'
import { tagLines } from '#usecases/views/listsAndTags'
import { DAY, HOUR, furnish, moveTo, openContext, tag, thursdayNoon, visit } from './workshop'

const inMonth: TagExpiry = { kind: 'after', days: 30 }

describe('a tag that vanishes', () => {
  it('is gone exactly then, as an event with the giving as its cause', async () => {
    const { context } = await furnish(openContext())
    const tagId = saveTag(context, null, tag('newcomer', { expiry: inMonth }))
    const id = visit(context, 'ada@example.com')
    await moveTo(context, thursdayNoon + HOUR)
    giveTagByHand(context, id, tagId)
    expect(subscriberView(context, id).tags.find(held => held.id === tagId)).toMatchObject({ expiresAt: thursdayNoon + HOUR + 30 * DAY })
    await moveTo(context, thursdayNoon + HOUR + 30 * DAY - 1)
    expect(hasTag(context.db, tagId, id)).toBe(true)
    await moveTo(context, thursdayNoon + HOUR + 30 * DAY)
    expect(hasTag(context.db, tagId, id)).toBe(false)
    const { events } = subscriberView(context, id)
    const lost = events.find(event => event.kind === 'lost-tag')!
    expect([sayEvent(lost), lost.at]).toEqual(['lost the tag “newcomer”, which expired', thursdayNoon + HOUR + 30 * DAY])
    expect(sayEvent(events.find(event => event.id === lost.causeId)!)).toBe('got the tag “newcomer”, by hand')
  })

  it('is kept longer by who is given it once more, and a changed expiry counts from then on', async () => {
    const { context } = await furnish(openContext())
    const tagId = saveTag(context, null, tag('warm', { expiry: inMonth }))
    const [early, late] = [visit(context, 'early@example.com'), visit(context, 'late@example.com')]
    giveTagByHand(context, early, tagId)
    giveTagByHand(context, late, tagId)
    await moveTo(context, thursdayNoon + 20 * DAY)
    giveTagByHand(context, late, tagId)
    saveTag(context, tagId, tag('warm', { expiry: { kind: 'after', days: 1 } }))
    await moveTo(context, thursdayNoon + 30 * DAY)
    expect([hasTag(context.db, tagId, early), hasTag(context.db, tagId, late)]).toEqual([false, true])
    giveTagByHand(context, early, tagId)
    await moveTo(context, thursdayNoon + 31 * DAY)
    expect(hasTag(context.db, tagId, early)).toBe(false)
    await moveTo(context, thursdayNoon + 50 * DAY)
    expect(hasTag(context.db, tagId, late)).toBe(false)
  })

  it('on a date vanishes with the first moment of that day in the workspace', async () => {
    const { context } = await furnish(openContext())
    const tagId = saveTag(context, null, tag('december launch', { expiry: { kind: 'on', date: '2026-12-01' } }))
    const id = visit(context, 'ada@example.com')
    giveTagByHand(context, id, tagId)
    await moveTo(context, Date.UTC(2026, 11, 1) - 1)
    expect(hasTag(context.db, tagId, id)).toBe(true)
    await moveTo(context, Date.UTC(2026, 11, 1))
    expect(hasTag(context.db, tagId, id)).toBe(false)
    giveTagByHand(context, id, tagId) // that day is past: it vanishes at once
    await moveTo(context, Date.UTC(2026, 11, 1) + 1)
    expect(hasTag(context.db, tagId, id)).toBe(false)
  })

  it('tells the same story in one move as in many', async () => {
    const crowd = async () => {
      const { context } = await furnish(openContext())
      const ids = [1, 2, 3].map(days => saveTag(context, null, tag(`keeps ${days}`, { expiry: { kind: 'after', days } })))
      for (let n = 0; n < 12; n++) giveTagByHand(context, visit(context, `p${n}@example.com`), ids[n % 3]!)
      return context
    }
    const [once, daily] = [await crowd(), await crowd()]
    await moveTo(once, thursdayNoon + 9 * DAY)
    for (let hours = 7; hours <= 9 * 24; hours += 7) await moveTo(daily, thursdayNoon + hours * HOUR)
    await moveTo(daily, thursdayNoon + 9 * DAY)
    const story = wholeStory(once.db)
    expect(story.filter(event => event.kind === 'lost-tag')).toHaveLength(12)
    expect(wholeStory(daily.db)).toEqual(story)
  })
})

describe('the expiry of a tag', () => {
  it('is so many times 24 hours, or the beginning of a day, and never before the giving', () => {
    fc.assert(fc.property(fc.integer({ min: Date.UTC(2020, 0, 1), max: Date.UTC(2032, 0, 1) }), fc.integer({
      min: 1, max: 3650,
    }), fc.constantFrom('Europe/Lisbon', 'Asia/Kathmandu', 'Pacific/Apia', 'America/New_York'), (at, days, zone) => {
      expect(expiryOf({ kind: 'after', days }, at, zone)).toBe(at + days * 86_400_000)
      const on = expiryOf({ kind: 'on', date: '2026-06-15' }, at, zone)!
      expect(on).toBeGreaterThanOrEqual(at)
      if (on > at) expect(localOf(on, zone)).toEqual({ date: '2026-06-15', time: '00:00' })
      expect(expiryOf({ kind: 'never' }, at, zone)).toBeNull()
    }))
    expect(sayExpiry({ kind: 'after', days: 1 }, date => date)).toBe('expires 1 day (24 hours) after it is added')
  })
})

describe('tags', () => {
  it('stand by group and name, with colour and note as given; odd input is told at its field and changes nothing', async () => {
    const { context } = await furnish(openContext())
    saveTag(context, null, tag('zebra', { group: ' interest ', colour: '#7A4A86' }))
    saveTag(context, null, tag('apple', { group: 'Interest', note: '  fruit ' }))
    expect(tagLines(context).map(line => [line.group, line.name, line.colour, line.note])).toEqual([
      ['Interest', 'apple', null, 'fruit'], ['interest', 'zebra', '#7a4a86', ''], ['', 'interest: coptic', null, ''],
      ['', 'sheet kit', null, ''],
    ])
    expect(() => saveTag(context, null, tag(' ', { expiry: { kind: 'on', date: '2026-02-31' } }))).toThrow(
      /name[\s\S]*a date|date[\s\S]*name/,
    )
    expect(() => saveTag(context, null, tag('ZEBRA'))).toThrow('There is already a tag called “zebra”.')
    expect(() => saveTag(context, 99, tag('other'))).toThrow(/no longer exists/)
    expect(tagLines(context)).toHaveLength(4)
  })
})
