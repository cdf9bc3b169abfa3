/** The names that go along with what is brought in from a file. */
import type { Schema } from 'joi'
import Joi from './joi'
import type { ThingKind } from '#core/things'
import { text } from './schemas'

const OTHERS: ThingKind[] = ['page', 'link', 'course', 'offer', 'segment', 'hookIn', 'hookOut', 'rule', 'part', 'broadcast']
const named = (fields: Record<string, Schema>) =>
  Joi.object().pattern(/^\d{1,6}$/, Joi.object({ name: text(200).required(), ...fields })).default({})

export const portableNames = Joi.object({
  list: named({ publicName: text(120).required(), description: text(1000).required() }), tag: named({}),
  field: named({ label: text(120).required(), kind: text(20).required() }), other: named({ kind: Joi.valid(...OTHERS).required() }),
})
