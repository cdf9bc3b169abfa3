/** Everything a condition can be about, to choose from. */
import { linksOf } from '#core/message/blocks'
import { hasBlanks } from '#core/people/tag'
import { emailsOf, titleOfEmail } from '#core/sequence/draft'
import type { ConditionParts } from '#core/views/audience'
import { readTogether } from '#data/connection'
import { allCourses } from '#data/courses'
import { allFields } from '#data/fields'
import { linkNames } from '#data/links'
import { markNames } from '#data/marks'
import { broadcastNames } from '#data/broadcasts'
import { offerNames } from '#data/offers'
import { currenciesPaid } from '#data/sales'
import { allPages } from '#data/pages'
import { allRules } from '#data/rules'
import { allSources } from '#data/people'
import { allSegments } from '#data/segments'
import type { WorkspaceContext } from '../context'
import { broughtNames, namesOfRules, resultNames, touchNames } from '../inner/names'

export function conditionParts({ db }: WorkspaceContext): ConditionParts {
  const named = (rows: { id: number, name: string }[]) => rows.map(({ id, name }) => ({ id, name }))
  return readTogether(db, () => ({
    lists: markNames(db).lists,
    tags: markNames(db).tags.map(({ id, name }) => ({ id, name, blanks: hasBlanks(name) })),
    pages: allPages(db).map(page => ({
      id: page.id, name: page.name, results: [...resultNames(page)].map(([id, name]) => ({ id, name })),
    })),
    segments: named(allSegments(db)),
    offers: named(offerNames(db)),
    links: linkNames(db),
    broadcasts: broadcastNames(db),
    rules: namesOfRules(db),
    emailingRuleIds: allRules(db).filter(({ then }) => then.some(({ kind }) => kind === 'email')).map(({ id }) => id),
    currencies: currenciesPaid(db),
    fields: allFields(db),
    sources: allSources(db),
    touches: touchNames(db),
    brought: broughtNames(db),
    courses: allCourses(db).map(({ id, name, draft, published }) => {
      const written = emailsOf(draft)
      const steps = [...written, ...(published ? emailsOf(published) : []).filter(step => !written.some(other => other.id === step.id))]
      return { id, name, steps: steps.map(step => ({
        id: step.id, title: titleOfEmail(step), links: linksOf(step.content.body).map(({ url, label }) => ({ url, label })),
      })) }
    }),
  }))
}
