/**
 * The playing loop: does every due thing in order, at its own time, ties by id.
 * In practice it carries the clock along; in live the clock goes by itself.
 */
import type { Instant } from '#core/time/zone'
import { DUE_KINDS, nextDue, type DueKind } from '#data/due'
import { setPracticeClock } from '#data/workspace'
import type { EngineContext } from '../context'
import { clearMore } from '../inner/clearing'
import { replanSome } from './replanning'
import { stopOrResumeCourses } from './stopAndResume'
import { writeInParts } from '../inner/reactor/transaction'
import { moveToVersions } from './versions'
import { carrierTakes } from '../sending/handOver'
import { releaseDueSends } from '../sending/audience'
import { DUE_WORK } from './due'
import { recalculateScores } from './recalculateScores'
import { fillOneSegment } from './segmentQueue'
import { workOnTask } from './tasks'

/**
 * So many things are done in one transaction in live: few enough that a sign-up does not wait, enough that the disk is not asked for each.
 */
const TOGETHER = 100
/** And none more after so many milliseconds. */
const TOGETHER_MS = 20

export interface Playing {
  /** Asked between things; where it says no, the loop stops with the clock where it stands. */
  goOn?(): boolean
  /** False where somebody else sees to what goes outside. */
  outside?: boolean
}

/**
 * Plays everything due up to and including `until`, in the order of its own
 * times over everybody. Returns true if all of it is done.
 */
export async function play(context: EngineContext, until: Instant, { goOn = () => true, outside = true }: Playing = {}): Promise<boolean> {
  releaseDueSends(context, until)
  while (goOn()) {
    // What was asked for many at once is done where the clock stands. In live, what is due goes on between its bits.
    const busy = doBackgroundJob(context)
    if (busy) await context.breathe()
    if (busy && context.mode === 'practice') continue
    // While a job is under way the segments wait for its end: they would be looked at again after each bit.
    const kinds = kindsOf({ outside, sends: outside && carrierTakes(context), jobsDone: !busy })
    const due = nextDue(context.db, kinds)
    if (due === null || due.at > until) {
      if (busy) continue
      if (context.mode === 'practice') setPracticeClock(context.db, until)
      return true
    }
    if (context.mode === 'practice') {
      // A practice moment is played to its end before the next.
      if (due.at > context.clock.now()) setPracticeClock(context.db, due.at)
      // Somebody else holds it: they come to an end with it, or their lease does.
      if (!await playOne(context, due.kind, due.at)) return false
    }
    else {
      if (DUE_WORK[due.kind].outside) {
        if (!await playOne(context, due.kind, until)) return false
      }
      else playTogether(context, kinds, until)
      await context.breathe()
    }
  }
  return false
}

/**
 * Asks outside what is due there: calls, and whether links answer. In a lane of its own, since a slow site must hold up nothing else. True
 * if there was any.
 */
export async function playOutside(context: EngineContext, until: Instant): Promise<boolean> {
  const due = nextDue(context.db, ['call', 'link'])
  if (due === null || due.at > until) return false
  await playOne(context, due.kind, until)
  return true
}

const kindsOf = ({
  outside, sends, jobsDone,
}: { outside: boolean, sends: boolean, jobsDone: boolean }): readonly DueKind[] => DUE_KINDS.filter(kind =>
  (outside || !DUE_WORK[kind].outside) && (sends || kind !== 'email') && (jobsDone || !DUE_WORK[kind].afterJobs))

/** A bit of the work that no time brings. True if there was any. */
function doBackgroundJob(context: EngineContext): boolean {
  return moveToVersions(context) || stopOrResumeCourses(context) || clearMore(context) || replanSome(context) || fillOneSegment(context)
    || recalculateScores(context) || workOnTask(context)
}

/** What is overdue, each at its own time: after an outage, too, what was done before a limit counts as before it. */
function playTogether(context: EngineContext, kinds: readonly DueKind[], until: Instant): void {
  writeInParts(context, () => {
    const begunAt = context.system.now()
    for (let n = 0; n < TOGETHER && context.system.now() - begunAt < TOGETHER_MS; n++) {
      const due = nextDue(context.db, kinds)
      if (due === null || due.at > until || DUE_WORK[due.kind].outside) return
      void DUE_WORK[due.kind].does(context, due.at)
    }
  })
}

/** False if nothing of it could be done now: somebody else holds it. */
async function playOne(context: EngineContext, kind: DueKind, at: Instant): Promise<boolean> {
  const work = DUE_WORK[kind]
  if (work.outside) return await work.does(context, at)
  work.does(context, at)
  return true
}
