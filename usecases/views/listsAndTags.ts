/** Lists and tags, with how many people and where they are used. */
import { marksOfOffer } from '#core/offers/offer'
import { givenBy } from '#core/page/content'
import { leavesOf } from '#core/audience/condition'
import { linksOf } from '#core/message/content'
import { hasBlanks } from '#core/people/tag'
import { emailsOf, thingsOfDoors, thingsOfStep, type CourseDraft, type DraftStep } from '#core/sequence/draft'
import { allSteps } from '#core/sequence/program'
import { thingsIn, thingsOfLeaf, WHENS, type Rule, type Thing, type ThingKind } from '#core/rules/rule'
import { alsoOnOf, followsOf } from '#core/rules/shortForms'
import type { ListLine, TagLine, Use, WhyTheyLeft } from '#core/views/marks'
import type { Database } from '#data/connection'
import { readTogether } from '#data/connection'
import { leavingAnswers } from '#data/choices'
import { allCourses, type CourseRow } from '#data/courses'
import { allOffers } from '#data/offers'
import { allPages } from '#data/pages'
import { allLists, allTags } from '#data/marks'
import { allRules } from '#data/rules'
import { allSegments } from '#data/segments'
import type { House } from '../house'

/** Everything that can name a list or a tag, read once. */
function readNamers(db: Database) {
  return { pages: allPages(db), offers: allOffers(db), courses: allCourses(db), segments: allSegments(db).map(segment => ({ id: segment.id, name: segment.name, leaves: leavesOf(segment.condition) })), rules: allRules(db) }
}
type Namers = ReturnType<typeof readNamers>

/** Rules that name it anywhere; what stands on the tag itself as a short form is told there. */
function rulesNaming(rules: Rule[], kind: ThingKind, id: number): Use[] {
  const how = ({ when, who }: Rule): string => WHENS[when.kind].thing === kind && when.thingId === id ? 'wakes' : leavesOf(who).flatMap(thingsOfLeaf).some(thing => thing.kind === kind && thing.id === id) ? 'asked in' : 'changed by'
  return rules.filter(rule => thingsIn(rule).some(thing => thing.kind === kind && thing.id === id)).map(rule => use('rule', { id: rule.id, name: `house rule ${rule.id}` }, how(rule)))
}

const use = (kind: Use['kind'], { id, name }: { id: number, name: string }, how: string): Use => ({ kind, id, name, how })

function listUses({ pages, offers, courses, segments, rules }: Namers, listId: number): Use[] {
  return [
    ...pages.filter(page => [page.draft, page.published].some(content => content && givenBy(content).listIds.includes(listId))).map(page => use('page', page, 'joined on')),
    ...offers.filter(offer => [offer.draft, offer.published].some(content => content && marksOfOffer(content).listIds.includes(listId))).map(offer => use('offer', offer, 'joined by buying')),
    ...courses.filter(course => course.draft.listId === listId || course.listId === listId).map(course => use('course', course, 'mailed by')),
    ...courses.filter(course => draftsOf(course).some(draft => draft.wayInListIds?.includes(listId))).map(course => use('course', course, 'starts')),
    ...courses.filter(course => draftsOf(course).some(draft => thingsDone(draft).some(thing => thing.kind === 'list' && thing.id === listId))).map(course => use('course', course, 'asked in')),
    ...segments.filter(({ leaves }) => leaves.some(leaf => leaf.kind === 'list' && leaf.listId === listId)).map(segment => use('segment', segment, 'asked in')),
    ...rulesNaming(rules, 'list', listId),
  ]
}

const draftsOf = ({ draft, published }: CourseRow): CourseDraft[] => [draft, ...published ? [published] : []]
/** What its steps, its ways out and its end do and ask for. */
const thingsDone = (draft: CourseDraft): Thing[] => [...thingsOfDoors(draft), ...allSteps<DraftStep>(draft.steps).flatMap(thingsOfStep)]

function tagUses({ pages, offers, courses, segments, rules }: Namers, tagId: number): Use[] {
  return [
    ...pages.filter(page => [page.draft, page.published].some(content => content && givenBy(content).tagIds.includes(tagId))).map(page => use('page', page, 'given by')),
    ...offers.filter(offer => [offer.draft, offer.published].some(content => content && marksOfOffer(content).tagIds.includes(tagId))).map(offer => use('offer', offer, 'given by buying')),
    ...courses.flatMap((course) => {
      const drafts = draftsOf(course)
      const steps = drafts.flatMap(emailsOf)
      return [
        ...(drafts.some(draft => draft.wayInTagIds.includes(tagId)) ? [use('course', course, 'starts')] : []),
        ...(steps.some(step => linksOf(step.content.body).some(link => link.tagId === tagId)) ? [use('course', course, 'given by a link in')] : []),
        ...(drafts.some(draft => thingsDone(draft).some(thing => thing.kind === 'tag' && thing.id === tagId)) ? [use('course', course, 'given or asked in')] : []),
      ]
    }),
    ...rulesNaming(rules, 'tag', tagId),
    ...segments.filter(({ leaves }) => leaves.some(leaf => leaf.kind === 'tag' && leaf.tagId === tagId)).map(segment => use('segment', segment, 'asked in')),
  ]
}

export const usesOfList = (db: Database, id: number): Use[] => listUses(readNamers(db), id)
export const usesOfTag = (db: Database, id: number): Use[] => tagUses(readNamers(db), id)

export function listLines({ db }: House): ListLine[] {
  const [namers, lists] = readTogether(db, () => [readNamers(db), allLists(db)] as const)
  return lists.map(({ createdAt: _, ...list }) => ({ ...list, takesEverybody: list.takesEverybody === 1, offered: list.offered === 1, alsoOn: alsoOnOf(list.id, namers.rules), uses: listUses(namers, list.id) }))
}

export function tagLines({ db }: House): TagLine[] {
  const [namers, tags] = readTogether(db, () => [readNamers(db), allTags(db)] as const)
  return tags.map(({ createdAt: _, ...tag }) => ({ ...tag, blanks: hasBlanks(tag.name), follows: followsOf(tag.id, namers.rules), uses: tagUses(namers, tag.id) }))
}

export const whyTheyLeft = ({ db }: House): WhyTheyLeft[] => leavingAnswers(db)
