/** Bodies that can be too large to be checked while everybody waits: they are checked in a thread, by these names. */
import type Joi from 'joi'
import { broadcastInput } from '../broadcastSchemas'
import { courseInput } from '../courseSchemas'
import { importSpec } from '../importSchemas'
import { offerInput } from '../offerSchemas'
import { pageInput } from '../pageSchemas'
import { ruleInput } from '../ruleSchemas'
import { partInput, previewForm, previewInput, templateInput, testInput, versionsInput } from '../messageSchemas'

export const LARGE = {
  broadcastInput, courseInput, pageInput, offerInput, ruleInput, previewInput, previewForm, versionsInput, testInput, partInput,
  templateInput, importSpec,
} as const satisfies Record<string, Joi.ObjectSchema>

export type LargeName = keyof typeof LARGE
