import { describe, expect, it } from 'vitest'
import { sayEvent } from '#core/events'
import { NOTHING_FOLLOWS } from '#core/rules/shortForms'
import { findCourse } from '#data/courses'
import { eventsOfPerson } from '#data/events'
import { findTagByName, hasTag, membership, tagsOfPerson } from '#data/marks'
import { emailsOfPerson } from '#data/outbox'
import { findPage } from '#data/pages'
import { findSegment, segmentsOfPerson } from '#data/segments'
import { giveTagByHand, joinListByHand, takeTagByHand } from '#usecases/know/byHand'
import { leave } from '#usecases/arrive/leave'
import { deleteList, deleteTag, mergeLists, mergeTags } from '#usecases/know/endMarks'
import { saveList, saveTag } from '#usecases/know/listsAndTags'
import { saveSegment } from '#usecases/know/segments'
import { tagLines } from '#usecases/views/listsAndTags'
import { DAY, furnish, HOUR, moveTo, openHouse, tag, thursdayNoon, visit } from './workshop'

const all = (...of: object[]) => ({ kind: 'all', of: [{ kind: 'all', of }, { kind: 'none', of: [] }] }) as never
const names = (house: Parameters<typeof tagLines>[0], id: number) => tagsOfPerson(house.db, id).map(one => one.name).sort()

describe('what follows from a tag', () => {
  it('comes several layers deep in the same moment, each with its cause, and never as the person’s own act', async () => {
    const { house, tagId, courseId } = await furnish(openHouse())
    const [d, c] = [saveTag(house, null, tag('d')), saveTag(house, null, tag('c'))]
    const b = saveTag(house, null, tag('b', { follows: { gives: [tagId], takes: [d], drops: [] } }))
    const a = saveTag(house, null, tag('a', { follows: { gives: [b], takes: [], drops: [c] } }))
    const person = visit(house, 'p@example.com')
    await moveTo(house, thursdayNoon + HOUR)
    takeTagByHand(house, person, tagId)
    for (const id of [c, d]) giveTagByHand(house, person, id)
    giveTagByHand(house, person, a)
    expect(names(house, person)).toEqual(['a', 'b', 'c', 'sheet kit'])
    const told = eventsOfPerson(house.db, person)
    const lost = told.find(event => event.kind === 'lost-tag' && event.tagName === 'd')!
    expect(sayEvent(lost)).toBe('lost the tag d, by a house rule')
    expect(sayEvent(told.find(event => event.id === lost.causeId)!)).toBe('got the tag b, by a house rule')
    // The course that the last of them starts knows the person already; its door says so, and nothing is sent as asked-for.
    expect(told.some(event => event.kind === 'way-in-again' && event.courseId === courseId)).toBe(true)
    takeTagByHand(house, person, a)
    expect(names(house, person)).toEqual(['b', 'sheet kit'])
    // What follows counts from now on, and can be taken back.
    saveTag(house, a, tag('a'))
    giveTagByHand(house, person, c)
    giveTagByHand(house, person, a)
    takeTagByHand(house, person, a)
    expect(names(house, person)).toEqual(['b', 'c', 'sheet kit'])
  })

  it('is refused in a circle, with its path, and nothing is changed', async () => {
    const { house } = await furnish(openHouse())
    const a = saveTag(house, null, tag('a'))
    const b = saveTag(house, null, tag('b', { follows: { ...NOTHING_FOLLOWS, gives: [a] } }))
    const c = saveTag(house, null, tag('c', { follows: { ...NOTHING_FOLLOWS, gives: [b] } }))
    expect(() => saveTag(house, a, tag('renamed', { follows: { ...NOTHING_FOLLOWS, gives: [c] } }))).toThrow(/circle: when someone gets the tag renamed: give the tag c; then, as someone gets the tag c: give the tag b; then, as someone gets the tag b: give the tag renamed; and so on/)
    expect(tagLines(house).find(line => line.id === a)).toMatchObject({ name: 'a', follows: NOTHING_FOLLOWS })
    expect(() => saveTag(house, a, tag('a', { follows: { ...NOTHING_FOLLOWS, takes: [a] } }))).toThrow(/cannot follow from itself/)
  })

  it('also follows when a tag vanishes by itself', async () => {
    const { house } = await furnish(openHouse())
    const b = saveTag(house, null, tag('b'))
    const a = saveTag(house, null, tag('a', { expiry: { kind: 'after', days: 2 }, follows: { ...NOTHING_FOLLOWS, drops: [b] } }))
    const person = visit(house, 'p@example.com')
    for (const id of [a, b]) giveTagByHand(house, person, id)
    await moveTo(house, thursdayNoon + 2 * DAY - 1)
    expect(hasTag(house.db, b, person)).toBe(true)
    await moveTo(house, thursdayNoon + 2 * DAY)
    expect([hasTag(house.db, a, person), hasTag(house.db, b, person)]).toEqual([false, false])
  })
})

describe('a tag with the month in its name', () => {
  it('is given as what it is filled in to, with its colour, expiry and what follows', async () => {
    const { house } = await furnish(openHouse())
    const also = saveTag(house, null, tag('came lately'))
    const blank = saveTag(house, null, tag('joined [month]', { colour: '#20506b', group: 'when', follows: { ...NOTHING_FOLLOWS, gives: [also] } }))
    const [first, second] = [visit(house, 'a@example.com'), visit(house, 'b@example.com')]
    giveTagByHand(house, first, blank)
    await moveTo(house, Date.UTC(2026, 11, 1, 0, 0, 1))
    giveTagByHand(house, second, blank)
    expect(names(house, first)).toContain('joined November 2026')
    expect(names(house, second)).toEqual(['came lately', 'joined December 2026', 'sheet kit'])
    expect(findTagByName(house.db, 'joined December 2026')).toMatchObject({ colour: '#20506b', group: 'when' })
    // Taking the one with blanks away takes whichever was filled in from it.
    takeTagByHand(house, first, blank)
    expect(names(house, first)).toEqual(['came lately', 'sheet kit'])
    expect(() => saveTag(house, blank, tag('joined'))).toThrow(/keeps its blanks/)
    expect(() => saveTag(house, null, tag('saw [page]'))).toThrow(/Only \[month\] and \[launch\]/)
  })
})

describe('merging tags', () => {
  it('makes the one the other for people, pages, courses, segments and rules, also where it is given by what runs already', async () => {
    const { house, tagId, interestId, courseId } = await furnish(openHouse())
    const other = saveTag(house, null, tag('kit'))
    const rule = saveTag(house, null, tag('x', { follows: { ...NOTHING_FOLLOWS, gives: [tagId] } }))
    const segmentId = saveSegment(house, null, { name: 'kits', note: '', condition: all({ kind: 'tag', tagId, since: null }) })
    const [one, both] = [visit(house, 'one@example.com'), visit(house, 'both@example.com')]
    await moveTo(house, thursdayNoon + HOUR)
    giveTagByHand(house, both, other)
    mergeTags(house, tagId, other)
    await moveTo(house, thursdayNoon + 2 * HOUR)
    expect([names(house, one), names(house, both)]).toEqual([['kit'], ['kit']])
    expect(tagsOfPerson(house.db, both)[0]!.sinceAt).toBe(thursdayNoon)
    expect(findPage(house.db, 1)!.draft.tagIds).toEqual([other])
    expect(findCourse(house.db, courseId)!.draft.wayInTagIds).toEqual([other])
    expect(findSegment(house.db, segmentId)!.condition).toEqual(all({ kind: 'tag', tagId: other, since: null }))
    expect(segmentsOfPerson(house.db, one).map(({ name }) => name)).toContain('kits')
    expect(tagLines(house).find(line => line.id === rule)!.follows.gives).toEqual([other])
    // The page that the public sees was published before; it gives the other one from now on, and that starts the course.
    const late = visit(house, 'late@example.com')
    expect(names(house, late)).toEqual(['kit'])
    expect(emailsOfPerson(house.db, late)).toHaveLength(1)
    // The history keeps the name it had; the name is free again.
    expect(eventsOfPerson(house.db, one).some(event => sayEvent(event) === 'got the tag sheet kit')).toBe(true)
    expect(saveTag(house, null, tag('Sheet Kit'))).not.toBe(tagId)
    expect(() => mergeTags(house, tagId, interestId)).toThrow(/not there/)
    expect(() => mergeTags(house, other, rule)).not.toThrow()
    expect(tagLines(house).find(line => line.id === rule)!.follows.gives).toEqual([])
  })
})

describe('deleting a tag', () => {
  it('says how many lose it and what goes on without it; a segment that asks for it comes first', async () => {
    const { house, tagId, courseId } = await furnish(openHouse())
    const person = visit(house, 'p@example.com')
    const segmentId = saveSegment(house, null, { name: 'kits', note: '', condition: all({ kind: 'tag', tagId, since: null }) })
    expect(tagLines(house).find(line => line.id === tagId)!.uses.map(({ kind, how }) => [kind, how])).toEqual([['page', 'given by'], ['course', 'starts'], ['segment', 'asked in']])
    expect(() => deleteTag(house, tagId, 1)).toThrow('the segment “kits” needs it')
    saveSegment(house, segmentId, { name: 'kits', note: '', condition: all() })
    expect(() => deleteTag(house, tagId, 7)).toThrow('Meanwhile 1 have it')
    deleteTag(house, tagId, 1)
    expect(names(house, person)).toEqual([])
    expect(sayEvent(eventsOfPerson(house.db, person)[0]!)).toBe('lost the tag sheet kit, which was deleted')
    expect([findPage(house.db, 1)!.draft.tagIds, findCourse(house.db, courseId)!.draft.wayInTagIds]).toEqual([[], []])
    // What was published with it gives nothing any more, and stays up.
    expect(names(house, visit(house, 'late@example.com'))).toEqual([])
  })
})

describe('merging and deleting lists', () => {
  it('keeps everybody’s leaving, moves the mail that waits, and never mails who had left either', async () => {
    const { house, listId, courseId } = await furnish(openHouse())
    const second = saveList(house, null, { name: 'second', publicName: 'Second', description: '' })
    const third = saveList(house, null, { name: 'third', publicName: 'Third', description: '' })
    const [stays, left, leftOther] = ['stays', 'left', 'other'].map(name => visit(house, `${name}@example.com`))
    await moveTo(house, thursdayNoon + HOUR)
    expect(() => mergeLists(house, listId, second)).toThrow(/takes everybody/)
    joinListByHand(house, stays!, second)
    joinListByHand(house, left!, second)
    leave(house, emailsOfPerson(house.db, left!)[0]!.id, { what: 'list', listId: second })
    joinListByHand(house, leftOther!, third)
    joinListByHand(house, leftOther!, second)
    leave(house, emailsOfPerson(house.db, leftOther!)[0]!.id, { what: 'list', listId: third })
    mergeLists(house, second, third)
    expect([stays, left, leftOther].map(id => membership(house.db, third, id!))).toEqual(['joined', 'left', 'left'])
    expect(() => deleteList(house, listId, 3)).toThrow(/takes everybody/)
    expect(() => deleteList(house, third, 9)).toThrow('Meanwhile 1 are on it')
    deleteList(house, third, 1)
    expect(membership(house.db, third, stays!)).toBe('never-joined')
    expect(sayEvent(eventsOfPerson(house.db, stays!)[0]!)).toBe('left the list third, which was deleted')
    expect(findCourse(house.db, courseId)!.listId).toBe(listId)
  })
})
