/** How what programs can ask for is described: once, for checking by it and for the document. */
import type Joi from 'joi'
import type { KeyLine, Scope } from '#core/views/keys'
import type { WorkspaceContext } from '#usecases/context'

/** A long course with all its emails is far below it. */
export const MOST_READ = 2_000_000

export interface Call {
  context: WorkspaceContext
  key: KeyLine
  /** The whole numbers of the path. */
  numbers: Record<string, number>
  body: unknown
  query: unknown
  /** Unlike any other call’s: by its idempotency key, where it has one. */
  callId: string
}

export interface Operation {
  method: 'GET' | 'POST' | 'PUT' | 'PATCH' | 'DELETE'
  path: string
  scope: Scope
  /** What it may do besides, and the scope that takes, by what stands in its body: the same as the address of its own for it. */
  besides?: Partial<Record<string, Scope>>
  summary: string
  description?: string
  query?: Joi.ObjectSchema
  body?: Joi.ObjectSchema
  /** Reads and checks a body by itself, instead of by the schema alone; up to {@link MOST_READ} bytes. */
  reads?: (bytes: Uint8Array) => Promise<unknown>
  /** The media type of an answer that is a file. */
  file?: string
  /** What is answered; none for an empty answer. */
  answer?: Joi.ObjectSchema
  /** True if it makes something, which an idempotency key makes once. */
  makes?: true
  status: 200 | 201 | 202 | 204
  example: { body?: unknown, answer?: unknown }
  /** What makes something answers at once; anything else may take its time. */
  run(call: Call): unknown
}
