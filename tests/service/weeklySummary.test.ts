/** The owner's weekly summary: once a week, at the hour that was said, with the figures of that very week, and never twice. */
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { Mail } from '#core/ports'
import { summaryEmail, type WeeklySummary } from '#core/summary/email'
import { nextSummaryAt, weekBefore, type SummaryRule } from '#core/summary/rule'
import { rateOf } from '#core/stats/rate'
import { weekdayOf } from '#core/time/when'
import { localOf } from '#core/time/zone'
import { sentBetween } from '#data/outbox'
import { workspaceOf } from '#data/workspace'
import { saveSettings } from '#usecases/settings/workspace'
import { saveSummaryRule, summaryRuleOf } from '#usecases/sending/weeklySummary'
import { play } from '#usecases/time/play'
import { DAY, email, furnish, HOUR, listeningCarrier, openContext, step, thursdayNoon, visit } from './workshop'

const MONDAYS: SummaryRule = { on: true, weekday: 1, time: '08:00' }
const OWNER = 'ines@saltmarsh.example.com'

/** A live workspace in Lisbon, in which somebody opted in at noon on a Thursday, and whose mail server takes everything. */
async function live() {
  const clock = { at: thursdayNoon }
  const carrier = listeningCarrier(() => ({ kind: 'accepted' }))
  const { context } = await furnish(openContext({ mode: 'live', clock, carrier }), () => [step('one', { kind: 'at-once' }, email('one'))])
  visit(context, 'filipa@example.com')
  await play(context, clock.at)
  const summaries = (): Mail[] => carrier.mails.filter(({ messageId }) => messageId.startsWith('<summary.'))
  const until = async (at: number) => {
    clock.at = at
    await play(context, at)
  }
  return { context, clock, summaries, until }
}

describe('when it is due', () => {
  it('is the first such hour of the workspace’s own clock that lies ahead, through every change of clocks', () => {
    fc.assert(fc.property(
      fc.integer({ min: Date.UTC(2026, 0), max: Date.UTC(2028, 0) }), fc.integer({ min: 1, max: 7 }),
      fc.constantFrom('00:00', '02:30', '08:00', '23:59'), fc.constantFrom('Europe/Lisbon', 'America/St_Johns', 'Pacific/Apia', 'UTC'),
      (after, weekday, time, zone) => {
        const next = nextSummaryAt({ on: true, weekday: weekday as SummaryRule['weekday'], time }, after, zone)!
        expect(next).toBeGreaterThan(after)
        expect(next - after).toBeLessThanOrEqual(7 * DAY + HOUR)
        const local = localOf(next, zone)
        expect(weekdayOf(local.date)).toBe(weekday)
        // 02:30 does not exist on the night the clocks go forward; it is then read as 03:30 (RFC 5545, 3.3.5).
        if (time === '02:30') return
        expect(local.time).toBe(time)
        expect(weekBefore(nextSummaryAt({ on: true, weekday: weekday as SummaryRule['weekday'], time }, next, zone)!, zone)).toBe(next)
      },
    ), { seed: 19, numRuns: 400 })
  })
})

describe('the summary', () => {
  it('is off until it is wanted', async () => {
    const { context, summaries, until, clock } = await live()
    expect(summaryRuleOf(context).on).toBe(false)
    await until(clock.at + 30 * DAY)
    expect(summaries()).toEqual([])
  })

  it('comes once a week at its hour to the owner, says what that week was, and counts nowhere as sent to readers', async () => {
    const { context, summaries, until } = await live()
    saveSummaryRule(context, MONDAYS)
    const monday = nextSummaryAt(MONDAYS, thursdayNoon, 'Europe/Lisbon')!
    await until(monday - 1)
    expect(summaries()).toHaveLength(0)
    const before = sentBetween(context.db, 0, monday)
    await until(monday)
    await until(monday + HOUR)
    expect(summaries()).toHaveLength(1)
    expect(sentBetween(context.db, 0, monday + HOUR)).toEqual(before)
    const [mail] = summaries()
    expect(mail!.subject).toBe('Your week: 1 person arrived, 1 email sent')
    expect(mail!.headers).toMatchObject({ 'Auto-Submitted': 'auto-generated' })
    expect(mail!.text).toContain('1 arrived (0 the week before)')
    expect(mail!.text).toContain('- Fold, Sew, Cover\n  1 person joined, 1 finished.')
    await until(monday + 7 * DAY)
    expect(summaries().map(({ subject }) => subject)).toEqual([mail!.subject, 'Your week: 0 people arrived, 0 emails sent'])
    expect(summaries()[1]!.text).toContain('0 arrived (1 the week before)')
    saveSummaryRule(context, { ...MONDAYS, on: false })
    await until(monday + 21 * DAY)
    expect(summaries()).toHaveLength(2)
  })

  it('after three weeks without an engine is one, of the latest week', async () => {
    const { context, summaries, until } = await live()
    saveSummaryRule(context, MONDAYS)
    const monday = nextSummaryAt(MONDAYS, thursdayNoon, 'Europe/Lisbon')!
    await until(monday + 15 * DAY)
    expect(summaries()).toHaveLength(1)
    expect(summaries()[0]!.text).toContain('0 arrived (0 the week before)')
    await until(monday + 21 * DAY)
    expect(summaries()).toHaveLength(2)
  })

  it('follows another zone of the workspace, and is not written where there is nobody to write to', async () => {
    const { context, summaries, until, clock } = await live()
    saveSummaryRule(context, MONDAYS)
    saveSettings(context, { ...workspaceOf(context.db), zone: 'America/New_York' })
    const monday = nextSummaryAt(MONDAYS, clock.at, 'America/New_York')!
    await until(monday - 1)
    expect(summaries()).toHaveLength(0)
    await until(monday)
    expect(summaries()).toHaveLength(1)
    saveSettings(context, { ...workspaceOf(context.db), senderAddress: '' })
    await until(monday + 14 * DAY)
    saveSettings(context, { ...workspaceOf(context.db), senderAddress: OWNER })
    await until(monday + 15 * DAY)
    expect(summaries()).toHaveLength(1)
  })
})

describe('what it says', () => {
  const summary: WeeklySummary = {
    workspace: 'Saltmarsh & Sons', zone: 'Europe/Lisbon', from: thursdayNoon - 7 * DAY, until: thursdayNoon, arrived: 12, arrivedBefore: 9,
    left: 1, active: 480, sending: { sent: 0, opened: rateOf(0, 0), clicked: rateOf(0, 0) },
    sendingBefore: { sent: 4, opened: rateOf(2, 4), clicked: rateOf(1, 4) },
    courses: [{ id: 3, name: '<script>alert(1)</script>', joined: 2, finished: 1 }],
    sales: { count: 2, sums: [{ currency: 'EUR', amount: 5800 }, { currency: 'JPY', amount: 400 }] }, attention: [], goingOut: [],
  }

  it('has no rate of nothing, never adds currencies, and takes no name for markup', () => {
    const { text, html } = summaryEmail(summary, 'https://porch.example.com')
    expect(text).not.toContain('reader opens')
    expect(text).toContain('€58.00 and JP¥400 from 2 payments, after refunds')
    expect(html).not.toContain('<script>')
    expect(html).toContain('&lt;script&gt;')
    expect(text).toContain('https://porch.example.com/courses/3')
    expect(text).toContain('Nothing needs attention.')
  })
})
