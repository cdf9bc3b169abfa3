/** What may come in of a broadcast. */
import Joi from './joi'
import type { Condition } from '#core/audience/condition'
import {
  MOST_GUARDED_COURSES, MOST_NEWCOMER_DAYS, MOST_SPREAD_HOURS, type BroadcastDraft,
} from '#core/broadcast/draft'
import { AGAIN_WITHOUT, MOST_AFTER_DAYS, type AgainSpec } from '#core/broadcast/again'
import { BROADCAST_FILES, type AgainAsked, type BroadcastFile } from '#core/operations/broadcasts'
import { SPLITS } from '#core/views/broadcastResults'
import { line, messageContent } from './messageSchemas'
import { condition } from './peopleSchemas'
import { id, text } from './schemas'

const day = text(10).required()
const time = text(5).required()

const WHEN = Joi.alternatives(
  Joi.object({ kind: Joi.valid('now').required() }),
  Joi.object({ kind: Joi.valid('at').required(), date: day, time, zone: Joi.valid('workspace', 'reader').required() }),
)
const AGAIN = {
  without: Joi.valid(...AGAIN_WITHOUT).required(), url: Joi.string().max(2000).allow(null).required(), subject: line.required(),
  uncertainToo: Joi.boolean().required(),
}

/** A second sending by hand. */
export const againInput = Joi.object<AgainAsked>({ ...AGAIN, when: WHEN.required() })
export const againReachInput = Joi.object<Omit<AgainSpec, 'subject'>>({
  without: AGAIN.without, url: AGAIN.url, uncertainToo: AGAIN.uncertainToo,
})

export const broadcastInput = Joi.object<BroadcastDraft>({
  content: messageContent.required(),
  listId: id.allow(null).required(),
  who: condition.required(),
  guards: Joi.object({
    newcomerDays: Joi.number().integer().min(1).max(MOST_NEWCOMER_DAYS).allow(null).required()
      .messages({ 'number.base': 'Type a number of days.' }),
    insideCourseIds: Joi.array().items(id).max(MOST_GUARDED_COURSES).unique().required(), owners: Joi.boolean().required(),
  }).required(),
  when: WHEN.required(),
  spreadHours: Joi.number().integer().min(0).max(MOST_SPREAD_HOURS).required(),
  again: Joi.object({ ...AGAIN, afterDays: Joi.number().integer().min(1).max(MOST_AFTER_DAYS).required() }).allow(null).required(),
  story: Joi.object({ offerId: id.allow(null).required(), topic: text(80).required() }).required(),
})

export const sharedInput = Joi.object<{ shared: boolean }>({ shared: Joi.boolean().required() })

export const copyLinkInput = Joi.object<{ on: boolean }>({ on: Joi.boolean().required() })
export const bringLinkInput = Joi.object<{ url: string }>({ url: text(2000).required() })
export const fileQuery = Joi.object<{ as: BroadcastFile }>({ as: Joi.valid(...BROADCAST_FILES).required() })

export const whoQuery = Joi.object<{ key: string, by: string, part: string, from: number }>({
  key: Joi.string().pattern(/^[a-z0-9 .-]{1,60}$/).required(), by: Joi.valid('', ...SPLITS).default(''), part: text(400).default(''),
  from: Joi.number().integer().min(0).max(1_000_000).default(0),
})

export const newBroadcastInput = Joi.object<{ from: number | null, who: Condition | null }>({
  from: id.allow(null).required(), who: condition.allow(null).default(null),
})
