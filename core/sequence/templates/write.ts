/** Short ways to write emails; `{name|there}` stands for the first name, `**words**` for bold. */
import { line, paragraph } from '#core/page/templates/words'
import type { BlockNode, MessageContent } from '#core/message/content'

export const bullets = (...items: string[]) =>
  ({ type: 'bulletList', content: items.map(item => ({ type: 'listItem', content: [paragraph(item)] })) } satisfies BlockNode)

/** The button that leads to what an email is for. */
export const ownButton = (label: string): BlockNode => ({ type: 'ownButton', attrs: { label } })

export const button = (label: string, url: string, tagId: number | null = null): BlockNode => ({
  type: 'button', attrs: { label, url, tagId },
})

export function email(workingTitle: string, subject: string, preview: string, ...blocks: (string | BlockNode)[]): MessageContent {
  return {
    workingTitle, subject: line(subject), preview: line(preview),
    body: { type: 'doc', content: blocks.map(block => typeof block === 'string' ? paragraph(block) : block) },
  }
}
