/**
 * What brought one email of a send to one reader: together with the send and the reader it makes the email one of a kind.
 * Its number means, per kind: the reader's journey through the course, counted from 1; the confirmation request; the
 * opt-in that promised a file; the payment; the place on a waiting list; the event a rule acted on; the change of
 * address; the first notice that is told; when the week that is summed up ended; the
 * event of asking for a code; the test. What goes to an audience has one occasion, 1.
 */

/** `again`: which further sending for the same reason it is; letters, digits and hyphens, since it stands in the Message-ID. */
export const occasionOf = (id: number, again: string | null = null): string => again === null ? `${id}` : `${id}-${again}`

/** The one further sending that a course's step can ask for. */
export const SECOND_SENDING = 'again'

export const isSecondSending = (occasion: string): boolean => occasion.endsWith(`-${SECOND_SENDING}`)
