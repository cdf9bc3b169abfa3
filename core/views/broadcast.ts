/** Broadcasts as their screens see them. */
import type { AgainSpec } from '../broadcast/again'
import type { UsualHour } from '../broadcast/usualHour'
import type { BroadcastDraft } from '../broadcast/draft'
import type { Going } from '../sending/domainPace'
import type { SendOf } from '../sending/kinds'
import type { HeldBackReason } from '../sending/reasons'
import type { DayAhead } from '../sending/warmUp'
import type { Instant, LocalDate, ZoneName } from '../time/zone'
import type { SendName } from './frame'

/** `sending` until nothing of it waits to leave any more. */
export type BroadcastState = 'draft' | 'scheduled' | 'sending' | 'paused' | 'sent' | 'stopped'

export interface BroadcastProgress {
  /** Whom it goes to, as it was settled when it began; null while that is being put down. */
  audience: number | null
  handedOver: number
  heldBack: number
  /** Neither left nor held back yet. */
  waiting: number
  withdrawn: number
  failed: number
}

export interface BroadcastLine {
  id: number
  name: string
  subject: string
  asks: string[]
  state: BroadcastState
  /** When it is to begin, or began; null for a draft. */
  dueAt: Instant | null
  progress: BroadcastProgress | null
  /** Of those it was handed to: reader opens, clicks; null before anything left. */
  opened: number | null
  clicked: number | null
  /** Of those, who left by it. */
  left: number | null
  changedAt: Instant
}

/** A second sending: planned with the first, or by hand. */
export interface SecondSending {
  sendId: number
  spec: AgainSpec
  isPlanned: boolean
  state: BroadcastState
  dueAt: Instant
  heldUntilAt: Instant | null
  progress: BroadcastProgress | null
  opened: number | null
  clicked: number | null
  left: number | null
}

/** Whom one would reach now. `uncertain`: who are left out since nobody knows whether they read it. */
export interface AgainReach { people: number, uncertain: number, heldBack: number, past: { sent: number, clicked: number, left: number } }

export interface BroadcastView {
  id: number
  name: string
  state: BroadcastState
  draft: BroadcastDraft
  /** What is scheduled, or was sent. */
  scheduled: BroadcastDraft | null
  /** It was changed since it was scheduled. */
  hasChanges: boolean
  revision: string
  dueAt: Instant | null
  /** By the computer's clock: it can still be taken back until then. */
  heldUntilAt: Instant | null
  progress: BroadcastProgress | null
  again: SecondSending[]
  /** Where anybody can read it, and follow all that are shared; null while it is not shared. */
  shared: { url: string, pageUrl: string, feedUrl: string } | null
  /** By which link a copy of it can be taken; null where none is offered. */
  copyUrl: string | null
  missing: { field: string, problem: string }[]
  /** The latest broadcast of the same story began with another audience; null where there is none, or it is the same. */
  sameStory: Pick<BroadcastDraft, 'who' | 'guards' | 'listId'> | null
}

/** `made`: what was created for it; `lost`: what is not here and was left out. */
export interface BroughtBroadcast { id: number, made: string[], lost: string[] }

/** A number, and by which key its people are found in the table of subscribers. */
export interface Counted { people: number, key: string }

/** Whom it would reach, if it began as it is written now. */
export interface BroadcastReach {
  at: Instant
  getsIt: string
  /** Empty where nobody is left out by its sentence. */
  never: string
  /** All in the audience, who gets it, and who is held back, each under the first reason. */
  audience: Counted
  gets: Counted
  held: Counted
  heldBack: (Counted & { reason: HeldBackReason })[]
  five: { id: number, name: string, address: string }[]
  /** How many are on its list, and how many of these get it; null without a list. */
  list: { name: string, people: number, gets: number } | null
  /** When those who get it were last sent anything, the latest first. */
  heard: (Counted & { says: string })[]
  /** Whom each guard spares by itself, whether it is on or not. */
  guards: {
    newcomers: Counted
    inside: (Counted & { courseId: number, name: string })[]
    owners: Counted
    noMore: Counted
    noConsent: Counted
    /** Offers that it sells, by name. */
    sells: string[]
  }
  /** When its first and its last email leaves, and how many an hour; null where nobody gets it, or its time cannot be. */
  times: { firstAt: Instant, lastAt: Instant, hours: { at: Instant, people: number }[], withoutZone: number, firstZone: ZoneName } | null
  /** How long it takes by the sending speed; null where nothing limits it. */
  going: Going | null
  /** On which days how many get it, where its sender is being warmed up; null where it is not. */
  warmUp: { sender: string, days: DayAhead[] } | null
  /** When those who get it usually read, by their opens of the last 90 days; null where there are too few. */
  usual: UsualHour | null
  /** What else they get on the day on which most of them get it. */
  sameDay: { date: LocalDate, alone: number, others: (SendOf & SendName & { at: Instant, people: number })[] } | null
}
