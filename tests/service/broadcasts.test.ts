/** One email to one audience, once: to the right people, at their time, and nobody else. */
import { describe, expect, it } from 'vitest'
import { ofParts } from '#core/audience/parts'
import type { Condition } from '#core/audience/condition'
import { newBroadcast, type BroadcastDraft } from '#core/broadcast/draft'
import { localOf, MINUTE } from '#core/time/zone'
import { NO_GUARDS, writeBroadcast } from './broadcasting'
import { allEmails } from './outboxRows'
import { giveTagByHand } from '#usecases/know/byHand'
import { saveTag } from '#usecases/know/listsAndTags'
import { createBroadcast, duplicateBroadcast, removeBroadcast, saveBroadcast } from '#usecases/broadcasts/save'
import {
  pauseBroadcast, resumeBroadcast, scheduleBroadcast, stopBroadcast, takeBackBroadcast,
} from '#usecases/broadcasts/schedule'
import { doToMany, taskView } from '#usecases/know/doToMany'
import { beginDueSends, releaseDueSends } from '#usecases/sending/audience'
import { workOnTask } from '#usecases/time/tasks'
import { InputProblem, NotNow } from '#usecases/problem'
import { heldView, setHeld } from '#usecases/sending/hold'
import { play } from '#usecases/time/play'
import { broadcastLines, broadcastView } from '#usecases/views/broadcasts'
import { broadcastReach } from '#usecases/views/broadcastReach'
import { railView } from '#usecases/views/frame'
import { broadcastNotices } from '#usecases/today/broadcasts'
import { todayView } from '#usecases/views/today'
import { whyView } from '#usecases/views/why'
import { DAY, email, furnish, HOUR, moveTo, openContext, step, tag, thursdayNoon, visit, type Workshop } from './workshop'

const has = (tagId: number): Condition => ({ kind: 'tag', tagId, since: null })
const who = (belongs: Condition[], never: Condition[] = []) =>
  ofParts({ belongs: { kind: 'all', of: belongs }, never: { kind: 'none', of: never } })
/** A course that sends nothing by itself for a long time. */
const quiet = () => [step('one', { kind: 'elapsed', count: 80, unit: 'days', from: 'joining' })]
const fates = (context: Workshop, id: number) => Object.fromEntries(allEmails(context.db, { kind: 'broadcast', ownerId: id })
  .map(({ address, status, reason }) => [address.split('@')[0], reason ?? status]))
const state = (context: Workshop, id: number) => broadcastView(context, id).state

/** The minute is over by the computer's clock. */
const aMinuteLater = (context: Workshop) => {
  const now = context.system.now()
  context.system.now = () => now + MINUTE
}

describe('a broadcast', () => {
  it('is sent now, after a minute in which it can be taken back', async () => {
    const { context, listId } = await furnish(openContext(), quiet)
    for (const name of ['ada', 'ben']) visit(context, `${name}@example.com`)
    const id = writeBroadcast(context, listId)
    await scheduleBroadcast(context, id)
    await play(context, thursdayNoon)
    expect([state(context, id), fates(context, id)]).toEqual(['scheduled', {}])
    expect(railView(context).posts!.filter(({ kind }) => kind === 'broadcast')).toMatchObject([
      { people: 2, title: 'Winter papers', at: thursdayNoon },
    ])
    takeBackBroadcast(context, id)
    aMinuteLater(context)
    await play(context, thursdayNoon)
    expect([state(context, id), fates(context, id)]).toEqual(['draft', {}])
    await scheduleBroadcast(context, id)
    aMinuteLater(context)
    await play(context, thursdayNoon)
    expect([state(context, id), fates(context, id)]).toEqual(['sent', { ada: 'handed over', ben: 'handed over' }])
    expect(() => takeBackBroadcast(context, id)).toThrow(NotNow)
    await expect(scheduleBroadcast(context, id)).rejects.toThrow(NotNow)
    expect(() => saveBroadcast(context, id, newBroadcast(listId))).toThrow(NotNow)
    expect(() => removeBroadcast(context, id)).toThrow(NotNow)
    // Another one goes to everybody again: it is another email.
    const next = duplicateBroadcast(context, id)
    await scheduleBroadcast(context, next)
    await moveTo(context, thursdayNoon + HOUR)
    expect(fates(context, next)).toEqual({ ada: 'handed over', ben: 'handed over' })
    expect(broadcastLines(context).map(({ name, state: is, progress }) => [name, is, progress?.handedOver])).toEqual([
      ['Winter papers, copy', 'sent', 2], ['Winter papers', 'sent', 2],
    ])
  })

  it('has its time: it does not wait behind a bulk change that takes long', async () => {
    const { context, listId } = await furnish(openContext(), quiet)
    const people = Array.from({ length: 130 }, (_, n) => visit(context, `p${n}@example.com`))
    const taskId = doToMany(context, { kind: 'picked', ids: people }, { kind: 'give-tag', tagId: saveTag(context, null, tag('many')) }, 130)
    workOnTask(context)
    const id = writeBroadcast(context, listId)
    await scheduleBroadcast(context, id)
    aMinuteLater(context)
    releaseDueSends(context, context.clock.now())
    beginDueSends(context, context.clock.now())
    while (Object.keys(fates(context, id)).length < 130) expect(workOnTask(context)).toBe(true)
    expect(taskView(context, taskId)).toMatchObject({ state: 'running', done: 60 })
    while (workOnTask(context));
    expect(taskView(context, taskId)).toMatchObject({ state: 'done', done: 130 })
  })

  it('goes to those who are in its audience as it begins, and can be changed until then', async () => {
    const { context, listId } = await furnish(openContext(), quiet)
    const [likes, leavesOut] = [saveTag(context, null, tag('likes')), saveTag(context, null, tag('never'))]
    const [ada, ben, cleo, dora] = ['ada', 'ben', 'cleo', 'dora'].map(name => visit(context, `${name}@example.com`)) as [
      number, number, number, number,
    ]
    for (const one of [ada, ben, cleo]) giveTagByHand(context, one, likes)
    giveTagByHand(context, ben, leavesOut)
    const id = writeBroadcast(context, listId, {
      who: who([has(likes)], [has(leavesOut)]), when: { kind: 'at', date: '2026-11-27', time: '08:00', zone: 'workspace' },
    })
    await scheduleBroadcast(context, id)
    // Written on, what is scheduled stays until it is scheduled anew.
    const { draft } = broadcastView(context, id)
    saveBroadcast(context, id, { ...draft, content: email('Winter papers, at last') })
    expect(broadcastView(context, id)).toMatchObject({
      state: 'scheduled', hasChanges: true, scheduled: { content: { workingTitle: 'Winter papers' } },
    })
    await scheduleBroadcast(context, id)
    expect(broadcastView(context, id).hasChanges).toBe(false)
    await moveTo(context, thursdayNoon + 19 * HOUR)
    giveTagByHand(context, dora, likes)
    await moveTo(context, thursdayNoon + 20 * HOUR)
    // Who comes into it later does not get it; nor does who was left out, once they are not any more.
    const eve = visit(context, 'eve@example.com')
    giveTagByHand(context, eve, likes)
    await moveTo(context, thursdayNoon + 2 * DAY)
    expect(fates(context, id)).toEqual({ ada: 'handed over', ben: 'in-never', cleo: 'handed over', dora: 'handed over' })
    expect([eve, ben].map(one => whyView(context, one, { kind: 'broadcast', ownerId: id, itemId: 'email' })[0])).toEqual([
      'They were not in the audience when sending began.', 'It was held back: in never.',
    ])
    expect(context.db.prepare(`SELECT DISTINCT working_title FROM messages m JOIN outbox o ON o.message_id = m.id
      WHERE o.kind = 'broadcast'`)
      .pluck().all()).toEqual(['Winter papers, at last'])
  })

  it('comes at 08:00 by each reader’s own clock, and at once where that has passed', async () => {
    const { context, listId } = await furnish(openContext(), quiet)
    const zones = { auckland: 'Pacific/Auckland', lisbon: null, la: 'America/Los_Angeles' }
    for (const [name, zone] of Object.entries(zones)) {
      context.db.prepare('UPDATE people SET zone = ? WHERE id = ?').run(zone, visit(context, `${name}@example.com`))
    }
    const id = writeBroadcast(context, listId, { when: { kind: 'at', date: '2026-11-28', time: '08:00', zone: 'reader' } })
    const { times } = broadcastReach(context, { id, draft: broadcastView(context, id).draft })
    expect([localOf(times!.firstAt, 'Pacific/Auckland'), localOf(times!.lastAt, 'America/Los_Angeles'), times!.withoutZone]).toEqual([
      { date: '2026-11-28', time: '08:00' }, { date: '2026-11-28', time: '08:00' }, 1,
    ])
    await scheduleBroadcast(context, id)
    await moveTo(context, thursdayNoon + 5 * DAY)
    const left = allEmails(context.db, { kind: 'broadcast', ownerId: id })
    expect(Object.fromEntries(left.map(({ address, handedOverAt }) => {
      const name = address.split('@')[0] as keyof typeof zones
      return [name, localOf(handedOverAt!, zones[name] ?? 'Europe/Lisbon')]
    }))).toEqual(Object.fromEntries(Object.keys(zones).map(name => [name, { date: '2026-11-28', time: '08:00' }])))
    // On a day that has begun in the east, those who are there get it as it begins.
    const late = writeBroadcast(context, listId, { when: { kind: 'at', date: '2026-12-01', time: '20:00', zone: 'reader' } })
    await scheduleBroadcast(context, late)
    await moveTo(context, thursdayNoon + 6 * DAY)
    expect(allEmails(context.db, { kind: 'broadcast', ownerId: late }).map(({ address, handedOverAt }) => [
      address, (handedOverAt! - thursdayNoon) / HOUR,
    ])
      .sort()).toEqual([['auckland@example.com', 120], ['la@example.com', 136], ['lisbon@example.com', 128]])
    // Once it has passed everywhere it cannot be chosen any more.
    const past = writeBroadcast(context, listId, { when: { kind: 'at', date: '2026-11-28', time: '08:00', zone: 'reader' } })
    await expect(scheduleBroadcast(context, past)).rejects.toThrow(InputProblem)
  })

  it('is spread over hours, the same for each reader however often it is reckoned', async () => {
    const { context, listId } = await furnish(openContext(), quiet)
    for (let n = 0; n < 40; n++) visit(context, `p${n}@example.com`)
    const id = writeBroadcast(
      context, listId, { spreadHours: 4, when: { kind: 'at', date: '2026-11-26', time: '13:00', zone: 'workspace' } }
    )
    await scheduleBroadcast(context, id)
    await moveTo(context, thursdayNoon + 3 * HOUR)
    const gone = () => allEmails(context.db, { kind: 'broadcast', ownerId: id }).filter(({ status }) => status === 'handed over').length
    expect(state(context, id)).toBe('sending')
    expect(gone()).toBeGreaterThan(10)
    expect(gone()).toBeLessThan(30)
    pauseBroadcast(context, id)
    const before = gone()
    await moveTo(context, thursdayNoon + 8 * HOUR)
    expect([state(context, id), gone()]).toEqual(['paused', before])
    expect(broadcastView(context, id).progress).toMatchObject({ audience: 40, handedOver: before, waiting: 40 - before })
    resumeBroadcast(context, id)
    await moveTo(context, thursdayNoon + 9 * HOUR)
    expect([state(context, id), gone()]).toEqual(['sent', 40])
  })

  it('stopped, it goes to nobody else, and says to whom it went', async () => {
    const { context, listId } = await furnish(openContext(), quiet)
    for (let n = 0; n < 20; n++) visit(context, `p${n}@example.com`)
    const id = writeBroadcast(context, listId, { spreadHours: 10 })
    await scheduleBroadcast(context, id)
    await moveTo(context, thursdayNoon + 5 * HOUR)
    const { handedOver } = broadcastView(context, id).progress!
    stopBroadcast(context, id)
    await moveTo(context, thursdayNoon + 2 * DAY)
    expect(broadcastView(context, id)).toMatchObject({ state: 'stopped', progress: { handedOver, withdrawn: 20 - handedOver, waiting: 0 } })
    expect(handedOver).toBeGreaterThan(0)
    expect(() => resumeBroadcast(context, id)).toThrow(NotNow)
  })

  it('spares newcomers, who is inside a course, and who has what it sells, as it is set', async () => {
    const { context, listId, courseId } = await furnish(openContext(), quiet)
    const inside = visit(context, 'inside@example.com')
    await moveTo(context, thursdayNoon + 30 * DAY)
    visit(context, 'new@example.com')
    const draft = (guards: Partial<BroadcastDraft['guards']>) =>
      ({ ...newBroadcast(listId), content: email('Winter papers'), guards: { ...NO_GUARDS, ...guards } })
    const held = (guards: Partial<BroadcastDraft['guards']>) => {
      const { gets, heldBack } = broadcastReach(context, { id: 0, draft: draft(guards) })
      return [gets.people, Object.fromEntries(heldBack.map(({ reason, people }) => [reason, people]))]
    }
    expect(held({})).toEqual([2, {}])
    expect(held({ newcomerDays: 7 })).toEqual([1, { newcomer: 1 }])
    expect(held({ insideCourseIds: [courseId] })).toEqual([0, { 'in-never': 2 }])
    const { guards } = broadcastReach(context, { id: 0, draft: draft({}) })
    expect([guards.newcomers.people, guards.inside.map(({ people }) => people)]).toEqual([1, [2]])
    expect(inside).toBeGreaterThan(0)
  })

  it('is not sent while something is missing, each told at its field', async () => {
    const { context } = await furnish(openContext(), quiet)
    const id = createBroadcast(context)
    expect(broadcastView(context, id).missing.map(({ field }) => field)).toEqual(['content'])
    await expect(scheduleBroadcast(context, id)).rejects.toThrow(/subject and some text/)
    expect(() => saveBroadcast(context, id, { ...newBroadcast(999) })).toThrow(InputProblem)
    expect(() => saveBroadcast(context, id, { ...newBroadcast(null), who: who([has(999)]) })).toThrow(InputProblem)
    removeBroadcast(context, id)
    expect(broadcastLines(context)).toEqual([])
  })

  it('begins with the audience of the last one of the same story', async () => {
    const { context, listId } = await furnish(openContext(), quiet)
    const likes = saveTag(context, null, tag('likes'))
    visit(context, 'ada@example.com')
    const story = { offerId: null, topic: 'Papers' }
    const id = writeBroadcast(context, listId, { who: who([has(likes)]), story })
    const next = writeBroadcast(context, listId, { story: { offerId: null, topic: ' papers ' } })
    expect(broadcastView(context, next).sameStory).toBeNull()
    await scheduleBroadcast(context, id)
    expect(broadcastView(context, next).sameStory).toMatchObject({ who: who([has(likes)]) })
    saveBroadcast(context, next, { ...broadcastView(context, next).draft, who: who([has(likes)]) })
    expect(broadcastView(context, next).sameStory).toBeNull()
  })

  it('waits with everything else while its owner has stopped all sending, and leaves once that is released', async () => {
    const { context, listId } = await furnish(openContext(), quiet)
    visit(context, 'ada@example.com')
    const id = writeBroadcast(context, listId)
    await scheduleBroadcast(context, id)
    setHeld(context, true)
    await moveTo(context, thursdayNoon + 3 * HOUR)
    expect([fates(context, id), heldView(context), todayView(context, null, false).held]).toEqual([
      { ada: 'queued' }, ...Array.from({ length: 2 }, () => ({ sinceAt: thursdayNoon, waiting: 1 })),
    ])
    // Asked-for mail waits, too, and the clock goes on.
    expect(railView(context).backlog).toBe(0)
    setHeld(context, false)
    await moveTo(context, thursdayNoon + 4 * HOUR)
    expect([fates(context, id), heldView(context)]).toEqual([{ ada: 'handed over' }, null])
  })

  it('asks for its owner on Today where something of it waits for them', async () => {
    const { context, listId } = await furnish(openContext(), quiet)
    for (let n = 0; n < 8; n++) visit(context, `p${n}@example.com`)
    const titles = () => broadcastNotices(context).map(({ title }) => title)
    const id = writeBroadcast(
      context, listId, { spreadHours: 8, when: { kind: 'at', date: '2026-11-26', time: '14:00', zone: 'workspace' } }
    )
    await scheduleBroadcast(context, id)
    expect(titles()).toEqual([])
    saveBroadcast(context, id, { ...broadcastView(context, id).draft, spreadHours: 4 })
    expect(titles()).toEqual(['“Winter papers” has changes that are not used'])
    await moveTo(context, thursdayNoon + 3 * HOUR)
    pauseBroadcast(context, id)
    expect(titles()).toEqual(['“Winter papers” is paused'])
    resumeBroadcast(context, id)
    context.db.prepare(`UPDATE sends SET state = 'sending'`).run()
    context.db.prepare(`UPDATE tasks SET state = 'failed', problem = 'The disk is full.'`).run()
    expect(broadcastNotices(context).map(({ tone, text }) => [tone, text])).toEqual([
      ['trouble', 'The disk is full. Nothing is lost: pause it and resume it to go on from there.'],
    ])
    // Paused and resumed it goes on from where it came to.
    pauseBroadcast(context, id)
    resumeBroadcast(context, id)
    await moveTo(context, thursdayNoon + 10 * HOUR)
    expect([titles(), broadcastView(context, id)]).toMatchObject([[], { state: 'sent', progress: { handedOver: 8, waiting: 0 } }])
  })
})
