/** Saving segments. What they use of each other never goes in a circle. */
import { dequal } from 'dequal'
import type { Condition } from '#core/audience/condition'
import { DEEPEST, depthOf, leavesOf } from '#core/audience/condition'
import type { SegmentInput } from '#core/audience/segment'
import { circleOf, READY_SEGMENTS, segmentsIn } from '#core/audience/segment'
import { thingsOfLeaf } from '#core/rules/rule'
import type { Instant } from '#core/time/zone'
import type { Database } from '#data/connection'
import { allSegments, emptySegments, endSegment, findSegment, findSegmentByName, insertSegment, updateSegment } from '#data/segments'
import { isThere } from '#data/things'
import type { WorkspaceContext } from '../context'
import { clearAway } from '../inner/clearing'
import { transact } from '../inner/reactor/transaction'
import { refuseIfNeeded } from '../inner/uses'
import type { FieldProblem } from '../problem'
import { InputProblem, NotNow, NotThere } from '../problem'
import { namesOf } from '../inner/names'

const tidy = (text: string) => text.replace(/\s+/g, ' ').trim()
const MOST_LEAVES = 60

/** The ready set, in a workspace that has none yet. */
export function makeReadySegments(db: Database, at: Instant): void {
  if (allSegments(db).some(({ code }) => code === READY_SEGMENTS[0]!.code)) return
  for (const segment of READY_SEGMENTS) insertSegment(db, segment, at)
}

export function saveSegment(context: WorkspaceContext, id: number | null, input: SegmentInput): number {
  const { db } = context
  const segment: SegmentInput = { name: tidy(input.name), note: tidy(input.note), condition: input.condition }
  return transact(context, () => {
    const at = context.clock.now()
    const before = id === null ? null : findSegment(db, id)
    if (before === undefined) throw new NotThere('This segment no longer exists.')
    if (before?.code === 'may-be-mailed') throw new NotNow(
      '“Everyone who may be mailed” applies the rules on who may be emailed and cannot be changed. Make a segment of your own that uses it.',
    )
    const problems: FieldProblem[] = []
    if (segment.name === '') problems.push({ field: 'name', problem: 'Give the segment a name.' })
    const other = findSegmentByName(db, segment.name)
    if (other && other.id !== id) problems.push({ field: 'name', problem: `There is already a segment called “${other.name}”.` })
    const wrong = checkCondition(db, segment.condition, id)
    if (wrong) problems.push({ field: 'condition', problem: wrong })
    if (problems.length > 0) throw new InputProblem(problems)
    if (id === null) return insertSegment(db, { ...segment, code: null }, at)
    updateSegment(db, id, segment, at)
    if (!dequal(before!.condition, segment.condition)) emptySegments(db, [id, ...usersOf(db, id)])
    return id
  })
}

/** What is wrong with a condition, in a sentence; null if it can be used. `id`: of the segment whose it is going to be. */
export function checkCondition(db: Database, condition: Condition, id: number | null): string | null {
  if (depthOf(condition) > DEEPEST) return 'Groups can be three levels deep. Make the innermost one its own segment.'
  if (leavesOf(condition).length > MOST_LEAVES) return `At most ${MOST_LEAVES} conditions fit into one.`
  const missing = leavesOf(condition).flatMap(thingsOfLeaf).find(thing => !isThere(db, thing.kind, thing.id))
  if (missing) {
    return `A condition asks for ${missing.kind === 'offer' ? 'an' : 'a'} ${missing.kind} that does not exist (any more). Choose another.`
  }
  if (id === null) return null
  const names = namesOf(db)
  const circle = circleOf(id, condition, new Map(allSegments(db).map(segment => [segment.id, segment.condition])))
  if (!circle) return null
  const path = circle.map(one => `“${names.segments.get(one)}”`)
  return `This would go in a circle: ${path.join(' uses ')}.`
}

export function removeSegment(context: WorkspaceContext, id: number): void {
  const { db } = context
  transact(context, () => {
    const segment = findSegment(db, id)
    if (!segment) throw new NotThere('This segment no longer exists.')
    if (segment.code === 'may-be-mailed') throw new NotNow('“Everyone who may be mailed” is built in and cannot be deleted.')
    refuseIfNeeded(db, { kind: 'segment', id })
    endSegment(db, id)
    clearAway(db, { what: 'segment', thingId: id, eventId: null }, context.clock.now())
  })
}

/** Segments that rest on this one, however many steps away. */
export function usersOf(db: Database, id: number): number[] {
  const segments = allSegments(db)
  const found = new Set([id])
  for (let size = 0; size !== found.size;) {
    size = found.size
    for (const segment of segments) if (segmentsIn(segment.condition).some(used => found.has(used))) found.add(segment.id)
  }
  found.delete(id)
  return [...found]
}
