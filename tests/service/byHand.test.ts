import { describe, expect, it } from 'vitest'
import { sayEvent } from '#core/events'
import { searchMailbox } from '#data/mailbox'
import { emailsOfPerson } from '#data/outbox'
import { findPerson } from '#data/people'
import { leave } from '#usecases/arrive/leave'
import { correctPerson, giveTagByHand, joinListByHand, leaveListByHand, markUnreachable, takeTagByHand } from '#usecases/know/byHand'
import { saveList } from '#usecases/know/listsAndTags'
import { subscriberView } from '#usecases/views/subscriber'
import { DAY, HOUR, furnish, moveTo, openContext, thursdayNoon, visit, visitAndConfirm, type Setting } from './workshop'

const tagsOf = ({ context }: Setting, id: number) => subscriberView(context, id).tags.map(tag => tag.name)
const listsOf = ({ context }: Setting, id: number) =>
  subscriberView(context, id).lists.filter(list => list.leftAt === null).map(list => list.name)
const said = ({ context }: Setting, id: number) => subscriberView(context, id).events.map(sayEvent)

describe('by hand', () => {
  it('a name and a zone are corrected, written down, and the unsent emails follow the new zone', async () => {
    const made = await furnish(openContext())
    const { context } = made
    const id = visit(context, 'ada@example.com', 'Adda', 'Europe/Lisbon')
    correctPerson(context, id, { firstName: ' Ada  Maria ', zone: 'Asia/Tokyo', country: null, fields: {} })
    expect(findPerson(context.db, id)).toMatchObject({ firstName: 'Ada Maria', zone: 'Asia/Tokyo' })
    expect(said(made, id).slice(0, 2)).toEqual(['has a new time zone, by hand', 'was given a new first name, by hand'])
    correctPerson(context, id, { firstName: 'Ada Maria', zone: 'Asia/Tokyo', country: null, fields: {} })
    expect(said(made, id).filter(sentence => sentence.includes('by hand'))).toHaveLength(2)
    expect(() => correctPerson(context, id, { firstName: 'x', zone: 'Mars/Olympus', country: null, fields: {} })).toThrow(/time zone/)
    expect(findPerson(context.db, id)!.firstName).toBe('Ada Maria')
    expect(() => correctPerson(context, 999, { firstName: 'x', zone: null, country: null, fields: {} })).toThrow(/no longer exists/)
  })

  it('somebody is marked as bounced or complained, with a reason, and gets nothing more', async () => {
    const made = await furnish(openContext())
    const { context } = made
    const id = visit(context, 'ada@example.com')
    expect(() => markUnreachable(context, id, 'bounced', ' \n ')).toThrow(/Enter a reason|wrong/)
    await moveTo(context, thursdayNoon + HOUR)
    markUnreachable(context, id, 'bounced', ' her letter\ncame back ')
    expect([findPerson(context.db, id)!.status, subscriberView(context, id).courses[0]!.status]).toEqual(['bounced', 'left'])
    expect(said(made, id)).toContainEqual(expect.stringContaining('her letter came back'))
    expect(emailsOfPerson(context.db, id).filter(({ status }) => status === 'queued')).toEqual([])
    expect(() => markUnreachable(context, id, 'bounced', 'again')).toThrow('bounced already')
    markUnreachable(context, id, 'complained', 'she wrote so')
    expect(() => markUnreachable(context, id, 'bounced', 'again')).toThrow('complained already')
    const emails = emailsOfPerson(context.db, id).length
    await moveTo(context, thursdayNoon + 30 * DAY)
    expect(emailsOfPerson(context.db, id)).toHaveLength(emails)
  })

  it('a tag starts its course once, not as asked-for mail, and taking it away stops nothing', async () => {
    const made = await furnish(openContext())
    const { context, interestId, tagId, courseId } = made
    const id = visit(context, 'ada@example.com')
    await moveTo(context, thursdayNoon + HOUR)
    giveTagByHand(context, id, interestId)
    giveTagByHand(context, id, interestId)
    expect(tagsOf(made, id)).toEqual(['sheet kit', 'interest: coptic'])
    expect(said(made, id).filter(sentence => sentence === 'got the tag “interest: coptic”, by hand')).toHaveLength(1)
    takeTagByHand(context, id, tagId)
    takeTagByHand(context, id, tagId)
    expect(tagsOf(made, id)).toEqual(['interest: coptic'])
    expect(said(made, id).filter(sentence => sentence === 'lost the tag “sheet kit”, by hand')).toHaveLength(1)
    expect(subscriberView(context, id).courses).toMatchObject([{ id: courseId, status: 'open' }])
    giveTagByHand(context, id, tagId) // inside already: written down, and nothing else
    expect(said(made, id)[0]).toMatch(/did not join “Fold, Sew, Cover”: they are already in it/)
    await moveTo(context, thursdayNoon + 10 * DAY)
    expect(searchMailbox(context.db, 'ada@', 9, 0).total).toBe(3)
    giveTagByHand(context, id, interestId)
    takeTagByHand(context, id, tagId)
    giveTagByHand(context, id, tagId) // has been through, may come again
    await moveTo(context, thursdayNoon + 10 * DAY + 1)
    expect(emailsOfPerson(context.db, id)[0]).toMatchObject({ itemId: 'one', occasionId: 2, askedFor: 0 })
    expect(() => giveTagByHand(context, id, 99)).toThrow(/tag no longer exists/)
  })

  it('a list can be given, taken and given back; one they left themselves only they can come back to', async () => {
    const made = await furnish(openContext())
    const { context, listId } = made
    const otherId = saveList(context, null, { name: 'news', publicName: 'News', description: '' })
    const [taken, left] = [visit(context, 'taken@example.com'), visit(context, 'left@example.com')]
    await moveTo(context, thursdayNoon + HOUR)
    joinListByHand(context, taken, otherId)
    expect(listsOf(made, taken)).toEqual(['letters', 'news'])
    leaveListByHand(context, taken, listId)
    expect(said(made, taken)[1]).toBe('was removed from the list “letters”, by hand')
    expect(subscriberView(context, taken).courses[0]).toMatchObject({ status: 'left' }) // its courses end
    joinListByHand(context, taken, listId)
    expect(listsOf(made, taken)).toEqual(['letters', 'news'])
    leave(context, emailsOfPerson(context.db, left).at(-1)!.id, { what: 'list', listId })
    expect(() => joinListByHand(context, left, listId)).toThrow(/Only they can come back/)
    // Taken off, put back, and then gone by themselves: the last word is theirs.
    leave(context, emailsOfPerson(context.db, taken).at(-1)!.id, { what: 'list', listId })
    expect(() => joinListByHand(context, taken, listId)).toThrow(/Only they can come back/)
    await moveTo(context, thursdayNoon + 10 * DAY)
    expect(searchMailbox(context.db, '@example.com', 9, 0).total).toBe(2)
    visitAndConfirm(context, 'left@example.com')
    expect(listsOf(made, left)).toEqual(['letters'])
  })

  it('lifts no leaving: a tag given to someone who is gone starts nothing, and nothing is sent', async () => {
    const made = await furnish(openContext())
    const { context, tagId } = made
    const id = visit(context, 'gone@example.com')
    await moveTo(context, thursdayNoon + HOUR)
    leave(context, emailsOfPerson(context.db, id)[0]!.id, { what: 'everything' })
    takeTagByHand(context, id, tagId)
    giveTagByHand(context, id, tagId)
    await moveTo(context, thursdayNoon + 10 * DAY)
    expect(findPerson(context.db, id)!.status).toBe('unsubscribed')
    expect(searchMailbox(context.db, 'gone@', 9, 0).total).toBe(1)
  })
})
