/** Where somebody comes to once their opt-in counts. */
import { paragraphs, type PageText } from './text'

/** Where people can go on from a page of thanks. */
export interface Onward { label: string, url: string }

export interface Thanks { headline: string, text: PageText, onward: Onward[] }

export const newThanks = (): Thanks => ({
  headline: 'Thank you', text: paragraphs('The first email is on its way. Please look in your inbox.'), onward: [],
})
