/** What a draft would change in a course that runs, and for whom. */
import { advance } from './advance'
import type { Enrolment, Facts } from './journey'
import type { CourseDraft, DraftStep } from './draft'
import { withoutBlockIds } from '../message/same'
import { ALWAYS } from '#core/time/hours'
import type { Instant } from '#core/time/zone'
import { allSteps, placesOf, type Program } from './program'

export type StepChange = 'added' | 'removed' | 'moved' | 'retimed' | 'reworded' | 'paused' | 'resumed' | 'changed'

/** A step that is not as it runs; of one that was taken out, as it ran. */
export interface ChangedStep { step: DraftStep, what: StepChange[] }

/** What else can differ: where people come in and go out, its list, its hours. */
export const ENTRY_PARTS = ['listId', 'wayInTagIds', 'wayInListIds', 'entry', 'again', 'waysOut', 'onFinish', 'dates', 'hours'] as const
export type EntryPart = typeof ENTRY_PARTS[number]

export interface Changes { steps: ChangedStep[], entryParts: EntryPart[] }

/** Steps in reading order; those taken out stand at the end. */
export function changesBetween(before: CourseDraft, after: CourseDraft): Changes {
  const [were, are] = [allSteps<DraftStep>(before.steps), allSteps<DraftStep>(after.steps)]
  const old = new Map(were.map(step => [step.id, step]))
  const [rowsBefore, rowsAfter] = [followersIn(before), followersIn(after)]
  const survives = (id: string | null) => id === null || (are.some(step => step.id === id) && old.has(id))
  const next = (rows: ReadonlyMap<string, string | null>, id: string): string | null => {
    let after = rows.get(id) ?? null
    while (!survives(after)) after = rows.get(after!) ?? null
    return after
  }
  const steps = are.flatMap((step): ChangedStep[] => {
    const was = old.get(step.id)
    if (!was) return [{ step, what: ['added'] }]
    const what: StepChange[] = [
      ...next(rowsBefore, step.id) !== next(rowsAfter, step.id) ? ['moved' as const] : [],
      ...differ([was.when, was.ifPast, was.zone], [step.when, step.ifPast, step.zone]) ? ['retimed' as const] : [],
      ...was.kind === 'email' && step.kind === 'email' && differ(was.content, step.content) ? ['reworded' as const] : [],
      ...was.paused !== step.paused ? [step.paused ? 'paused' as const : 'resumed' as const] : [],
      ...differ(restOf(was), restOf(step)) ? ['changed' as const] : [],
    ]
    return what.length > 0 ? [{ step, what }] : []
  })
  return {
    steps: [
      ...steps, ...were.filter(({ id }) => !are.some(step => step.id === id)).map((step): ChangedStep => ({ step, what: ['removed'] })),
    ],
    entryParts: ENTRY_PARTS.filter(part => differ(before[part] ?? null, after[part] ?? null)),
  }
}

/** Left out and empty say the same. */
const differ = (a: unknown, b: unknown): boolean =>
  JSON.stringify(withoutBlockIds(a), plainly) !== JSON.stringify(withoutBlockIds(b), plainly)
const plainly = (_: string, value: unknown) => Array.isArray(value) && value.length === 0 ? undefined : value ?? undefined

/** What is not told of by a word of its own; the steps of ways stand for themselves. */
function restOf(step: DraftStep): object {
  const { when: _when, ifPast: _past, zone: _zone, paused: _paused, ...rest } = step
  switch (rest.kind) {
    case 'email': return { ...rest, content: null }
    case 'hold': return { ...rest, did: null, didNot: null }
    case 'fork': return { ...rest, ways: rest.ways.map(({ id, who }) => ({ id, who })), otherwise: null }
    default: return rest
  }
}

/** Of every step the one that follows it in its row or behind the ways it lies in. */
function followersIn({ steps }: Pick<CourseDraft, 'steps'>): Map<string, string | null> {
  const program = { steps } as unknown as Program
  return new Map([...placesOf(program)].map(([id, { nextId }]) => [id, nextId]))
}

/** What becomes of people who stand alike. */
export interface PublishEffect {
  fromStepId: string | null
  /** Null: the course is over for them. */
  toStepId: string | null
  people: number
  atOnce: number
  /** Their moment is past, and they only wait for the sending hours; the first of them until then. */
  whenOpen: number
  opensAt: Instant | null
  earlier: number
  later: number
  /** They had no time before, and have one now. */
  planned: number
  /** They have no time: before what is empty or paused. */
  stands: number
}

/** Where everybody inside would stand by the new program, gathered by where they stand now; only who is touched. */
export function effectsOf(
  next: Program, programOf: (versionId: number) => Program, cohorts: Iterable<Enrolment & { versionId: number, people: number }>,
  at: Instant, factsOf: (row: Enrolment) => Facts,
): PublishEffect[] {
  const gathered = new Map<string, PublishEffect>()
  const anytime: Program = { ...next, hours: null }
  const onlyHoursKeep = (row: Enrolment & { versionId: number }) => {
    const { dueAt } = advance(
      anytime, row, { kind: 'replan', at, from: programOf(row.versionId), why: 'published' }, { ...factsOf(row), hours: ALWAYS },
    ).enrolment
    return dueAt !== null && dueAt <= at
  }
  for (const row of cohorts) {
    const { enrolment: now } = advance(next, row, { kind: 'replan', at, from: programOf(row.versionId), why: 'published' }, factsOf(row))
    const moved = now.stepId !== row.stepId
    if (!moved && now.dueAt === row.dueAt) continue
    const key = `${row.stepId}/${now.stepId}`
    const sum = gathered.get(key) ?? {
      fromStepId: row.stepId, toStepId: now.stepId, people: 0, atOnce: 0, whenOpen: 0, opensAt: null, earlier: 0, later: 0, planned: 0,
      stands: 0,
    }
    gathered.set(key, sum)
    sum.people += row.people
    if (now.dueAt === null) sum.stands += now.status === 'open' ? row.people : 0
    else if (now.dueAt <= at) sum.atOnce += row.people
    else if (onlyHoursKeep(row)) {
      sum.whenOpen += row.people
      sum.opensAt = Math.min(sum.opensAt ?? now.dueAt, now.dueAt)
    }
    else if (row.dueAt === null) sum.planned += row.people
    else if (row.dueAt !== now.dueAt) sum[now.dueAt < row.dueAt ? 'earlier' : 'later'] += row.people
  }
  return [...gathered.values()].sort((a, b) => b.people - a.people)
}

/** The first of the steps that were put behind the old end, for who has come to that; null where the end is as it was. */
export function newEnd(before: Pick<Program, 'steps'>, after: Pick<Program, 'steps'>): string | null {
  const old = new Set(allSteps<{ id: string }>(before.steps).map(({ id }) => id))
  const last = after.steps.findLastIndex(({ id }) => old.has(id))
  return last < 0 || after.steps[last]!.kind === 'end' ? null : after.steps[last + 1]?.id ?? null
}
