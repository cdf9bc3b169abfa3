/** An email as one person would read it, before anything is stored or sent. */
import { compileMessage, type Because } from '#core/message/compile'
import type { MessageContent } from '#core/message/content'
import type { Compiled } from '#core/ports'
import { findList } from '#data/marks'
import { workspaceOf } from '#data/workspace'
import type { House } from '../house'

/** Links lead straight to where they point; the addresses that are made per email do nothing. */
export async function previewEmail(house: House, content: MessageContent, listId: number | null, firstName: string, because: Because): Promise<Compiled> {
  const workspace = workspaceOf(house.db)
  const templates = compileMessage(content, because)
  return house.composer.fill(await house.composer.compile(templates), {
    first_name: firstName,
    links: templates.links.map(link => link.url),
    pixel_url: '',
    choices_url: '#',
    own_url: '#',
    list_name: (listId !== null && findList(house.db, listId)?.publicName) || 'the list of this course',
    sender_name: workspace.senderName || workspace.name,
    postal_address: workspace.postalAddress.split(/\s*\n\s*/).filter(Boolean).join(', '),
  })
}
