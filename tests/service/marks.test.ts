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
import { DAY, furnish, HOUR, moveTo, openContext, tag, thursdayNoon, visit } from './workshop'

const all = (...of: object[]) => ({ kind: 'all', of: [{ kind: 'all', of }, { kind: 'none', of: [] }] }) as never
const names = (context: Parameters<typeof tagLines>[0], id: number) => tagsOfPerson(context.db, id).map(one => one.name).sort()

describe('what follows from a tag', () => {
  it('comes several layers deep in the same moment, each with its cause, and never as the person’s own act', async () => {
    const { context, tagId, courseId } = await furnish(openContext())
    const [d, c] = [saveTag(context, null, tag('d')), saveTag(context, null, tag('c'))]
    const b = saveTag(context, null, tag('b', { follows: { gives: [tagId], takes: [d], drops: [] } }))
    const a = saveTag(context, null, tag('a', { follows: { gives: [b], takes: [], drops: [c] } }))
    const person = visit(context, 'p@example.com')
    await moveTo(context, thursdayNoon + HOUR)
    takeTagByHand(context, person, tagId)
    for (const id of [c, d]) giveTagByHand(context, person, id)
    giveTagByHand(context, person, a)
    expect(names(context, person)).toEqual(['a', 'b', 'c', 'sheet kit'])
    const told = eventsOfPerson(context.db, person)
    const lost = told.find(event => event.kind === 'lost-tag' && event.tagName === 'd')!
    expect(sayEvent(lost)).toBe('lost the tag “d”, by a house rule')
    expect(sayEvent(told.find(event => event.id === lost.causeId)!)).toBe('got the tag “b”, by a house rule')
    // The course that the last of them starts knows the person already; its door says so, and nothing is sent as asked-for.
    expect(told.some(event => event.kind === 'way-in-again' && event.courseId === courseId)).toBe(true)
    takeTagByHand(context, person, a)
    expect(names(context, person)).toEqual(['b', 'sheet kit'])
    // What follows counts from now on, and can be taken back.
    saveTag(context, a, tag('a'))
    giveTagByHand(context, person, c)
    giveTagByHand(context, person, a)
    takeTagByHand(context, person, a)
    expect(names(context, person)).toEqual(['b', 'c', 'sheet kit'])
  })

  it('is refused in a circle, with its path, and nothing is changed', async () => {
    const { context } = await furnish(openContext())
    const a = saveTag(context, null, tag('a'))
    const b = saveTag(context, null, tag('b', { follows: { ...NOTHING_FOLLOWS, gives: [a] } }))
    const c = saveTag(context, null, tag('c', { follows: { ...NOTHING_FOLLOWS, gives: [b] } }))
    expect(() => saveTag(context, a, tag('renamed', { follows: { ...NOTHING_FOLLOWS, gives: [c] } }))).toThrow(
      /circle: when someone gets the tag “renamed”: add the tag “c”; then, as someone gets the tag “c”: add the tag “b”; then, as someone gets the tag “b”: add the tag “renamed”; and so on/,
    )
    expect(tagLines(context).find(line => line.id === a)).toMatchObject({ name: 'a', follows: NOTHING_FOLLOWS })
    expect(() => saveTag(context, a, tag('a', { follows: { ...NOTHING_FOLLOWS, takes: [a] } }))).toThrow(/cannot follow from itself/)
  })

  it('also follows when a tag vanishes by itself', async () => {
    const { context } = await furnish(openContext())
    const b = saveTag(context, null, tag('b'))
    const a = saveTag(context, null, tag('a', { expiry: { kind: 'after', days: 2 }, follows: { ...NOTHING_FOLLOWS, drops: [b] } }))
    const person = visit(context, 'p@example.com')
    for (const id of [a, b]) giveTagByHand(context, person, id)
    await moveTo(context, thursdayNoon + 2 * DAY - 1)
    expect(hasTag(context.db, b, person)).toBe(true)
    await moveTo(context, thursdayNoon + 2 * DAY)
    expect([hasTag(context.db, a, person), hasTag(context.db, b, person)]).toEqual([false, false])
  })
})

describe('a tag with the month in its name', () => {
  it('is given as what it is filled in to, with its colour, expiry and what follows', async () => {
    const { context } = await furnish(openContext())
    const also = saveTag(context, null, tag('came lately'))
    const blank = saveTag(
      context, null, tag('joined [month]', { colour: '#20506b', group: 'when', follows: { ...NOTHING_FOLLOWS, gives: [also] } }),
    )
    const [first, second] = [visit(context, 'a@example.com'), visit(context, 'b@example.com')]
    giveTagByHand(context, first, blank)
    await moveTo(context, Date.UTC(2026, 11, 1, 0, 0, 1))
    giveTagByHand(context, second, blank)
    expect(names(context, first)).toContain('joined November 2026')
    expect(names(context, second)).toEqual(['came lately', 'joined December 2026', 'sheet kit'])
    expect(findTagByName(context.db, 'joined December 2026')).toMatchObject({ colour: '#20506b', group: 'when' })
    // Taking the one with blanks away takes whichever was filled in from it.
    takeTagByHand(context, first, blank)
    expect(names(context, first)).toEqual(['came lately', 'sheet kit'])
    expect(() => saveTag(context, blank, tag('joined'))).toThrow(/cannot add or remove blanks/)
    expect(() => saveTag(context, null, tag('saw [page]'))).toThrow(/Only \[month\] and \[launch\]/)
  })
})

describe('merging tags', () => {
  it('makes the one the other for people, pages, courses, segments and rules, also where it is given by what runs already', async () => {
    const { context, tagId, interestId, courseId } = await furnish(openContext())
    const other = saveTag(context, null, tag('kit'))
    const rule = saveTag(context, null, tag('x', { follows: { ...NOTHING_FOLLOWS, gives: [tagId] } }))
    const segmentId = saveSegment(context, null, { name: 'kits', note: '', condition: all({ kind: 'tag', tagId, since: null }) })
    const [one, both] = [visit(context, 'one@example.com'), visit(context, 'both@example.com')]
    await moveTo(context, thursdayNoon + HOUR)
    giveTagByHand(context, both, other)
    mergeTags(context, tagId, other)
    await moveTo(context, thursdayNoon + 2 * HOUR)
    expect([names(context, one), names(context, both)]).toEqual([['kit'], ['kit']])
    expect(tagsOfPerson(context.db, both)[0]!.sinceAt).toBe(thursdayNoon)
    expect(findPage(context.db, 1)!.draft.tagIds).toEqual([other])
    expect(findCourse(context.db, courseId)!.draft.wayInTagIds).toEqual([other])
    expect(findSegment(context.db, segmentId)!.condition).toEqual(all({ kind: 'tag', tagId: other, since: null }))
    expect(segmentsOfPerson(context.db, one).map(({ name }) => name)).toContain('kits')
    expect(tagLines(context).find(line => line.id === rule)!.follows.gives).toEqual([other])
    // The page that the public sees was published before; it gives the other one from now on, and that starts the course.
    const late = visit(context, 'late@example.com')
    expect(names(context, late)).toEqual(['kit'])
    expect(emailsOfPerson(context.db, late)).toHaveLength(1)
    // The history keeps the name it had; the name is free again.
    expect(eventsOfPerson(context.db, one).some(event => sayEvent(event) === 'got the tag “sheet kit”')).toBe(true)
    expect(saveTag(context, null, tag('Sheet Kit'))).not.toBe(tagId)
    expect(() => mergeTags(context, tagId, interestId)).toThrow(/no longer exists/)
    expect(() => mergeTags(context, other, rule)).not.toThrow()
    expect(tagLines(context).find(line => line.id === rule)!.follows.gives).toEqual([])
  })
})

describe('deleting a tag', () => {
  it('says how many lose it and what goes on without it; a segment that asks for it comes first', async () => {
    const { context, tagId, courseId } = await furnish(openContext())
    const person = visit(context, 'p@example.com')
    const segmentId = saveSegment(context, null, { name: 'kits', note: '', condition: all({ kind: 'tag', tagId, since: null }) })
    expect(tagLines(context).find(line => line.id === tagId)!.uses.map(({ kind, how }) => [kind, how])).toEqual([
      ['page', 'given by'], ['course', 'starts'], ['segment', 'asked in'],
    ])
    expect(() => deleteTag(context, tagId, 1)).toThrow('the segment “kits” needs it')
    saveSegment(context, segmentId, { name: 'kits', note: '', condition: all() })
    expect(() => deleteTag(context, tagId, 7)).toThrow('Now 1 have it')
    deleteTag(context, tagId, 1)
    expect(names(context, person)).toEqual([])
    expect(sayEvent(eventsOfPerson(context.db, person)[0]!)).toBe('lost the tag “sheet kit”, which was deleted')
    expect([findPage(context.db, 1)!.draft.tagIds, findCourse(context.db, courseId)!.draft.wayInTagIds]).toEqual([[], []])
    // What was published with it gives nothing any more, and stays up.
    expect(names(context, visit(context, 'late@example.com'))).toEqual([])
  })
})

describe('merging and deleting lists', () => {
  it('keeps everybody’s leaving, moves the mail that waits, and never mails who had left either', async () => {
    const { context, listId, courseId } = await furnish(openContext())
    const second = saveList(context, null, { name: 'second', publicName: 'Second', description: '' })
    const third = saveList(context, null, { name: 'third', publicName: 'Third', description: '' })
    const [stays, left, leftOther] = ['stays', 'left', 'other'].map(name => visit(context, `${name}@example.com`))
    await moveTo(context, thursdayNoon + HOUR)
    expect(() => mergeLists(context, listId, second)).toThrow(/is for everyone/)
    joinListByHand(context, stays!, second)
    joinListByHand(context, left!, second)
    leave(context, emailsOfPerson(context.db, left!)[0]!.id, { what: 'list', listId: second })
    joinListByHand(context, leftOther!, third)
    joinListByHand(context, leftOther!, second)
    leave(context, emailsOfPerson(context.db, leftOther!)[0]!.id, { what: 'list', listId: third })
    mergeLists(context, second, third)
    expect([stays, left, leftOther].map(id => membership(context.db, third, id!))).toEqual(['joined', 'left', 'left'])
    expect(() => deleteList(context, listId, 3)).toThrow(/is for everyone/)
    expect(() => deleteList(context, third, 9)).toThrow('Now 1 are on it')
    deleteList(context, third, 1)
    expect(membership(context.db, third, stays!)).toBe('never-joined')
    expect(sayEvent(eventsOfPerson(context.db, stays!)[0]!)).toBe('left the list “third”, which was deleted')
    expect(findCourse(context.db, courseId)!.listId).toBe(listId)
  })
})
