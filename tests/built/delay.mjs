/**
 * Loaded into a server under test before anything else. Notes when a turn of its event loop starts and how much processor time its main
 * thread takes. Wall time would include other programs on the machine.
 */
import { appendFileSync, openSync, readSync } from 'node:fs'
import { isMainThread } from 'node:worker_threads'

const { DELAY_FOLDER } = process.env
const LOOK_MS = 5
const WORTH_NOTING_MS = 10
if (isMainThread && DELAY_FOLDER) {
  // The first of three numbers, in nanoseconds (Linux). The main thread has the number of its process.
  const file = openSync(`/proc/self/task/${process.pid}/schedstat`, 'r')
  const text = Buffer.alloc(100)
  const spentMs = () => parseInt(text.toString('latin1', 0, readSync(file, text, 0, text.length, 0))) / 1e6
  let last = { at: Date.now(), spent: spentMs() }
  setInterval(() => {
    const now = { at: Date.now(), spent: spentMs() }
    const took = now.spent - last.spent
    if (took > WORTH_NOTING_MS) appendFileSync(`${DELAY_FOLDER}/${process.pid}`, `${last.at} ${took}\n`)
    last = now
  }, LOOK_MS).unref()
}
