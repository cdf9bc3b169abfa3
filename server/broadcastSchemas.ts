/** What may come in of a broadcast. */
import Joi from 'joi'
import {
  MOST_GUARDED_COURSES, MOST_NEWCOMER_DAYS, MOST_SPREAD_HOURS, type BroadcastDraft,
} from '#core/broadcast/draft'
import { messageContent } from './messageSchemas'
import { condition } from './peopleSchemas'
import { id, text } from './schemas'

const day = text(10).required()
const time = text(5).required()

export const broadcastInput = Joi.object<BroadcastDraft>({
  content: messageContent.required(),
  listId: id.allow(null).required(),
  who: condition.required(),
  guards: Joi.object({
    newcomerDays: Joi.number().integer().min(1).max(MOST_NEWCOMER_DAYS).allow(null).required()
      .messages({ 'number.base': 'Type a number of days.' }),
    insideCourseIds: Joi.array().items(id).max(MOST_GUARDED_COURSES).unique().required(), owners: Joi.boolean().required(),
  }).required(),
  when: Joi.alternatives(
    Joi.object({ kind: Joi.valid('now').required() }),
    Joi.object({ kind: Joi.valid('at').required(), date: day, time, zone: Joi.valid('workspace', 'reader').required() }),
  ).required(),
  spreadHours: Joi.number().integer().min(0).max(MOST_SPREAD_HOURS).required(),
  story: Joi.object({ offerId: id.allow(null).required(), topic: text(80).required() }).required(),
})

export const newBroadcastInput = Joi.object<{ from: number | null }>({ from: id.allow(null).required() })
