/** What a new course begins as, to choose from. */
import { emptyOutline, type Outline } from '#core/sequence/outline'

/** Five emails, the first at once, then one a day. */
export const newOutline = (): Outline => ({ lines: emptyOutline(5), everyDays: 1, time: '08:00' })
