/** Lists are promises, tags are notes: making and renaming them, and what follows from a tag. */
import { hasBlanks, type TagInput } from '#core/people/tag'
import { EVERYBODY } from '#core/audience/condition'
import { circleThrough, undoneBy } from '#core/rules/circles'
import { asksNothing, type Rule, type RuleInput } from '#core/rules/rule'
import { sayCircle } from '#core/rules/say'
import { alsoOnOf, changesOf, isShortForm, rulesOfList, rulesOfTag, type AlsoOn, type Follows } from '#core/rules/shortForms'
import { isDate, type Instant } from '#core/time/zone'
import type { ListInput } from '#core/views/marks'
import type { Database } from '#data/connection'
import { findCourse } from '#data/courses'
import { findList, findListByName, findTag, findTagByName, insertList, insertTag, allLists, updateList, updateTag } from '#data/marks'
import { allRules, endRule, insertRule } from '#data/rules'
import type { WorkspaceContext } from '../context'
import { transact } from '../inner/reactor/transaction'
import type { FieldProblem } from '../problem'
import { ruleNamesOf } from '../inner/names'
import { reachOf } from '../inner/reach'
import { InputProblem, NotThere } from '../problem'

const tidy = (text: string) => text.replace(/\s+/g, ' ').trim()

/** The workspace's first list takes everybody, also those who never joined it. */
export function saveList(context: WorkspaceContext, id: number | null, input: ListInput): number {
  const { db } = context
  const row = {
    name: tidy(input.name), publicName: tidy(input.publicName) || tidy(input.name), description: tidy(input.description),
    offered: input.offered ? 1 as const : 0 as const,
  }
  return transact(context, () => {
    const other = findListByName(db, row.name)
    if (row.name === '') throw new InputProblem([{ field: 'name', problem: 'Give the list a name.' }])
    if (other && other.id !== id) throw new InputProblem([{ field: 'name', problem: `There is already a list called “${other.name}”.` }])
    if (id !== null && !findList(db, id)) throw new NotThere('This list no longer exists.')
    const listId = id ?? insertList(db, { ...row, takesEverybody: allLists(db).length === 0 ? 1 : 0, createdAt: context.clock.now() })
    if (id !== null) updateList(db, id, row)
    if (input.alsoOn) setAlsoOn(db, listId, input.alsoOn, context.clock.now())
    return listId
  })
}

/** A changed expiry, and what follows, count for those who get or lose the tag from now on. */
export function saveTag(context: WorkspaceContext, id: number | null, input: TagInput): number {
  const { db } = context
  const { follows } = input
  const row = {
    ...input, name: tidy(input.name), note: tidy(input.note), group: tidy(input.group), colour: input.colour?.toLowerCase() ?? null,
    publicName: tidy(input.publicName ?? '') || null,
  }
  const problems: FieldProblem[] = []
  if (row.name === '') problems.push({ field: 'name', problem: 'Give the tag a name.' })
  if (row.name.replace(/\[(month|launch)\]/gi, '').match(/[[\]]/)) {
    problems.push({ field: 'name', problem: 'Only [month] and [launch] can be in brackets. They are filled in when the tag is added.' })
  }
  if (row.publicName !== null && hasBlanks(row.name)) {
    problems.push({ field: 'publicName', problem: 'A tag with blanks cannot be chosen by readers.' })
  }
  if (row.expiry.kind === 'on' && !isDate(row.expiry.date)) {
    problems.push({ field: 'expiry', problem: 'Choose a date, like 2026-12-24.' })
  }
  return transact(context, () => {
    const other = findTagByName(db, row.name)
    if (other && other.id !== id) problems.push({ field: 'name', problem: `There is already a tag called “${other.name}”.` })
    const before = id === null ? null : findTag(db, id)
    if (before === undefined) throw new NotThere('This tag no longer exists.')
    if (before && hasBlanks(before.name) !== hasBlanks(row.name)) problems.push({
      field: 'name', problem: 'You cannot add or remove blanks, because people have the filled-in tags. Make a new tag instead.',
    })
    if (problems.length > 0) throw new InputProblem(problems)
    const tagId = id ?? insertTag(db, row, context.clock.now())
    if (id !== null) updateTag(db, id, row)
    setFollows(db, tagId, follows, context.clock.now())
    return tagId
  })
}

function setFollows(db: Database, tagId: number, follows: TagInput['follows'], at: Instant): void {
  for (const [field, ids] of Object.entries(follows) as [keyof Follows, number[]][]) {
    if (ids.includes(tagId)) throw new InputProblem([{ field: `follows.${field}`, problem: 'A tag cannot follow from itself.' }])
    if (ids.some(id => !findTag(db, id))) {
      throw new InputProblem([{ field: `follows.${field}`, problem: 'A tag no longer exists. Choose another one.' }])
    }
  }
  const own = allRules(db).filter(rule => rule.when.thingId === tagId && isShortForm(rule))
  setShortForms(db, own, rulesOfTag(tagId, follows), 'follows', at)
}

/** Being on a list means being on others, too. */
function setAlsoOn(db: Database, listId: number, alsoOn: AlsoOn[], at: Instant): void {
  if (alsoOn.some(({ listId: other }) => other === listId)) {
    throw new InputProblem([{ field: 'alsoOn', problem: 'A list cannot follow from itself.' }])
  }
  if (alsoOn.some(one => !findList(db, one.listId) || (one.afterCourseId !== null && !findCourse(db, one.afterCourseId)))) {
    throw new InputProblem([{ field: 'alsoOn', problem: 'A list or a course no longer exists. Choose another one.' }])
  }
  const rules = allRules(db)
  const says = (rule: RuleInput) => JSON.stringify([rule.when, rule.who, rule.then])
  const now = rulesOfList(listId, alsoOnOf(listId, rules)).map(says)
  setShortForms(
    db, rules.filter(rule => now.includes(says({ ...rule, who: asksNothing(rule.who) ? EVERYBODY : rule.who }))),
    rulesOfList(listId, alsoOn), 'alsoOn', at,
  )
}

/** Short forms ask for nobody and stop nowhere: a circle of them is refused. */
function setShortForms(db: Database, own: Rule[], wanted: RuleInput[], field: string, at: Instant): void {
  const { gone, made } = changesOf(own, wanted)
  for (const { id } of gone) endRule(db, id, at)
  const ids = made.map(rule => insertRule(db, rule, at))
  const all = allRules(db)
  const reach = reachOf(db)
  for (const rule of all.filter(({ id }) => ids.includes(id))) {
    const circle = circleThrough(rule, all, reach) ?? undoneBy(rule, all, reach)
    if (circle) throw new InputProblem([{ field, problem: `That would go in a circle: ${sayCircle(circle, ruleNamesOf(db))}.` }])
  }
  // One that undoes what an older one stands on is a circle, too.
  const undone = all.map(rule => made.length > 0 ? undoneBy(rule, all, reach) : null).find(path => path?.some(({ id }) => ids.includes(id)))
  if (undone) throw new InputProblem([{ field, problem: `That would go in a circle: ${sayCircle(undone, ruleNamesOf(db))}.` }])
}
