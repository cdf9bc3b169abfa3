/** A file that a page promises: it goes at once, by an email of its own. */
import type { MessageContent } from '#core/message/content'

export interface Promised {
  /** Null while it is still to be brought, which only a draft can be. */
  fileId: number | null
  /** Its own button fetches the file. */
  mail: MessageContent
}

/** The most that fits into one file, in bytes. */
export const MOST_FILE_BYTES = 25_000_000

/** What stands for the file in the email that brings it: another file later does not change what an email once brought. */
export const stepOfFile = (fileId: number): string => `file-${fileId}`

/** Throws if it stands for no file. */
export function fileOfStep(stepId: string): number {
  const id = /^file-([1-9]\d*)$/.exec(stepId)?.[1]
  if (id === undefined) throw new Error(`${stepId} brings no file`)
  return Number(id)
}

export const newPromised = (fileId: number, fileName: string): Promised => ({
  fileId,
  mail: {
    workingTitle: 'The file',
    subject: [{ type: 'text', text: 'Here it is' }],
    preview: [{ type: 'text', text: 'What you asked for, ready to open.' }],
    body: { type: 'doc', content: [
      { type: 'paragraph', content: [
        { type: 'text', text: 'Hello ' }, { type: 'placeholder', attrs: { field: 'first_name', fallback: 'and welcome' } },
        { type: 'text', text: ',' },
      ] },
      { type: 'paragraph', content: [{ type: 'text', text: `here is what you asked for: ${fileName}.` }] },
      { type: 'ownButton', attrs: { label: 'Open it' } },
    ] },
  },
})
