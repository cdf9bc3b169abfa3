/**
 * Loaded into a server under test before anything else: says how late its event loop came round at most, since it was last asked to
 * forget.
 */
import { writeFileSync } from 'node:fs'
import { monitorEventLoopDelay } from 'node:perf_hooks'
import { isMainThread } from 'node:worker_threads'

const { DELAY_FOLDER } = process.env
if (isMainThread && DELAY_FOLDER) {
  const delay = monitorEventLoopDelay({ resolution: 5 })
  delay.enable()
  process.on('SIGUSR2', () => delay.reset())
  setInterval(() => writeFileSync(`${DELAY_FOLDER}/${process.pid}`, String(delay.max / 1e6)), 50).unref()
}
