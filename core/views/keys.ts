/** Keys by which programs come in, as they are looked at. */
import type { Instant } from '#core/time/zone'

export const API_AREAS = [
  'people', 'tags', 'lists', 'events', 'courses', 'broadcasts', 'pages', 'offers', 'rules', 'links', 'segments', 'purchases', 'clock',
] as const
export type ApiArea = typeof API_AREAS[number]

/** `people:read`; writing includes reading. Events are only read. */
export type Scope = `${ApiArea}:read` | `${ApiArea}:write`

export const SCOPES: readonly Scope[] = API_AREAS.flatMap((area): Scope[] =>
  area === 'events' ? ['events:read'] : [`${area}:read`, `${area}:write`])

/** Whether a key with these may do what asks for that one. */
export const allows = (scopes: readonly Scope[], wanted: Scope): boolean =>
  scopes.includes(wanted) || (wanted.endsWith(':read') && scopes.includes(wanted.replace(':read', ':write') as Scope))

export interface KeyLine {
  id: number
  name: string
  /** The last letters of the key, to tell it by. */
  hint: string
  scopes: Scope[]
  madeAt: Instant
  /** By the system's clock; null for never. */
  lastUsedAt: Instant | null
}

/** `url`: where programs ask; the document lies there as openapi.json. */
export interface KeysView { keys: KeyLine[], url: string }
