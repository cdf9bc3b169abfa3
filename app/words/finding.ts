/** What can be found besides what the owner has made: screens, settings, and what can be begun. */
import type { Found } from '#core/views/find'
import type { Mode } from '#core/views/frame'
import { AREAS } from './areas'

export interface Choice { name: string, more: string, to: string, sort: string, icon: string }

const FOUND: Record<Found['kind'], [word: string, icon: string]> = {
  page: ['page', 'pi-file'], offer: ['offer', 'pi-shopping-bag'], course: ['course', 'pi-book'], email: ['email', 'pi-envelope'],
  segment: ['segment', 'pi-filter'], tag: ['tag', 'pi-tag'], list: ['list', 'pi-list'], field: ['field', 'pi-id-card'],
  link: ['link', 'pi-link'], rule: ['house rule', 'pi-bolt'], person: ['subscriber', 'pi-user'],
  part: ['email part', 'pi-clone'], broadcast: ['broadcast', 'pi-megaphone'],
  hookIn: ['webhook', 'pi-sign-in'], hookOut: ['webhook', 'pi-sign-out'],
}

export const choiceOfFound = ({ kind, name, more, to }: Found): Choice =>
  ({ name, more, to, sort: FOUND[kind][0], icon: `pi ${FOUND[kind][1]}` })

const ACTIONS: [name: string, to: string][] = [
  ['New opt-in page', '/pages?at=new-page'], ['New course', '/courses?at=new-course'], ['New offer', '/offers?at=new-offer'],
  ['New broadcast', '/broadcasts?at=new-broadcast'],
  ['New segment', '/segments/new'], ['New house rule', '/house-rules/new'], ['New link', '/links/new'],
  ['New tag', '/tags-and-lists?at=new-tag'], ['New list', '/tags-and-lists?at=new-list'], ['New field', '/tags-and-lists?at=new-field'],
  ['Import people', '/subscribers/import'],
]
const SCREENS: [name: string, to: string][] = [
  ['Senders', '/senders'], ['Sources', '/pages/sources'], ['Webhooks', '/webhooks'], ['API keys', '/keys'],
]
/** Each by what else one may call it. */
const SETTINGS: { name: string, at: string, also: string, only?: Mode }[] = [
  { name: 'Workspace and sender', at: 'workspace', also: 'name address postal address time zone currency SMTP mail server from' },
  { name: 'Sending hours', at: 'sending-hours', also: 'night weekend quiet time' },
  { name: 'Weekly summary', at: 'summary', also: 'report email digest monday' },
  { name: 'Score', at: 'score', also: 'points warm' },
  { name: 'Selling', at: 'selling', also: 'payments money receipts tax' },
  { name: 'Password and sign-in', at: 'sign-in', also: 'sessions security' },
  { name: 'Where consent must be on record', at: 'consent-rule', also: 'countries GDPR permission' },
  { name: 'Shared and throw-away addresses', at: 'odd-addresses', also: 'role info@ disposable' },
  { name: 'How many emails one person gets', at: 'limits', also: 'limit cap gap too many a day a week' },
  { name: 'Sending', at: 'carrier', also: 'mail server deliverability SMTP', only: 'live' },
  { name: 'Go live', at: 'go-live', also: 'start real', only: 'practice' },
]

/** What always can be found, with other words it may be sought by. */
export function fixedChoices(mode: Mode): (Choice & { also: string })[] {
  const here = (only?: Mode) => only === undefined || only === mode
  return [
    ...ACTIONS.map(([name, to]) => ({ name, to, more: '', also: '', sort: 'action', icon: 'pi pi-plus' })),
    ...AREAS.flatMap(({ entries }) => entries).filter(({ only }) => here(only))
      .map(({ name, to }) => ({ name, to, more: '', also: '', sort: 'screen', icon: 'pi pi-arrow-right' })),
    ...SCREENS.map(([name, to]) => ({ name, to, more: '', also: '', sort: 'screen', icon: 'pi pi-arrow-right' })),
    { name: 'Settings', to: '/settings', more: '', also: 'preferences', sort: 'screen', icon: 'pi pi-arrow-right' },
    ...SETTINGS.filter(({ only }) => here(only))
      .map(({ name, at, also }) => ({ name, to: `/settings?at=${at}`, more: '', also, sort: 'setting', icon: 'pi pi-cog' })),
  ]
}
