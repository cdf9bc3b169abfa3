/** A second try for those who missed it, and for nobody else. */
import { describe, expect, it } from 'vitest'
import type { AgainSpec } from '#core/broadcast/again'
import type { BroadcastDraft } from '#core/broadcast/draft'
import { line } from '#core/page/templates/words'
import { SPLITS } from '#core/views/broadcastResults'
import { findPersonByKey } from '#data/people'
import { MINUTE } from '#core/time/zone'
import { actOnAgain, sendAgain } from '#usecases/broadcasts/again'
import { createBroadcast, saveBroadcast } from '#usecases/broadcasts/save'
import { scheduleBroadcast, stopBroadcast, takeBackBroadcast } from '#usecases/broadcasts/schedule'
import { giveTagByHand } from '#usecases/know/byHand'
import { saveTag } from '#usecases/know/listsAndTags'
import { saveSegment } from '#usecases/know/segments'
import { InputProblem, NotNow } from '#usecases/problem'
import { play } from '#usecases/time/play'
import { againReach, broadcastView } from '#usecases/views/broadcasts'
import { broadcastResults, broadcastSplit, broadcastWho } from '#usecases/views/broadcastResults'
import { clickMap } from '#usecases/views/clickMap'
import { sendBroadcast } from './broadcasting'
import { allEmails } from './outboxRows'
import { click, open } from './readers'
import { DAY, email, furnish, HOUR, moveTo, openContext, step, tag, thursdayNoon, visit, type Workshop } from './workshop'

const quiet = () => [step('one', { kind: 'elapsed', count: 80, unit: 'days', from: 'joining' })]
const spec = (more: Partial<AgainSpec> = {}): AgainSpec =>
  ({ without: 'open', url: null, subject: line('Before the paper is gone'), uncertainToo: false, ...more })
const withLinks = email('Winter papers', { body: { type: 'doc', content: [
  { type: 'button', attrs: { label: 'See the papers', url: 'https://saltmarsh.example.com/papers', tagId: null } },
  { type: 'button', attrs: { label: 'Read how', url: 'https://saltmarsh.example.com/how', tagId: null } },
] } })

/** Sent to everybody of these; what each of them does with it. */
async function sent(names: readonly string[], more: Partial<BroadcastDraft> = {}) {
  const { context, listId } = await furnish(openContext(), quiet)
  const people = Object.fromEntries(names.map(name => [name, visit(context, `${name}@example.com`)])) as Record<string, number>
  const id = await sendBroadcast(context, listId, { content: withLinks, ...more })
  await moveTo(context, thursdayNoon + HOUR)
  const emailOf = (name: string) =>
    context.db.prepare(`SELECT id FROM outbox WHERE kind = 'broadcast' AND person_id = ?`).pluck().get(people[name]) as number
  return { context, id, people, emailOf }
}
const got = (context: Workshop, id: number) => allEmails(context.db, { kind: 'again', ownerId: id })
  .map(({ address, status, reason }) => [address.split('@')[0], reason ?? status])
const aMinuteLater = (context: Workshop) => {
  const now = context.system.now()
  context.system.now = () => now + MINUTE
}

describe('sending again', () => {
  it('goes to those without a reader open or a click, and not to whom only a program may have opened it for', async () => {
    const { context, id, emailOf } = await sent(['opened', 'clicked', 'maybe', 'silent'])
    open(context, emailOf('opened'))
    click(context, emailOf('clicked'))
    open(context, emailOf('maybe'), 'program')
    await moveTo(context, thursdayNoon + 2 * HOUR)
    expect(againReach(context, { id, spec: spec() })).toMatchObject({ people: 1, uncertain: 1 })
    expect(againReach(context, { id, spec: spec({ uncertainToo: true }) })).toMatchObject({ people: 2, uncertain: 0 })
    await sendAgain(context, id, { ...spec(), when: { kind: 'now' } })
    aMinuteLater(context)
    await play(context, thursdayNoon + 2 * HOUR)
    expect(got(context, id)).toEqual([['silent', 'handed over']])
    expect(context.db.prepare(`SELECT subject FROM mailbox ORDER BY id DESC LIMIT 1`).pluck().get()).toBe('Before the paper is gone')
    // One second one at most, whoever asks for it and however.
    expect(againReach(context, { id, spec: spec({ without: 'click' }) })).toMatchObject({ people: 2 })
    await sendAgain(context, id, { ...spec({ without: 'click', uncertainToo: true }), when: { kind: 'now' } })
    await moveTo(context, thursdayNoon + 4 * HOUR)
    expect(got(context, id).map(([name]) => name).sort()).toEqual(['maybe', 'opened', 'silent'])
  })

  it('looks once more before each leaves: who reads the first meanwhile, or gets another, does not get it', async () => {
    const { context, id, emailOf } = await sent(['late', 'silent'])
    await sendAgain(context, id, { ...spec(), when: { kind: 'at', date: '2026-11-27', time: '08:00', zone: 'workspace' } })
    await sendAgain(
      context, id, { ...spec({ subject: line('Or this way') }), when: { kind: 'at', date: '2026-11-27', time: '08:00', zone: 'workspace' } }
    )
    const [first, second] = broadcastView(context, id).again.map(({ sendId }) => sendId)
    // Both are settled for both of them; as the first of these emails leaves, the other reader opens the first broadcast.
    const handOver = context.carrier.handOver.bind(context.carrier)
    let readBy = false
    context.carrier.handOver = (mail, source) => {
      if (!readBy) {
        readBy = true
        open(context, emailOf('late'))
      }
      return handOver(mail, source)
    }
    await moveTo(context, thursdayNoon + 2 * DAY)
    const fates = got(context, id)
    expect(fates.filter(([, fate]) => fate === 'handed over').length).toBeLessThanOrEqual(2)
    for (const name of ['late', 'silent']) expect(
      fates.filter(([who, fate]) => who === name && fate === 'handed over').length
    ).toBeLessThanOrEqual(1)
    expect(fates.filter(([, fate]) => fate === 'got-it-already').length).toBeGreaterThanOrEqual(2)
    expect([first, second].every(Number.isInteger)).toBe(true)
  })

  it.each<[AgainSpec['without'], string | null, string[]]>([
    ['click', null, ['opened', 'silent']], ['link', 'https://saltmarsh.example.com/how', ['clicked', 'opened', 'silent']],
    ['click-after-open', null, ['opened']], ['purchase', null, ['clicked']],
  ])('to those without a %s', async (without, url, expected) => {
    const { context, id, emailOf } = await sent(['opened', 'clicked', 'silent'])
    open(context, emailOf('opened'))
    click(context, emailOf('clicked'))
    await moveTo(context, thursdayNoon + 2 * HOUR)
    await sendAgain(context, id, { ...spec({ without, url }), when: { kind: 'now' } })
    await moveTo(context, thursdayNoon + 4 * HOUR)
    expect(got(context, id).map(([name]) => name).sort()).toEqual(expected)
  })

  it('can be planned from the start, is taken back with it, and dropped where the first is stopped', async () => {
    const again = { ...spec(), afterDays: 3 }
    const { context, id, emailOf } = await sent(['opened', 'silent'], { again })
    expect(broadcastView(context, id).again).toMatchObject([{ isPlanned: true, state: 'scheduled', dueAt: thursdayNoon + 3 * DAY }])
    open(context, emailOf('opened'))
    await moveTo(context, thursdayNoon + 4 * DAY)
    expect(got(context, id)).toEqual([['silent', 'handed over']])
    const other = createBroadcast(context)
    saveBroadcast(context, other, {
      ...broadcastView(context, id).scheduled!, when: { kind: 'at', date: '2026-12-05', time: '08:00', zone: 'workspace' },
    })
    await scheduleBroadcast(context, other)
    takeBackBroadcast(context, other)
    expect(context.db.prepare('SELECT count(*) FROM sends WHERE owner_id = ?').pluck().get(other)).toBe(0)
    saveBroadcast(context, other, { ...broadcastView(context, other).draft, spreadHours: 8 })
    await scheduleBroadcast(context, other)
    await moveTo(context, thursdayNoon + 9 * DAY)
    stopBroadcast(context, other)
    expect(broadcastView(context, other).again).toEqual([])
    // One that is by hand can be taken back until it begins.
    await sendAgain(
      context, id, { ...spec({ without: 'click' }), when: { kind: 'at', date: '2026-12-20', time: '08:00', zone: 'workspace' } }
    )
    const { sendId } = broadcastView(context, id).again.at(-1)!
    expect(() => actOnAgain(context, id, sendId, 'pause')).toThrow(NotNow)
    actOnAgain(context, id, sendId, 'take-back')
    expect(broadcastView(context, id).again).toHaveLength(1)
  })

  it('needs a subject of its own, and something that was sent', async () => {
    const { context, id } = await sent(['ada'])
    const now = { kind: 'now' as const }
    await expect(sendAgain(context, id, { ...spec({ subject: [] }), when: now })).rejects.toThrow(/subject of its own/)
    await expect(sendAgain(context, id, { ...spec({ subject: withLinks.subject }), when: now })).rejects.toThrow(/another subject/)
    await expect(sendAgain(context, id, { ...spec({ without: 'link' }), when: now })).rejects.toThrow(InputProblem)
    await expect(sendAgain(context, createBroadcast(context), { ...spec(), when: now })).rejects.toThrow(NotNow)
  })
})

describe('the results of a broadcast', () => {
  it('counts each number by its people, with their times', async () => {
    const { context, id, emailOf } = await sent(['opened', 'clicked', 'maybe', 'silent'])
    open(context, emailOf('opened'))
    click(context, emailOf('clicked'))
    open(context, emailOf('maybe'), 'program')
    await moveTo(context, thursdayNoon + 3 * HOUR)
    const results = broadcastResults(context, id)
    const { sent: all, opened, clicked, uncertain, notOpened, notClicked, left, bought } = results
    const numbers = [all, opened, clicked, uncertain, notOpened, notClicked, left, bought]
    expect(numbers.map(({ people }) => people)).toEqual([4, 2, 1, 1, 2, 3, 0, 0])
    for (const { key, people } of [...numbers, results.complained, ...results.links]) {
      const who = broadcastWho(context, { id, key, within: null, from: 0 })
      expect([key, who.people.length, who.more]).toEqual([key, people, false])
      for (const { at } of who.people) expect(at).toBeGreaterThanOrEqual(thursdayNoon)
    }
    expect(results.links.map(({ label, people, clicks }) => [label, people, clicks])).toEqual([
      ['See the papers', 1, 1], ['Read how', 0, 0],
    ])
    // The first who clicked opened it by that.
    expect(results.hours).toEqual([{ hour: 1, opened: 2, clicked: 1 }])
    expect(results.says[0]).toBe('1 of 4 clicked: 25%, between 5% and 70%.')
    expect(results.cannotSay[0]).toMatch(/^1 person may have read it/)
    expect(broadcastSplit(context, { id, by: 'domain' })).toEqual([
      { part: 'example.com', name: 'example.com', sent: 4, opened: 2, clicked: 1 },
    ])
    expect(clickMap(context, id)).toContain('25%, 1 person')
    expect(() => broadcastWho(context, { id, key: 'constructor', within: null, from: 0 })).toThrow()
  })

  it('tells refusals by the code of their answers, each with its people', async () => {
    const answers = [
      '550 5.1.1 No such mailbox: <a@example.com>', '550 5.1.1 Unknown user', '550 5.1.10 Null MX', '550 Go away', '552-5.2.2 Full',
      'It could not be made: no words', 'no answer within ten minutes',
    ]
    const { context, id } = await sent(answers.map((_, n) => `p${n}`))
    const set = context.db.prepare(`UPDATE outbox SET status = 'failed', go_at = NULL, handed_over_at = NULL, reason = ?
      WHERE person_id = (SELECT id FROM people WHERE address = ?) AND kind = 'broadcast'`)
    for (const [n, answer] of answers.entries()) set.run(answer, `p${n}@example.com`)
    const { refused } = broadcastResults(context, id)
    expect(refused.map(({ says, people }) => [says, people])).toEqual([
      ['refused: 550 5.1.1', 2], ['failed after days of trying', 2], ['refused: 550 5.1.10', 1], ['refused: 550', 1],
      ['refused: 552 5.2.2', 1],
    ])
    for (const { key, people, said } of refused) {
      expect([key, broadcastWho(context, { id, key, within: null, from: 0 }).people.length]).toEqual([key, people])
      expect(answers).toContain(said)
    }
  })

  it('opens the people of each part, and of no other', async () => {
    const { context, id, emailOf } = await sent(['opened', 'clicked', 'silent'])
    open(context, emailOf('opened'))
    click(context, emailOf('clicked'))
    const tagId = saveTag(context, null, tag('a part'))
    for (const name of ['opened', 'silent']) giveTagByHand(context, findPersonByKey(context.db, `${name}@example.com`)!.id, tagId)
    saveSegment(context, null, { name: 'Part', note: '', condition: { kind: 'tag', tagId, since: null } })
    for (const by of SPLITS) {
      const rows = broadcastSplit(context, { id, by })
      expect(rows.length).toBeGreaterThan(0)
      for (const { part, ...row } of rows) for (const key of ['sent', 'opened', 'clicked'] as const) {
        const { people } = broadcastWho(context, { id, key, within: { by, part }, from: 0 })
        expect([by, part, key, people.length]).toEqual([by, part, key, row[key]])
      }
    }
    const [ofTag] = broadcastSplit(context, { id, by: 'tag' }).filter(({ name }) => name === 'a part')
    expect([ofTag!.part, ofTag!.sent, ofTag!.opened, ofTag!.clicked]).toEqual([String(tagId), 2, 1, 0])
    expect(() => broadcastWho(context, { id, key: 'left', within: { by: 'tag', part: '1' }, from: 0 })).toThrow()
    expect(broadcastWho(context, { id, key: 'sent', within: { by: 'domain', part: `' OR 1 --` }, from: 0 }).people).toEqual([])
  })
})
