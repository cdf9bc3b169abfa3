/** To-dos, and what rules have told. */
import { type Instant, localOf } from '#core/time/zone'
import type { Notice } from '#core/views/today'
import { countUnseen, unseenNotices } from '#data/notices'
import { openTodos } from '#data/todos'
import { workspaceOf } from '#data/workspace'
import type { WorkspaceContext } from '../context'
import { saySome } from '#core/stats/say'

export function deskNotices({ db }: WorkspaceContext, now: Instant): Notice[] {
  const today = localOf(now, workspaceOf(db).zone).date
  const due = openTodos(db).filter(({ dueOn }) => dueOn <= today)
  const unseen = countUnseen(db)
  return [
    ...due.length > 0 ? [{
      tone: due.some(({ dueOn }) => dueOn < today) ? 'trouble' as const : 'plain' as const,
      title: `${saySome(due.length, 'to-do is', 'to-dos are')} due`, text: [...new Set(due.map(({ text }) => text))].slice(0, 3).join('; '),
      to: '/to-dos', action: 'Open to-dos',
    }] : [],
    ...unseen > 0 ? [{
      tone: 'plain' as const, title: `${saySome(unseen, 'notice', 'notices')} from house rules`,
      text: [...new Set(unseenNotices(db, 20).map(({ text }) => text))].slice(0, 2).join('; '), to: '/to-dos',
      action: 'Read them',
    }] : [],
  ]
}
