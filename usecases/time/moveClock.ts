/** The practice clock is asked to move. The engine plays up to there. */
import { sayMoment, sayZone } from '#core/time/say'
import { DAY, HOUR, type Instant, addDays, instantOf, localOf } from '#core/time/zone'
import type { ClockMove } from '#core/views/frame'
import { nextSendAt } from '#data/due'
import { askPracticeClock, practiceClock, workspaceOf } from '#data/workspace'
import type { WorkspaceContext } from '../context'
import { transact } from '../inner/reactor/transaction'
import { InputProblem, NotNow } from '../problem'

/** A year at once is as far as anybody has reason to go. */
const FARTHEST = 400 * DAY

/** Returns where the clock is going. */
export function moveClock(context: WorkspaceContext, move: ClockMove): Instant {
  if (context.mode !== 'practice') throw new NotNow('Only the practice clock can be moved. Live uses the real time.')
  const { db } = context
  const target = transact(context, () => {
    const clock = practiceClock(db)!
    const from = clock.targetAt
    const { zone } = workspaceOf(db)
    let target: Instant
    if (move.by === 'hour') {
      target = from + HOUR
    }
    else if (move.by === 'day') {
      const { date, time } = localOf(from, zone)
      target = Math.max(from + 1, instantOf(addDays(date, 1), time, zone) + from % 60_000)
    }
    else if (move.by === 'next-send') {
      const next = nextSendAt(db)
      if (next === null) throw new NotNow('Nothing waits to be sent. Opt in on a page, or start a course.')
      target = Math.max(from, next)
    }
    else {
      target = move.at
      if (target < from) {
        throw new InputProblem([
          { field: 'at', problem: `The practice clock only goes forward: choose a time after ${sayMoment(from, zone)}, ${sayZone(zone)}.` },
        ])
      }
      if (target - from > FARTHEST) throw new InputProblem([{ field: 'at', problem: 'Choose a time within the next 400 days.' }])
    }
    askPracticeClock(db, target)
    return target
  })
  context.wake()
  return target
}
