/** The engine room, as its owner reads it: what is due and how late, what was given up and why; and trying that again. */
import { describe, expect, it } from 'vitest'
import type { HandOver, Mail } from '#core/ports'
import { emailsOfPerson } from '#data/outbox'
import { askPracticeClock, beat, setPracticeClock } from '#data/workspace'
import { leave } from '#usecases/arrive/leave'
import { tryAgain } from '#usecases/sending/tryAgain'
import { engineView } from '#usecases/views/engine'
import { DAY, furnish, HOUR, listeningCarrier, moveTo, openContext, thursdayNoon, visit, type Workshop } from './workshop'

const work = (context: Workshop) => Object.fromEntries(engineView(context, 0).work.map(({ kind, ...rest }) => [kind, rest]))
const refuse = (text: string, stage: 'recipient' | 'data' = 'data'): HandOver => ({ kind: 'refused', answer: { stage, code: 550, text } })

describe('the engine room', () => {
  it('counts what is due and not done, since when, and says when the next comes', async () => {
    const { context } = await furnish(openContext({ carrier: listeningCarrier() }))
    for (let n = 0; n < 3; n++) visit(context, `p${n}@example.com`)
    expect(work(context).email).toEqual({ name: 'Emails to send', due: 3, oldestAt: thursdayNoon, nextAt: null })
    await moveTo(context, thursdayNoon + HOUR / 2)
    expect(work(context)).toMatchObject({ email: { due: 0, oldestAt: null }, step: { due: 0, oldestAt: null, nextAt: thursdayNoon + DAY } })
    expect(engineView(context, 0)).toMatchObject({ sentLastHour: 3, carrier: 'ready', givenUpCount: 0 })
    // The clock goes on, and nobody plays.
    askPracticeClock(context.db, thursdayNoon + DAY + 2 * HOUR)
    setPracticeClock(context.db, thursdayNoon + DAY + 2 * HOUR)
    expect(work(context).step).toEqual({ name: 'Course steps', due: 3, oldestAt: thursdayNoon + DAY, nextAt: null })
    expect(engineView(context, 0)).toMatchObject({ sentLastHour: 0, seenMsAgo: null })
    await moveTo(context, thursdayNoon + DAY + 2 * HOUR)
    expect(work(context).step).toMatchObject({ due: 0, oldestAt: null })
  })

  it('tells how long ago the engine was seen, by the machine’s clock', async () => {
    const { context } = await furnish(openContext())
    beat(context.db, { process: 'engine', seenAt: 5_000, startedAt: 0, version: 'x' })
    expect(engineView(context, 65_000).seenMsAgo).toBe(60_000)
  })

  it('an email given up stands there with its reason; tried again it goes once, and only to whom it may', async () => {
    let faults = true
    const carrier = listeningCarrier((mail: Mail): HandOver => {
      if (!faults) return { kind: 'accepted' }
      return mail.to.address.startsWith('gone') ? refuse('5.1.1 no such mailbox', 'recipient') : refuse('5.6.0 too odd for us')
    })
    const { context } = await furnish(openContext({ carrier }))
    const [ada, bram, , gone] = ['ada', 'bram', 'cora', 'gone'].map(name => visit(context, `${name}@example.com`))
    await moveTo(context, thursdayNoon + HOUR)
    const { givenUp, givenUpCount } = engineView(context, 0)
    expect(givenUp.map(({ name, title, plannedAt }) => `${name} ${title} ${plannedAt}`).sort()).toEqual(
      ['ada', 'bram', 'cora'].map(name => `${name}@example.com one ${thursdayNoon}`),
    )
    expect([givenUpCount, new Set(givenUp.map(({ reason }) => reason)).size, givenUp[0]!.reason.includes('too odd for us')]).toEqual([
      3, 1, true,
    ])
    faults = false
    const [adas, brams] = [ada!, bram!].map(id => emailsOfPerson(context.db, id)[0]!)
    expect([tryAgain(context, adas!.id), tryAgain(context, adas!.id)]).toEqual([1, 0])
    await moveTo(context, thursdayNoon + 2 * HOUR)
    expect(engineView(context, 0).givenUp.map(({ name }) => name).sort()).toEqual(['bram@example.com', 'cora@example.com'])
    // Who has left meanwhile is asked for once more, and held back by the last look.
    leave(context, brams!.id, { what: 'everything' })
    expect(tryAgain(context, null)).toBeGreaterThan(0)
    await moveTo(context, thursdayNoon + 3 * HOUR)
    const became = (id: number) =>
      emailsOfPerson(context.db, id).filter(({ itemId: stepId }) => stepId === 'one').map(({ status }) => status)
    expect([became(ada!), became(gone!)]).toEqual([['handed over'], ['failed']])
    expect(became(bram!)).not.toContain('handed over')
    expect(engineView(context, 0).givenUpCount).toBe(0)
    const accepted = carrier.mails.slice(4).map(({ to }) => to.address)
    expect(accepted.sort()).toEqual(['ada@example.com', 'cora@example.com'])
  })
})
