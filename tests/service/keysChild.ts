/** A process that makes or reads the keys of a folder each time it is told to, as processes that start together do. */
import { createInterface } from 'node:readline'
import { keysIn } from '#runtime/keys'

createInterface({ input: process.stdin }).on('line', (folder) => {
  try {
    process.stdout.write(`${keysIn(folder).signing.toString('hex')}\n`)
  }
  catch (error) {
    process.stdout.write(`${(error as Error).message}\n`)
  }
})
process.stdout.write('ready\n')
