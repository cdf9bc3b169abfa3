/** Finding anything by a part of its name. */
import type { ThingKind } from '../things'

export interface Found {
  kind: ThingKind | 'person' | 'email'
  name: string
  /** What tells it from others of its name. */
  more: string
  /** Where it is opened. */
  to: string
}
