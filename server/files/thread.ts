/** Entry of the thread that reads files and checks large bodies. It has connections of its own. */
import type Joi from 'joi'
import pino from 'pino'
import { keysIn } from '#runtime/keys'
import { databaseFile, contextOn, openMigrated } from '#runtime/open'
import { overTheLine } from '#runtime/payments'
import { readSettings } from '#runtime/settings'
import { socketPath, wakeEngine } from '#runtime/wake'
import type { WorkspaceContext } from '#usecases/context'
import { receiveImport } from '#usecases/know/importFile'
import { bringPastSales, previewPastSales } from '#usecases/offers/pastSales'
import { InputProblem } from '#usecases/problem'
import { limitsOf, measure } from '../bounds'
import { checked, readBody } from '../check'
import { readBroadcastFile } from '../broadcastFile'
import { readCourseFile } from '../courseFile'
import { packed, type Packed } from '../work/packed'
import type { Job } from './jobs'
import { LARGE } from './schemas'

const log = pino({ name: 'web files', level: process.env.PORCH_LOG || 'info' })

/** Opened for one job and closed after it: files come seldom. */
async function within<Result>(mode: WorkspaceContext['mode'], work: (context: WorkspaceContext) => Promise<Result>): Promise<Result> {
  const settings = readSettings(process.env)
  const db = openMigrated(databaseFile(settings, mode))
  try {
    const context = contextOn(db, settings, keysIn(settings.data), () => wakeEngine(socketPath(settings.data, mode)), overTheLine(settings))
    return await work({ ...context, checkout: context.checkout, trouble: (what, error) => log.error({ mode, err: error }, what) })
  }
  finally {
    db.close()
  }
}

function check(schema: Joi.ObjectSchema, raw: unknown): unknown {
  const { outOfBounds } = measure(raw, limitsOf(schema))
  if (outOfBounds) throw new InputProblem([outOfBounds])
  return checked(schema, raw)
}

function doJob(job: Job): unknown {
  switch (job.kind) {
    case 'check': return check(LARGE[job.name], 'raw' in job.body ? job.body.raw : readBody(job.body.text, job.body.type))
    case 'course': return readCourseFile(job.bytes)
    case 'broadcast': return readBroadcastFile(job.bytes)
    case 'import': return within(job.mode, context => receiveImport(context, job.file))
    case 'past-sales': return within(job.mode, context => (job.bring ? bringPastSales : previewPastSales)(context, job.file))
  }
}

/** What the pool calls: the first once the thread has started. */
export const ready = (): void => {}
export const work = (job: Job): Promise<Packed> => packed(() => doJob(job))
