/** What needs attention about broadcasts: what is scheduled and was changed since, what stands still, and what broke off. */
import { dequal } from 'dequal'
import { sayMoment } from '#core/time/say'
import type { Notice } from '#core/views/today'
import { allBroadcasts, progressOf } from '#data/broadcasts'
import { findSendById } from '#data/sends'
import { findTask } from '#data/tasks'
import { workspaceOf } from '#data/workspace'
import type { WorkspaceContext } from '../context'
import { saySome } from '#core/stats/say'

export function broadcastNotices({ db }: WorkspaceContext): Notice[] {
  const { zone } = workspaceOf(db)
  return allBroadcasts(db).flatMap(({ id, name, state, draft, scheduled, dueAt, sendId }): Notice[] => {
    const to = `/broadcasts/${id}`
    if (state === 'scheduled' && !dequal(draft, scheduled)) return [{
      tone: 'plain', title: `“${name}” has changes that are not used`, by: dueAt!, to, action: 'Look at the changes',
      text: `It begins ${sayMoment(dueAt!, zone)} as it was when you scheduled it.`,
    }]
    const send = sendId !== null && (state === 'sending' || state === 'paused') ? findSendById(db, sendId) : undefined
    if (!send) return []
    const task = findTask(db, send.taskId!)
    if (task?.state === 'failed') return [{
      tone: 'trouble', title: `“${name}” broke off`, to, action: 'Open the broadcast',
      text: `${task.problem ?? ''} Nothing is lost: pause it and resume it to go on from there.`.trim(),
    }]
    const { waiting } = progressOf(db, send.id)
    return state === 'paused' ? [{
      tone: 'plain', title: `“${name}” is paused`, to, action: 'Resume or stop it',
      text: `${saySome(waiting, 'email waits', 'emails wait')}.`,
    }] : []
  })
}
