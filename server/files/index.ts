/** Files and large bodies are read in a thread: whatever is in them, nobody else waits for it. */
import type Joi from 'joi'
import type { PortableBroadcast } from '#core/exchange/broadcast'
import type { PortableCourse } from '#core/exchange/course'
import type { PastSalesView } from '#core/views/offers'
import type { WorkspaceContext } from '#usecases/context'
import type { IncomingFile } from '#usecases/know/importFile'
import type { PastSales } from '#usecases/offers/pastSales'
import { unpacked, type Packed } from '../work/packed'
import { Pool } from '../work/pool'
import type { Job } from './jobs'
import { LARGE, type LargeName } from './schemas'

const SECOND = 1000
const [quick, patient] = [
  new Pool({ file: 'files.mjs', threads: 1, limitMs: 10 * SECOND, mostWaiting: 20, memoryMb: 512 }),
  // Half a million rows are a minute's work.
  new Pool({ file: 'files.mjs', threads: 1, limitMs: 180 * SECOND, mostWaiting: 4, memoryMb: 1024 }),
]

const run = async <Answer>(pool: Pool, job: Job): Promise<Answer> => unpacked(await pool.run('work', job) as Packed) as Answer

const NAMES = new Map<Joi.Schema, LargeName>(Object.entries(LARGE).map(([name, schema]) => [schema, name as LargeName]))

export const isCheckedElsewhere = (schema: Joi.Schema): boolean => NAMES.has(schema)

/** Throws an InputProblem as a check here would. */
export const checkElsewhere = <Value>(schema: Joi.ObjectSchema<Value>, body: Extract<Job, { kind: 'check' }>['body']): Promise<Value> =>
  run(quick, { kind: 'check', name: NAMES.get(schema)!, body })

export const readBroadcast = (bytes: Uint8Array): Promise<PortableBroadcast> => run(quick, { kind: 'broadcast', bytes })

export const readCourse = (bytes: Uint8Array): Promise<PortableCourse> => run(quick, { kind: 'course', bytes })

/** The number of the import. */
export const keepImport = ({ mode }: WorkspaceContext, file: IncomingFile): Promise<number> => run(patient, { kind: 'import', mode, file })

export const pastSales = ({ mode }: WorkspaceContext, file: PastSales, bring: boolean): Promise<PastSalesView> =>
  run(patient, { kind: 'past-sales', mode, file, bring })
