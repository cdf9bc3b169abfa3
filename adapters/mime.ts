/**
 * An email as it goes over the line (RFC 5322, MIME). Nodemailer writes the headers. The parts are quoted-printable (RFC 2045 section 6.7),
 * piece by piece: each ends in a soft line break, so that what is the same for everybody is encoded once, whatever stands around it.
 */
import MailComposer from 'nodemailer/lib/mail-composer'
import { encode, wrap } from 'nodemailer/lib/qp'
import type { CompiledMessage } from '#core/message/fill'
import { chosenOf, valueOf, type Part, type Personal, type Template } from '#core/message/template'
import type { Mail } from '#core/ports'

const SOFT = '=\r\n'
const SOFT_BYTES = Buffer.from(SOFT)
/** One less than a line may have: its end may get the sign of a soft line break. */
const LINE = 75

/** Starts and ends at the start of a line. Bytes, because joining long strings for each reader is slower than copying them. */
function quoted(text: string): Buffer {
  const written = wrap(encode(text.replace(/\r?\n/g, '\r\n')), LINE)
  return Buffer.from(written === '' || written.endsWith('\r\n') ? written : written + SOFT, 'latin1')
}

/** The words of a template, encoded; nothing in the place of what a person brings. */
const encoded = new WeakMap<Template, (Buffer | null)[]>()
function wordsOf(template: Template): (Buffer | null)[] {
  let words = encoded.get(template)
  if (!words) encoded.set(template, words = template.map(piece => typeof piece === 'string' ? quoted(piece) : null))
  return words
}

function pieces(template: Template, part: Part, personal: Personal): Buffer[] {
  const words = wordsOf(template)
  return template.flatMap((piece, n) => typeof piece === 'string'
    ? words[n]!
    : 'choose' in piece ? pieces(chosenOf(piece, personal), part, personal) : quoted(valueOf(piece, part, personal)))
}

/** Drops a soft line break at the end. */
function dropSoftEnd(written: Buffer[]): Buffer[] {
  const last = written.findLastIndex(({ length }) => length > 0)
  return last >= 0 && written[last]!.subarray(-SOFT.length).equals(SOFT_BYTES)
    ? [...written.slice(0, last), written[last]!.subarray(0, -SOFT.length)]
    : written
}

const TYPES = { text: 'text/plain', html: 'text/html' } as const

/** `made`: what the two parts of the mail were filled from; without it they are encoded as they are. */
export function writeMime(mail: Mail, made?: { message: CompiledMessage, personal: Personal }): Uint8Array {
  const root = new MailComposer({
    from: mail.from,
    to: mail.to,
    replyTo: mail.replyTo,
    subject: mail.subject,
    messageId: mail.messageId,
    date: new Date(mail.at),
    // Ready as they are: encoding would make the list's identifier unreadable for machines.
    headers: Object.fromEntries(Object.entries(mail.headers).map(([key, value]) =>
      [key, { prepared: true, foldLines: key !== 'List-Unsubscribe', value }])) as never,
    newline: 'windows',
    // Only so that there are two parts: what stands in them is written below.
    text: ' ',
    html: ' ',
    attachments: mail.attached?.map(({ name, type }) => ({ filename: name, contentType: type, content: '' })),
    disableFileAccess: true,
    disableUrlAccess: true,
  }).compile()
  // What goes along stands behind the two parts (RFC 2046 section 5.1.3), which then have headers of their own.
  const files = mail.attached ?? []
  const both = files.length > 0 ? root.childNodes[0]! : root
  // Only with its headers a part gets its boundary.
  const headers = both.buildHeaders()
  const boundary = both.boundary as string
  const part = (which: Part): Buffer[] => [
    Buffer.from(`--${boundary}\r\nContent-Type: ${TYPES[which]}; charset=utf-8\r\n`),
    Buffer.from('Content-Transfer-Encoding: quoted-printable\r\n\r\n'),
    ...dropSoftEnd(made ? pieces(made.message[which], which, made.personal) : [quoted(mail[which])]), Buffer.from('\r\n'),
  ]
  const words = [Buffer.from(`${headers}\r\n\r\n`), ...part('text'), ...part('html'), Buffer.from(`--${boundary}--\r\n`)]
  if (files.length === 0) return Buffer.concat(words)
  const outerHeaders = root.buildHeaders()
  const outer = root.boundary as string
  return Buffer.concat([
    Buffer.from(`${outerHeaders}\r\n\r\n--${outer}\r\n`), ...words,
    ...files.flatMap(({ encoded }, n) => [
      Buffer.from(`\r\n--${outer}\r\n${root.childNodes[n + 1]!.buildHeaders()}\r\n\r\n`), encoded,
    ]),
    Buffer.from(`\r\n--${outer}--\r\n`),
  ])
}
