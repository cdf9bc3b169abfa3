/**
 * Every operation of the screens, by area. A new one is a line in its area's table; what asks for it is refused, checked and answered
 * alike.
 */
import type { Operation } from '../http'
import { arriving } from './arriving'
import { broadcasts } from './broadcasts'
import { courses } from './courses'
import { emails } from './emails'
import { house } from './house'
import { marks } from './marks'
import { offers } from './offers'
import { people } from './people'
import { rules } from './rules'
import { segments } from './segments'
import { senders } from './senders'
import { sending } from './sending'

const AREAS: readonly Record<string, Operation>[] = [
  house, people, marks, segments, arriving, courses, broadcasts, emails, offers, rules, senders, sending,
]

/** Throws if two areas have the same. */
export function allOperations(): [method: string, path: string, operation: Operation][] {
  const all = AREAS.flatMap(area => Object.entries(area))
  const names = new Set(all.map(([name]) => name))
  if (names.size < all.length) throw new Error('Two areas have an operation of the same name')
  return all.map(([name, operation]) => {
    const [method, path] = name.split(' ') as [string, string]
    return [method, path, operation]
  })
}
