/** What the engine has before it. */
import { HOUR, type Instant } from '#core/time/zone'
import type { EngineView } from '#core/views/engine'
import { readTogether } from '#data/connection'
import { coursesMoving } from '#data/courses'
import { DUE_KINDS, workOf } from '#data/due'
import { countGivenUp, givenUpEmails, sentSinceThen } from '#data/engineRoom'
import { outboxTroubles } from '#data/outbox'
import { latestTasks } from '#data/tasks'
import { heartbeatOf, workspaceOf } from '#data/workspace'
import type { WorkspaceContext } from '../context'
import { heldView } from '../sending/hold'
import { DUE_WORK } from '../time/due'

const SHOWN = 50

/** `systemNow` is the machine's time: heartbeats do not follow the practice clock. */
export function engineView(context: WorkspaceContext, systemNow: Instant): EngineView {
  const { db } = context
  return readTogether(db, () => {
    const now = context.clock.now()
    const { carrierState, carrierReason, carrierPauseUntilAt } = workspaceOf(db)
    const beat = heartbeatOf(db, 'engine')
    return {
      held: heldView(context),
      now, seenMsAgo: beat ? Math.max(0, systemNow - beat.seenAt) : null,
      carrier: carrierState === 'stopped' ? 'stopped' : carrierPauseUntilAt !== null && carrierPauseUntilAt > now ? 'pausing' : 'ready',
      carrierReason,
      work: DUE_KINDS.flatMap((kind) => {
        const { name } = DUE_WORK[kind]
        return name === null ? [] : [{ kind, name, ...workOf(db, kind, now) }]
      }),
      sentLastHour: sentSinceThen(db, now - HOUR),
      waitingAgain: outboxTroubles(db, now).waitingAgain.emails,
      givenUp: givenUpEmails(db, SHOWN), givenUpCount: countGivenUp(db),
      tasks: latestTasks(db, 20).filter(({ state }) => state === 'waiting' || state === 'running')
        .map(({ id, title, done, total }) => ({ id, title, done, total })),
      moving: coursesMoving(db),
    }
  })
}
