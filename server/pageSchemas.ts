/** What may come in as an opt-in page, described once. */
import type { PartialSchemaMap } from 'joi'
import Joi from './joi'
import { WHO_CONFIRMS, type Confirming } from '#core/page/confirm'
import type { PageContent } from '#core/page/content'
import type { Ask } from '#core/page/form'
import { PAGE_COLOURS, PAGE_TYPES, PAGE_WIDTHS, PICTURE_PLACES } from '#core/page/theme'
import type { AnswerTest } from '#core/page/result'
import type { Promised } from '#core/page/promise'
import { SECTION_KINDS, type SectionKind } from '#core/page/section'
import { isDate, isLocalTime } from '#core/time/zone'
import type { CourseBeginning } from '#core/views/course'
import type { PageInput, PageBeginning } from '#core/views/pages'
import { courseBeginning } from './courseSchemas'
import { fieldTest } from './peopleSchemas'
import { line, messageContent, ownMessageBody, pageText, richText, list } from './messageSchemas'
import { address, id, text } from './schemas'

export const ids = Joi.array().items(id).unique().max(100)
/** Short words that tell parts of a page from one another; none is the name of a field that every form has. */
const partId = Joi.string().pattern(/^[a-z]\d{1,6}$/).required()
export const gifts = Joi.array().items(
  Joi.object({ fieldId: id.required(), value: Joi.alternatives(Joi.number(), Joi.string().max(1000)).required() }),
).unique('fieldId').max(50).required()
const oneOf = (names: object) => Joi.valid(...Object.keys(names)).required()

export const ownMessage = messageContent.keys({ body: ownMessageBody })
const listText = richText([list]).required()

const BODIES: Record<SectionKind, PartialSchemaMap> = {
  headline: { text: text(200).required(), under: text(300).required() },
  text: { text: pageText.required() },
  picture: {
    pictureId: id.allow(null).required(), alt: text(300).required(), decorates: Joi.boolean().required(), caption: text(300).required(),
  },
  points: { title: text(200).required(), list: listText },
  quote: { text: text(1000).required(), who: text(200).required() },
  form: { title: text(200).required() },
  countdown: {
    date: Joi.string().custom((value: string, helpers) => isDate(value) ? value : helpers.error('any.invalid')).allow(null).required()
      .messages({ 'any.invalid': 'A date looks like 2026-11-24.' }),
    time: Joi.string().custom((value: string, helpers) => isLocalTime(value) ? value : helpers.error('any.invalid')).required()
      .messages({ 'any.invalid': 'A time looks like 08:00.' }),
    before: text(200).required(), after: text(200).required(),
  },
  steps: { title: text(200).required(), list: listText },
  questions: {
    title: text(200).required(),
    questions: Joi.array().items(Joi.object({ question: text(300).required(), answer: pageText.required() })).max(40).required(),
  },
  footer: { text: pageText.required() },
}

/** Each is checked as what it says it is, and as nothing else. */
export const section = Joi.alternatives().conditional('.kind', {
  switch: SECTION_KINDS.map(kind => ({ is: kind, then: Joi.object({
    id: partId, kind: Joi.valid(kind).required(), name: text(60).required(), hidden: Joi.boolean().required(), ...BODIES[kind],
  }) })),
  otherwise: Joi.forbidden(),
})

/** What any page of sections is drawn from. */
export const drawn = {
  theme: Joi.object({
    type: oneOf(PAGE_TYPES), colour: oneOf(PAGE_COLOURS), width: oneOf(PAGE_WIDTHS), picture: oneOf(PICTURE_PLACES),
    night: Joi.boolean().optional(),
  })
    .required(),
  sections: Joi.array().items(section).unique('id').max(60).required(),
  meta: Joi.object({ title: text(120).required(), description: text(300).required(), pictureId: id.allow(null).required() }).required(),
}

const ask = Joi.alternatives<Ask>(
  Joi.object({
    id: partId, kind: Joi.valid('field').required(), fieldId: id.required(), label: text(200).required(),
    required: Joi.boolean().required(),
  }),
  Joi.object({
    id: partId, kind: Joi.valid('choice').required(), label: text(200).required(), required: Joi.boolean().required(),
    many: Joi.boolean().required(),
    options: Joi.array().items(Joi.object({ id: partId, label: text(120).required(), tagIds: ids.required(), fields: gifts })).unique('id')
      .max(30).required(),
  }),
)
const box = Joi.object({
  id: partId, wording: text(1000).required(), required: Joi.boolean().required(), listIds: ids.required(), tagIds: ids.required(),
})

const link = address('web').required()

export const thanks = Joi.object({
  headline: text(200).required(), text: pageText.required(),
  onward: Joi.array().items(Joi.object({ label: text(120).required(), url: link })).max(12).required(),
})

const answerTest = Joi.alternatives<AnswerTest>(
  Joi.object({
    askId: partId, is: Joi.valid('chosen', 'not-chosen').required(), optionIds: Joi.array().items(partId).unique().max(30).required(),
  }),
  Joi.object({ askId: partId, is: Joi.valid('field').required(), test: fieldTest.required() }),
)
const resultPage = Joi.object({
  id: partId, name: text(60).required(),
  when: Joi.object({ kind: Joi.valid('all', 'any').required(), of: Joi.array().items(answerTest).max(12).required() }).required(),
  tagIds: ids.required(), thanks: thanks.required(), redirectUrl: link.allow(null),
})

export const pageInput = Joi.object<PageInput>({
  name: text(120).required(),
  slug: text(80).required(),
  draft: Joi.object<PageContent>({
    ...drawn,
    form: Joi.object({
      firstName: Joi.valid('no', 'may', 'must').required(), oneByOne: Joi.boolean().required(),
      asks: Joi.array().items(ask).unique('id').max(30).required(), boxes: Joi.array().items(box).unique('id').max(10).required(),
      buttonLabel: text(80).required(), consentWording: text(1000).required(),
    }).required(),
    listIds: ids.required(),
    tagIds: ids.required(),
    fields: gifts,
    courseId: id.allow(null).required(),
    confirming: Joi.object<Confirming>({
      who: Joi.valid(...WHO_CONFIRMS).required(),
      mail: ownMessage.required(),
      reminder: Joi.object({
        subject: line.required(), afterHours: Joi.number().integer().min(1).max(720).required().messages({ '*': 'From 1 to 720 hours.' }),
      }).allow(null).required(),
      withinDays: Joi.number().integer().min(1).max(60).required().messages({ '*': 'From 1 to 60 days.' }),
      waitHeadline: text(200).required(),
      waitText: pageText.required(),
    }).required(),
    promised: Joi.object<Promised>({ fileId: id.allow(null).required(), mail: ownMessage.required() }).allow(null).required(),
    forKnown: Joi.object({ tagIds: ids.required(), thanks: thanks.required() }).allow(null).required(),
    resultPages: Joi.array().items(resultPage).unique('id').max(40).required(),
    thanks: thanks.required(),
    redirectUrl: link.allow(null),
  }).required(),
})

export const fileQuery = Joi.object<{ name: string, type: string }>({
  name: Joi.string().max(400).required(), type: Joi.string().allow('').max(200).default(''),
})

const pageBeginning = Joi.alternatives(Joi.string().pattern(/^[a-z-]{1,40}$/), id).allow(null).default(null)
export const newPageInput = Joi.object<{ name: string, beginning: PageBeginning }>({
  name: text(120).required(), beginning: pageBeginning,
})
export const pageWithCourseInput = Joi.object<{
  name: string, beginning: PageBeginning, course: CourseBeginning, listId: number | null,
}>({ name: text(120).required(), beginning: pageBeginning, course: courseBeginning.required(), listId: id.allow(null).required() })
