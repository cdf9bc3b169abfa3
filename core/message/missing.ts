/** What keeps an email of any kind from being sent, in words. */
import { leavesOf } from '#core/audience/condition'
import { allBlocks, choicesOf } from './blocks'
import type { MessageContent } from './content'
import { sayUnread, unreadIn } from './unread'
import { badLinkIn, sayBadLink } from './webAddress'

export function missingInEmail(content: MessageContent): string[] {
  const bad = badLinkIn(content.body)
  const unread = unreadIn(content)
  return [
    ...bad === null ? [] : [sayBadLink(bad)],
    ...unread === null ? [] : [sayUnread(unread)],
    ...allBlocks(content.body).some(block => block.type === 'button' && block.attrs.label.trim() === '') ? ['A button needs a text.'] : [],
    ...choicesOf(content).some(({ who }) => who.some(one => one !== null && leavesOf(one).length === 0))
      ? ['Choose who gets the version that is only for some.']
      : [],
  ]
}
