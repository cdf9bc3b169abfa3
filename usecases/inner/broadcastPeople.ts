/** The people behind the numbers of a broadcast that is not sent yet, each number by its key. */
import type { Condition } from '#core/audience/condition'
import { partsOf } from '#core/audience/parts'
import { audienceOf, NEWCOMER_DAYS, type BroadcastDraft } from '#core/broadcast/draft'
import { HELD_BACK_WORDS } from '#core/sending/reasons'
import { allCourses } from '#data/courses'
import type { WorkspaceContext } from '../context'
import { allOf, audienceChecks } from './audienceChecks'
import { soldIn } from './sold'

export interface PeopleBehind { says: string, where: Condition }

/** When they were last sent anything; null for longer ago than the others. */
export const HEARD: readonly { key: string, says: string, days: number | null }[] = [
  { key: 'heard-1', says: 'in the last 24 hours', days: 1 }, { key: 'heard-7', says: 'in the last 7 days', days: 7 },
  { key: 'heard-30', says: 'in the last 30 days', days: 30 }, { key: 'heard-ever', says: 'longer ago', days: null },
]
export const NEVER_HEARD = { key: 'heard-never', says: 'never' }

export const sentWithin = (days: number | null): Condition => ({
  kind: 'email', fate: 'sent', which: null, within: days === null ? null : { kind: 'last-days', days }, times: 1, url: null,
})

/** The offers that it sells, where it sells to its readers at all. */
export const sellsOf = (context: Pick<WorkspaceContext, 'db' | 'baseUrl'>, { content }: Pick<BroadcastDraft, 'content'>) =>
  content.sellsNothing ? [] : soldIn(context, content)

export function broadcastPeople(context: Pick<WorkspaceContext, 'db' | 'baseUrl'>, draft: BroadcastDraft): Map<string, PeopleBehind> {
  const { db } = context
  const { belongs } = partsOf(draft.who)
  const sells = sellsOf(context, draft).map(({ id }) => id)
  const { by, gets } = audienceChecks(db, { kind: 'broadcast', listId: draft.listId, audience: audienceOf(draft), sells })
  const found = new Map<string, PeopleBehind>()
  const put = (key: string, says: string, ...of: Condition[]) => void found.set(key, { says, where: allOf(...of) })
  put('audience', 'who are in its audience', belongs)
  put('gets', 'who get it', gets)
  for (const { reason, fits } of by) put(`held-${reason}`, `who are held back: ${HELD_BACK_WORDS[reason]}`, belongs, fits)
  put('held', 'who are held back', belongs, { kind: 'any', of: by.map(({ fits }) => fits) })
  for (const [n, { key, says, days }] of HEARD.entries()) {
    put(key, `who get it and were last sent an email ${says}`, gets, sentWithin(days),
      ...n === 0 ? [] : [{ kind: 'none' as const, of: [sentWithin(HEARD[n - 1]!.days)] }])
  }
  put(NEVER_HEARD.key, 'who get it as their first email', gets, { kind: 'none', of: [sentWithin(null)] })
  put('newcomers', 'who are in its audience and are new', belongs, {
    kind: 'arrived', when: { kind: 'last-days', days: draft.guards.newcomerDays ?? NEWCOMER_DAYS },
  })
  for (const { id: courseId, name } of allCourses(db)) {
    put(`inside-${courseId}`, `who are in its audience and inside “${name}”`, belongs, {
      kind: 'course', courseId, is: 'inside', stepId: null,
    })
  }
  const nobody: Condition = { kind: 'any', of: [] }
  const owned = sells.map((offerId): Condition => ({ kind: 'purchase', fate: 'owned', offerId, within: null, times: 1 }))
  put('owners', 'who are in its audience and have what it sells', belongs, ...owned.length > 0 ? owned : [nobody])
  put('no-more', 'who are in its audience and want no more about what it sells', belongs, {
    kind: 'any', of: sells.map((offerId): Condition => ({ kind: 'no-more', offerId })),
  })
  put('no-consent', 'who are in its audience and whose consent is missing', belongs, { kind: 'consent', is: 'missing' })
  return found
}
