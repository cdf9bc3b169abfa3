/** How a page does: visits, opt-ins and their rate, by day and by what brought people. */
import { sayTouch } from '#core/page/touch'
import { rateOf } from '#core/stats/rate'
import { addDays, instantOf, localOf } from '#core/time/zone'
import type { PageResults } from '#core/views/pages'
import { readTogether, type Database } from '#data/connection'
import { findPage, type PageRow } from '#data/pages'
import {
  fatesOfOptIns, namedSources, optInTimes, optInsByResult, optInsByTouch, touchesByIds, visitsByDay, visitsByTouch,
} from '#data/sources'
import { workspaceOf } from '#data/workspace'
import type { WorkspaceContext } from '../context'
import { resultNames, sourceNames } from '../inner/names'
import { NotThere } from '../problem'

/** The last `days` days of the workspace's zone, today included. */
export function pageResults(context: WorkspaceContext, { id, days }: { id: number, days: number }): PageResults {
  const { db } = context
  return readTogether(db, () => {
    const page = findPage(db, id)
    if (!page) throw new NotThere('This page no longer exists.')
    const { zone } = workspaceOf(db)
    const last = localOf(context.clock.now(), zone).date
    const first = addDays(last, 1 - days)
    const [from, to] = [instantOf(first, '00:00', zone), instantOf(addDays(last, 1), '00:00', zone)]

    const shown = new Map(visitsByDay(db, id, first, last).map(row => [row.day, row.visits]))
    const people = new Map<string, Set<number>>()
    const everybody = new Set<number>()
    for (const { personId, at } of optInTimes(db, id, from, to)) {
      const day = localOf(at, zone).date
      people.set(day, (people.get(day) ?? new Set()).add(personId))
      everybody.add(personId)
    }
    const { counted, notConfirmed, fetched } = fatesOfOptIns(db, id, from, to)
    const named = namedSources(db)
    const url = `${context.baseUrl}/p/${page.slug}`
    const visits = [...shown.values()].reduce((sum, n) => sum + n, 0)
    return {
      id, name: page.name, days, from, to, published: page.published !== null, visits, optIns: everybody.size,
      rate: shareOf(everybody.size, visits),
      counted, notConfirmed, fetched: fetched > 0 || page.published?.promised ? fetched : null,
      byDay: Array.from({ length: days }, (_, n) => addDays(first, n))
        .map(day => ({ day, at: instantOf(day, '00:00', zone), visits: shown.get(day) ?? 0, optIns: people.get(day)?.size ?? 0 })),
      bySource: bySource(context, id, { first, last, from, to }),
      byResult: byResult(db, page, from, to),
      links: named.map(({ id: sourceId, name, slug }) => ({ id: sourceId, name, url: `${url}?from=${encodeURIComponent(slug)}` })),
    }
  })
}

/** None where more opted in than visits were counted: a form filled in before the counting began, or sent without looking. */
const shareOf = (optIns: number, visits: number) => rateOf(optIns <= visits ? optIns : 0, optIns <= visits ? visits : 0)

/** Every result page there is, also those nobody came to, and those of former versions that somebody did. */
function byResult(db: Database, page: PageRow, from: number, to: number): PageResults['byResult'] {
  const names = resultNames(page)
  const people = new Map(optInsByResult(db, page.id, from, to).map(row => [row.resultId, row.people]))
  const ids = [...new Set([...names.keys(), ...[...people.keys()].filter(id => id !== null)])]
  if (ids.length === 0) return []
  return [
    ...ids.map(id => ({ resultId: id, name: names.get(id) ?? 'a removed page', optIns: people.get(id) ?? 0 })),
    { resultId: null, name: 'everyone else', optIns: people.get(null) ?? 0 },
  ]
}

function bySource(
  { db }: WorkspaceContext, pageId: number, { first, last, from, to }: { first: string, last: string, from: number, to: number },
): PageResults['bySource'] {
  const nameOf = sourceNames(db)
  const visits = new Map(visitsByTouch(db, pageId, first, last).map(row => [row.touchId, row.visits]))
  const optIns = new Map(optInsByTouch(db, pageId, from, to).map(row => [row.touchId, row.people]))
  const touches = new Map(touchesByIds(db, [...visits.keys(), ...optIns.keys()].filter(id => id !== null)).map(row => [row.id, row]))
  return [...new Set([...visits.keys(), ...optIns.keys()])].map((touchId) => {
    const [came, stayed] = [touchId === null ? 0 : visits.get(touchId) ?? 0, optIns.get(touchId) ?? 0]
    return {
      touchId, says: touchId === null ? 'from before sources were recorded' : sayTouch(touches.get(touchId)!, nameOf), visits: came,
      optIns: stayed, rate: shareOf(stayed, came),
    }
  }).sort((a, b) => b.optIns - a.optIns || b.visits - a.visits || a.says.localeCompare(b.says))
}
