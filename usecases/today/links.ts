/** Links that lead nowhere. */
import { sayMoment } from '#core/time/say'
import type { Notice } from '#core/views/today'
import { linksInTrouble } from '#data/links'
import { workspaceOf } from '#data/workspace'
import type { WorkspaceContext } from '../context'

export function linkNotices({ db }: WorkspaceContext): Notice[] {
  const { zone } = workspaceOf(db)
  return linksInTrouble(db).map(({ id, name, trouble, troubleSinceAt }) => ({
    tone: 'trouble' as const, title: `The link “${name}” leads nowhere`,
    text: `Since ${sayMoment(troubleSinceAt!, zone)}: ${trouble}. Another destination counts in emails already sent, too.`,
    to: `/links/${id}?at=link-url`, action: 'Fix the link',
  }))
}
