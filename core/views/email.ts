/** An email as it is written, seen as its readers will get it. */
import type { Condition } from '../audience/condition'
import type { MessageContent, RichText, ShownOffer } from '../message/content'
import type { EmailKind } from '../sending/kinds'
import type { Instant } from '../time/zone'
import type { Use } from './marks'

/** The reader: somebody who is there, else somebody of that name. */
export interface AskedReader {
  personId: number | null
  firstName: string
  /** Which versions, in the order of the choices; null for those that the reader gets now. */
  chosen: number[] | null
}

export interface WrittenEmail {
  content: MessageContent
  listId: number | null
  kind: EmailKind
  /** The course, page, offer or rule that it is an email of; null while there is none. */
  ownerId: number | null
}

export interface EmailPreview {
  subject: string
  text: string
  /** Of the HTML part. */
  bytes: number
  hasPostalAddress: boolean
  /** Who it is from, and why it might be refused for that; null before anybody was named. */
  from: { id: number, name: string, address: string, troubles: { says: string, todo: string }[] } | null
  /** What its pictures weigh as they are fetched, in bytes. */
  pictures: { id: number, bytes: number }[]
  /** What it sells, as it will be shown; null for what cannot be bought. */
  offers: { blockId: string | null, offer: ShownOffer | null }[]
  /** Codes that its words name and that end at some time. */
  coupons: { code: string, offer: string, untilAt: Instant, closesAt: Instant | null }[]
  /** Why the reader gets what they get, a sentence a choice; empty for nobody in particular. */
  why: string[]
}

/** A part that stands in several emails, and where. */
export interface EmailPartLine { id: number, name: string, body: RichText, uses: Use[] }

/** An email that stands nowhere yet. `revision`: of what was seen. */
export interface EmailDraftView { id: number, content: MessageContent, revision: string }

/** An email that is written somewhere. */
export interface EmailLine {
  id: number
  /** In words, and as it is known; null for one that stands nowhere yet. */
  kind: string
  sendKind: EmailKind | null
  title: string
  subject: string
  /** What it belongs to, and where it is written. */
  of: string
  to: string
  /** Readers get it, as it is or as it was published. */
  isLive: boolean
  asks: string[]
  /** That its links add. */
  tags: string[]
  /** All it says, to be found by. */
  words: string
  lastAt: Instant | null
}

/** The subject of an email that was sent: how many people got it, and how many of them opened it; and who they are. */
export interface PastSubjectLine {
  kind: EmailKind
  word: string
  subject: string
  traits: string[]
  sent: number
  opened: number
  lastAt: Instant
  whereSent: Condition
  whereOpened: Condition
}

/** An email to begin others with; `reason`: when one wants it. */
export interface EmailTemplateLine { key: string, name: string, reason: string, isOwn: boolean, content: MessageContent }

/** Who chose what; `sent`: how many were sent it. `where`: the people behind a number. */
export interface AnswersView { sent: number, answers: { label: string, people: number, where: Condition }[] }

/** As its reader got it. */
export interface SentEmail {
  title: string
  at: Instant
  subject: string
  text: string
  /** False where what stood in its places is not known: it was sent before that was kept, or its reader was erased. */
  isKept: boolean
  /** Which versions they got and why, a sentence a choice. */
  got: string[]
}

/** Who gets which version. */
export interface EmailVersions {
  /** Who was counted, as the rest of a sentence: `who get it next`. */
  whom: string
  people: number
  /** A place where readers differ: how each case is said, and how many get it. `none`: how many get none of them. */
  choices: { key: string, blockId: string | null, cases: { says: string, people: number }[], none: number }[]
  /** The versions that exist, by how many get them, the most first; at most 60. */
  versions: { chosen: number[], people: number, reader: { id: number, name: string, address: string } }[]
  /** How many different versions there are. */
  different: number
}
