/**
 * How the web server tells the engine that something is due at once: one byte
 * on a local socket. A lost call costs nothing but time, because the engine
 * looks by itself every second.
 */
import { createHash } from 'node:crypto'
import { createConnection } from 'node:net'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import type { Mode } from '#core/views/frame'

/**
 * One for each workspace's engine. Socket paths are short by nature (108 bytes); a deep data folder gets one under the temporary folder.
 */
export function socketPath(dataFolder: string, mode: Mode): string {
  const name = mode === 'live' ? 'engine-live' : 'engine'
  const inside = join(dataFolder, `${name}.sock`)
  return Buffer.byteLength(inside) < 100
    ? inside
    : join(tmpdir(), `porch-${name}-${createHash('sha256').update(dataFolder).digest('hex').slice(0, 16)}.sock`)
}

export function wakeEngine(path: string): void {
  const line = createConnection(path)
  line.on('error', () => line.destroy())
  line.on('connect', () => line.end('w'))
}

/** True if an engine listens there. A socket left over by one that died does not answer. */
export function engineAnswers(path: string): Promise<boolean> {
  return new Promise((resolve) => {
    const line = createConnection(path)
    line.on('connect', () => {
      line.destroy()
      resolve(true)
    })
    line.on('error', () => resolve(false))
  })
}
