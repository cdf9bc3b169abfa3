/**
 * The table of docs/guide/changing-a-course.md: it says who stands where after a change and what they get, and this is where it is tried.
 */
import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { describe, expect, it } from 'vitest'
import { advance } from '#core/sequence/advance'
import type { Enrolment, Facts } from '#core/sequence/journey'
import type { Program, Step } from '#core/sequence/program'
import { ALWAYS } from '#core/time/hours'
import { HOUR } from '#core/time/zone'

const noon = Date.UTC(2026, 10, 26, 12)
const facts: Facts = {
  workspaceZone: 'Europe/Lisbon', personZone: null, hours: ALWAYS, dateOf: () => null, holds: () => false, reevaluateAt: () => null,
  awaited: () => ({ kind: 'open' }),
}

/** `a; b +24h; fork[in +2h | out]`, as it stands in the table. */
function read(text: string): Program {
  let at = 0
  function row(): Step[] {
    const steps: Step[] = []
    while (at < text.length && !'|]'.includes(text[at]!)) {
      const [whole, id, hours, most, ways] = /^\s*([a-z0-9]+)(?: \+(\d+)h)?(?: (\d+)h)?(\[)?/.exec(text.slice(at))!
      at += whole.length
      const base = { id: id!, when: hours
        ? { kind: 'elapsed' as const, count: Number(hours), unit: 'hours' as const, from: 'previous' as const }
        : { kind: 'at-once' as const }, ifPast: 'at-once' as const, zone: 'workspace' as const }
      const rows: Step[][] = []
      if (ways) {
        do {
          at += text[at] === '|' ? 1 : 0
          rows.push(row())
        } while (text[at] === '|')
        at++ // the closing bracket
      }
      if (id === 'fork') steps.push({
        ...base, kind: 'fork', ways: [{ id: 'w', who: { kind: 'score', atLeast: 1 }, steps: rows[0]! }], otherwise: rows[1]!,
      })
      else if (id === 'hold') steps.push({
        ...base, kind: 'hold', atMost: { count: Number(most), unit: 'hours' },
        until: { kind: 'event', when: { kind: 'replied', thingId: null } }, did: rows[0]!, didNot: rows[1]!,
      })
      else steps.push({ ...base, kind: 'email', messageId: 1 })
      const end = /^\s*;?\s*/.exec(text.slice(at))!
      at += end[0].length
    }
    return steps
  }
  return { steps: row() }
}

const due = (program: Program, state: Enrolment) => advance(program, state, { kind: 'due', at: state.dueAt! }, facts)
/** Everything that is done up to an hour; then where they stand. */
function until(program: Program, from: Enrolment, hour: number): { state: Enrolment, sent: string[] } {
  let state = from
  const sent: string[] = []
  while (state.status === 'open' && state.dueAt !== null && state.dueAt <= noon + hour * HOUR) {
    const moved = due(program, state)
    for (const effect of moved.effects) {
      if (effect.kind === 'send') sent.push(`\`${effect.step.id}\` at ${(effect.plannedAt - noon) / HOUR}`)
    }
    state = moved.enrolment
  }
  return { state, sent }
}

const rows = readFileSync(join(import.meta.dirname, '../../docs/guide/changing-a-course.md'), 'utf8').split('\n')
  .filter(line => line.startsWith('| ') && !line.startsWith('| ---') && !line.startsWith('| what')).map(line =>
    line.slice(2, -2).split(/(?<!\\) \| /).map(cell => cell.replaceAll('\\|', '|').trim()))
const bare = (cell: string) => cell.replaceAll('`', '')

describe('changing a course', () => {
  it.each(rows)('%s', (_what, before, after, hour, stands, then, gets) => {
    const [old, next] = [read(bare(before!)), read(bare(after!))]
    const { state, sent } = until(old, advance(old, null, { kind: 'joined', at: noon, ownAct: true }, facts).enrolment, Number(hour))
    expect(state.stepId).toBe(bare(stands!))
    const moved = advance(next, state, { kind: 'replan', at: noon + Number(hour) * HOUR, from: old, why: 'published' }, facts).enrolment
    expect(moved.stepId ?? 'the end').toBe(bare(then!))
    const later = until(next, moved, 1000).sent
    expect(later.join(', ') || 'nothing').toBe(gets!.split(';')[0])
    // Nothing twice, ever.
    const all = [...sent, ...later].map(one => one.split(' ')[0])
    expect(new Set(all).size).toBe(all.length)
  })

  it('the table is read whole', () => {
    expect(rows.length).toBeGreaterThan(15)
  })
})
