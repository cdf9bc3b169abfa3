/**
 * Every kind of email that leaves, described once. Nothing else in the code lists the kinds: a new one is an entry
 * here (docs/adding-a-kind-of-send.md says what else it may bring).
 */
import { HELD_BACK_REASONS, type HeldBackReason } from '#core/sending/reasons'
import type { ThingKind } from '#core/things'
import type { SendColour } from '#core/theme/tokens'
import type { Rank } from './quota'

/** Why somebody gets an email, which its last lines say. */
export type Because =
  /** They are on a list. */
  | 'list'
  /** This address was typed, and must be confirmed. */
  | 'confirm'
  /** They asked for just this. */
  | 'asked'
  /** They bought something, and it carries the receipt. */
  | 'bought'

export interface SendKind {
  /** What it is called, beside its sign and for those who see neither colour nor shape. */
  word: string
  /** What its emails come of, of which `ownerId` is the id; null where that is no thing of its own. */
  owner: Extract<ThingKind, 'course' | 'page' | 'offer' | 'rule' | 'broadcast'> | null
  /** Its mark on the rail and in lists: a colour of `core/theme/tokens`, null for second ink, and a shape. */
  sign: { colour: SendColour | null, shape: 'round' | 'ring' | 'square' }
  /** Who reads it: a subscriber, or whoever is at a plain address, for which there is no list, cap or tracking. */
  to: 'subscriber' | 'address'
  because: Because
  /** Before which kinds it goes where a day has room for fewer; null where caps neither count nor limit it. */
  rank: Rank | null
  /** Whether it leaves within sending hours only. */
  keepsHours: boolean
  /** Whether it waits while its reader rests, instead of being held back. */
  waitsForResting: boolean
  /** What can hold it back. */
  checks: readonly HeldBackReason[]
  /** Whether readers' opening and clicking it is counted, here and in totals. */
  isWatched: boolean
  /** Whether the invented readers of practice have just asked for it, and look at it for certain. */
  isExpected: boolean
  /** Whether what is planned of it stands on the rail and among the coming days. */
  isForecast: boolean
  /** Whether it still goes to somebody who has left everything: what they must have on paper. */
  outlivesLeaving?: true
  /** Whether it is only for people who wait to buy, and is withdrawn when they do not wait any more. */
  forPeopleWaiting?: true
  /** Whether it goes to an address that nobody has shown to be theirs: nothing that anybody typed stands in it. */
  toStranger?: true
}

/** Asked for by what its reader has just done: nothing that was before holds it back. */
const REQUEST = {
  to: 'subscriber', because: 'confirm', rank: null, keepsHours: false, waitsForResting: false, checks: [], isWatched: false,
  isExpected: true, isForecast: false, sign: { colour: null, shape: 'ring' },
} as const satisfies Partial<SendKind>

/** What somebody has asked for. */
const ASKED = { ...REQUEST, because: 'asked', checks: HELD_BACK_REASONS, isWatched: true } as const satisfies Partial<SendKind>

/** What is planned for them. */
const PLANNED = {
  to: 'subscriber', because: 'list', keepsHours: true, waitsForResting: true, checks: HELD_BACK_REASONS, isWatched: true,
  isExpected: false, isForecast: false, sign: { colour: null, shape: 'ring' },
} as const satisfies Partial<SendKind>

export const SEND_KINDS = {
  /** An email step of a course: the item is the step. */
  'course': { ...PLANNED, word: 'course', owner: 'course', rank: 'course', isForecast: true, sign: { colour: 'course', shape: 'round' } },
  /** One email to one audience. Resting people are left out: it is out of date by the time they wake. */
  'broadcast': {
    ...PLANNED, word: 'broadcast', owner: 'broadcast', rank: 'broadcast', waitsForResting: false, isForecast: true,
    sign: { colour: 'broadcast', shape: 'square' },
  },
  /** The same once more to those who missed it: the item says which time. */
  'again': {
    ...PLANNED, word: 'second sending', owner: 'broadcast', rank: 'broadcast', waitsForResting: false, isForecast: true,
    sign: { colour: 'broadcast', shape: 'square' },
  },
  /** What a house rule sends. */
  'rule': { ...PLANNED, word: 'house rule', owner: 'rule', rank: 'rule' },
  /** Asks whether an opt-in was theirs. */
  'confirmation': { ...REQUEST, word: 'confirmation request', owner: 'page' },
  /** The file a page promises, and its words of thanks to people who are known. */
  'file': { ...ASKED, word: 'promised file', owner: 'page' },
  /** Asks at another address whether it is theirs. */
  'address': { ...REQUEST, word: 'change of address', owner: null, isExpected: false, toStranger: true },
  /** What was paid. Only an address that takes no mail, or calls ours unwanted, holds it back. */
  'receipt': { ...ASKED, word: 'receipt', owner: 'offer', because: 'bought', checks: ['bounced', 'complained'], outlivesLeaving: true },
  /** Asks whether a place on a waiting list was asked for. */
  'waiting': { ...REQUEST, word: 'waiting list request', owner: 'offer', forPeopleWaiting: true },
  /** Tells people who wait that an offer can be bought. */
  'opening': { ...ASKED, word: 'waiting list', owner: 'offer', isExpected: false, isForecast: true, forPeopleWaiting: true },
  /** Notices gathered for the owner. */
  'notice': { ...REQUEST, word: 'notice', owner: null, to: 'address', isExpected: false },
  /** The owner's week. */
  'summary': { ...REQUEST, word: 'weekly summary', owner: null, to: 'address', isExpected: false },
  /** Shows that somebody reads what is sent to a sender's address. */
  'code': { ...REQUEST, word: 'code', owner: null, to: 'address', isExpected: false },
  /** An email as it would be, for the owner to look at. */
  'test': { ...REQUEST, word: 'test', owner: null, to: 'address', isExpected: false },
} as const satisfies Record<string, SendKind>

export type SendKindName = keyof typeof SEND_KINDS

/** The kinds that go to plain addresses of the owner's. */
export type OwnerMailKind = {
  [Name in SendKindName]: typeof SEND_KINDS[Name] extends { to: 'address' } ? Name : never
}[SendKindName]

/** The kinds that go to subscribers. */
export type EmailKind = Exclude<SendKindName, OwnerMailKind>

/** Which send: what kind, whose, and which of its emails. A step's id, or what the email is for. */
export interface SendOf { kind: SendKindName, ownerId: number, itemId: string }

/** Those of one owner, or one of them. */
export interface WhichSend { kind: SendKindName, ownerId: number, itemId: string | null }

/** True if it is that send, or one of those. */
export const isOfSend = (which: WhichSend, send: SendOf): boolean =>
  send.kind === which.kind && send.ownerId === which.ownerId && (which.itemId === null || send.itemId === which.itemId)

export const kindOf = (name: SendKindName): SendKind => SEND_KINDS[name]

/** The names of the kinds of which something is true. */
export const kindsThat = (is: (kind: SendKind) => boolean): SendKindName[] =>
  (Object.keys(SEND_KINDS) as SendKindName[]).filter(name => is(SEND_KINDS[name]))
