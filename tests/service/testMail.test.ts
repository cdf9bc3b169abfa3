/** A test of an email: to a few addresses, as it would be read, and counted nowhere. */
import { describe, expect, it } from 'vitest'
import { InputProblem, NotNow } from '#usecases/problem'
import { MOST_TESTERS, sendTest, type TestAsked } from '#usecases/sending/testMail'
import { play } from '#usecases/time/play'
import { clockView, railView } from '#usecases/views/frame'
import { email, furnish, listeningCarrier, openContext, thursdayNoon } from './workshop'

const content = email('one', { subject: [
  { type: 'text', text: 'For ' }, { type: 'placeholder', attrs: { field: 'first_name', fallback: 'you' } },
], body: { type: 'doc', content: [
  { type: 'paragraph', content: [
    { type: 'text', text: 'See', marks: [{ type: 'link', attrs: { href: 'https://saltmarsh.example.com/' } }] },
  ] },
] } })
const named = (firstName: string) => ({ personId: null, firstName, chosen: null })
const asked = (more: Partial<TestAsked> = {}): TestAsked =>
  ({ content, listId: null, kind: 'course', ownerId: null, readers: [named('Ines')], to: ['ines@saltmarsh.example.com'], ...more })

describe('a test of an email', () => {
  it('goes once to each address as each reader would get it, and its links lead straight on', async () => {
    const carrier = listeningCarrier()
    const { context } = await furnish(openContext({ carrier }))
    const before = context.db.prepare('SELECT count(*) FROM people').pluck().get()
    expect(await sendTest(context, asked({
      readers: [named('Ines'), named('')], to: [' ines@saltmarsh.example.com', 'rui@example.com', 'rui@example.com', ''],
    }))).toBe(4)
    await play(context, thursdayNoon)
    await play(context, thursdayNoon)
    expect(carrier.mails.map(({ to, subject }) => [to.address, subject]).sort()).toEqual([
      ['ines@saltmarsh.example.com', 'Test: For Ines'], ['ines@saltmarsh.example.com', 'Test: For you'],
      ['rui@example.com', 'Test: For Ines'], ['rui@example.com', 'Test: For you'],
    ])
    for (const { html, text } of carrier.mails) {
      expect(html).toContain('href="https://saltmarsh.example.com/"')
      expect(html + text).not.toMatch(/\/(?:l|o|m|c)\/[\w-]+\.|List-Unsubscribe/)
    }
    expect(context.db.prepare('SELECT count(*) FROM people').pluck().get()).toBe(before)
    expect(context.db.prepare(`SELECT count(*) FROM events WHERE kind = 'sent'`).pluck().get()).toBe(0)
  })

  it('is told to the screens as it arrives, though nothing of it is in the history', async () => {
    const { context } = await furnish(openContext())
    await sendTest(context, asked())
    const onItsWay = clockView(context)
    await play(context, thursdayNoon)
    const arrived = clockView(context)
    expect([onItsWay.eventId - arrived.eventId, onItsWay.backlog, arrived.backlog]).toEqual([0, 1, 0])
    expect(arrived.mailId).toBeGreaterThan(onItsWay.mailId)
    expect(railView(context)).toMatchObject(arrived)
  })

  it('refuses what is no address, too many of them, and a workspace without a sender', async () => {
    const { context } = await furnish(openContext())
    await expect(sendTest(context, asked({ to: ['ines at saltmarsh'] }))).rejects.toThrow(InputProblem)
    await expect(sendTest(context, asked({ to: ['', ' '] }))).rejects.toThrow(InputProblem)
    const many = Array.from({ length: MOST_TESTERS + 1 }, (_, n) => `p${n}@example.com`)
    await expect(sendTest(context, asked({ to: many }))).rejects.toThrow(InputProblem)
    context.db.prepare(`UPDATE workspace SET sender_id = NULL`).run()
    await expect(sendTest(context, asked())).rejects.toThrow(NotNow)
    expect(context.db.prepare('SELECT count(*) FROM test_emails').pluck().get()).toBe(0)
  })
})
