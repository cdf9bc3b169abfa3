/** What may come in about imports. */
import Joi from './joi'
import { ENCODINGS } from '#core/exchange/encoding'
import { TARGET_KINDS, type ImportSpec } from '#core/exchange/importing'
import { DATE_ORDERS } from '#core/people/field'
import { isDate } from '#core/time/zone'
import type { UploadQuery } from '#core/views/imports'
import { text } from './schemas'

const id = Joi.number().integer().positive()
const ids = Joi.array().items(id).unique().max(200).required()
const words = (most: number) => text(most).required()
const date = Joi.string().required().custom((day: string, helpers) => isDate(day) ? day : helpers.error('any.invalid'))
  .messages({ '*': 'Choose a date.' })

export const uploadQuery = Joi.object<UploadQuery>({
  name: Joi.string().max(200).default('people.csv'),
  encoding: Joi.valid(...ENCODINGS).empty('').default(null),
  delimiter: Joi.valid(',', ';', '\t').empty('').default(null),
})

const target = Joi.alternatives(
  Joi.object({ kind: Joi.valid(...TARGET_KINDS).required() }),
  Joi.object({ kind: Joi.valid('field').required(), fieldId: id.required() }),
)

export const importSpec = Joi.object<ImportSpec>({
  columns: Joi.array().items(Joi.object({ target: target.required(), dateOrder: Joi.valid(...DATE_ORDERS).required() })).max(200)
    .required(),
  listIds: ids,
  tagIds: ids,
  source: words(80),
  starts: Joi.boolean().required(),
  oddCells: Joi.valid('leave-out', 'refuse').default('leave-out'),
  known: Joi.valid('keep', 'replace').required(),
  nobodyLeft: Joi.boolean(),
  consent: Joi.alternatives(
    Joi.object({ kind: Joi.valid('given').required(), origin: words(200), wording: words(1000), date }),
    Joi.object({ kind: Joi.valid('none').required() }),
  ).required().messages({ '*': 'Say where consent came from.' }),
})
