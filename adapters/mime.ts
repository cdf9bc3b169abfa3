/**
 * An email as it goes over the line (RFC 5322, MIME). Nodemailer writes the header. The parts are quoted-printable (RFC 2045 section 6.7),
 * piece by piece: each ends in a soft line break, so that what is the same for everybody is encoded once, whatever stands around it.
 */
import MimeNode from 'nodemailer/lib/mime-node'
import { encode, wrap } from 'nodemailer/lib/qp'
import type { CompiledMessage } from '#core/message/fill'
import { chosenOf, valueOf, type Part, type Personal, type Template } from '#core/message/template'
import type { AttachedContent, Mail } from '#core/ports'
import { SECOND } from '#core/time/zone'

const SOFT = '=\r\n'
const SOFT_BYTES = Buffer.from(SOFT)
/** Three fewer than a line may have: an encoded dot takes two more, a soft line break one. */
const LINE = 73
/** Only equals signs need encoding here, and no space can end a line: a signed address, a first name. */
const ONE_WORD = /^[!-~]+$/

/** Starts and ends at the start of a line. Bytes, because joining long strings for each reader is slower than copying them. */
function quoted(text: string): Buffer {
  const written = encoded(text)
    // SMTP would have to double a dot at the start of a line (RFC 5321 section 4.5.2).
    .replace(/^\./gm, '=2E')
  return Buffer.from(written === '' || written.endsWith('\r\n') ? written : written + SOFT, 'latin1')
}

function encoded(text: string): string {
  if (text.length <= LINE && ONE_WORD.test(text)) {
    const word = text.replaceAll('=', '=3D')
    if (word.length <= LINE) return word
  }
  return wrap(encode(text.replace(/\r?\n/g, '\r\n')), LINE)
}

/** The words of a template, encoded; nothing in the place of what a person brings. */
const wordsKept = new WeakMap<Template, (Buffer | null)[]>()
function wordsOf(template: Template): (Buffer | null)[] {
  let words = wordsKept.get(template)
  if (!words) wordsKept.set(template, words = template.map(piece => typeof piece === 'string' ? quoted(piece) : null))
  return words
}

function pieces(template: Template, part: Part, personal: Personal, found: Buffer[] = []): Buffer[] {
  const words = wordsOf(template)
  for (const [n, piece] of template.entries()) {
    if (typeof piece === 'string') found.push(words[n]!)
    else if ('choose' in piece) pieces(chosenOf(piece, personal), part, personal, found)
    else found.push(quoted(valueOf(piece, part, personal)))
  }
  return found
}

/** Drops a soft line break at the end. */
function dropSoftEnd(written: Buffer[]): Buffer[] {
  const last = written.findLastIndex(({ length }) => length > 0)
  return last >= 0 && written[last]!.subarray(-SOFT.length).equals(SOFT_BYTES)
    ? [...written.slice(0, last), written[last]!.subarray(0, -SOFT.length)]
    : written
}

const TYPES = { text: 'text/plain', html: 'text/html' } as const

/* The header */

type Value = string | Date | Mail['from']

/** A child of this node gets only the header fields it is given; nodemailer adds more to a root. */
const ROOT = new MimeNode('multipart/mixed')
const nodeOf = (type?: string, filename?: string) =>
  new MimeNode(type, { rootNode: ROOT, parentNode: ROOT, baseBoundary: '-', filename })

const field = (name: string, value: Value): string => nodeOf().addHeader(name, value as string).buildHeaders()

const fieldsKept = new Map<string, string>()
const MOST_FIELDS_KEPT = 500

/** Writes a field once if it is the same in many emails. */
function keptField(name: string, value: Value, write: (name: string, value: Value) => string = field): string {
  const key = typeof value === 'object' && 'address' in value ? `${name}\n${value.name}\n${value.address}` : `${name}\n${String(value)}`
  let written = fieldsKept.get(key)
  if (written === undefined) {
    if (fieldsKept.size >= MOST_FIELDS_KEPT) fieldsKept.clear()
    fieldsKept.set(key, written = write(name, value))
  }
  return written
}

/** Not encoded, because machines could not read an encoded list identifier. */
const readyField = (name: string, value: Value): string =>
  nodeOf().addHeader(name, { prepared: true, foldLines: true, value } as never).buildHeaders()

function headerOf(mail: Mail): string {
  const fields = [
    keptField('From', mail.from), field('To', mail.to), keptField('Subject', mail.subject), `Message-ID: ${mail.messageId}`,
    keptField('Date', new Date(mail.at - mail.at % SECOND)), 'MIME-Version: 1.0',
  ]
  if (mail.replyTo) fields.push(keptField('Reply-To', mail.replyTo))
  for (const [name, value] of Object.entries(mail.headers)) {
    // Different for each reader, and an address must not be folded.
    fields.push(name === 'List-Unsubscribe' ? `${name}: ${value}` : keptField(name, value, readyField))
  }
  // An empty subject has no field.
  return fields.filter(written => written !== '').join('\r\n')
}

const headersOfFiles = new WeakMap<AttachedContent, string>()
function headerOfFile(file: AttachedContent): string {
  let written = headersOfFiles.get(file)
  if (written === undefined) headersOfFiles.set(file, written = nodeOf(file.type, file.name)
    .addHeader('Content-Transfer-Encoding', 'base64').addHeader('Content-Disposition', 'attachment').buildHeaders())
  return written
}

/* The whole */

/** Neither quoted-printable nor base64 text can contain these (RFC 2045 section 6.7). */
const [INNER, OUTER] = ['=_parts', '=_all']

/** `made`: what the two parts of the mail were filled from; without it they are encoded as they are. */
export function writeMime(mail: Mail, made?: { message: CompiledMessage, personal: Personal }): Uint8Array {
  const part = (which: Part): Buffer[] => [
    Buffer.from(`--${INNER}\r\nContent-Type: ${TYPES[which]}; charset=utf-8\r\nContent-Transfer-Encoding: quoted-printable\r\n\r\n`),
    ...dropSoftEnd(made ? pieces(made.message[which], which, made.personal) : [quoted(mail[which])]), Buffer.from('\r\n'),
  ]
  const both = [
    Buffer.from(`Content-Type: multipart/alternative; boundary="${INNER}"\r\n\r\n`),
    ...part('text'), ...part('html'), Buffer.from(`--${INNER}--\r\n`),
  ]
  const header = Buffer.from(`${headerOf(mail)}\r\n`)
  const files = mail.attached ?? []
  if (files.length === 0) return Buffer.concat([header, ...both])
  // What goes along stands behind the two parts (RFC 2046 section 5.1.3), which then have headers of their own.
  return Buffer.concat([
    header, Buffer.from(`Content-Type: multipart/mixed; boundary="${OUTER}"\r\n\r\n--${OUTER}\r\n`), ...both,
    ...files.flatMap(file => [Buffer.from(`\r\n--${OUTER}\r\n${headerOfFile(file)}\r\n\r\n`), file.encoded]),
    Buffer.from(`\r\n--${OUTER}--\r\n`),
  ])
}
