import { describe, expect, it } from 'vitest'
import { sayEvent } from '#core/events'
import { searchMailbox } from '#data/mailbox'
import { emailsOfPerson } from '#data/outbox'
import { findPerson } from '#data/people'
import { leave } from '#usecases/arrive/leave'
import { correctPerson, giveTagByHand, joinListByHand, leaveListByHand, markUnreachable, takeTagByHand } from '#usecases/know/byHand'
import { saveList } from '#usecases/know/listsAndTags'
import { subscriberView } from '#usecases/views/subscriber'
import { DAY, HOUR, furnish, moveTo, openHouse, thursdayNoon, visit, visitAndConfirm, type Setting } from './workshop'

const tagsOf = ({ house }: Setting, id: number) => subscriberView(house, id).tags.map(tag => tag.name)
const listsOf = ({ house }: Setting, id: number) => subscriberView(house, id).lists.filter(list => list.leftAt === null).map(list => list.name)
const said = ({ house }: Setting, id: number) => subscriberView(house, id).events.map(sayEvent)

describe('by hand', () => {
  it('a name and a zone are corrected, written down, and the unsent emails follow the new zone', async () => {
    const made = await furnish(openHouse())
    const { house } = made
    const id = visit(house, 'ada@example.com', 'Adda', 'Europe/Lisbon')
    correctPerson(house, id, { firstName: ' Ada  Maria ', zone: 'Asia/Tokyo', country: null, fields: {} })
    expect(findPerson(house.db, id)).toMatchObject({ firstName: 'Ada Maria', zone: 'Asia/Tokyo' })
    expect(said(made, id).slice(0, 2)).toEqual(['now has another time zone, by hand', 'was given another first name, by hand'])
    correctPerson(house, id, { firstName: 'Ada Maria', zone: 'Asia/Tokyo', country: null, fields: {} })
    expect(said(made, id).filter(sentence => sentence.includes('by hand'))).toHaveLength(2)
    expect(() => correctPerson(house, id, { firstName: 'x', zone: 'Mars/Olympus', country: null, fields: {} })).toThrow(/time zone/)
    expect(findPerson(house.db, id)!.firstName).toBe('Ada Maria')
    expect(() => correctPerson(house, 999, { firstName: 'x', zone: null, country: null, fields: {} })).toThrow(/not there/)
  })

  it('somebody is marked as bounced or complained, with a reason, and gets nothing more', async () => {
    const made = await furnish(openHouse())
    const { house } = made
    const id = visit(house, 'ada@example.com')
    expect(() => markUnreachable(house, id, 'bounced', ' \n ')).toThrow(/Say why|wrong/)
    await moveTo(house, thursdayNoon + HOUR)
    markUnreachable(house, id, 'bounced', ' her letter\ncame back ')
    expect([findPerson(house.db, id)!.status, subscriberView(house, id).courses[0]!.status]).toEqual(['bounced', 'left'])
    expect(said(made, id)).toContainEqual(expect.stringContaining('her letter came back'))
    expect(emailsOfPerson(house.db, id).filter(({ status }) => status === 'queued')).toEqual([])
    expect(() => markUnreachable(house, id, 'bounced', 'again')).toThrow('bounced already')
    markUnreachable(house, id, 'complained', 'she wrote so')
    expect(() => markUnreachable(house, id, 'bounced', 'again')).toThrow('complained already')
    const emails = emailsOfPerson(house.db, id).length
    await moveTo(house, thursdayNoon + 30 * DAY)
    expect(emailsOfPerson(house.db, id)).toHaveLength(emails)
  })

  it('a tag starts its course once, not as asked-for mail, and taking it away stops nothing', async () => {
    const made = await furnish(openHouse())
    const { house, interestId, tagId, courseId } = made
    const id = visit(house, 'ada@example.com')
    await moveTo(house, thursdayNoon + HOUR)
    giveTagByHand(house, id, interestId)
    giveTagByHand(house, id, interestId)
    expect(tagsOf(made, id)).toEqual(['sheet kit', 'interest: coptic'])
    expect(said(made, id).filter(sentence => sentence === 'got the tag interest: coptic, by hand')).toHaveLength(1)
    takeTagByHand(house, id, tagId)
    takeTagByHand(house, id, tagId)
    expect(tagsOf(made, id)).toEqual(['interest: coptic'])
    expect(said(made, id).filter(sentence => sentence === 'lost the tag sheet kit, by hand')).toHaveLength(1)
    expect(subscriberView(house, id).courses).toMatchObject([{ id: courseId, status: 'open' }])
    giveTagByHand(house, id, tagId) // inside already: written down, and nothing else
    expect(said(made, id)[0]).toMatch(/came to the door of Fold, Sew, Cover and stays as before: is inside already/)
    await moveTo(house, thursdayNoon + 10 * DAY)
    expect(searchMailbox(house.db, 'ada@', 9, 0).total).toBe(3)
    giveTagByHand(house, id, interestId)
    takeTagByHand(house, id, tagId)
    giveTagByHand(house, id, tagId) // has been through, may come again
    await moveTo(house, thursdayNoon + 10 * DAY + 1)
    expect(emailsOfPerson(house.db, id)[0]).toMatchObject({ stepId: 'one', visit: 2, askedFor: 0 })
    expect(() => giveTagByHand(house, id, 99)).toThrow(/tag is not there/)
  })

  it('a list can be given, taken and given back; one they left themselves only they can come back to', async () => {
    const made = await furnish(openHouse())
    const { house, listId } = made
    const otherId = saveList(house, null, { name: 'news', publicName: 'News', description: '' })
    const [taken, left] = [visit(house, 'taken@example.com'), visit(house, 'left@example.com')]
    await moveTo(house, thursdayNoon + HOUR)
    joinListByHand(house, taken, otherId)
    expect(listsOf(made, taken)).toEqual(['letters', 'news'])
    leaveListByHand(house, taken, listId)
    expect(said(made, taken)[1]).toBe('was taken off the list letters, by hand')
    expect(subscriberView(house, taken).courses[0]).toMatchObject({ status: 'left' }) // its courses end
    joinListByHand(house, taken, listId)
    expect(listsOf(made, taken)).toEqual(['letters', 'news'])
    leave(house, emailsOfPerson(house.db, left).at(-1)!.id, { what: 'list', listId })
    expect(() => joinListByHand(house, left, listId)).toThrow(/Only they can come back/)
    // Taken off, put back, and then gone by themselves: the last word is theirs.
    leave(house, emailsOfPerson(house.db, taken).at(-1)!.id, { what: 'list', listId })
    expect(() => joinListByHand(house, taken, listId)).toThrow(/Only they can come back/)
    await moveTo(house, thursdayNoon + 10 * DAY)
    expect(searchMailbox(house.db, '@example.com', 9, 0).total).toBe(2)
    visitAndConfirm(house, 'left@example.com')
    expect(listsOf(made, left)).toEqual(['letters'])
  })

  it('lifts no leaving: a tag given to someone who is gone starts nothing, and nothing is sent', async () => {
    const made = await furnish(openHouse())
    const { house, tagId } = made
    const id = visit(house, 'gone@example.com')
    await moveTo(house, thursdayNoon + HOUR)
    leave(house, emailsOfPerson(house.db, id)[0]!.id, { what: 'everything' })
    takeTagByHand(house, id, tagId)
    giveTagByHand(house, id, tagId)
    await moveTo(house, thursdayNoon + 10 * DAY)
    expect(findPerson(house.db, id)!.status).toBe('unsubscribed')
    expect(searchMailbox(house.db, 'gone@', 9, 0).total).toBe(1)
  })
})
