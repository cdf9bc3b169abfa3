/**
 * A second engine: slow, obvious, and here only. It is told a whole life
 * beforehand (when somebody joins, stands still, gets a tag, is moved) and
 * walks their course step by step along a clock that stops while they stand
 * still. It knows nothing of databases, outages, or of when anybody looks.
 */
import { nextOpen, type WeekHours } from '#core/time/hours'
import { planOf, UNIT_MS, type Timing } from '#core/time/when'
import { dayNumber, instantOf, localOf, addDays } from '#core/time/zone'

export interface SlowEmail { kind: 'email', id: string, when: Timing, ifPast: 'at-once' | 'skip' }
export interface SlowHold {
  kind: 'hold', id: string, when: Timing, until: 'event' | 'condition', hours: number, did: SlowEmail[], didNot: SlowEmail[],
}
export type SlowStep = SlowEmail | SlowHold

export interface SlowLife {
  joinedAt: number
  /** Stretches in which nothing moves for them, whatever the reason; they may overlap. */
  stills: [from: number, to: number][]
  /** When they get the tag that holds wait for; null for never. */
  taggedAt: number | null
  /** When they are moved before a step, by hand. */
  moved: { at: number, toId: string } | null
}

export interface SlowRules {
  zone: string
  hours: WeekHours
  /** At most so many counted emails a day of the workspace's zone; null for any. */
  aDay: number | null
  until: number
}

export interface PaymentFact { at: number, what: string }

export function slowly(steps: SlowStep[], life: SlowLife, { zone, hours, aDay, until }: SlowRules): PaymentFact[] {
  const told: PaymentFact[] = []
  const stills = merged(life.stills)
  const sentOn: number[] = []
  const sent = new Set<string>()
  let previous = life.joinedAt
  let joined = life.joinedAt
  /** Nothing comes before they last went on. */
  let wentOnAt = 0
  let moved = life.moved
  /** Where the email before was moved by a limit: when that was. What follows was judged as past or not from where it stood before. */
  let judgedFrom: number | null = null
  /** What only waited for the sending hours when they were moved: if it still does, for the same opening, it is not over. */
  let waited: { id: string, at: number } | null = null
  /** How many of the stretches have been lived through. */
  let lived = stills.filter(([, to]) => to <= life.joinedAt).length

  const MOVED = Symbol('moved by hand')
  /** Nobody goes on before what stands still at that instant is over. */
  function goOn(): void {
    const [from, to] = stills[lived]!
    previous += to - Math.max(from, life.joinedAt)
    joined += to - Math.max(from, life.joinedAt)
    wentOnAt = to
    lived++
  }
  /** The owner's hand comes before whatever is later than it. */
  function handComes(before: number): void {
    if (!moved || moved.at >= before) return
    while (stills[lived] !== undefined && stills[lived]![1] <= moved.at) goOn()
    const still = stills[lived]
    // Moved while standing still, what comes next counts from where the clock of the journey stands.
    previous = still && still[0] <= moved.at ? still[0] : moved.at
    throw MOVED as unknown as Error
  }
  /** Whether they stand still before that instant, or do so already. */
  const stillComesFirst = (at: number) => stills[lived] !== undefined && (stills[lived]![0] < at || stills[lived]![0] <= previous)

  const isAskedFor = (step: SlowStep) =>
    step.kind === 'email' && step.when.kind === 'at-once' && sent.size === 0 && previous === life.joinedAt

  /** When they come to it; null where its moment is over and it says to skip it then. */
  function comeTo(step: SlowStep, neverSkip: boolean): number | null {
    let passesNothing = neverSkip
    const judged = judgedFrom
    if (judged !== null) {
      const { targetAt } = planOf(step.when, 'at-once', { joinedAt: joined, previousAt: judged }, zone, () => null)
      const wasPast = targetAt! < (step.when.kind === 'at-once' ? judged : Math.max(judged, wentOnAt))
      if (wasPast && step.kind === 'email' && step.ifPast === 'skip') return null
      judgedFrom = null
    }
    let isJudged = judged !== null
    for (;;) {
      const floor = Math.max(previous, wentOnAt)
      const { targetAt } = planOf(step.when, 'at-once', { joinedAt: joined, previousAt: previous }, zone, () => null)
      const isPast = targetAt! < (step.when.kind === 'at-once' ? previous : floor) && !isJudged
      isJudged = false
      const wanted = Math.max(targetAt!, floor)
      const at = step.kind === 'email' && !isAskedFor(step) ? nextOpen(wanted, hours, zone) : wanted
      const stillWaits = waited?.id === step.id && waited.at === at
      if (isPast && step.kind === 'email' && step.ifPast === 'skip' && !passesNothing && !stillWaits) return null
      if (!stillComesFirst(at)) {
        if (moved && moved.at < at && targetAt! <= moved.at) waited = { id: step.id, at }
        handComes(at)
        return at
      }
      const [from, to] = stills[lived]!
      handComes(to)
      // Its moment had come before they stood still: it only waited for the hours.
      passesNothing = targetAt! <= from
      goOn()
    }
  }

  function doEmail(step: SlowEmail, neverSkip: boolean): void {
    if (sent.has(step.id)) return
    const askedFor = isAskedFor(step)
    let at = comeTo(step, neverSkip)
    if (at === null) return
    sent.add(step.id)
    if (!askedFor && aDay !== null) {
      const planned = at
      const dayOf = (instant: number) => dayNumber(localOf(instant, zone).date)
      while (sentOn.filter(day => day === dayOf(at!)).length >= aDay) at = nextOpen(
        instantOf(addDays(localOf(at, zone).date, 1), localOf(at, zone).time, zone), hours, zone,
      )
      sentOn.push(dayOf(at))
      if (at > planned) judgedFrom = planned
    }
    previous = at
    told.push({ at, what: `send ${step.id}` })
  }

  function doHold(step: SlowHold, neverSkip: boolean): void {
    const since = comeTo(step, neverSkip)!
    previous = since
    let limit = since + step.hours * UNIT_MS.hours
    const tagged = life.taggedAt
    for (;;) {
      const counts = tagged !== null && (step.until === 'condition' || tagged >= since)
      const didAt = counts ? Math.max(tagged, since) : Number.POSITIVE_INFINITY
      const decided = Math.min(didAt, limit)
      if (!stillComesFirst(decided)) {
        handComes(decided)
        previous = decided
        told.push({ at: decided, what: `${step.id} ${didAt <= limit ? 'did' : 'did-not'}` })
        return doRow(didAt <= limit ? step.did : step.didNot, false)
      }
      const [from, to] = stills[lived]!
      handComes(to)
      goOn()
      limit += to - from
      // What happened while they stood still counts from when they went on.
      if (counts && didAt <= to) {
        previous = to
        told.push({ at: to, what: `${step.id} did` })
        return doRow(step.did, false)
      }
    }
  }

  function doRow(row: SlowStep[], neverSkip: boolean): void {
    for (const [n, step] of row.entries()) {
      if (step.kind === 'email') doEmail(step, neverSkip && n === 0)
      else doHold(step, neverSkip && n === 0)
    }
  }

  try {
    doRow(steps, false)
  }
  catch (thrown) {
    if (thrown !== MOVED) throw thrown
    const { toId } = moved!
    moved = null
    doRow(steps.slice(steps.findIndex(({ id }) => id === toId)), true)
  }
  return told.filter(({ at }) => at <= until)
}

/** Overlapping stretches as one: time is never counted twice. */
function merged(stills: [number, number][]): [number, number][] {
  const all: [number, number][] = []
  for (const [from, to] of stills.toSorted((a, b) => a[0] - b[0])) {
    const last = all.at(-1)
    if (last && from <= last[1]) last[1] = Math.max(last[1], to)
    else all.push([from, to])
  }
  return all
}
