/** An email as one person gets it. */
import { fill, type Personal, type Template } from './template'

/** Made once per version. */
export interface CompiledMessage { subject: Template, html: Template, text: Template }

/** What a reader brought to the places of an email, as it is kept. */
export interface Filled { facts: Record<string, string>, chosen: Record<string, number> }

export interface FilledMessage { subject: string, html: string, text: string }

/** Fast: per person. Throws where something is missing that we make ourselves. */
export function fillMessage(message: CompiledMessage, personal: Personal): FilledMessage {
  return {
    subject: fillSubject(message, personal),
    html: fill(message.html, 'html', personal), text: fill(message.text, 'text', personal),
  }
}

export const fillSubject = ({ subject }: Pick<CompiledMessage, 'subject'>, personal: Personal): string =>
  fill(subject, 'text', personal).replace(/\s+/g, ' ').trim()
