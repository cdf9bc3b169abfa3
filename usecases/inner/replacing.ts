/** Another thing put in the place of one, wherever an owner's words name it; within a transaction of the caller's. */
import { dequal } from 'dequal'
import { replacedIn, type Replacement } from '#core/mentions'
import { inCourse, inRules } from '#core/people/replaceMark'
import { circleAmong } from '#core/rules/circles'
import { sayCircle } from '#core/rules/say'
import type { Instant } from '#core/time/zone'
import type { Database } from '#data/connection'
import { allCourses, updateDraft } from '#data/courses'
import { allEmailDrafts, updateEmailDraft } from '#data/emailDrafts'
import { allParts, updatePart } from '#data/emailParts'
import { allLinks, updateLink } from '#data/links'
import { allOffers, updateOffer } from '#data/offers'
import { allPages, updatePage } from '#data/pages'
import { allRules, endRule, updateRule } from '#data/rules'
import { allSegments, updateSegment } from '#data/segments'
import { NotNow } from '../problem'
import { ruleNamesOf } from './names'
import { reachOf } from './reach'

export type Replacing = Replacement & { to: number }

/** The house rules as they would be. Throws NotNow where they would go in a circle that is none today. */
export function rulesInPlace(db: Database, what: Replacing) {
  const before = allRules(db)
  const after = inRules(before, what)
  const reach = reachOf(db)
  const circle = circleAmong(after, reach)
  if (circle && !circleAmong(before, reach)) {
    throw new NotNow(`With that instead, house rules would go in a circle: ${sayCircle(circle, ruleNamesOf(db))}. Change them first.`)
  }
  return { before, after }
}

export function replaceInRules(db: Database, what: Replacing, at: Instant): void {
  const { before, after } = rulesInPlace(db, what)
  for (const rule of before) {
    const now = after.find(({ id }) => id === rule.id)
    if (!now) endRule(db, rule.id, at)
    else if (!dequal(now, rule)) updateRule(db, rule.id, now, at)
  }
}

/** Drafts, and what links of the library do. Returns the pages, offers and courses whose draft was changed, as they were before. */
export function replaceInDrafts(db: Database, what: Replacement, at: Instant) {
  const changed = {
    pages: allPages(db).filter(({ draft }) => !dequal(replacedIn(draft, what), draft)),
    offers: allOffers(db).filter(({ draft }) => !dequal(replacedIn(draft, what), draft)),
    courses: allCourses(db).filter(({ draft }) => !dequal(inCourse(draft, what), draft)),
  }
  for (const { id, name, slug, draft } of changed.pages) updatePage(db, id, { name, slug, draft: replacedIn(draft, what), at })
  for (const { id, name, slug, draft } of changed.offers) updateOffer(db, id, { name, slug, draft: replacedIn(draft, what), at })
  for (const { id, name, draft } of changed.courses) updateDraft(db, id, name, inCourse(draft, what), at)
  for (const { id, name, body } of allParts(db)) {
    const now = replacedIn(body, what)
    if (!dequal(now, body)) updatePart(db, id, { name, body: now }, at)
  }
  for (const { id, content } of allEmailDrafts(db)) {
    const now = replacedIn(content, what)
    if (!dequal(now, content)) updateEmailDraft(db, id, now, at)
  }
  for (const link of allLinks(db)) {
    const { does } = replacedIn({ does: link.does }, what)
    if (!dequal(does, link.does)) updateLink(db, link.id, { ...link, does }, at)
  }
  return changed
}

/** Returns the segments that ask for something else now. */
export function replaceInSegments(db: Database, what: Replacing, at: Instant): number[] {
  const changed = allSegments(db).filter(({ condition }) => !dequal(replacedIn(condition, what), condition))
  for (const { id, name, note, condition } of changed) updateSegment(db, id, { name, note, condition: replacedIn(condition, what) }, at)
  return changed.map(({ id }) => id)
}
