/** What may come in about senders, described once. */
import Joi from './joi'
import type { SenderBody } from '#core/operations/senders'
import type { WarmUp } from '#core/sending/warmUp'
import type { PracticeRecords } from '#usecases/settings/mailDomains'
import { id, insideMeant, text, whole } from './schemas'

const ids = Joi.array().items(id).unique().max(500).required()

export const senderInput = Joi.object<SenderBody>({
  insideMeant,
  name: text(80).required(), address: text(254).required(), replyTo: text(254).required(),
  serviceUrl: Joi.string().max(500).empty('').allow(null).default(null), listIds: ids, tagIds: ids,
})

export const restoreInput = Joi.object<{ listIds: number[], tagIds: number[] }>({ listIds: ids, tagIds: ids })

export const codeInput = Joi.object<{ code: string }>({ code: text(20).required() })

export const practiceDnsInput = Joi.object<PracticeRecords>({
  dkim: Joi.boolean().required(), dmarc: Joi.valid('none', 'quarantine', 'reject').allow(null).required(), spf: Joi.boolean().required(),
})

export const warmUpInput = Joi.object<{ plan: Omit<WarmUp, 'startedOn'> | null }>({
  plan: Joi.object({ first: whole(1, 100_000), growth: whole(1, 300), until: whole(2, 1_000_000) }).allow(null).required(),
})
