/** What may come in about rehearsals, described once. */
import Joi from './joi'
import { EVENT_KINDS } from '#core/events'
import type { RehearsedReader, StoryLine } from '#core/sequence/rehearsal'
import { MOST_READERS } from '#usecases/practice/rehearse'
import { localDate, localTime, span, stepId } from './courseSchemas'
import { isZone } from '#core/time/zone'
import { id, text } from './schemas'

const zone = Joi.string().custom((value: string, helpers) => isZone(value) ? value : helpers.error('any.invalid'))
  .messages({ 'any.invalid': 'Choose a time zone from the list.' })
const reading = Joi.object({
  which: Joi.valid('all', 'none', 'some').required(), stepIds: Joi.array().items(stepId).max(200).required(), after: span.required(),
}).required()
const day = Joi.number().integer().min(0).max(90).required().messages({ '*': 'From day 0 to day 90.' })

const reader = Joi.object<RehearsedReader>({
  name: text(40).required(),
  joins: Joi.object({ date: localDate.required(), time: localTime.required() }).required(),
  by: Joi.object({ kind: Joi.valid('page', 'offer').required(), id: id.required() }).allow(null),
  zone: zone.allow(null).required(),
  tagIds: Joi.array().items(id).max(50).required(),
  dates: Joi.object().pattern(/^\d{1,9}$/, localDate).required(),
  opens: reading, clicks: reading,
  buys: Joi.object({ offerId: id.required(), day, time: localTime.required() }).allow(null).required(),
  leaves: Joi.object({ day }).allow(null).required(),
})

export const rehearsalInput = Joi.object<{ readers: RehearsedReader[] }>({
  readers: Joi.array().items(reader).min(1).max(MOST_READERS).required(),
})

const line = Joi.object<StoryLine>({
  at: Joi.number().integer().required(), kind: Joi.valid(...EVENT_KINDS).required(), says: Joi.string().max(500).required(),
  about: Joi.string().max(2000),
  courseId: id.allow(null).required(), stepId: stepId.allow(null).required(), sort: Joi.valid('mail', 'held', 'reader', 'else').required(),
})
export const keptInput = Joi.object<{ reader: RehearsedReader, lines: StoryLine[] }>({
  reader: reader.required(), lines: Joi.array().items(line).max(5000).required(),
})
