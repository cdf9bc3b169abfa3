/** Checking what comes in by its schema. */
import type Joi from 'joi'
import { InputProblem } from '#usecases/problem'
import { Refused } from './refused'

/** So many faults are told: nobody reads more. */
const MOST_TOLD = 50

/** A form of more fields than that is none of ours. */
const MOST_FIELDS = 2000

/** JSON, or the fields of a form: one that fills a frame can send nothing else. Throws a {@link Refused}. */
export function readBody(text: string, type: string): unknown {
  if (text === '') return {}
  if (/^application\/x-www-form-urlencoded\b/i.test(type)) {
    if (text.split('&', MOST_FIELDS + 1).length > MOST_FIELDS) throw new Refused(413, 'That is too large for one request.')
    return Object.fromEntries(new URLSearchParams(text))
  }
  try {
    return JSON.parse(text)
  }
  catch {
    throw new Refused(400, 'The request could not be read.')
  }
}

/** Every fault is told, with the names of fields as people quote. */
export const TELLING = { abortEarly: false, errors: { wrap: { label: '“”', array: false } } } satisfies Joi.ValidationOptions

/** Throws an {@link InputProblem} with every fault at its field. */
export function checked<Value>(schema: Joi.ObjectSchema<Value> | undefined, raw: unknown): Value {
  if (!schema) return undefined as Value
  const { value, error } = schema.validate(raw, { ...TELLING, stripUnknown: true, convert: true })
  if (error) throw faults(error)
  return value
}

export function faults(error: Joi.ValidationError): InputProblem {
  return new InputProblem(error.details.slice(0, MOST_TOLD)
    .map(detail => ({ field: detail.path.join('.'), problem: detail.message.endsWith('.') ? detail.message : `${detail.message}.` })))
}
