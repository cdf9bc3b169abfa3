/**
 * The playing loop: does every due thing in order, at its own time, ties by id.
 * In practice it carries the clock along; in live the clock goes by itself.
 */
import type { Instant } from '#core/time/zone'
import type { DueKind } from '#data/due'
import { nextDue } from '#data/due'
import { setPracticeClock } from '#data/workspace'
import { clicksToSettle } from '#data/reading'
import type { EngineHouse } from '../house'
import { abandonDueCheckouts } from '../offers/checkout'
import { endDuePurchases } from '../offers/end'
import { settleDueClick } from '../reading/click'
import { carrierTakes, handOverDue } from '../sending/handOver'
import { callOut } from './callOut'
import { moveToVersions } from '../inner/versions'
import { doDueAskings } from './askings'
import { letDueIn } from './comings'
import { doDueSteps, doDueWatches, expireTags } from './dueStep'
import { lookAtLinks } from './lookAtLinks'
import { fillOneSegment, lookAtPeople, turnSegments } from './looks'
import { mailNotices } from './noticeMail'
import { endDuePauses } from './pauses'
import { reckonScores } from './reckon'
import { letReadersAct } from './readersAct'
import { workOnTask } from './tasks'

/** Emails claimed at a time in practice, where they leave one after another. */
const PRACTICE_CLAIM = 50

/**
 * Plays everything due up to and including `until`. `goOn` is asked between
 * things; where it says no, the loop stops with the clock where it stands.
 * Returns true if everything up to `until` is done.
 */
export async function play(house: EngineHouse, until: Instant, goOn: () => boolean = () => true): Promise<boolean> {
  while (goOn()) {
    // What was asked for many at once is done where the clock stands. In live, what is due goes on between its bits.
    const busy = doChore(house)
    if (busy) await house.breathe()
    if (busy && house.mode === 'practice') continue
    // While a chore is under way the segments wait for its end: they would be looked at again after each bit.
    const due = nextDue(house.db, { emails: carrierTakes(house), segments: !busy })
    if (due === null || due.at > until) {
      if (busy) continue
      if (house.mode === 'practice') setPracticeClock(house.db, until)
      return true
    }
    // A practice moment is played to its end before the next: live takes whatever is due by now.
    if (house.mode === 'practice' && due.at > house.clock.now()) setPracticeClock(house.db, due.at)
    await playOne(house, due.kind, house.mode === 'practice' ? due.at : until)
    if (house.mode === 'live') await house.breathe()
  }
  return false
}

/** A bit of the work that no time brings. True if there was any. */
function doChore(house: EngineHouse): boolean {
  return moveToVersions(house) || fillOneSegment(house) || reckonScores(house) || workOnTask(house)
}

async function playOne(house: EngineHouse, kind: DueKind, at: Instant): Promise<void> {
  switch (kind) {
    case 'coming':
      letDueIn(house, at)
      break
    case 'step':
      doDueSteps(house, at)
      // What someone has just asked for does not wait behind a long row of other people's steps.
      if (house.mode === 'live' && carrierTakes(house)) await handOverDue(house, at, house.carrier.width)
      break
    case 'payment':
      await house.tellDuePayments?.(at)
      break
    case 'purchase':
      endDuePurchases(house, at)
      break
    case 'checkout':
      abandonDueCheckouts(house, at)
      break
    case 'pause':
      endDuePauses(house, at)
      break
    case 'asking':
      doDueAskings(house, at)
      break
    case 'click':
      for (const click of clicksToSettle(house.db, at, 200)) settleDueClick(house, click)
      break
    case 'watch':
      doDueWatches(house, at)
      break
    case 'expiry':
      expireTags(house, at)
      break
    case 'email':
      await handOverDue(house, at, house.mode === 'practice' ? PRACTICE_CLAIM : house.carrier.width * 2)
      break
    case 'notice':
      await mailNotices(house, at)
      break
    case 'reader':
      letReadersAct(house, at)
      break
    case 'call':
      await callOut(house, at)
      break
    case 'link':
      await lookAtLinks(house, at)
      break
    case 'look':
      lookAtPeople(house)
      break
    case 'turn':
      turnSegments(house)
      break
  }
}
