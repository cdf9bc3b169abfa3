/** Making personal emails: ours beside LiquidJS and nodemailer as they come, on the same email, equal once decoded. */
import { Liquid } from 'liquidjs'
import MailComposer from 'nodemailer/lib/mail-composer'
import PostalMime from 'postal-mime'
import { createEmailSigner } from '#adapters/dkim'
import { compileEmail } from '#adapters/compileEmail'
import { createComposer } from '#adapters/composer'
import { linksOf } from '#core/message/blocks'
import { DEFAULT_LOOK } from '#core/message/look'
import { EVERYBODY } from '#core/audience/condition'
import type { BlockNode, MessageContent, PlainBlockNode } from '#core/message/content'
import { fillMessage, type CompiledMessage } from '#core/message/fill'
import { linkKey, type Personal, type Template } from '#core/message/template'
import type { Mail } from '#core/ports'
import { SEND_KINDS } from '#core/sending/kinds'
import { ratio } from './measure'

const WORDS = 'Dobre uma vez e confie no grão: é aí que a lombada quer estar, e a folha não mente. '
const KB = 32
const PEOPLE = 100_000
const THEIRS = 1_500
const SIGNED = 3_000
const PREVIEWS = 30

function letter(): MessageContent {
  const paragraph = (n: number): BlockNode => ({ type: 'paragraph', content: [
    { type: 'text', text: `${n}. ` }, { type: 'placeholder', attrs: { field: 'first_name', fallback: 'amiga' } },
    { type: 'text', text: `, ${WORDS.repeat(5)}` },
    { type: 'text', text: 'Veja aqui', marks: [{ type: 'link', attrs: { href: `https://saltmarsh.example.com/${n}` } }] },
  ] })
  return {
    workingTitle: 'x',
    subject: [{ type: 'text', text: 'Três livros, ' }, { type: 'placeholder', attrs: { field: 'first_name', fallback: 'amiga' } }],
    preview: [{ type: 'text', text: 'De um só caderno' }], body: { type: 'doc', content: [
      ...Array.from({ length: 20 }, (_, n) => paragraph(n)),
      ...[20, 30, 40].map((n): BlockNode => ({ type: 'onlyFor', content: [0, 1].map(at =>
        ({ type: 'case', attrs: { who: at === 0 ? EVERYBODY : null }, content: [
          paragraph(n + at) as PlainBlockNode, paragraph(n + at + 2) as PlainBlockNode,
        ] })) })),
    ] },
  }
}

/** An email of 60 blocks as the editor shows it: made and filled once more after each change. */
async function previews(): Promise<string> {
  const blocks = Array.from({ length: 60 }, (_, n): BlockNode => n % 6 === 5
    ? { type: 'button', attrs: { label: `Open ${n}`, url: `https://saltmarsh.example.com/${n}`, tagId: null } }
    : { type: 'paragraph', content: [{ type: 'text', text: `${n}. ${WORDS.repeat(2)}` }] })
  const took: number[] = []
  for (let n = 0; n < PREVIEWS; n++) {
    const before = performance.now()
    const content: MessageContent = { ...letter(), body: { type: 'doc', content: blocks } }
    fillMessage(await compileEmail(content, SEND_KINDS.course, DEFAULT_LOOK), {
      facts: {}, ready: {
        base_url: '', pixel_url: '', choices_url: '', ...Object.fromEntries(linksOf(content.body).map(link => [linkKey(link.n), link.url])),
      },
    })
    took.push(performance.now() - before)
  }
  const sorted = took.slice(5).sort((a, b) => a - b)
  return `A preview of 60 blocks is made in ${Math.round(sorted[Math.floor(sorted.length / 2)]!)} ms, the slowest in ${Math.round(sorted.at(-1)!)} ms (promised: under 200).`
}

/** The same template in Liquid. */
const liquidOf = (template: Template, html: boolean): string => template.map((piece) => {
  if (typeof piece === 'string') return piece
  if ('choose' in piece) {
    const cases = piece.of.map((one, n) => `{% when ${n} %}${liquidOf(one, html)}`).join('')
    return `{% case chosen["${piece.choose}"] %}${cases}{% endcase %}`
  }
  if ('ready' in piece) return `{{ ready["${piece.ready}"] }}`
  const filter = html ? ' | escape' : ''
  return `{% if facts.${piece.fact} != blank %}{{ facts.${piece.fact}${filter} }}{% else %}${piece.or}{% endif %}`
}).join('')

export async function measureEmails(): Promise<string[]> {
  const composer = createComposer()
  const content = letter()
  const message: CompiledMessage = await compileEmail(content, SEND_KINDS.course, DEFAULT_LOOK)
  const personOf = (n: number): Personal => ({
    facts: {
      first_name: n % 3 === 0 ? '' : `Zoë & Ana ${n}`, list_name: 'Cartas da bancada', sender_name: 'Inês',
      postal_address: 'Rua do Cais 3, Lisboa',
    },
    ready: {
      base_url: 'https://porch.example.com', choices_url: `https://porch.example.com/m/${n}`, pixel_url: `https://porch.example.com/o/${n}`,
      ...Object.fromEntries(linksOf(content.body).map(link => [linkKey(link.n), `https://porch.example.com/l/${n}.${link.n}.kOz9Yq3vT1`])),
    },
    // Each of the three places for some is another mixture.
    chosen: { 0: n % 2, 1: Math.floor(n / 2) % 2, 2: Math.floor(n / 4) % 2 },
  })
  const headers = { 'List-Unsubscribe': '<https://porch.example.com/m/1>', 'List-ID': '"Cartas" <cartas.saltmarsh.example.com>' }
  const frameOf = (n: number) => ({
    messageId: `<course.1.s.${n}@saltmarsh.example.com>`, from: { name: 'Inês Façanha', address: 'ines@saltmarsh.example.com' },
    to: { name: 'Zoë', address: `p${n}@example.com` }, headers, at: 1_800_000_000_000,
  })
  const ours = async (n: number) => {
    const personal = personOf(n)
    const mail: Mail = { ...frameOf(n), ...fillMessage(message, personal) }
    return composer.compose(mail, { message, personal })
  }

  const liquid = new Liquid({ strictVariables: false, jsTruthy: false, ownPropertyOnly: true })
  const parsed = { subject: liquidOf(message.subject, false), html: liquidOf(message.html, true), text: liquidOf(message.text, false) }
  const [subject, html, text] = [parsed.subject, parsed.html, parsed.text].map(one => liquid.parse(one))
  const theirs = async (n: number) => {
    const personal = personOf(n)
    const { messageId, from, to, at } = frameOf(n)
    return new MailComposer({
      from, to, messageId, date: new Date(at), headers, subject: liquid.renderSync(subject!, personal) as string,
      html: liquid.renderSync(html!, personal) as string, text: liquid.renderSync(text!, personal) as string,
    }).compile().build()
  }

  let same = 0
  for (let n = 0; n < 30; n++) {
    const [one, other] = await Promise.all([ours(n), theirs(n)].map(async made => PostalMime.parse(await made)))
    const equal = (['subject', 'html', 'text'] as const).every(part => one![part]!.trim() === other![part]!.trim())
    if (equal) same++
  }
  const rate = async (count: number, make: (n: number) => Promise<Uint8Array>) => {
    const before = performance.now()
    for (let n = 0; n < count; n++) await make(n)
    return count / (performance.now() - before) * 1000
  }
  await rate(200, ours)
  await rate(200, theirs)
  const their = await rate(THEIRS, theirs)
  const our = await rate(PEOPLE, ours)
  const signer = createEmailSigner()
  const { privateKey } = await signer.makeKey()
  const key = { domain: 'saltmarsh.example.com', selector: 'porch', privateKey }
  const signed = await rate(SIGNED, async n => signer.sign(await ours(n), key))
  const size = Buffer.byteLength(fillMessage(message, personOf(1)).html) / 1024
  return [
    `${PEOPLE.toLocaleString('en-GB')} emails of ${Math.round(size)} kB of HTML (meant: ${KB}) with ${linksOf(content.body).length} personal links and three places for some: ${Math.round(our).toLocaleString('en-GB')} a second, LiquidJS with nodemailer as they come ${Math.round(their).toLocaleString('en-GB')}: ${ratio(our / their)} times as many (promised: at least 4).`,
    `${same} of 30 are equal once another parser has decoded them; most memory ${Math.round(process.resourceUsage().maxRSS / 1024)} MB (promised: under 300).`,
    `Signed with a key of the domain (DKIM, RSA 2048) it is ${Math.round(signed).toLocaleString('en-GB')} a second: ${ratio(signed / their)} times theirs, which signs nothing.`,
    await previews(),
  ]
}
