/** By what an email is known that stands in something of one's own, where that has one of each kind. */
import type { EmailKind, SendOf } from '../sending/kinds'

export const earlierKey = (kind: EmailKind, ownerId: number): SendOf => ({ kind, ownerId, itemId: 'email' })
