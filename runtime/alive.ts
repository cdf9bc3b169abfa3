/** The web server leaves its process id in the data folder, so that an engine knows whether it is worth waiting for. */
import { mkdirSync, readFileSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'

const fileIn = (dataFolder: string) => join(dataFolder, 'web.pid')

export function sayWebIsAlive(dataFolder: string): void {
  mkdirSync(dataFolder, { recursive: true })
  writeFileSync(fileIn(dataFolder), String(process.pid))
}

/** False as well where another user's process has taken its number: then nobody of ours has it. */
export function webIsAlive(dataFolder: string): boolean {
  try {
    process.kill(Number(readFileSync(fileIn(dataFolder), 'utf8')), 0)
    return true
  }
  catch {
    return false
  }
}
