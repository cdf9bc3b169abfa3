/** The practice mailbox. */
import type { Instant } from '#core/time/zone'

export interface MailLine {
  id: number, toAddress: string, toName: string, subject: string, at: Instant, openedAt: Instant | null, clickedAt: Instant | null,
}

export interface MailboxView { rows: MailLine[], total: number, pageSize: number }

export interface MailView {
  id: number
  personId: number | null
  from: string
  to: string
  subject: string
  at: Instant
  openedAt: Instant | null
  clickedAt: Instant | null
  /** Whether opening it is seen at all: not in an email that asks to confirm. */
  isWatched: boolean
  text: string
  /** Without the bytes of what went along. */
  source: string
  /** What went along; how heavy it was on its way. */
  attached: { name: string, bytes: number }[]
}
