/** What may come in of an email: every block, described once. Words of the errors are for the person at the screen. */
import type { ObjectSchema, Schema } from 'joi'
import Joi from './joi'
import type { Line, MessageContent, RichText } from '#core/message/content'
import { kindsThat, type SendOf } from '#core/sending/kinds'
import { MOST_ATTACHED } from '#core/message/attached'
import { MOST_ARTICLES } from '#core/message/blocks/articles'
import { CHOICES } from '#core/message/blocks/choice'
import { MOST_FILE_BYTES } from '#core/page/promise'
import { LOOK_CORNERS, LOOK_FONTS, LOOK_WIDTHS, type EmailLook } from '#core/message/look'
import {
  FORMS, LINE_FIELDS, placeholder as entryOf, PLACEHOLDER_FIELDS, type PlaceholderAttrs, type PlaceholderField,
} from '#core/message/placeholders'
import type { AskedReader, WrittenEmail } from '#core/views/email'
import type { TestAsked } from '#usecases/sending/testMail'
import type { AnswersAsked } from '#usecases/views/answers'
import type { LackingAsked } from '#usecases/views/lacking'
import type { VersionsAsked } from '#usecases/views/emailVersions'
import { LOOKS, type Look } from './emailFrame'
import { condition } from './peopleSchemas'
import { address, id, text } from './schemas'

/** The one of these whose type it is: so that what is wrong is told at its place, and not that it is none of them. */
const byType = (...nodes: ObjectSchema[]) =>
  Joi.alternatives().conditional('.type', { switch: nodes.map(node => ({ is: node.extract('type'), then: node })) })

/* Text */

const mark = byType(
  Joi.object({ type: Joi.valid('bold', 'italic').required() }),
  Joi.object({
    type: Joi.valid('link').required(), attrs: Joi.object({ href: address('any').required(), linkId: id.allow(null) }).required(),
  }),
)
const textNode = Joi.object({
  type: Joi.valid('text').required(), text: Joi.string().max(20_000).required(), marks: Joi.array().items(mark),
})
const placeholderOf = (fields: readonly PlaceholderField[]) => Joi.object({
  type: Joi.valid('placeholder').required(),
  attrs: Joi.object<PlaceholderAttrs>({
    field: Joi.valid(...fields).required(),
    fallback: Joi.when('field', {
      is: Joi.valid(...PLACEHOLDER_FIELDS.filter(field => entryOf(field).mayLack)),
      then: Joi.string().trim().max(80).required().messages({ 'string.empty': 'Type what to show where it is not known.' }),
      otherwise: text(80).required(),
    }),
    fieldId: Joi.when('field', { is: 'own', then: id.required(), otherwise: Joi.valid(null) }),
    label: text(80).allow(null), as: Joi.valid(...Object.keys(FORMS)).allow(null),
    days: Joi.number().integer().min(-400).max(400).allow(null),
  }).required(),
})
const inline = byType(textNode, placeholderOf(PLACEHOLDER_FIELDS), Joi.object({ type: Joi.valid('hardBreak').required() }))

export const line = Joi.array<Line>()
  .items(Joi.alternatives(
    Joi.object({ type: Joi.valid('text').required(), text: Joi.string().max(500).required() }), placeholderOf(LINE_FIELDS)
  )).max(40)

/* Blocks */

/** Of any block; a page has none of it. */
const OF_BLOCK = { id: Joi.string().pattern(/^[\w-]{1,40}$/).allow(null), name: text(60).allow(null), hidden: Joi.boolean() }
const ALIGN = { align: Joi.valid('center', 'end').allow(null) }
const node = (type: string | string[], more: Record<string, Schema>) =>
  Joi.object({ type: Joi.valid(...[type].flat()).required(), ...more })
const attrs = (own: Record<string, Schema>) => Joi.object({ ...own, ...OF_BLOCK })

const INLINE = { content: Joi.array().items(inline) }
const HEADING = { level: Joi.valid(2, 3).required() }
const listItems = Joi.array().items(Joi.object({
  type: Joi.valid('listItem').required(),
  content: Joi.array().items(Joi.alternatives().conditional(Joi.object({ type: 'paragraph' }).unknown(), {
    then: node('paragraph', { attrs: attrs(ALIGN), ...INLINE }), otherwise: Joi.link('#list'),
  })).required(),
})).required()

const paragraph = node('paragraph', { attrs: attrs(ALIGN), ...INLINE })
const heading = node('heading', { attrs: attrs({ ...HEADING, ...ALIGN }).required(), ...INLINE })
export const list = node(['bulletList', 'orderedList'], { attrs: attrs({}), content: listItems })
  .id('list')
const TEXTS = [paragraph, heading, list]
const quote = node('blockquote', { attrs: attrs({}), content: Joi.array().items(byType(...TEXTS)).min(1).required() })
const button = node('button', {
  attrs: attrs({
    label: text(80).required(), url: address('web').required(), tagId: id.allow(null).required(), linkId: id.allow(null),
    asks: Joi.boolean(), ...ALIGN,
  }).required(),
})
const ownButton = node('ownButton', { attrs: attrs({ label: text(80).required(), ...ALIGN }).required() })

const PICTURE = {
  pictureId: id.allow(null).required(), alt: text(300).required(), isPlain: Joi.boolean(), url: address('any').allow('').required(),
}
const picture = node('picture', { attrs: attrs({ ...PICTURE, size: Joi.valid(25, 50, 75, 100).required(), ...ALIGN }).required() })
const beside = node('beside', {
  attrs: attrs({ ...PICTURE, side: Joi.valid('start', 'end').required() }).required(),
  content: Joi.array().items(byType(...TEXTS, button)).min(1).required(),
})
const video = node('video', { attrs: attrs({ ...PICTURE, url: address('web').required(), label: text(120).required() }).required() })
const divider = node('divider', { attrs: attrs({}) })
const space = node('space', { attrs: attrs({ height: Joi.valid(8, 16, 32, 64).required() }).required() })
const social = node('social', {
  attrs: attrs({
    links: Joi.array().items(Joi.object({ label: text(40).required(), url: address('any').required() })).max(12).required(), ...ALIGN,
  }).required(),
})
const choice = node('choice', {
  attrs: attrs({
    choices: Joi.array().items(Joi.object({ label: text(60).required(), hint: text(80).required(), tagId: id.allow(null).required() }))
      .min(CHOICES.least).max(CHOICES.most).required()
      // Two that read alike could not be told apart afterwards.
      .unique((a: { label: string }, b: { label: string }) => a.label.trim() !== '' && a.label.trim() === b.label.trim())
      .messages({ 'array.unique': 'Two of the choices are called the same.' }),
    says: text(300).required(), onlyOne: Joi.boolean().required(),
  }).required(),
})
const weight = Joi.number().integer().min(0).max(MOST_FILE_BYTES).required()
const offer = node('offer', {
  attrs: attrs({ offerId: id.allow(null).required(), code: text(60).required(), label: text(60).required() }).required(),
})
const countdown = node('countdown', {
  attrs: attrs({
    offerId: id.allow(null).required(), until: Joi.number().integer().min(0).max(8.64e15).allow(null).required(),
    before: text(80).required(), after: text(120).required(),
  }).required(),
})
const file = node('file', {
  attrs: attrs({
    fileId: id.allow(null).required(), fileName: text(200).required(), bytes: weight, label: text(120).required(),
  }).required(),
})
const articles = node('articles', {
  attrs: attrs({
    articles: Joi.array().items(Joi.object({
      title: text(120).required(), text: text(400).required(), url: address('web').required(), pictureId: id.allow(null).required(),
      alt: text(300).required(),
    })).min(1).max(MOST_ARTICLES).required(),
    label: text(60).required(),
  }).required(),
})
const html = node('html', { attrs: attrs({ source: Joi.string().allow('').max(100_000).required() }).required() })

export const richText = (blocks: ObjectSchema[]) => Joi.object({
  type: Joi.valid('doc').required(), content: Joi.array().items(byType(...blocks)).max(400).required(),
})

const PLAIN = [...TEXTS, quote, button, picture, beside, video, divider, space, social, articles, choice, offer, countdown, file, html]

const name = text(60).allow(null)
/** The last of several cases may be for everybody who fits none of the others. */
const onlyFor = (blocks: ObjectSchema[]) => node('onlyFor', {
  attrs: attrs({}),
  content: Joi.array().items(node('case', {
    attrs: Joi.object({ who: condition.allow(null).required(), name }).required(), content: Joi.array().items(byType(...blocks)).required(),
  })).min(1).max(12).required().custom((cases: { attrs: { who: unknown } }[], helpers) =>
    cases.slice(0, -1).some(({ attrs: { who } }) => who === null)
      ? helpers.message({ custom: 'Only the last version can be for everybody else.' })
      : cases),
})
const withChoices = (blocks: ObjectSchema[]) => [...blocks, onlyFor(blocks)]
const part = node('part', { attrs: attrs({ partId: id.required() }).required() })
const ANY = [...withChoices(PLAIN), part]

export const messageContent = Joi.object<MessageContent>({
  workingTitle: text(120).required(),
  subject: line.required(),
  subjectFor: Joi.array().items(Joi.object({ who: condition.required(), name, subject: line.required() })).max(12),
  preview: line.required(),
  body: richText(ANY).required() as ObjectSchema<RichText>,
  sellsNothing: Joi.valid(true),
  callToAction: text(80),
  isLetter: Joi.valid(true), senderId: id, inBrowser: Joi.valid(true), unwatched: Joi.valid(true),
  utm: Joi.object({ source: text(60).required(), medium: text(60).required(), campaign: text(60).required() }),
  attached: Joi.array().items(Joi.object({ fileId: id.required(), name: text(200).required(), bytes: weight })).max(MOST_ATTACHED),
})

/** An email that leads to what it is for, by a button of its own. */
export const ownMessageBody = richText([...withChoices([...PLAIN, ownButton]), part]).required() as ObjectSchema<RichText>

/** An email of a course, or one with a button of its own. */
export const anyMessage = messageContent.keys({ body: ownMessageBody })

export const partInput = Joi.object<{ name: string, body: RichText }>({
  // A part does not stand in another.
  name: text(80).required(), body: richText(withChoices(PLAIN)).required() as ObjectSchema<RichText>,
})
export const templateInput = Joi.object<{ name: string, content: MessageContent }>({
  name: text(80).required(), content: messageContent.required(),
})

const colour = Joi.string().pattern(/^#[0-9a-f]{6}$/i).required().messages({ 'string.pattern.base': 'Type a colour like #20506B.' })
export const lookInput = Joi.object<EmailLook>({
  ground: colour, paper: colour, ink: colour, accent: colour, font: Joi.valid(...Object.keys(LOOK_FONTS)).required(),
  width: Joi.valid(...Object.keys(LOOK_WIDTHS)).required(), corners: Joi.valid(...Object.keys(LOOK_CORNERS)).required(),
})

/* Looking at it */

const WRITTEN = {
  content: anyMessage.required(), listId: id.allow(null).required(), ownerId: id.allow(null).required(),
  kind: Joi.valid(...kindsThat(kind => kind.to === 'subscriber')).required(),
}
const READER = {
  personId: id.allow(null).required(), firstName: text(80).required(),
  chosen: Joi.array().items(Joi.number().integer().min(-1).max(12)).max(400).allow(null).required(),
}

export const previewInput = Joi.object<WrittenEmail & AskedReader>({ ...WRITTEN, ...READER })

/** The same from a form, which carries it as text, and says how it is to be shown. */
export const previewForm = Joi.object({ asked: Joi.string().required(), emailLook: Joi.string(), look: Joi.valid(...LOOKS).required() })
  .custom(({ asked, look, emailLook }: { asked: string, look: Look, emailLook?: string }, helpers) => {
    try {
      return {
        ...Joi.attempt(JSON.parse(asked), previewInput), look,
        ...emailLook !== undefined && { emailLook: Joi.attempt(JSON.parse(emailLook), lookInput) },
      }
    }
    catch (error) {
      return helpers.message({ custom: (error as Error).message })
    }
  }) as unknown as ObjectSchema<WrittenEmail & AskedReader & { look: Look, emailLook?: EmailLook }>

export const testInput = Joi.object<TestAsked>({
  ...WRITTEN, readers: Joi.array().items(Joi.object(READER)).min(1).max(12).required(), to: Joi.array().items(text(254)).max(20).required(),
})
export const lackingInput = Joi.object<LackingAsked>({
  field: Joi.valid(...PLACEHOLDER_FIELDS).required(), fieldId: id.allow(null).required(), listId: id.allow(null).required(),
})
export const sendOfInput = Joi.object<SendOf>({
  kind: Joi.valid(...kindsThat(kind => kind.to === 'subscriber')).required(), ownerId: id.required(), itemId: text(60).required(),
})
export const draftInput = Joi.object<{ content: MessageContent }>({ content: messageContent.required() })
export const newDraftInput = Joi.object<{ content: MessageContent | null }>({ content: messageContent.allow(null).required() })
export const placeInput = Joi.object<{ courseId: number }>({ courseId: id.required() })
export const urlsInput = Joi.object<{ urls: string[] }>({ urls: Joi.array().items(Joi.string().max(2000)).max(400).required() })
export const answersInput = Joi.object<AnswersAsked>({
  of: sendOfInput.required(),
  labels: Joi.array().items(text(60)).max(CHOICES.most).required(),
})
export const versionsInput = Joi.object<VersionsAsked>({ ...WRITTEN, stepId: text(40).allow(null).required() })

/* Texts of pages: words only */

const plainParagraph = node('paragraph', INLINE)
const plainHeading = node('heading', { attrs: Joi.object(HEADING).required(), ...INLINE })
export const pageText = richText([plainParagraph, plainHeading, list])
