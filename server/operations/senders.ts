/** Who emails are from. */
import type { SenderBody, SendersOperations } from '#core/operations/senders'
import type { WorkspaceContext } from '#usecases/context'
import { NotThere } from '#usecases/problem'
import { checkMailDomain, makeMailKey, tellPracticeDns } from '#usecases/settings/mailDomains'
import {
  confirmSender, makeDefaultSender, removeSender, restoreSender, resumeSender, saveSender, sendSenderCode, type SenderAsked,
} from '#usecases/settings/senders'
import { saveWarmUp } from '#usecases/settings/warmUp'
import { domainLine, sendersView } from '#usecases/views/senders'
import { handle, type Operations } from '../http'
import { askIfInside } from '../inside'
import { codeInput, practiceDnsInput, restoreInput, senderInput, warmUpInput } from '../senderSchemas'
import { smtpUrlIn } from '../smtpUrl'
import { shownSmtpUrl } from '#runtime/settings'

/** With the password that is kept where it was left hidden. Throws an InputProblem for what is no SMTP address. */
async function meant(context: WorkspaceContext, id: number | null, { insideMeant = false, ...body }: SenderBody): Promise<SenderAsked> {
  const kept = sendersView(context).senders.find(sender => sender.id === id)?.serviceUrl ?? null
  const serviceUrl = smtpUrlIn('serviceUrl', body.serviceUrl, kept)
  await askIfInside('serviceUrl', serviceUrl, { kept, meant: insideMeant })
  return { ...body, serviceUrl }
}

/** Of one of its senders, and of nobody else's: what is asked for is asked of the name servers. */
function ownDomain(context: WorkspaceContext, typed: string): string {
  const domain = typed.toLowerCase()
  if (!sendersView(context).domains.some(one => one.domain === domain)) throw new NotThere('No sender has an address at this domain.')
  return domain
}

export const senders: Operations<SendersOperations> = {
  'GET /senders': handle({}, ({ context }) => {
    const view = sendersView(context)
    return { ...view, senders: view.senders.map(sender => ({ ...sender, serviceUrl: shownSmtpUrl(sender.serviceUrl) })) }
  }),
  'POST /senders': handle({ body: senderInput }, async ({ context, body }) => {
    const id = saveSender(context, null, await meant(context, null, body))
    context.wake()
    return { id }
  }),
  'PUT /senders/:id': handle({ body: senderInput }, async ({ context, id, body }) => {
    saveSender(context, id(), await meant(context, id(), body))
    context.wake()
  }),
  'DELETE /senders/:id': handle({}, ({ context, id }) => removeSender(context, id())),
  'POST /senders/:id/restore': handle({ body: restoreInput }, ({ context, id, body }) => restoreSender(context, id(), body)),
  'POST /senders/:id/code': handle({}, ({ context, id }) => sendSenderCode(context, id())),
  'POST /senders/:id/confirm': handle({ body: codeInput }, ({ context, id, body }) => confirmSender(context, id(), body.code)),
  'PUT /senders/:id/default': handle({}, ({ context, id }) => makeDefaultSender(context, id())),
  'POST /senders/:id/resume': handle({}, ({ context, id }) => resumeSender(context, id())),
  'PUT /senders/:id/warm-up': handle({ body: warmUpInput }, ({ context, id, body }) => saveWarmUp(context, id(), body.plan)),
  'POST /mail-domains/:domain/check': handle({}, async ({ context, param }) =>
    domainLine(await checkMailDomain(context, ownDomain(context, param('domain'))))),
  'POST /mail-domains/:domain/key': handle({}, async ({ context, param }) =>
    domainLine(await makeMailKey(context, ownDomain(context, param('domain'))))),
  'PUT /mail-domains/:domain/practice': handle({ body: practiceDnsInput }, async ({ context, param, body }) => {
    if (context.mode !== 'practice') throw new NotThere('Only the name servers of practice can be told what to answer.')
    return domainLine(await tellPracticeDns(context, ownDomain(context, param('domain')), body))
  }),
}
