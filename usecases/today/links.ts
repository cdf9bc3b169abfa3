/** Links that lead nowhere. */
import { sayMoment } from '#core/time/say'
import type { Notice } from '#core/views/today'
import { linksInTrouble } from '#data/links'
import { workspaceOf } from '#data/workspace'
import type { WorkspaceContext } from '../context'

export function linkNotices({ db }: WorkspaceContext): Notice[] {
  const { zone } = workspaceOf(db)
  return linksInTrouble(db).map(({ id, name, trouble, troubleSinceAt }) => ({
    tone: 'trouble' as const, title: `The link “${name}” is broken`,
    text: `Since ${sayMoment(troubleSinceAt!, zone)}: ${trouble}. A new destination also works in emails already sent.`,
    to: `/links/${id}?at=link-url`, action: 'Fix the link',
  }))
}
