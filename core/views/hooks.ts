/** Webhooks as they are set up and looked at. */
import type { HookReading } from '#core/hooks/reading'
import type { Instant } from '#core/time/zone'

export interface HooksView {
  allowsInside: boolean
  out: { id: number, name: string, url: string, secret: string }[]
  deliveries: {
    id: number, hook: string, person: { id: number, name: string } | null, state: 'waiting' | 'delivered' | 'given up', tries: number,
    madeAt: Instant, nextAt: Instant | null, status: number | null, problem: string | null, body: string,
  }[]
  in: { id: number, name: string, url: string, secret: string, reading: HookReading }[]
  calls: { hook: string, at: Instant, person: { id: number, name: string } | null, problem: string | null }[]
}

export interface HookInInput { name: string, reading: HookReading }

export interface HookOutInput { name: string, url: string }
