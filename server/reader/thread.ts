/** Entry of the reading thread: it has connections of its own and never writes. */
import { parentPort } from 'node:worker_threads'
import { rehearsalHall } from '#runtime/hall'
import { keysIn } from '#runtime/keys'
import { databaseFile, houseOn, openMigrated } from '#runtime/open'
import { overTheLine } from '#runtime/payments'
import { readSettings } from '#runtime/settings'
import type { House } from '#usecases/house'
import { InputProblem, NotNow, NotThere } from '#usecases/problem'
import type { Answer, Question } from './views'
import { SLOW_VIEWS } from './views'

const settings = readSettings(process.env)
const open = new Map<House['mode'], { house: House, until: number }>()

/** A connection chooses its ways by what the tables held when it was opened. */
const OPEN_MS = 600_000

function houseOf(mode: House['mode']): House {
  const known = open.get(mode)
  if (known && Date.now() < known.until) return known.house
  known?.house.db.close()
  open.delete(mode)
  const db = openMigrated(databaseFile(settings, mode))
  db.pragma('query_only = ON')
  const house = houseOn(db, settings, keysIn(settings.data), () => {}, overTheLine(settings))
  open.set(mode, { house, until: Date.now() + OPEN_MS })
  return house
}

const hall = rehearsalHall(settings, keysIn(settings.data))

async function answerTo({ id, mode, view, input }: Question): Promise<Answer> {
  try {
    return { id, kind: 'answer', answer: await SLOW_VIEWS[view](houseOf(mode), input as never, hall) }
  }
  catch (error) {
    if (error instanceof InputProblem) return { id, kind: 'input', problems: error.problems }
    return { id, kind: error instanceof NotThere ? 'not-there' : error instanceof NotNow ? 'not-now' : 'failed', message: (error as Error).message }
  }
}

parentPort!.on('message', (question: Question) => void answerTo(question).then(answer => parentPort!.postMessage(answer)))
