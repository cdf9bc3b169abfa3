/** Emails of any kind, while they are written. */
import type { EmailsOperations } from '#core/operations/emails'
import { earlierVersion, earlierVersions } from '#usecases/know/earlierEmails'
import { beginEmailDraft, emailDraftView, placeEmailDraft, removeEmailDraft, saveEmailDraft } from '#usecases/know/emailDrafts'
import { checkUrls } from '#usecases/know/checkUrls'
import { sendAgain } from '#usecases/courses/people'
import {
  emailLookOf, emailPartsView, emailTemplates, forgetTemplate, keepTemplate, removePart, saveEmailLook, savePart,
} from '#usecases/know/emailParts'
import { emailPreview, previewEmail } from '#usecases/sending/previewEmail'
import { sendTest } from '#usecases/sending/testMail'
import { sentEmail } from '#usecases/views/sentEmail'
import { emailFrame } from '../emailFrame'
import { newStepId } from '../courseSchemas'
import { handle, seenRevision, type Operations } from '../http'
import {
  answersInput, draftInput, lackingInput, lookInput, newDraftInput, partInput, placeInput, previewForm, previewInput,
  sendOfInput, templateInput, testInput, urlsInput, versionsInput,
} from '../messageSchemas'
import { inReader } from '../reader/index'

export const emails: Operations<EmailsOperations> = {
  'POST /emails/preview': handle({ body: previewInput }, ({ context, body }) => emailPreview(context, body)),
  /** The same email as it looks, for a frame that a form fills. */
  'POST /emails/preview/html': handle({ body: previewForm }, async ({ event, context, body }) =>
    emailFrame(event, context, (await previewEmail(context, body)).html, body.look)),
  'POST /emails/test': handle({ body: testInput }, async ({ context, body }) => ({ sent: await sendTest(context, body) })),
  'POST /emails/versions': handle({
    body: versionsInput,
  }, ({ event, context, body }) => inReader(event, context.mode, 'emailVersions', body)),
  'POST /emails/lacking': handle({ body: lackingInput }, ({ event, context, body }) => inReader(event, context.mode, 'lacking', body)),
  'GET /emails/:id': handle({}, ({ context, id }) => {
    const { html: _, ...email } = sentEmail(context, id())
    return email
  }),
  'GET /emails/:id/html': handle({}, ({ event, context, id }) => emailFrame(event, context, sentEmail(context, id()).html)),
  'POST /emails/answers': handle({ body: answersInput }, ({ event, context, body }) => inReader(event, context.mode, 'answers', body)),
  'POST /emails/links': handle({ body: urlsInput }, ({ context, body }) => checkUrls(context, body.urls)),
  'GET /emails': handle({}, ({ event, context }) => inReader(event, context.mode, 'emailLibrary')),
  'GET /subjects': handle({}, ({ event, context }) => inReader(event, context.mode, 'pastSubjects')),
  'POST /emails/earlier': handle({ body: sendOfInput }, ({ context, body }) => earlierVersions(context, body)),
  'GET /emails/earlier/:id': handle({}, ({ context, id }) => earlierVersion(context, id())),
  'POST /email-drafts': handle({ body: newDraftInput }, ({ context, body }) => ({ id: beginEmailDraft(context, body.content) })),
  'GET /email-drafts/:id': handle({}, ({ context, id }) => emailDraftView(context, id())),
  'PUT /email-drafts/:id': handle({ body: draftInput }, ({ event, context, id, body }) => {
    saveEmailDraft(context, id(), body.content, seenRevision(event))
    return emailDraftView(context, id())
  }),
  'DELETE /email-drafts/:id': handle({}, ({ context, id }) => void removeEmailDraft(context, id())),
  'POST /email-drafts/:id/place': handle({ body: placeInput }, ({ context, id, body }) => {
    const stepId = newStepId()
    placeEmailDraft(context, id(), body.courseId, stepId)
    return { stepId }
  }),
  'GET /email-parts': handle({}, ({ context }) => emailPartsView(context)),
  'POST /email-parts': handle({ body: partInput }, ({ context, body }) => ({ id: savePart(context, null, body) })),
  'PUT /email-parts/:id': handle({ body: partInput }, ({ context, id, body }) => void savePart(context, id(), body)),
  'DELETE /email-parts/:id': handle({}, ({ context, id }) => removePart(context, id())),
  'GET /email-templates': handle({}, ({ context }) => emailTemplates(context)),
  'POST /email-templates': handle({ body: templateInput }, ({ context, body }) => ({ id: keepTemplate(context, body.name, body.content) })),
  'DELETE /email-templates/:id': handle({}, ({ context, id }) => forgetTemplate(context, id())),
  'GET /email-look': handle({}, ({ context }) => emailLookOf(context)),
  'PUT /email-look': handle({ body: lookInput }, ({ context, body }) => saveEmailLook(context, body)),
  'POST /emails/:id/again': handle({}, ({ context, id }) => sendAgain(context, id())),
}
