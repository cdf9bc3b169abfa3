/** Merging a tag or a list into another, and deleting one, with everything that names it. */
import { inCondition, inCourse, inOffer, inPage, inRules, type Replacement } from '#core/people/replaceMark'
import { hasBlanks } from '#core/people/tag'
import { circleAmong } from '#core/rules/circles'
import { thingsIn } from '#core/rules/rule'
import { sayCircle } from '#core/rules/say'
import { isShortForm } from '#core/rules/shortForms'
import type { Instant } from '#core/time/zone'
import type { Database } from '#data/connection'
import { write } from '#data/connection'
import { allCourses, updateDraft } from '#data/courses'
import { appendEvent } from '#data/events'
import { dropHoldings, dropMembers, endMark, isMailedBy, mergeHoldings, mergeMembers, moveListWaysIn, moveMail, moveWaysIn } from '#data/markEnds'
import { allLists, allTags, findList, findTag } from '#data/marks'
import { allOffers, updateOffer } from '#data/offers'
import { allPages, updatePage } from '#data/pages'
import { allRules, endRule, updateRule } from '#data/rules'
import { allSegments, updateSegment } from '#data/segments'
import type { House } from '../house'
import { ruleNamesOf } from '../inner/names'
import { reachOf } from '../inner/reach'
import { InputProblem, NotNow, NotThere } from '../problem'
import { usesOfList, usesOfTag } from '../views/listsAndTags'

/** Everybody who has the one has the other from now on, and whatever gave, asked for or began with the one does so with the other. */
export function mergeTags(house: House, fromId: number, intoId: number): void {
  const { db } = house
  write(db, () => {
    const [from, into] = [findTag(db, fromId), findTag(db, intoId)]
    if (!from || !into) throw new NotThere('This tag is not there any more.')
    if (fromId === intoId) throw new InputProblem([{ field: 'into', problem: 'Choose another tag to merge it into.' }])
    if (hasBlanks(from.name) || hasBlanks(into.name)) throw new NotNow('A tag with blanks is held by nobody and cannot be merged; its filled-in ones can.')
    const at = house.clock.now()
    const what: Replacement & { to: number } = { kind: 'tag', from: fromId, to: intoId }
    replaceRules(db, what, at)
    replaceInDrafts(db, what, at)
    replaceInSegments(db, what, at)
    mergeHoldings(db, fromId, intoId, at)
    moveWaysIn(db, fromId, intoId)
    appendEvent(db, 'tag-merged', at, { tagId: fromId })
    endMark(db, 'tags', fromId, intoId)
  })
  house.wake()
}

/** `people`: how many were said to lose it. What uses it goes on without it; only segments must be told first what to ask instead. */
export function deleteTag(house: House, id: number, people: number): void {
  const { db } = house
  write(db, () => {
    const tag = allTags(db).find(one => one.id === id)
    if (!tag) throw new NotThere('This tag is not there any more.')
    refuseIfAsked(usesOfTag(db, id), 'tag')
    if (tag.people !== people) throw new NotNow(`Meanwhile ${tag.people.toLocaleString('en-GB')} have it. Look at the number and say it once more.`)
    const at = house.clock.now()
    const what: Replacement = { kind: 'tag', from: id, to: null }
    endShortForms(db, id, at)
    replaceInDrafts(db, what, at)
    moveWaysIn(db, id, null)
    dropHoldings(db, id, at, appendEvent(db, 'tag-deleted', at, { tagId: id }))
    endMark(db, 'tags', id, null)
  })
  house.wake()
}

/** Who is on the one list is on the other; who has left either has left. */
export function mergeLists(house: House, fromId: number, intoId: number): void {
  const { db } = house
  write(db, () => {
    const [from, into] = [findList(db, fromId), findList(db, intoId)]
    if (!from || !into) throw new NotThere('This list is not there any more.')
    if (fromId === intoId) throw new InputProblem([{ field: 'into', problem: 'Choose another list to merge it into.' }])
    if (from.takesEverybody === 1) throw new NotNow(`“${from.name}” takes everybody, also those who joined no list. Merge the other one into it.`)
    const at = house.clock.now()
    const what: Replacement & { to: number } = { kind: 'list', from: fromId, to: intoId }
    replaceRules(db, what, at)
    replaceInDrafts(db, what, at)
    replaceInSegments(db, what, at)
    mergeMembers(db, fromId, intoId, at)
    moveMail(db, fromId, intoId)
    moveListWaysIn(db, fromId, intoId)
    appendEvent(db, 'list-merged', at, { listId: fromId })
    endMark(db, 'lists', fromId, intoId)
  })
  house.wake()
}

/** A course cannot be without its list; a page or an offer goes on without it. */
export function deleteList(house: House, id: number, people: number): void {
  const { db } = house
  write(db, () => {
    const list = allLists(db).find(one => one.id === id)
    if (!list) throw new NotThere('This list is not there any more.')
    if (list.takesEverybody === 1) throw new NotNow(`“${list.name}” takes everybody, also those who joined no list: it stays.`)
    const uses = usesOfList(db, id)
    const course = uses.find(use => use.kind === 'course')
    if (course || isMailedBy(db, id)) throw new NotNow(course ? `The course “${course.name}” is mailed by this list. Give it another list first.` : 'Emails still wait to be sent by this list.')
    refuseIfAsked(uses, 'list')
    if (list.people !== people) throw new NotNow(`Meanwhile ${list.people.toLocaleString('en-GB')} are on it. Look at the number and say it once more.`)
    const at = house.clock.now()
    replaceInDrafts(db, { kind: 'list', from: id, to: null }, at)
    moveListWaysIn(db, id, null)
    dropMembers(db, id, at, appendEvent(db, 'list-deleted', at, { listId: id }))
    endMark(db, 'lists', id, null)
  })
  house.wake()
}

function refuseIfAsked(uses: { kind: string, name: string }[], what: string): void {
  const asking = uses.filter(use => use.kind === 'segment')
  if (asking.length > 0) throw new NotNow(`The ${what} is asked for in ${asking.map(({ name }) => `the segment “${name}”`).join(' and ')}. Take it out there first.`)
}

function replaceRules(db: Database, what: Replacement & { to: number }, at: Instant): void {
  const before = allRules(db)
  const after = inRules(before, what)
  const names = ruleNamesOf(db)
  const reach = reachOf(db)
  const circle = circleAmong(after, reach)
  if (circle && !circleAmong(before, reach)) throw new NotNow(`Merged, house rules would go in a circle: ${sayCircle(circle, names)}. Change them first.`)
  for (const rule of before) {
    const now = after.find(({ id }) => id === rule.id)
    if (!now) endRule(db, rule.id, at)
    else if (JSON.stringify(now) !== JSON.stringify(rule)) updateRule(db, rule.id, now, at)
  }
}

/** The short forms go with the tag; a rule that says more stands still until its owner has looked at it. */
function endShortForms(db: Database, tagId: number, at: Instant): void {
  for (const rule of allRules(db)) if (isShortForm(rule) && thingsIn(rule).some(({ kind, id }) => kind === 'tag' && id === tagId)) endRule(db, rule.id, at)
}

function replaceInDrafts(db: Database, what: Replacement, at: Instant): void {
  for (const { id, name, slug, draft } of allPages(db)) {
    const now = inPage(draft, what)
    if (JSON.stringify(now) !== JSON.stringify(draft)) updatePage(db, id, { name, slug, draft: now, at })
  }
  for (const { id, name, slug, draft } of allOffers(db)) {
    const now = inOffer(draft, what)
    if (JSON.stringify(now) !== JSON.stringify(draft)) updateOffer(db, id, { name, slug, draft: now, at })
  }
  for (const { id, name, draft } of allCourses(db)) {
    const now = inCourse(draft, what)
    if (JSON.stringify(now) !== JSON.stringify(draft)) updateDraft(db, id, name, now, at)
  }
}

function replaceInSegments(db: Database, what: Replacement & { to: number }, at: Instant): void {
  for (const { id, name, note, condition } of allSegments(db)) {
    const now = inCondition(condition, what)
    // They ask the same of the same people: nobody needs to be looked at who was not in the merging.
    if (JSON.stringify(now) !== JSON.stringify(condition)) updateSegment(db, id, { name, note, condition: now }, at)
  }
}
