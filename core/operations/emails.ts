/** Emails of any kind, while they are written. */
import type { SendOf } from '#core/sending/kinds'
import type { Instant } from '#core/time/zone'
import type {
  AnswersView, AskedReader, EmailDraftView, EmailLine,
  EmailPartLine, EmailPreview, EmailTemplateLine, EmailVersions, PastSubjectLine, SentEmail,
  WrittenEmail,
} from '#core/views/email'
import type { MessageContent, RichText } from '#core/message/content'
import type { EmailLook } from '#core/message/look'
import type { PlaceholderField } from '#core/message/placeholders'
import type { Download, Nothing } from './operation'

export interface EmailsOperations {
  'POST /emails/preview': { body: WrittenEmail & AskedReader, answer: EmailPreview }
  'POST /emails/preview/html': {
    body: WrittenEmail & AskedReader & { look: 'light' | 'dark' | 'plain', emailLook?: EmailLook }, answer: Download
  }
  /** To each address, as each reader would get it. `sent`: how many emails that are. */
  'POST /emails/test': { body: WrittenEmail & { readers: AskedReader[], to: string[] }, answer: { sent: number } }
  /** `stepId`: of the course whose email it is. */
  'POST /emails/versions': { body: WrittenEmail & { stepId: string | null }, answer: EmailVersions }
  /** How many of the readers this is not known of, and how many there are; null where nobody can say. */
  'POST /emails/lacking': {
    body: { field: PlaceholderField, fieldId: number | null, listId: number | null }, answer: { people: number, of: number } | null
  }
  'GET /emails/:id': { answer: SentEmail }
  'GET /emails/:id/html': { answer: Download }
  'POST /emails/answers': { body: { of: SendOf, labels: string[] }, answer: AnswersView }
  /** Those that do not answer, and why, after “it”. */
  'POST /emails/links': { body: { urls: string[] }, answer: { url: string, problem: string }[] }
  'GET /emails': { answer: EmailLine[] }
  /** Of emails that were sent, the newest first. */
  'GET /subjects': { answer: PastSubjectLine[] }
  /** The newest first; `at`: until when it stood so. */
  'POST /emails/earlier': { body: SendOf, answer: { id: number, at: Instant }[] }
  'GET /emails/earlier/:id': { answer: { at: Instant, content: MessageContent } }
  'POST /email-drafts': { body: { content: MessageContent | null }, answer: { id: number } }
  'GET /email-drafts/:id': { answer: EmailDraftView }
  'PUT /email-drafts/:id': { body: { content: MessageContent }, answer: EmailDraftView }
  'DELETE /email-drafts/:id': { answer: Nothing }
  /** At the end of a course. */
  'POST /email-drafts/:id/place': { body: { courseId: number }, answer: { stepId: string } }
  'GET /email-parts': { answer: EmailPartLine[] }
  'POST /email-parts': { body: { name: string, body: RichText }, answer: { id: number } }
  'PUT /email-parts/:id': { body: { name: string, body: RichText }, answer: Nothing }
  'DELETE /email-parts/:id': { answer: Nothing }
  'GET /email-templates': { answer: EmailTemplateLine[] }
  'POST /email-templates': { body: { name: string, content: MessageContent }, answer: { id: number } }
  'DELETE /email-templates/:id': { answer: Nothing }
  'GET /email-look': { answer: EmailLook }
  'PUT /email-look': { body: EmailLook, answer: EmailLook }
  'POST /emails/:id/again': { answer: Nothing }
}
