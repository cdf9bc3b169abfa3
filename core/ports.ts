/** What the outside must offer. adapters/ holds the live ones, standins/ those of practice. */
import type { Frame } from './message/compile'
import type { MessageContent } from './message/content'
import type { CompiledMessage } from './message/fill'
import type { Personal } from './message/template'
import type { EmailLook } from './message/look'
import type { Price } from './offers/price'
import type { Answer } from './sending/verdict'
import type { Instant, ZoneName } from './time/zone'

export interface Clock {
  now(): Instant
}

/** One email, ready to leave. */
export interface Mail {
  /** With angle brackets; the same on every try. */
  messageId: string
  from: { name: string, address: string }
  to: { name: string, address: string }
  /** Where answers go; without one to `from`. */
  replyTo?: string
  subject: string
  html: string
  text: string
  headers: Record<string, string>
  /** Becomes the Date header. */
  at: Instant
  /** Files that go along. */
  attached?: AttachedContent[]
  /** The mail service of its sender's own, by its SMTP address; without one it goes by the workspace's. Live only. */
  service?: { senderId: number, url: string } | null
}

/** `encoded`: in base64, ready for the line (RFC 2045 section 6.8). `id` is that of the file. */
export interface AttachedContent { id: number, name: string, type: string, encoded: Uint8Array }

export type HandOver = { kind: 'accepted' } | { kind: 'refused', answer: Answer }
  | { /** The server cannot be given this address at all (RFC 6531). */ kind: 'unreachable', text: string }

/** Hands one email to the outside. Never throws for what a server says: that is an answer. */
export interface Carrier {
  handOver(mail: Mail, source: Uint8Array): Promise<HandOver>
  /** How many emails may be under way at once. */
  readonly width: number
  /** True if handing over one Message-ID a second time changes nothing; over SMTP it may arrive twice. */
  readonly knowsRepeats: boolean
  close(): Promise<void>
}

export interface Composer {
  /** `content`: with its parts in their place (core/message/complete). Slow the first time. Throws if it cannot be made. */
  compile(content: MessageContent, frame: Frame, look: EmailLook): Promise<CompiledMessage>
  /** The email as it goes over the line (RFC 5322, MIME). `made`: what its parts were filled from, where that is known: much faster. */
  compose(mail: Mail, made?: { message: CompiledMessage, personal: Personal }): Promise<Uint8Array>
}

/** Signs emails in the name of a domain: DKIM, RFC 6376. */
export interface EmailSigner {
  /** RSA of 2048 bits. `privateKey`: PEM; `publicKey`: base64 of its DER, as it is published. */
  makeKey(): Promise<{ privateKey: string, publicKey: string }>
  /** The same email with its signature above it. Throws where the key cannot sign. */
  sign(source: Uint8Array, key: { domain: string, selector: string, privateKey: string }): Promise<Uint8Array>
}

/** Asks the name servers. */
export interface Resolver {
  /** The text records beside a name, each in one piece; none where nobody has one. Never throws. */
  texts(name: string): Promise<{ ok: true, texts: string[] } | { ok: false, /** In words. */ problem: string }>
}

/** What a signed address stands for. `kind` keeps one sort of address from being used as another. */
export type SignedKind =
  | 'open' | 'link' | 'choices' | 'confirm' | 'file' | 'sent-file' | 'view'
  | 'address' | 'passed-on' | 'buyer' | 'pay' | 'ask' | 'answer' | 'wait'

export type Called = {
  ok: true, status: number,
} | { ok: false, status: number | null, problem: string, /** It says never to come again. */ gone: boolean }

/** Calls an address outside. */
export interface Caller {
  /** `id` stays the same however often it is tried. Never throws. */
  call(hook: { url: string, secret: string }, message: { id: string, body: string }): Promise<Called>
}

/** Reads a copy that another installation offers by a link. */
export interface CopyFetcher {
  /** Never throws: `problem` says what went wrong, as the end of a sentence. */
  fetch(url: string): Promise<{ ok: true, bytes: Uint8Array } | { ok: false, problem: string }>
}

/** Looks whether an address of the web answers. */
export interface LinkChecker {
  /** Null if it does; else what is wrong, in words. Never throws. */
  check(url: string): Promise<string | null>
}

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
  /** `wanted`: they have just asked for it, and wait for it with their finger on the button. `courseId` null for what no course sends. */
  actsFor(
    email: { messageId: string, keenness: number, links: number, wanted: boolean, courseId: number | null, stepId: string },
  ): ReaderAct[]
}

export interface MadePicture { width: number, height: number, sizes: { width: number, content: Uint8Array }[], share: Uint8Array }

export interface PictureMaker {
  /** A picture in the widths that pages show, and cut for sharing; null for what is no picture of a sort we take. */
  make(bytes: Uint8Array): Promise<MadePicture | null>
  /**
   * The same for mail programs, of which many show only JPEG, PNG and GIF: at most {@link MAIL_WIDTH} wide. `bytes`: a picture that
   * `make` has made.
   */
  forMail(bytes: Uint8Array): Promise<Uint8Array>
  /** A drawing of our own (SVG 1.1) as a PNG. Never for what comes from outside: SVG can hold more than a picture. */
  draw(svg: string): Promise<Uint8Array>
}

/** What somebody is to pay for, as the payment service is told. */
export interface OrderToPay {
  /** Our key of the order: the service names it in all it tells. */
  order: string
  /** Of the offer. */
  title: string
  /** What it comes to, line by line, in minor units; a coupon takes off. */
  lines: { words: string, amount: number }[]
  firstPrice: Price
  /** Of each later payment of a price that is renewed. */
  laterPrice: Price | null
  email: string
  firstName: string
  /** By whose calendar later payments are due. */
  zone: ZoneName
  /** No payment is taken from this instant on: what was kept for the buyer is let go. */
  until: Instant
  /** Where the buyer goes on to, paid or not. */
  doneUrl: string
  backUrl: string
}

/** Takes money, and gives it back. What has come of it is told by webhooks alone. Each throws a {@link CheckoutProblem}. */
export interface Checkout {
  /** Whole address of where the buyer pays. */
  open(order: OrderToPay): Promise<{ url: string }>
  /** `ref` is the same for the same wish: asked for twice, it is given back once. */
  refund(refund: { order: string, payment: string, ref: string, amount: number, currency: string }): Promise<void>
  /** No further payment is asked for. */
  end(order: string): Promise<void>
}

/** Why the payment service does not do what it was asked for, in a sentence. */
export class CheckoutProblem extends Error {}

/** Three headers by the Standard Webhooks specification. */
export type WebhookHeaders = Record<'webhook-id' | 'webhook-timestamp' | 'webhook-signature', string>

export interface Webhooks {
  /** `at`: by the system clock. */
  sign(message: { id: string, at: Instant, body: string }): WebhookHeaders
  read(headers: Partial<WebhookHeaders>, body: string): { ok: true, id: string, at: Instant } | { ok: false, problem: string }
  /** The same by another secret than the payment service's. */
  readBy(
    secret: string, headers: Partial<WebhookHeaders>, body: string,
  ): { ok: true, id: string, at: Instant } | { ok: false, problem: string }
}
