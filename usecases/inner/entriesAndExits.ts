/** Everything that lets people into a course or takes them out of it, wherever it was set. */
import { marksOfOffer } from '#core/offers/offer'
import { givenBy } from '#core/page/content'
import { linksOf } from '#core/message/blocks'
import type { Action } from '#core/rules/rule'
import { starts } from '#core/sequence/entries'
import { emailsOf, type CourseDraft, type DraftStep } from '#core/sequence/draft'
import { allSteps } from '#core/sequence/program'
import type { EntryOrExit, EntriesAndExits } from '#core/views/course'
import { allCourses } from '#data/courses'
import { allOffers } from '#data/offers'
import { allPages } from '#data/pages'
import { allRules } from '#data/rules'
import { allLinks } from '#data/links'
import type { WorkspaceContext } from '../context'
import { namesOfRules } from './names'

/** What is in force counts; of what is not yet, what is being written. */
export function entriesAndExitsOf(
  { db }: WorkspaceContext, courseId: number, { wayInTagIds, wayInListIds = [] }: Pick<CourseDraft, 'wayInTagIds' | 'wayInListIds'>,
): EntriesAndExits {
  const tags = new Set(wayInTagIds)
  const lists = new Set(wayInListIds)
  const letsIn = (action: Action) => (action.kind === 'enrol' && action.courseId === courseId)
    || (action.kind === 'give-tag' && tags.has(action.tagId)) || (action.kind === 'join-list' && lists.has(action.listId))
  const takesOut = (action: Action) => action.kind === 'leave-course' && action.courseId === courseId
  const pages = allPages(db).map(({ id, name, published, draft }) => ({ id, name, content: published ?? draft }))
  const offers = allOffers(db).map(({ id, name, published, draft }) => ({ id, name, content: published ?? draft }))
  const links = allLinks(db)
  const rules = allRules(db).filter(({ on }) => on)
  const others = allCourses(db).filter(({ id }) => id !== courseId)
    .map(({ id, name, published, draft }) => ({ id, name, draft: published ?? draft }))
  const ruleNames = (does: (action: Action) => boolean) => {
    const ids = rules.filter(({ then }) => then.some(does)).map(({ id }) => id)
    return ids.length === 0 ? [] : namesOfRules(db).filter(({ id }) => ids.includes(id))
  }
  const named = (kind: EntryOrExit['kind'], rows: { id: number, name: string }[]): EntryOrExit[] =>
    rows.map(({ id, name }) => ({ kind, id, name }))
  return {
    in: [
      ...named('page', pages.filter(({ content }) => starts(courseId, { wayInTagIds, wayInListIds }, {
        ...givenBy(content), courseId: content.courseId,
      }))),
      ...named('offer', offers.filter(({ content }) => starts(courseId, { wayInTagIds, wayInListIds }, {
        ...marksOfOffer(content), courseId: content.gives.courseId,
      }))),
      ...named('link', links.filter(({ does }) => does.some(letsIn))),
      ...named('rule', ruleNames(letsIn)),
      ...named('course', others.filter(({ draft }) => actionsIn(draft).some(letsIn)
        || emailsOf(draft).some(({ content }) => linksOf(content.body).some(({ tagId }) => tagId !== null && tags.has(tagId))))),
    ],
    out: [
      ...named('offer', offers.filter(({ content }) => content.gives.endsCourseIds.includes(courseId))),
      ...named('link', links.filter(({ does }) => does.some(takesOut))),
      ...named('rule', ruleNames(takesOut)),
      ...named('course', others.filter(({ draft }) => actionsIn(draft).some(takesOut))),
    ],
  }
}

/** Everything that a course does to people. */
const actionsIn = (draft: CourseDraft): Action[] => [
  ...draft.onFinish ?? [],
  ...allSteps<DraftStep>(draft.steps).flatMap(step =>
    step.kind === 'do' ? step.then : step.kind === 'email' ? (step.reactions ?? []).flatMap(({ then }) => then) : []),
]
