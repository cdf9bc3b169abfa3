/**
 * A mail server that accepts every email and keeps none (RFC 5321). It only looks for the end of each email, because it runs on the
 * processors that are measured.
 */
import { createServer, type Socket } from 'node:net'

const END = Buffer.from('\r\n.\r\n')
const NOTHING = Buffer.alloc(0)

/** Listens on a free port of this machine and returns it. */
export function listenForMail(): Promise<number> {
  const server = createServer(talk)
  return new Promise(resolve => server.listen(0, '127.0.0.1', () => resolve((server.address() as { port: number }).port)))
}

function talk(socket: Socket): void {
  let inData = false
  /** An unfinished command, or the last bytes of an email, in which its end may have begun. */
  let rest: Buffer = NOTHING
  socket.setNoDelay(true)
  socket.on('error', () => socket.destroy())
  socket.on('data', (chunk) => {
    rest = rest.length > 0 ? Buffer.concat([rest, chunk]) : chunk
    for (;;) {
      const end = inData ? rest.indexOf(END) : rest.indexOf('\n')
      if (end < 0) break
      const command = inData ? '.' : rest.toString('latin1', 0, end).trim().toUpperCase()
      rest = rest.subarray(end + (inData ? END.length : 1))
      inData = command === 'DATA'
      socket.write(`${answerTo(command)}\r\n`)
      if (command === 'QUIT') return socket.end()
    }
    if (inData) rest = rest.subarray(-END.length + 1)
  })
  socket.write('220 sink ESMTP\r\n')
}

function answerTo(command: string): string {
  if (command === 'DATA') return '354 Go on'
  if (command.startsWith('EHLO')) return '250-sink\r\n250-PIPELINING\r\n250-8BITMIME\r\n250 SMTPUTF8'
  return command === 'QUIT' ? '221 Bye' : '250 OK'
}
