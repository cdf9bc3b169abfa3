/**
 * The playing loop: does every due thing in order, at its own time, ties by id.
 * In practice it carries the clock along; in live the clock goes by itself.
 */
import type { Instant } from '#core/time/zone'
import { DUE_KINDS, nextDue, type DueKind } from '#data/due'
import { setPracticeClock } from '#data/workspace'
import { clicksToSettle } from '#data/reading'
import type { EngineHouse } from '../house'
import { abandonDueCheckouts } from '../offers/checkout'
import { endDuePurchases } from '../offers/end'
import { tellWhoWaits } from '../offers/openings'
import { settleDueClick } from '../reading/click'
import { carrierTakes, handOverDue } from '../sending/handOver'
import { gatherNotices } from '../sending/ownerMail'
import { callOut } from './callOut'
import { clearMore } from '../inner/clearing'
import { replanSome } from '../inner/replanning'
import { writeInParts } from '../inner/transaction'
import { turnCourses } from '../inner/turning'
import { moveToVersions } from '../inner/versions'
import { doDueAskings } from './askings'
import { letDueIn } from './comings'
import { doDueSteps, doDueWatches, expireTags } from './dueStep'
import { lookAtLinks } from './lookAtLinks'
import { fillOneSegment, lookAtPeople, turnSegments } from './looks'
import { endDuePauses } from './pauses'
import { reckonScores } from './reckon'
import { letReadersAct } from './readersAct'
import { workOnTask } from './tasks'

/** Emails claimed at a time in practice, where they leave one after another. */
const PRACTICE_CLAIM = 50

/** So many things are done in one transaction in live: few enough that a sign-up does not wait, enough that the disk is not asked for each. */
const TOGETHER = 100

/** What the database alone decides, and what needs the outside, which answers in its own time. */
const OUTSIDE = new Set<DueKind>(['email', 'call', 'link', 'payment'])
const SEGMENTS = new Set<DueKind>(['look', 'turn'])

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
export async function play(house: EngineHouse, until: Instant, { goOn = () => true, outside = true }: Playing = {}): Promise<boolean> {
  while (goOn()) {
    // What was asked for many at once is done where the clock stands. In live, what is due goes on between its bits.
    const busy = doChore(house)
    if (busy) await house.breathe()
    if (busy && house.mode === 'practice') continue
    // While a chore is under way the segments wait for its end: they would be looked at again after each bit.
    const kinds = kindsOf({ outside, sends: outside && carrierTakes(house), segments: !busy })
    const due = nextDue(house.db, kinds)
    if (due === null || due.at > until) {
      if (busy) continue
      if (house.mode === 'practice') setPracticeClock(house.db, until)
      return true
    }
    if (house.mode === 'practice') {
      // A practice moment is played to its end before the next.
      if (due.at > house.clock.now()) setPracticeClock(house.db, due.at)
      // Somebody else holds it: they come to an end with it, or their lease does.
      if (!await playOne(house, due.kind, due.at)) return false
    }
    else {
      if (OUTSIDE.has(due.kind)) {
        if (!await playOne(house, due.kind, until)) return false
      }
      else playTogether(house, kinds, until)
      await house.breathe()
    }
  }
  return false
}

/** Asks outside what is due there: calls, and whether links answer. In a lane of its own, since a slow site must hold up nothing else. True if there was any. */
export async function playOutside(house: EngineHouse, until: Instant): Promise<boolean> {
  const due = nextDue(house.db, ['call', 'link'])
  if (due === null || due.at > until) return false
  await playOne(house, due.kind, until)
  return true
}

const kindsOf = ({ outside, sends, segments }: { outside: boolean, sends: boolean, segments: boolean }): readonly DueKind[] => DUE_KINDS.filter(kind =>
  (outside || !OUTSIDE.has(kind)) && (sends || kind !== 'email') && (segments || !SEGMENTS.has(kind)))

/** A bit of the work that no time brings. True if there was any. */
function doChore(house: EngineHouse): boolean {
  return moveToVersions(house) || turnCourses(house) || clearMore(house) || replanSome(house) || fillOneSegment(house) || reckonScores(house) || workOnTask(house)
}

/** What is overdue, each at its own time: after an outage, too, what was done before a limit counts as before it. */
function playTogether(house: EngineHouse, kinds: readonly DueKind[], until: Instant): void {
  writeInParts(house, () => {
    for (let n = 0; n < TOGETHER; n++) {
      const due = nextDue(house.db, kinds)
      if (due === null || due.at > until || OUTSIDE.has(due.kind)) return
      playHere(house, due.kind, due.at)
    }
  })
}

/** False if nothing of it could be done now. */
async function playOne(house: EngineHouse, kind: DueKind, at: Instant): Promise<boolean> {
  switch (kind) {
    case 'payment':
      await house.tellDuePayments?.(at)
      break
    case 'email':
      return await handOverDue(house, at, house.mode === 'practice' ? PRACTICE_CLAIM : house.carrier.width * 2) > 0 || !isStill(house, kind, at)
    case 'call':
      await callOut(house, at)
      break
    case 'link':
      await lookAtLinks(house, at)
      break
    default:
      playHere(house, kind, at)
  }
  return true
}

/** Whether that is what is due next, as it was before. */
function isStill(house: EngineHouse, kind: DueKind, at: Instant): boolean {
  const due = nextDue(house.db, [kind])
  return due !== null && due.at <= at
}

/** Does what is due of a kind at that instant or before. */
function playHere(house: EngineHouse, kind: DueKind, at: Instant): void {
  switch (kind) {
    case 'coming':
      letDueIn(house, at)
      break
    case 'step':
      doDueSteps(house, at)
      break
    case 'purchase':
      endDuePurchases(house, at)
      break
    case 'checkout':
      abandonDueCheckouts(house, at)
      break
    case 'opening':
      tellWhoWaits(house, at)
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
    case 'reader':
      letReadersAct(house, at)
      break
    case 'notice':
      gatherNotices(house, at)
      break
    case 'look':
      lookAtPeople(house, at)
      break
    case 'turn':
      turnSegments(house, at)
      break
    default:
      throw new Error(`What is due of kind ${kind} needs the outside`)
  }
}
