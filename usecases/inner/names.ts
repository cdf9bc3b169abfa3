/** The names of everything a condition or a house rule can be about. */
import type { Names } from '#core/audience/say'
import { nameOfResult } from '#core/page/result'
import { emailsOf, titleOfEmail } from '#core/sequence/draft'
import { isSameSource, saySourceKey, sayTouch, sourceOf, type SourceKey } from '#core/page/touch'
import { nameOfRule, type RuleNames } from '#core/rules/say'
import type { Database } from '#data/connection'
import { allCourses } from '#data/courses'
import { allFields } from '#data/fields'
import { hookNames } from '#data/hooks'
import { linkNames } from '#data/links'
import { markNames } from '#data/marks'
import { broadcastNames } from '#data/broadcasts'
import { offerNames } from '#data/offers'
import { findPerson } from '#data/people'
import { findPage, pageNames, type PageRow } from '#data/pages'
import { allRules } from '#data/rules'
import { allSegments } from '#data/segments'
import { namedSources, touchesByIds, touchesWithOptIns } from '#data/sources'
import { workspaceOf } from '#data/workspace'

const named = (rows: { id: number, name: string }[]) => new Map(rows.map(({ id, name }) => [id, name]))

export function namesOf(db: Database): Names {
  const { lists, tags } = markNames(db)
  return {
    zone: workspaceOf(db).zone,
    lists: named(lists),
    tags: named(tags),
    pages: named(pageNames(db)),
    results: (pageId, resultId) => {
      const page = findPage(db, pageId)
      return page && resultNames(page).get(resultId)
    },
    segments: named(allSegments(db)),
    offers: named(offerNames(db)),
    broadcasts: named(broadcastNames(db)),
    links: named(linkNames(db)),
    rules: { get: id => namesOfRules(db).find(rule => rule.id === id)?.name },
    fields: new Map(allFields(db).map(field => [field.id, field])),
    touches: { get: id => touchesByIds(db, [id]).map(touch => sayTouch(touch, sourceNames(db)))[0] },
    brought: source => saySourceKey(source, sourceNames(db)),
    courses: new Map(allCourses(db).map(course => [course.id, {
      name: course.name,
      // What the draft calls an email is the newer word; one that runs and was taken out of the draft still has its own.
      steps: new Map(
        [course.published, course.draft].flatMap(draft => draft ? emailsOf(draft) : []).map(step => [step.id, titleOfEmail(step)]),
      ),
    }])),
  }
}

export function ruleNamesOf(db: Database): RuleNames {
  const hooks = hookNames(db)
  return { ...namesOf(db), hooksIn: named(hooks.in), hooksOut: named(hooks.out) }
}

/** What house rules are known by. */
export function namesOfRules(db: Database): { id: number, name: string }[] {
  const names = ruleNamesOf(db)
  return allRules(db).map(rule => ({ id: rule.id, name: nameOfRule(rule, names) }))
}

/** Of a page's result pages, by their ids; what the draft calls one is the newer word. */
export const resultNames = ({ published, draft }: Pick<PageRow, 'published' | 'draft'>): Map<string, string> =>
  new Map([...published?.resultPages ?? [], ...draft.resultPages].map(page => [page.id, nameOfResult(page)]))

/** More than this many are nothing to choose from. */
const MOST_TOUCHES = 300

/** What brought the people who opted in, in words. */
export function touchNames(db: Database): { id: number, name: string }[] {
  return touchesWithOptIns(db, MOST_TOUCHES).map(touch => ({ id: touch.id, name: sayTouch(touch, sourceNames(db)) }))
}

/** The same, come down to their sources, each once; and those that were named and have brought nobody yet. */
export function broughtNames(db: Database): { source: SourceKey, name: string }[] {
  const named = namedSources(db).map(({ slug }): SourceKey => ({ kind: 'named', word: slug }))
  const sources = [...touchesWithOptIns(db, MOST_TOUCHES).map(sourceOf), ...named].filter((source, n, all) =>
    all.findIndex(other => isSameSource(other, source)) === n)
  return sources.map(source => ({ source, name: saySourceKey(source, sourceNames(db)) }))
}

/** Says the name of a source by its word in an address. */
export function sourceNames(db: Database): (slug: string) => string | undefined {
  const names = new Map(namedSources(db).map(one => [one.slug, one.name]))
  return slug => names.get(slug)
}

/** Who somebody is, in a word. */
export function nameOf(db: Database, personId: number): { id: number, name: string } {
  const person = findPerson(db, personId)
  return { id: personId, name: person ? person.firstName || person.address : 'someone who was erased' }
}
