/** Where people come from, over all pages, and what it cost. */
import { perHead, sumsOf, writeMoney, type Money } from '#core/money/money'
import { isSameSource, saySourceKey, type SourceKey } from '#core/page/touch'
import { addMonths, DAY, instantOf, localOf, monthOf } from '#core/time/zone'
import type { SourceCosts, SourceFigures, SourceLine, SourcesView } from '#core/views/sources'
import { readTogether } from '#data/connection'
import { allCosts, costsOf, peopleBySource, visitsBySource } from '#data/costs'
import { namedSources } from '#data/sources'
import { workspaceOf } from '#data/workspace'
import type { WorkspaceContext } from '../context'
import { sourceNames } from '../inner/names'

/** Who has opened or clicked something in so many days still reads. */
export const READING_DAYS = 30

/** The last `months` months of the workspace's zone, the present one included. */
export function sourcesView(context: WorkspaceContext, { months }: { months: number }): SourcesView {
  const { db } = context
  return readTogether(db, () => {
    const now = context.clock.now()
    const { zone } = workspaceOf(db)
    const today = localOf(now, zone).date
    const [first, last] = [addMonths(monthOf(today), 1 - months), monthOf(today)]
    const [from, to] = [instantOf(`${first}-01`, '00:00', zone), instantOf(`${addMonths(last, 1)}-01`, '00:00', zone)]
    const visits = visitsBySource(db, `${first}-01`, `${last}-31`)
    const people = peopleBySource(db, from, to, now - READING_DAYS * DAY)
    const costs = allCosts(db).filter(({ month }) => month >= first && month <= last)
    const named = namedSources(db).map(({ slug }): SourceKey => ({ kind: 'named', word: slug }))
    const sources = [...named, ...visits, ...people, ...costs].map(({ kind, word }): SourceKey => ({ kind, word }))
    const nameOf = sourceNames(db)
    const lines = sources.filter((source, n) => sources.findIndex(other => isSameSource(other, source)) === n).map((source): SourceLine => {
      const of = people.find(row => isSameSource(row, source))
      return { source, says: saySourceKey(source, nameOf), ...figures(
        visits.find(row => isSameSource(row, source))?.visits ?? 0, of?.subscribers ?? 0, of?.reading ?? 0,
        costs.filter(row => isSameSource(row, source)),
      ) }
    }).sort((a, b) => b.subscribers - a.subscribers || b.visits - a.visits || a.says.localeCompare(b.says))
    const sum = (key: 'visits' | 'subscribers' | 'reading') => lines.reduce((total, line) => total + line[key], 0)
    return { months, from, to, readingDays: READING_DAYS, lines, total: figures(sum('visits'), sum('subscribers'), sum('reading'), costs) }
  })
}

function figures(visits: number, subscribers: number, reading: number, costs: readonly Money[]): SourceFigures {
  const spent = sumsOf(costs)
  const [only] = spent.length === 1 ? spent : []
  return {
    visits, subscribers, reading, spent, perSubscriber: only ? perHead(only, subscribers) : null,
    perReading: only ? perHead(only, reading) : null,
  }
}

const MONTHS_SHOWN = 12

/** What was spent on one source, month by month, to be typed. */
export function sourceCosts(context: WorkspaceContext, source: SourceKey): SourceCosts {
  const { db } = context
  return readTogether(db, () => {
    const { zone, currency } = workspaceOf(db)
    const last = monthOf(localOf(context.clock.now(), zone).date)
    const known = new Map(costsOf(db, source).map(row => [row.month, row]))
    const shown = Array.from({ length: MONTHS_SHOWN }, (_, n) => addMonths(last, -n))
    const months = [...new Set([...shown, ...known.keys()])].sort().reverse()
    return {
      source, says: saySourceKey(source, sourceNames(db)), currency,
      months: months.map((month) => {
        const row = known.get(month)
        return { month, typed: row ? writeMoney(row) : '', currency: row?.currency ?? currency }
      }),
    }
  })
}
