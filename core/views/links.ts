/** Tracked links as they are listed and opened. */
import type { Action } from '#core/rules/rule'
import type { Instant } from '#core/time/zone'

export interface LinkInput {
  name: string
  url: string
  note: string
  /** What following it brings, wherever it stands. */
  does: Action[]
  /** Only after a second click on our page. */
  asks: boolean
}

export interface LinkLine {
  id: number
  name: string
  url: string
  /** What following it brings anywhere, in words. */
  does: string[]
  /** What it brings besides in single emails, in words. */
  doesThere: string[]
  /** House rules at work that wake when it is followed. */
  rules: number
  asks: boolean
  /** Different emails that have it. */
  emails: number
  people: number
  clicks: number
  /** Followed by robots and scanners, which cause nothing. */
  machines: number
  lastAt: Instant | null
  trouble: string | null
}

export interface LinkPlaceLine {
  email: string, thing: string, to: string | null, place: number, label: string, sent: number, people: number, clicks: number,
}

export interface LinkView {
  id: number
  name: string
  url: string
  note: string
  does: Action[]
  asks: boolean
  checkedAt: Instant | null
  trouble: string | null
  troubleSinceAt: Instant | null
  people: number
  clicks: number
  machines: number
  /** People who followed it once, and those who came again. */
  once: number
  again: number
  places: LinkPlaceLine[]
  /** Clicks by hour of the day, 24 of them, in the workspace's zone. */
  hours: number[]
  next: { days: number, bought: number, left: number }
  /** The last to follow it, newest first. */
  followers: { id: number, name: string, at: Instant, times: number }[]
}
