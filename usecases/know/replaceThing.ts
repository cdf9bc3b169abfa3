/** Putting another thing in the place of one that something could not do without. */
import type { ThingKind } from '#core/things'
import { isSameKind } from '#core/uses'
import { findField } from '#data/fields'
import { emptySegments, findSegment } from '#data/segments'
import { isThere } from '#data/things'
import { publishPage } from '../arrive/pages'
import { publishChanges } from '../courses/publish'
import type { WorkspaceContext } from '../context'
import { isSame } from '../inner/changes'
import { replaceInDrafts, replaceInRules, replaceInSegments, type Replacing } from '../inner/replacing'
import { transact } from '../inner/reactor/transaction'
import { publishOffer } from '../offers/save'
import { NotNow, NotThere } from '../problem'
import { keepWatches } from './rules'
import { checkCondition, usersOf } from './segments'

/**
 * At once in segments, rules and links; in pages, offers and courses in what is written, which is published at once where
 * nothing else waits to be published with it. Returns the names of those where something does: their owner publishes them.
 */
export async function replaceThing(context: WorkspaceContext, kind: ThingKind, from: number, to: number): Promise<{ waits: string[] }> {
  const { db } = context
  const changed = transact(context, () => {
    if (!isThere(db, kind, from) || !isThere(db, kind, to)) throw new NotThere('One of the two no longer exists. Reload the page.')
    if (from === to) throw new NotNow('Choose another one.')
    if (kind === 'field' && !isSameKind(findField(db, from)!, findField(db, to)!)) {
      throw new NotNow('Choose a field of the same type.')
    }
    const at = context.clock.now()
    const what: Replacing = { kind, from, to }
    replaceInRules(db, what, at)
    keepWatches(db, at)
    const segmentIds = replaceInSegments(db, what, at)
    for (const id of segmentIds) {
      const problem = checkCondition(db, findSegment(db, id)!.condition, id)
      if (problem) throw new NotNow(problem)
    }
    // They ask for other people now: everybody is looked at anew.
    if (segmentIds.length > 0) emptySegments(db, [...new Set(segmentIds.flatMap(id => [id, ...usersOf(db, id)]))])
    return replaceInDrafts(db, what, at)
  })
  const [pages, offers, courses] = [changed.pages.filter(isSame), changed.offers.filter(isSame), changed.courses.filter(isSame)]
  for (const { id } of pages) await publishPage(context, id)
  for (const { id } of offers) await publishOffer(context, id)
  for (const { id } of courses) await publishChanges(context, id)
  context.wake()
  const published = new Set<unknown>([...pages, ...offers, ...courses])
  const all = [...changed.pages, ...changed.offers, ...changed.courses]
  return { waits: all.filter(one => one.published !== null && !published.has(one)).map(({ name }) => name) }
}
