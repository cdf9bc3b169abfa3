/** The program of a course: its steps, each with its own *when*; forks and holds have ways, which are steps again and meet behind them. */
import type { Condition } from '#core/audience/condition'
import type { Line } from '#core/message/content'
import type { Action, Trigger } from '#core/rules/rule'
import type { WeekHours } from '#core/time/hours'
import type { ElapsedUnit, Returning, Timing } from '#core/time/when'

interface Base {
  /** Stays the same through every edit, so that people keep their place. */
  id: string
  when: Timing
  /** What to do when the moment is already past as someone comes to it. */
  ifPast: 'at-once' | 'skip'
  /** Whose clock decides calendar days and clock times. */
  zone: 'workspace' | 'subscriber'
  /** Nobody goes on from here until it is lifted: people stand before this step. */
  paused?: boolean
}

export interface EmailStep extends Base {
  kind: 'email'
  /** Goes at its time, whatever the sending hours. */
  ignoresHours?: boolean
  /** So long after its planned time it says nothing any more: it is then held back as too late. */
  uselessAfter?: Span
  /** An email of this course: people who opened it themselves or clicked in it do not get this one. */
  notIfReadId?: string
  /** The email to send; null while it is still empty: people then stand before this step. */
  messageId: number | null
  /** What follows from its sending, and from how it is read. */
  reactions?: Reaction[]
}

/** When a reaction comes: with the sending, with the first reader open or click, or where there was none in time. */
export const REACTS_ON = ['sent', 'opened', 'clicked', 'not-opened', 'not-clicked'] as const
export type ReactsOn = typeof REACTS_ON[number]

export interface Reaction {
  /** Stays the same through every edit: what is waited for names it. */
  id: string
  on: ReactsOn
  /** Of clicks: only on this address of the email; left out for any. */
  url?: string
  /** Of what did not happen: within so long after the sending. */
  within?: Span
  /** Done in order. */
  then: Action[]
  /**
   * Of *not opened*, once in a course: the email goes a second time, under this subject, to who has neither opened nor clicked. `messageId`
   * as of the step.
   */
  again?: { subject: Line, messageId: number | null }
  /** They go on before this step, if they have not come by it yet. */
  skipToId?: string
}

export const isAbsence = (on: ReactsOn): on is 'not-opened' | 'not-clicked' => on === 'not-opened' || on === 'not-clicked'

/** What a hold waits for: something that happens to the person, or a condition that comes to hold for them. */
export type Until = { kind: 'event', when: Trigger } | { kind: 'condition', who: Condition }

/** So much time on a stopwatch. */
export interface Span { count: number, unit: ElapsedUnit }

/** Waits until something happens, at most so long; what happened decides the way. */
export interface HoldStep extends Base { kind: 'hold', until: Until, atMost: Span, did: Step[], didNot: Step[] }

/** The first way whose condition is true as the step is reached; otherwise the last. */
export interface ForkStep extends Base { kind: 'fork', ways: ForkWay[], otherwise: Step[] }
export interface ForkWay { id: string, who: Condition, steps: Step[] }

/** Does things to the person, in order. */
export interface DoStep extends Base { kind: 'do', then: Action[] }

/** Goes on before another step of the course. An email that was sent in this visit is not sent again. */
export interface JumpStep extends Base { kind: 'jump', toId: string }

/** The course is over here. */
export interface EndStep extends Base { kind: 'end' }

export type Step = EmailStep | HoldStep | ForkStep | DoStep | JumpStep | EndStep

/** Takes people out of the course when something happens to them. */
export interface WayOut {
  id: string
  when: Trigger
  /** Only who has come to this step, or beyond it; null for the whole course. */
  fromStepId: string | null
}

export interface Program {
  /** Sending hours of this course, within those of the workspace; null for the workspace's. */
  hours?: WeekHours | null
  /** Who may come in at all, by whatever way; left out for everybody. */
  entry?: Condition
  waysOut?: WayOut[]
  /** Done to who comes to the end, in order. */
  onFinish?: Action[]
  /** People come in by having this date, once for each of its returns: every so many months, or once with 0. */
  dates?: { fieldId: number } & Returning
  steps: Step[]
}

/** Whether somebody who stands before `stepId` has come to `fromId`, in reading order. Who is at the end has come to every step. */
export function hasComeTo({ steps }: Pick<Program, 'steps'>, stepId: string | null, fromId: string): boolean {
  const order = allSteps<{ id: string }>(steps).map(({ id }) => id)
  return stepId === null || order.indexOf(stepId) >= order.indexOf(fromId)
}

/** What a way is called in the history: the id of a fork's way, or one of these. */
export const OTHERWISE = 'otherwise'
export const DID = 'did'
export const DID_NOT = 'did-not'

/** The shape that a draft's steps and a program's have alike. */
interface Treelike<Node> { ways?: { id: string, steps: Node[] }[], otherwise?: Node[], did?: Node[], didNot?: Node[] }

/** The ways of a step, in their order; none for steps that have no ways. */
export function waysOf<Node extends object>(step: Node): { id: string, steps: Node[] }[] {
  const { ways, otherwise, did, didNot } = step as Treelike<Node>
  return [
    ...(ways ?? []).map(({ id, steps }) => ({ id, steps })), ...otherwise ? [{ id: OTHERWISE, steps: otherwise }] : [],
    ...did ? [{ id: DID, steps: did }] : [], ...didNot ? [{ id: DID_NOT, steps: didNot }] : [],
  ]
}

/** Every step, those of ways right behind the step they belong to. */
export function allSteps<Node extends object>(steps: readonly Node[]): Node[] {
  return steps.flatMap(step => [step, ...waysOf(step).flatMap(way => allSteps(way.steps))])
}

export interface Place {
  step: Step
  /**
   * The step that comes after this one and its ways: the next of its row, else what follows the fork or hold it lies in; null where the
   * course is over.
   */
  nextId: string | null
  /** The fork or hold it lies in, and in which of its ways; null in the course's own row. */
  inside: { stepId: string, wayId: string } | null
  depth: number
}

const known = new WeakMap<Program, Map<string, Place>>()

/** Where every step lies, by its id; kept for as long as the program is. */
export function placesOf(program: Program): Map<string, Place> {
  let places = known.get(program)
  if (!places) {
    known.set(program, places = new Map())
    lay(places, program.steps, null, null, 1)
  }
  return places
}

function lay(places: Map<string, Place>, row: Step[], after: string | null, inside: Place['inside'], depth: number): void {
  for (const [n, step] of row.entries()) {
    const nextId = row[n + 1]?.id ?? after
    places.set(step.id, { step, nextId, inside, depth })
    for (const way of waysOf(step)) lay(places, way.steps, nextId, { stepId: step.id, wayId: way.id }, depth + 1)
  }
}

/** Where someone goes who takes this way: its first step, else what follows. */
export function firstOfWay(program: Program, stepId: string, wayId: string): string | null {
  const { step, nextId } = placesOf(program).get(stepId)!
  return waysOf(step).find(({ id }) => id === wayId)?.steps[0]?.id ?? nextId
}

/** The date fields by which a program goes. */
export const dateFieldsOf = ({ steps, dates }: {
  steps: readonly object[], dates?: Program['dates'],
}): number[] => [...new Set([...dates ? [dates.fieldId] : [], ...allSteps(steps).flatMap((step) => {
  const { when } = step as Base
  return when.kind === 'date-field' ? [when.fieldId] : []
})])]
