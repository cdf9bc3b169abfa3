/** What a new workspace lacks. */
import type { Notice } from '#core/views/today'
import { allLists } from '#data/marks'
import { workspaceOf } from '#data/workspace'
import type { WorkspaceContext } from '../context'
import { setupOf } from './setup'

/** While the first steps stand on Today, they say it. */
export function settingsNotices(context: WorkspaceContext): Notice[] {
  if (setupOf(context, false) !== null) return []
  const { senderAddress, postalAddress } = workspaceOf(context.db)
  const list: Notice[] = []
  if (senderAddress === '' || postalAddress === '') list.push({
    tone: 'plain', title: 'Say who the emails are from', text: 'Every email shows a sender and a postal address.',
    to: '/settings?at=sender-name',
    action: 'Fill in the sender',
  })
  if (allLists(context.db).length === 0) {
    list.push({
      tone: 'plain', title: 'Make a list', text: 'Every email belongs to a list that subscribers can leave.',
      to: '/tags-and-lists?at=new-list', action: 'Make a list',
    })
  }
  return list
}
