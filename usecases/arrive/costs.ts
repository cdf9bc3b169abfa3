/** Money spent on what brings people. */
import { readMoney } from '#core/money/money'
import { addMonths, isMonth, localOf, monthOf } from '#core/time/zone'
import type { SourceCostsInput } from '#core/views/sources'
import { costsOf, removeCost, setCost } from '#data/costs'
import { namedSources } from '#data/sources'
import { workspaceOf } from '#data/workspace'
import type { WorkspaceContext } from '../context'
import { transact } from '../inner/reactor/transaction'
import { InputProblem, NotThere, type FieldProblem } from '../problem'

/**
 * Writes down every month given, or none if one of them cannot be read. An amount that stands already is read in its own currency, a new
 * one in the workspace's.
 */
export function saveSourceCosts(context: WorkspaceContext, { source, months }: SourceCostsInput): void {
  const { db } = context
  transact(context, () => {
    if (source.kind === 'untold') throw new InputProblem([{ field: 'source', problem: 'An unknown source cannot have costs.' }])
    if (source.kind === 'named' && !namedSources(db).some(({ slug }) => slug === source.word)) {
      throw new NotThere('There is no source with this name.')
    }
    const { currency: usual, zone } = workspaceOf(db)
    const latest = addMonths(monthOf(localOf(context.clock.now(), zone).date), 12)
    const known = new Map(costsOf(db, source).map(row => [row.month, row]))
    const problems: FieldProblem[] = []
    for (const { month, typed } of months) {
      if (!isMonth(month) || month > latest) {
        problems.push({ field: `months.${month}`, problem: 'A month looks like 2026-11, and is not more than a year away.' })
        continue
      }
      const currency = known.get(month)?.currency ?? usual
      if (typed.trim() === '') {
        removeCost(db, source, month)
        continue
      }
      const read = readMoney(typed, currency)
      if (!read.ok) problems.push({ field: `months.${month}`, problem: read.problem })
      else if (read.amount === 0) removeCost(db, source, month)
      else setCost(db, { ...source, month, amount: read.amount, currency }, context.clock.now())
    }
    if (problems.length > 0) throw new InputProblem(problems)
  })
}
