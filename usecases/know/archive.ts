/** Putting things away without deleting them, and bringing them back. */
import type { Thing, ThingKind } from '#core/things'
import { deleteArchived, insertArchived } from '#data/archive'
import { findBroadcast } from '#data/broadcasts'
import type { Database } from '#data/connection'
import { findCourse } from '#data/courses'
import { findOffer } from '#data/offers'
import { findPage } from '#data/pages'
import { findRule } from '#data/rules'
import { isThere } from '#data/things'
import type { WorkspaceContext } from '../context'
import { transact } from '../inner/reactor/transaction'
import { NotNow, NotThere } from '../problem'

/** What can be put away, each with why it cannot be just now: what is at work stays in sight. */
const AT_WORK: Partial<Record<ThingKind, (db: Database, id: number) => string | null>> = {
  page: (db, id) => findPage(db, id)!.published ? 'Visitors can see this page. Take it down first.' : null,
  offer: (db, id) => findOffer(db, id)!.published ? 'Visitors can see this offer. Take it down first.' : null,
  course(db, id) {
    const { status, stoppedAt } = findCourse(db, id)!
    return status === 'running' && stoppedAt === null ? 'This course is running. Stop it first.' : null
  },
  broadcast: (db, id) => ['scheduled', 'sending', 'paused'].includes(findBroadcast(db, id)!.state)
    ? 'This broadcast is on its way. Cancel or stop it first.'
    : null,
  rule: (db, id) => findRule(db, id)!.on ? 'This house rule is on. Switch it off first.' : null,
  segment: () => null, link: () => null, tag: () => null, list: () => null, field: () => null,
}

function mustBeThere(db: Database, { kind, id }: Thing): void {
  if (!AT_WORK[kind] || !isThere(db, kind, id)) throw new NotThere('This no longer exists.')
}

/** It does what it did, and whatever names it goes on. */
export function archiveThing(context: WorkspaceContext, thing: Thing): void {
  const { db } = context
  transact(context, () => {
    mustBeThere(db, thing)
    const problem = AT_WORK[thing.kind]!(db, thing.id)
    if (problem !== null) throw new NotNow(problem)
    insertArchived(db, thing, context.clock.now())
  })
}

export function bringBack(context: WorkspaceContext, thing: Thing): void {
  transact(context, () => {
    mustBeThere(context.db, thing)
    deleteArchived(context.db, thing)
  })
}
