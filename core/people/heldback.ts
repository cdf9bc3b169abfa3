/** Why someone an audience reaches still does not get an email. */
import type { Status } from './status'

/** In the order in which one reason is told when several are true. */
export const HELD_BACK_REASONS = [
  'bounced', 'complained', 'unsubscribed', 'not-confirmed', 'left-list', 'not-on-list', 'no-consent', 'resting', 'paused-by-themselves',
  'left-course', 'in-never', 'said-no-more', 'owns-it', 'newcomer', 'got-it-already', 'too-late', 'too-many-emails',
] as const

export type HeldBackReason = typeof HELD_BACK_REASONS[number]

export const HELD_BACK_WORDS: Record<HeldBackReason, string> = {
  'bounced': 'bounced',
  'complained': 'complained',
  'unsubscribed': 'unsubscribed',
  'not-confirmed': 'not confirmed',
  'left-list': 'left the list',
  'not-on-list': 'not on the list',
  'no-consent': 'no consent',
  'resting': 'resting',
  'paused-by-themselves': 'paused by themselves',
  'left-course': 'left the course',
  'in-never': 'in never',
  'said-no-more': 'said no more',
  'owns-it': 'owns it',
  'newcomer': 'newcomer',
  'got-it-already': 'got it already',
  'too-late': 'too late',
  'too-many-emails': 'too many emails',
}

/** `listName`: which list the email belongs to, where that is known. */
export function sayHeldBack(reason: string | null, listName: string | null): string {
  if (reason === null) return 'no reason was kept'
  if (reason === 'not-on-list' && listName !== null) return `not on the list ${listName}`
  return HELD_BACK_WORDS[reason as HeldBackReason] ?? reason.replaceAll('-', ' ')
}

/** What the last look knows about one email and the person it is for. */
export interface LastLook {
  status: Status
  /** `never-joined` only counts where the list is closed to people who never joined it. */
  list: 'joined' | 'left' | 'never-joined'
  listTakesEverybody: boolean
  /** Not on record although their country needs it. */
  consentMissing: boolean
  leftCourse: boolean
  /** They asked for a pause that is not over. */
  paused: boolean
  /** Asked-for mail may go to someone who has not confirmed yet: it is what they asked for. */
  askedFor: boolean
  /** It asks for the yes that everything else waits for, so nothing that was before holds it back. */
  asksToConfirm: boolean
  /** It sells an offer they want to hear no more of. */
  saidNoMore: boolean
  /** They have every offer that it sells. */
  ownsIt: boolean
  /** Its first sending was read meanwhile. */
  gotItAlready: boolean
  /** It is past the time after which it says nothing any more. */
  tooLate: boolean
  /** It says what was paid: only an address that takes no mail, or calls ours unwanted, holds it back. */
  isReceipt: boolean
}

/** The first reason in the fixed order, or null if the email may leave. */
export function heldBackFor(look: LastLook): HeldBackReason | null {
  const { status } = look
  if (look.asksToConfirm) return null
  const isTrue: Partial<Record<HeldBackReason, boolean>> = {
    'bounced': status === 'bounced',
    'complained': status === 'complained',
    'unsubscribed': status === 'unsubscribed',
    'not-confirmed': status === 'pending' && !look.askedFor,
    'left-list': look.list === 'left',
    'not-on-list': look.list === 'never-joined' && !look.listTakesEverybody,
    'no-consent': look.consentMissing,
    'resting': status === 'resting',
    'paused-by-themselves': look.paused && !look.askedFor,
    'left-course': look.leftCourse,
    'said-no-more': look.saidNoMore && !look.askedFor,
    'owns-it': look.ownsIt && !look.askedFor,
    'got-it-already': look.gotItAlready,
    'too-late': look.tooLate,
  }
  const reasons: readonly HeldBackReason[] = look.isReceipt ? ['bounced', 'complained'] : HELD_BACK_REASONS
  return reasons.find(reason => isTrue[reason]) ?? null
}
