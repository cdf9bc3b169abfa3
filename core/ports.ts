/** What the outside must offer. adapters/ holds the live ones, standins/ those of practice. */
import type { Personal, Templates } from './message/compile'
import type { Answer } from './outbox/verdict'
import type { Instant } from './time/zone'

export interface Clock {
  now(): Instant
}

/** One email, ready to leave. */
export interface Mail {
  /** With angle brackets; the same on every try. */
  messageId: string
  from: { name: string, address: string }
  to: { name: string, address: string }
  subject: string
  html: string
  text: string
  headers: Record<string, string>
  /** Becomes the Date header. */
  at: Instant
}

export type HandOver = { kind: 'accepted' } | { kind: 'refused', answer: Answer }

/** Takes one email out of the house. Never throws for what a server says: that is an answer. */
export interface Carrier {
  handOver(mail: Mail, source: Uint8Array): Promise<HandOver>
  /** How many emails may be under way at once. */
  readonly width: number
  /** True if handing over one Message-ID a second time changes nothing; over SMTP it may arrive twice. */
  readonly knowsRepeats: boolean
  close(): Promise<void>
}

/** Templates made once per version of an email. */
export interface Compiled {
  subject: string
  html: string
  text: string
}

export interface Composer {
  /** Slow: once per version. Throws if the templates are faulty. */
  compile(templates: Templates): Promise<Compiled>
  /** Fast: per person. */
  fill(compiled: Compiled, personal: Personal): Compiled
  /** The email as it goes over the line (RFC 5322, MIME). */
  compose(mail: Mail): Promise<Uint8Array>
}

/** What a signed address stands for. `kind` keeps one sort of address from being used as another. */
export type SignedKind = 'open' | 'link' | 'choices' | 'confirm' | 'file' | 'address' | 'passed-on'

export interface Signer {
  sign(kind: SignedKind, what: string): string
  /** What stands for `what` without saying it: the same each time, and of no use to who does not have our key. */
  digest(what: string): string
  /** Null if the signature is not ours. */
  read(kind: SignedKind, token: string): string | null
}

/** What an invented reader will do with an email that has arrived. */
export interface ReaderAct {
  /** `press`: the email's own button. */
  kind: 'open' | 'click' | 'press' | 'leave'
  /** Milliseconds after arrival. */
  after: number
  /** Which link, for clicks. */
  link: number | null
  /** What fetches: it is judged like any other fetch. */
  agent: string
}

/** The readers of practice: same seed and same email, same acts. */
export interface Readers {
  /** `wanted`: they have just asked for it, and wait for it with their finger on the button. */
  actsFor(email: { messageId: string, keenness: number, links: number, wanted: boolean }): ReaderAct[]
}

export interface MadePicture { width: number, height: number, sizes: { width: number, content: Uint8Array }[], share: Uint8Array }

export interface PictureMaker {
  /** A picture in the widths that pages show, and cut for sharing; null for what is no picture of a sort we take. */
  make(bytes: Uint8Array): Promise<MadePicture | null>
  /** A drawing of our own (SVG 1.1) as a PNG. Never for what comes from outside: SVG can hold more than a picture. */
  draw(svg: string): Promise<Uint8Array>
}
