/** The first steps of a workspace, as Today names them. */
import type { SetupKey } from '#core/views/today'

export const SETUP_WORDS: Record<SetupKey, { name: string, does: string, why: string }> = {
  'sender': {
    name: 'Sender', does: 'Say who your emails are from',
    why: 'A name, an address and a postal address, like “Ines of Saltmarsh Bindery”. Every email carries them.',
  },
  'list': { name: 'List', does: 'Make a list', why: 'A list is what people sign up for, and what they can leave again.' },
  'page': {
    name: 'Opt-in page', does: 'Publish an opt-in page',
    why: 'Start from a template and change its words. You can make the course that follows at the same time.',
  },
  'course': {
    name: 'Course', does: 'Start a course', why: 'For example five emails, one a day at 08:00. You see real dates while you write.',
  },
  'tried': {
    name: 'Trial', does: 'Try it as a visitor', why: 'Your page opens in a new tab. Opt in with any address: nothing really leaves.',
  },
  'rehearsed': {
    name: 'Rehearsal', does: 'Rehearse the course', why: 'See day by day what a reader gets, without waiting and without sending.',
  },
  'live': { name: 'Go live', does: 'Go live', why: 'From then on emails really leave. Practice stays, for whatever you try next.' },
}
