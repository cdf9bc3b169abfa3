/** Merging a tag or a list into another, and deleting one, with everything that names it. */
import type { EventKind } from '#core/events'
import type { Replacement } from '#core/mentions'
import { hasBlanks } from '#core/people/tag'
import type { TaskSpec } from '#core/people/task'
import { thingsIn } from '#core/rules/rule'
import { isShortForm } from '#core/rules/shortForms'
import type { Instant } from '#core/time/zone'
import type { Database } from '#data/connection'
import { immediate } from '#data/connection'
import { appendEvent } from '#data/events'
import { copyChanged, copyMarks, endMark, isMailedBy, moveListWaysIn, moveMail, moveWaysIn, nextWith } from '#data/markEnds'
import { allLists, allTags, countHolders, countMembers, findList, findTag } from '#data/marks'
import { allRules, endRule } from '#data/rules'
import { advanceTask, endTask, findTask, insertTask, nextTaskId, openTasks, setCursor, type TaskRow } from '#data/tasks'
import type { WorkspaceContext } from '../context'
import { clearAway } from '../inner/clearing'
import { replaceInDrafts, replaceInRules, replaceInSegments, rulesInPlace } from '../inner/replacing'
import { InputProblem, NotNow, NotThere } from '../problem'
import { refuseIfNeeded } from '../inner/uses'
import { sayNumber } from '#core/stats/say'

/* Merging: people are copied some at a time, and once all are, whatever names the one names the other, all at once. */

interface Marks {
  table: 'tags' | 'lists'
  what: 'tag' | 'list'
  merged: EventKind
  count(db: Database, id: number): number
  find(db: Database, id: number): { id: number, name: string } | undefined
  /** What else follows the people. */
  follow(db: Database, fromId: number, intoId: number): void
}

type Merging = Extract<TaskSpec, { kind: 'merge-tags' | 'merge-lists' }>

const MARKS: Record<Merging['kind'], Marks> = {
  'merge-tags': { table: 'tags', what: 'tag', merged: 'tag-merged', count: countHolders, find: findTag, follow: moveWaysIn },
  'merge-lists': {
    table: 'lists', what: 'list', merged: 'list-merged', count: countMembers, find: findList,
    follow(db, fromId, intoId) {
      moveMail(db, fromId, intoId)
      moveListWaysIn(db, fromId, intoId)
    },
  },
}

/** So many people are copied in the transaction that begins it, and in each of the engine's. */
const FIRST = 250
const BATCH = 1000

/** Everybody who has the one has the other, and whatever gave, asked for or began with the one does so with the other. Returns the task. */
export const mergeTags = (context: WorkspaceContext, fromId: number, intoId: number): number => merge(context, {
  kind: 'merge-tags', fromId, intoId,
}, ({ from, into }) => {
  if (hasBlanks(from.name) || hasBlanks(into.name)) {
    throw new NotNow('A tag with blanks cannot be merged, because nobody has it. Merge the filled-in tags.')
  }
})

/** Who is on the one list is on the other; who has left either has left. Returns the task. */
export const mergeLists = (context: WorkspaceContext, fromId: number, intoId: number): number => merge(context, {
  kind: 'merge-lists', fromId, intoId,
}, ({ from }) => {
  if (findList(context.db, from.id)!.takesEverybody === 1) {
    throw new NotNow(`“${from.name}” is for everyone, even people who joined no list. Merge the other one into it.`)
  }
})

function merge(
  context: WorkspaceContext, spec: Merging,
  check: (both: { from: { id: number, name: string }, into: { id: number, name: string } }) => void,
): number {
  const { db } = context
  const { what, count } = MARKS[spec.kind]
  const taskId = immediate(db, () => {
    const { from, into } = bothOf(db, spec)
    if (from.id === into.id) throw new InputProblem([{ field: 'into', problem: `Choose another ${what} to merge it into.` }])
    check({ from, into })
    if (openTasks(db).some(task => task.spec.kind === spec.kind && (task.spec as Merging).fromId === from.id)) {
      throw new NotNow(`This ${what} is being merged already.`)
    }
    // What would be refused at the end is refused now.
    rulesInPlace(db, replacementOf(spec))
    const at = context.clock.now()
    const id = nextTaskId(db)
    const eventId = appendEvent(db, 'task-begun', at, { taskId: id })
    insertTask(db, {
      title: `merge the ${what} “${from.name}” into “${into.name}”`, spec, total: count(db, from.id), eventId, undoesId: null, madeAt: at,
    })
    mergeSome(db, findTask(db, id)!, spec, at, FIRST)
    return id
  })
  context.wake()
  return taskId
}

/** A bit of a merging, within a transaction of the caller's. Throws where one of the two is gone, or rules would go in a circle. */
export function mergeSome(db: Database, task: TaskRow, spec: Merging, at: Instant, limit = BATCH): void {
  const { table } = MARKS[spec.kind]
  bothOf(db, spec)
  const { people, last } = nextWith(db, table, spec.fromId, task.cursor, limit)
  copyMarks(db, table, spec, { after: task.cursor, to: last }, at)
  setCursor(db, task.id, last)
  // Who came to the one meanwhile is one more than were counted.
  const counted = Math.min(people, task.total - task.done)
  advanceTask(db, task.id, { done: counted, changed: counted })
  if (people === limit) return
  copyChanged(db, table, spec, task.eventId, at)
  putInPlace(db, spec, at)
  endTask(db, task.id, 'done', at)
}

function bothOf(db: Database, { kind, fromId, intoId }: Merging) {
  const { find, what } = MARKS[kind]
  const [from, into] = [find(db, fromId), find(db, intoId)]
  if (!from || !into) throw new NotThere(`This ${what} no longer exists.`)
  return { from, into }
}

const replacementOf = ({ kind, fromId, intoId }: Merging): Replacement & { to: number } => ({
  kind: MARKS[kind].what, from: fromId, to: intoId,
})

/** Whatever names the one names the other, and the one is gone. */
function putInPlace(db: Database, spec: Merging, at: Instant): void {
  const { table, what, merged, follow } = MARKS[spec.kind]
  const { fromId, intoId } = spec
  const replacement = replacementOf(spec)
  replaceInRules(db, replacement, at)
  replaceInDrafts(db, replacement, at)
  // They ask the same of the same people: nobody needs to be looked at who was not in the merging.
  replaceInSegments(db, replacement, at)
  follow(db, fromId, intoId)
  appendEvent(db, merged, at, what === 'tag' ? { tagId: fromId } : { listId: fromId })
  endMark(db, table, fromId, intoId)
  clearAway(db, { what, thingId: fromId, eventId: null }, at)
}

/* Deleting: nothing finds it any more at once; people lose it some at a time. */

/** `people`: how many were said to lose it. What gives it goes on without it; what asks for it must be told first what to ask instead. */
export function deleteTag(context: WorkspaceContext, id: number, people: number): void {
  const { db } = context
  immediate(db, () => {
    const tag = allTags(db).find(one => one.id === id)
    if (!tag) throw new NotThere('This tag no longer exists.')
    refuseIfNeeded(db, { kind: 'tag', id })
    if (tag.people !== people) {
      throw new NotNow(`Now ${sayNumber(tag.people)} have it. Check the number and confirm again.`)
    }
    const at = context.clock.now()
    const what: Replacement = { kind: 'tag', from: id, to: null }
    endShortForms(db, id, at)
    replaceInDrafts(db, what, at)
    moveWaysIn(db, id, null)
    endMark(db, 'tags', id, null)
    clearAway(db, { what: 'tag', thingId: id, eventId: appendEvent(db, 'tag-deleted', at, { tagId: id }) }, at)
  })
  context.wake()
}

/** A course that runs cannot be without its list; a page or an offer goes on without it. */
export function deleteList(context: WorkspaceContext, id: number, people: number): void {
  const { db } = context
  immediate(db, () => {
    const list = allLists(db).find(one => one.id === id)
    if (!list) throw new NotThere('This list no longer exists.')
    if (list.takesEverybody === 1) throw new NotNow(`“${list.name}” is for everyone, even people who joined no list. It cannot be deleted.`)
    refuseIfNeeded(db, { kind: 'list', id })
    if (isMailedBy(db, id)) throw new NotNow('Emails of this list are still waiting to be sent.')
    if (list.people !== people) {
      throw new NotNow(`Now ${sayNumber(list.people)} are on it. Check the number and confirm again.`)
    }
    const at = context.clock.now()
    replaceInDrafts(db, { kind: 'list', from: id, to: null }, at)
    moveListWaysIn(db, id, null)
    endMark(db, 'lists', id, null)
    clearAway(db, { what: 'list', thingId: id, eventId: appendEvent(db, 'list-deleted', at, { listId: id }) }, at)
  })
  context.wake()
}

/** The short forms go with the tag; a rule that says more stands still until its owner has looked at it. */
function endShortForms(db: Database, tagId: number, at: Instant): void {
  for (const rule of allRules(db)) {
    if (isShortForm(rule) && thingsIn(rule).some(({ kind, id }) => kind === 'tag' && id === tagId)) endRule(db, rule.id, at)
  }
}
