/** Words for people who are known already. They go by email: whoever types an address is answered the same, known or not. */
import type { MessageContent } from '#core/message/content'
import type { Thanks } from './thanks'

/** Stands for that email, where the file of a page has its own. */
export const STEP_OF_KNOWN = 'known'

/** The words of thanks as an email: the headline is its subject, each onward step a button. */
export const mailOfThanks = ({ headline, text, onward }: Thanks): MessageContent => ({
  workingTitle: headline,
  subject: [{ type: 'text', text: headline }],
  preview: [],
  body: { type: 'doc', content: [...text.content, ...onward.map(({ label, url }) => ({
    type: 'button' as const, attrs: { label, url, tagId: null },
  }))] },
})
