/** What goes out, when, and by which mail server. */
import type { Limits } from '#core/sending/quota'
import type { SummaryRule } from '#core/summary/rule'
import type { WeekHours } from '#core/time/hours'
import type { CalendarView } from '#core/views/calendar'
import type { EngineView } from '#core/views/engine'
import type { MailView, MailboxView } from '#core/views/mailbox'
import type { SendingSettings, SettingsView } from '#core/views/settings'
import type { Download, Nothing } from './operation'

export interface SendingOperations {
  'GET /sending': { answer: SendingSettings }
  'PUT /sending': { body: SendingSettings, answer: SendingSettings }
  'GET /sending-limits': { answer: Limits }
  'PUT /sending-limits': { body: Limits, answer: Limits }
  'GET /summary': { answer: SummaryRule }
  'PUT /summary': { body: SummaryRule, answer: SummaryRule }
  'GET /sending-hours': { answer: { hours: WeekHours } }
  'PUT /sending-hours': { body: { hours: WeekHours }, answer: { hours: WeekHours } }
  /** All sending of the workspace is stopped, or released. */
  'PUT /sending/held': { body: { held: boolean }, answer: Nothing }
  'POST /carrier/resume': { answer: SettingsView }
  'POST /carrier/try': { body: { smtpUrl: string | null, insideMeant?: boolean }, answer: { problem: string | null } }
  'POST /carrier/domains/:domain': { answer: SettingsView }
  /** A domain that put us off is tried again now. */
  'DELETE /carrier/pauses/:domain': { answer: SettingsView }
  'GET /mailbox': { query: { search: string, page: number }, answer: MailboxView }
  'GET /mailbox/:id': { answer: MailView }
  'GET /mailbox/:id/html': { answer: Download }
  'GET /mailbox/:id/source': { answer: Download }
  'GET /engine': { answer: EngineView }
  'POST /engine/again': { body: { outboxId: number | null }, answer: { queued: number } }
  'GET /calendar': { answer: CalendarView }
}
