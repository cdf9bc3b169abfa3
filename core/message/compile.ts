/**
 * From blocks to what an email is made of: MJML for the HTML part, plain text for the other, and one line for the subject. What differs
 * from person to person is a mark in them (core/message/template); the rest is made once per version.
 */
import type { SendKind } from '#core/sending/kinds'
import { blockKind, shownBlocks } from './blocks'
import { sectionsOf, textsOf } from './blocks/sections'
import { LETTER_SIZE } from './blocks/text'
import type { MessageContent } from './content'
import { DEFAULT_LOOK, LETTER_LOOK, LOOK_CORNERS, LOOK_FONTS, LOOK_WIDTHS, nightOf, type Paint } from './look'
import { Places, type Template } from './template'
import { Writer, type Foreign } from './writer'

export interface Templates {
  subject: Template
  /** With marks, which `places` reads once HTML is made of it. */
  mjml: string
  text: Template
  places: Places
}

/** What of a kind of send is seen in its emails: why its reader gets it, and whether opening it is counted. */
export interface Frame extends Pick<SendKind, 'isWatched'> {
  /** `public`: it is read by anybody, on a page. */
  because: SendKind['because'] | 'public'
}

/**
 * `content`: with its parts in their place (core/message/complete).
 *
 * Facts of the reader: `first_name`. Of the email: `list_name`, `sender_name`, `postal_address` on one line. Ready: `base_url` of our
 * pictures, what links lead to, `pixel_url` in what is watched, `choices_url`, `own_url` where the email has a button of its own, what
 * `fileKey` names of its files, `view_url` where it can be read in a browser, and for a purchase `receipt_html` and `receipt_text`.
 */
export function compileMessage(content: MessageContent, frame: Frame, foreign: Foreign, workspaceLook = DEFAULT_LOOK): Templates {
  const isLetter = content.isLetter === true
  const look = isLetter ? LETTER_LOOK : workspaceLook
  const places = new Places()
  const html = new Writer('html', places, foreign, look, isLetter)
  const text = new Writer('text', places, foreign, look, isLetter)
  return {
    subject: places.read(subjectOf(text, content)),
    mjml: mjmlOf(html, content, frame),
    text: places.read(textOf(text, content, frame)),
    places,
  }
}

function subjectOf(write: Writer, { subject, subjectFor }: MessageContent): string {
  const line = (nodes: MessageContent['subject']) => nodes.map(node => write.inline(node)).join('')
  if (!subjectFor?.length) return line(subject)
  const { places } = write
  return `${places.cases('subject')}${[...subjectFor.map(one => one.subject), subject].map(line).join(places.nextCase)}${places.endCases}`
}

/** In words, and with the words of the link that leads to the choices. */
const WHY: Record<Frame['because'], { words: string, /** After the words stands which list it is. */ list?: true, link: string }> = {
  list: { words: 'You get this because you are on the list ', list: true, link: 'Choose what you get, or unsubscribe' },
  confirm: {
    words: 'You get this because someone typed your address on our page. If it was not you, do nothing, and you are on no list.',
    link: 'Get no more mail from us',
  },
  asked: { words: 'You get this because you asked for it on our page.', link: 'Choose what you get, or unsubscribe' },
  public: { words: 'This is an email that went to our readers.', link: 'See more of them' },
  bought: { words: 'You get this because you bought something from us.', link: 'Choose what else you get, or unsubscribe' },
}

function why(write: Writer, because: Frame['because']): string {
  const { words, list } = WHY[because]
  return list ? `${words}${write.fact('list_name')}.` : words
}

const style = ({ accent, line, second }: Paint) => `
.link, .link a { color:${accent} }
.quote { margin:0; padding:2px 0 2px 16px; border-left:3px solid ${line}; color:${second} }
h2, h3 { margin:0; font-size:inherit; line-height:inherit; font-weight:inherit }`

/** For mail programs that are dark and say so. What is said inline must be said louder. */
const byNight = ({ ground, paper, ink, second, line, accent, onAccent }: Paint) => `
@media (prefers-color-scheme: dark) {
  body, .ground { background-color:${ground} !important }
  .ground > div, .paper, .paper > table { background-color:${paper} !important; background:${paper} !important }
  .ground div, .ground td, .ground h2, .ground h3 { color:${ink} !important }
  .ground .small div, .ground .small td, .ground .quote { color:${second} !important }
  .ground .second { color:${second} !important }
  .ground .quote { border-left-color:${line} !important }
  .ground a { color:${accent} !important }
  .ground .door td, .ground .door a { background:${accent} !important; color:${onAccent} !important }
  .ground .line p { border-top-color:${line} !important }
}`

/** Begins where the window begins, as what is typed does. */
const AS_TYPED = '.ground > div { margin:0 !important }'

const IN_BROWSER = 'Read this in your browser'

function mjmlOf(write: Writer, content: MessageContent, { because, isWatched }: Frame): string {
  const { look, paint, isLetter } = write
  const size = isLetter ? LETTER_SIZE : 16
  const receipt = because === 'bought' ? `<mj-text>${write.ready('receipt_html')}</mj-text>` : ''
  const pixel = isWatched && !content.unwatched
    ? `<img src="${write.ready('pixel_url')}" width="1" height="1" alt="" style="display:block">`
    : ''
  const inBrowser = content.inBrowser
    ? `<mj-section padding="0 0 8px"><mj-column><mj-text font-size="13px" align="right" color="${paint.second}" css-class="small"><a href="${write.ready('view_url')}" style="color:${paint.accent}">${IN_BROWSER}</a></mj-text></mj-column></mj-section>`
    : ''
  // What language it is in, nobody has said; which way its letters run, each block says for itself.
  return `<mjml lang="und">
<mj-head>
<mj-title>${subjectOf(write, content)}</mj-title>
<mj-raw><meta name="color-scheme" content="light dark"><meta name="supported-color-schemes" content="light dark"></mj-raw>
<mj-preview>${content.preview.map(node => write.inline(node)).join('')}</mj-preview>
<mj-attributes>
<mj-all font-family="${LOOK_FONTS[look.font].family}" />
<mj-section background-color="${paint.paper}" css-class="paper" />
<mj-text font-size="${size}px" line-height="1.55" color="${paint.ink}" padding="0 24px 14px" />
<mj-button font-size="16px" font-weight="600" background-color="${paint.accent}" border-radius="${LOOK_CORNERS[look.corners]}px" inner-padding="12px 22px" padding="6px 24px 20px" />
</mj-attributes>
<mj-style inline="inline">${style(paint)}</mj-style>
<mj-style>${byNight(nightOf(look))}${isLetter ? AS_TYPED : ''}</mj-style>
</mj-head>
<mj-body width="${LOOK_WIDTHS[look.width]}px" background-color="${paint.ground}" css-class="ground">
<mj-section padding="24px 0 0"><mj-column><mj-spacer height="1px" /></mj-column></mj-section>
${inBrowser}
${sectionsOf(write, shownBlocks(content.body), blockKind, receipt)}
<mj-section padding="0 0 24px"><mj-column>
${isLetter ? '' : `<mj-divider border-width="1px" border-color="${paint.line}" padding="8px 24px 14px" css-class="line" />`}
<mj-text font-size="13px" color="${paint.second}" css-class="small">${why(write, because)} <a href="${write.ready('choices_url')}" style="color:${paint.accent}">${WHY[because].link}</a>.<br>${write.fact('sender_name')}, ${write.fact('postal_address')}${pixel}</mj-text>
</mj-column></mj-section>
</mj-body>
</mjml>`
}

function textOf(write: Writer, content: MessageContent, { because }: Frame): string {
  const blocks = textsOf(write, shownBlocks(content.body), blockKind)
  const footer = [
    '-- ',
    why(write, because),
    `${WHY[because].link}: ${write.ready('choices_url')}`,
    `${write.fact('sender_name')}, ${write.fact('postal_address')}`,
  ].join('\n')
  const first = content.inBrowser ? `${IN_BROWSER}: ${write.ready('view_url')}\n\n` : ''
  return `${first}${blocks}${because === 'bought' ? `${write.ready('receipt_text')}\n\n` : ''}${footer}\n`
}
