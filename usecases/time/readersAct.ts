/** The invented readers of practice do what they were going to do, by the same use cases as anybody else. */
import type { Instant } from '#core/time/zone'
import { dueReaderActs, endReaderAct } from '#data/reading'
import type { House } from '../house'
import { write } from '../inner/transaction'
import { leave } from '../arrive/leave'
import { recordClick } from '../reading/click'
import { recordOpen, type Visit } from '../reading/open'
import { confirm } from '../arrive/confirm'
import { confirmWaiting } from '../offers/wait'
import { recordFetch } from '../arrive/files'
import { findEmail } from '#data/outbox'

export function letReadersAct(house: House, at: Instant): number {
  const { db } = house
  return write(house, () => {
    const acts = dueReaderActs(db, at, 200)
    for (const act of acts) {
      if (!endReaderAct(db, act.id, at)) continue
      const visit = { agent: act.agent, robot: false, certain: false }
      if (act.kind === 'open') recordOpen(house, act.outboxId, visit)
      else if (act.kind === 'click') recordClick(house, act.outboxId, act.linkN!, visit)
      else if (act.kind === 'press') pressOwnButton(house, act.outboxId, visit)
      else leave(house, act.outboxId, { what: 'everything' })
    }
    return acts.length
  })
}

/** Says yes, or fetches the file. */
function pressOwnButton(house: House, outboxId: number, visit: Visit): void {
  const email = findEmail(house.db, outboxId)!
  if (email.kind === 'confirmation') confirm(house, email.visit)
  else if (email.kind === 'waiting') confirmWaiting(house, email.visit)
  else recordFetch(house, outboxId, visit)
}
