/** The engine's end of the wake line, which is also what keeps a second engine out. */
import { existsSync, unlinkSync } from 'node:fs'
import { createServer, type Server } from 'node:net'

/** Somebody else runs on this data folder. */
export class AnotherEngine extends Error {}

/**
 * Listens for wake calls. `answers` says whether somebody listens already. Throws {@link AnotherEngine} if an engine answers
 * there already; a socket left over by one that died is taken over.
 */
export async function listenForWakes(path: string, answers: (path: string) => Promise<boolean>, onWake: () => void): Promise<Server> {
  if (existsSync(path)) {
    if (await answers(path)) throw new AnotherEngine('Another engine runs on this data folder already; stop it first.')
    unlinkSync(path)
  }
  const server = createServer((line) => {
    line.on('error', () => line.destroy())
    line.resume()
    onWake()
  })
  await new Promise<void>((resolve, reject) => {
    server.once('error', reject)
    server.listen(path, resolve)
  })
  return server
}
