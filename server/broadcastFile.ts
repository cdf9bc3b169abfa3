/** Broadcasts as files: JSON, with their pictures and files in base64. */
import type { PartialSchemaMap } from 'joi'
import Joi from './joi'
import { BROADCAST_FORMAT, BROADCAST_VERSION, type PortableBroadcast, type PortableContents } from '#core/exchange/broadcast'
import { MOST_PICTURE_BYTES } from '#core/page/picture'
import { MOST_FILE_BYTES } from '#core/page/promise'
import { InputProblem } from '#usecases/problem'
import { limitsOf, measure } from './bounds'
import { broadcastInput } from './broadcastSchemas'
import { checked } from './check'
import { portableNames } from './portableSchemas'
import { text } from './schemas'

/** An email with all its pictures and files is below it. */
export const MOST_BROADCAST_BYTES = 40_000_000

const contents = (mostBytes: number, more: PartialSchemaMap) => Joi.object().pattern(/^\d{1,9}$/, Joi.object({
  name: text(200).required(), content: Joi.string().base64().max(Math.ceil(mostBytes * 4 / 3) + 4).required(), ...more,
})).max(50).default({})
const portable = Joi.object<PortableBroadcast>({
  format: Joi.valid(BROADCAST_FORMAT).required().messages({ '*': 'This file is not a broadcast exported from here.' }),
  version: Joi.valid(BROADCAST_VERSION).required().messages({ '*': 'This broadcast was exported by a newer version.' }),
  name: text(200).required(), names: portableNames.required(), draft: broadcastInput.required(),
  contents: Joi.object<PortableContents>({
    pictures: contents(MOST_PICTURE_BYTES, {}), files: contents(MOST_FILE_BYTES, { type: text(200).required() }),
  }).default({ pictures: {}, files: {} }),
})

/** Throws an {@link InputProblem} that says what does not fit. */
export function readBroadcastFile(bytes: Uint8Array): PortableBroadcast {
  let value: unknown
  try {
    value = JSON.parse(new TextDecoder().decode(bytes))
  }
  catch {
    throw new InputProblem([{ field: 'file', problem: 'This file is no JSON. Choose one that was exported here.' }])
  }
  const { outOfBounds } = measure(value, limitsOf(portable))
  if (outOfBounds) throw new InputProblem([outOfBounds])
  return checked(portable, value)
}
