/**
 * Loaded into a server under test before anything else: says how long its event loop was kept at most by one thing, since it was last asked
 * to forget. In processor time of the thread that answers, not by the clock on the wall: what other programs of the machine take meanwhile
 * says nothing about the server.
 */
import { openSync, readSync, writeFileSync } from 'node:fs'
import { isMainThread } from 'node:worker_threads'

const { DELAY_FOLDER } = process.env
const LOOK_MS = 5
if (isMainThread && DELAY_FOLDER) {
  // Linux says it first of three numbers, in nanoseconds; the first thread has the number of its process.
  const file = openSync(`/proc/self/task/${process.pid}/schedstat`, 'r')
  const text = Buffer.alloc(100)
  const spentMs = () => parseInt(text.toString('latin1', 0, readSync(file, text, 0, text.length, 0))) / 1e6
  let last = spentMs()
  let most = 0
  const look = () => {
    const now = spentMs()
    most = Math.max(most, now - last)
    last = now
  }
  setInterval(look, LOOK_MS).unref()
  process.on('SIGUSR2', () => {
    look()
    most = 0
  })
  setInterval(() => writeFileSync(`${DELAY_FOLDER}/${process.pid}`, String(most)), 50).unref()
}
