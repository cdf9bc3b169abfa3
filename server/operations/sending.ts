/** How emails leave, when, and where they lie. */
import { setResponseHeader } from 'h3'
import { tryMailServer } from '#runtime/settings'
import type { SendingOperations } from '#core/operations/sending'
import { againInput, sendingHoursInput, sendingLimitsInput, summaryInput } from '../courseSchemas'
import { emailFrame } from '../emailFrame'
import { handle, type Operations } from '../http'
import { askIfInside } from '../inside'
import { inReader } from '../reader/index'
import { heldInput, mailSearch, sendingInput, smtpInput } from '../schemas'
import { shownSettings, smtpUrlOf } from '../smtpUrl'
import { openWorkspaces } from '../workspaces'
import { InputProblem } from '#usecases/problem'
import { saveSummaryRule, summaryRuleOf } from '#usecases/sending/weeklySummary'
import { setHeld } from '#usecases/sending/hold'
import { tryAgain } from '#usecases/sending/tryAgain'
import { resumeDomainSending } from '#usecases/sending/waves'
import { saveSendingHours, sendingHoursOf } from '#usecases/settings/hours'
import { saveSendingLimits, sendingLimitsOf } from '#usecases/settings/limits'
import { endDomainPause, learnLetters, saveSendingSettings, sendingSettingsOf } from '#usecases/settings/sending'
import { resumeSending } from '#usecases/settings/workspace'
import { mailboxView, mailSource, mailView } from '#usecases/views/mailbox'
import { settingsView } from '#usecases/views/settings'

export const sending: Operations<SendingOperations> = {
  'GET /sending': handle({}, ({ context }) => sendingSettingsOf(context)),
  'PUT /sending': handle({ body: sendingInput }, ({ context, body }) => {
    saveSendingSettings(context, body)
    return sendingSettingsOf(context)
  }),
  'GET /sending-limits': handle({}, ({ context }) => sendingLimitsOf(context)),
  'PUT /sending-limits': handle({ body: sendingLimitsInput }, ({ context, body }) => {
    saveSendingLimits(context, body)
    return sendingLimitsOf(context)
  }),
  'GET /summary': handle({}, ({ context }) => summaryRuleOf(context)),
  'PUT /summary': handle({ body: summaryInput }, ({ context, body }) => {
    saveSummaryRule(context, body)
    return summaryRuleOf(context)
  }),
  'GET /sending-hours': handle({}, ({ context }) => sendingHoursOf(context)),
  'PUT /sending-hours': handle({ body: sendingHoursInput }, ({ context, body }) => {
    saveSendingHours(context, body.hours)
    return sendingHoursOf(context)
  }),
  'PUT /sending/held': handle({ body: heldInput }, ({ context, body }) => setHeld(context, body.held)),
  'POST /carrier/resume': handle({}, ({ context }) => {
    resumeSending(context)
    return shownSettings(context)
  }),
  /** Connects to the mail server of the live workspace and says what it answers; nothing is sent. */
  'POST /carrier/try': handle({ body: smtpInput }, async ({ context, body }) => {
    const url = openWorkspaces().settings.smtpUrl ?? smtpUrlOf(context, body.smtpUrl)
    if (!url) throw new InputProblem([{ field: 'smtpUrl', problem: 'Give an SMTP address first.' }])
    if (openWorkspaces().settings.smtpUrl === null) await askIfInside('smtpUrl', url, {
      kept: settingsView(context).smtpUrl, meant: body.insideMeant,
    })
    // Once live goes by this server, forms know at once whom it cannot reach.
    return { problem: await tryMailServer(url, takes => context.mode === 'live' && learnLetters(context, takes)) }
  }),
  'POST /carrier/domains/:domain': handle({}, ({ context, param }) => {
    resumeDomainSending(context, param('domain'))
    return shownSettings(context)
  }),
  'DELETE /carrier/pauses/:domain': handle({}, ({ context, param }) => {
    endDomainPause(context, param('domain'))
    return shownSettings(context)
  }),
  'GET /mailbox': handle({ query: mailSearch }, ({ context, query }) => mailboxView(context, query.search, query.page)),
  'GET /mailbox/:id': handle({}, async ({ context, id }) => {
    const { html: _, ...mail } = await mailView(context, id())
    return mail
  }),
  /** A practice email as it looks. Its picture is fetched like in a mail program, which is what records the open. */
  'GET /mailbox/:id/html': handle({}, async ({ event, context, id }) => emailFrame(event, context, (await mailView(context, id())).html)),
  /** The email as it went over the line, as a file. */
  'GET /mailbox/:id/source': handle({}, ({ event, context, id }) => {
    setResponseHeader(event, 'content-type', 'message/rfc822')
    setResponseHeader(event, 'content-disposition', `attachment; filename="practice-${id()}.eml"`)
    return mailSource(context, id())
  }),
  'GET /engine': handle({}, ({ event, context }) => inReader(event, context.mode, 'engine')),
  'POST /engine/again': handle({ body: againInput }, ({ context, body }) => ({ queued: tryAgain(context, body.outboxId) })),
  'GET /calendar': handle({}, ({ event, context }) => inReader(event, context.mode, 'calendar')),
}
