/** A real SMTP server on loopback that answers as it is told to. */
import type { AddressInfo } from 'node:net'
import { SMTPServer, type SMTPServerOptions } from 'smtp-server'

export interface Delivered { from: string, to: string[], source: Buffer }

export interface Manner {
  /** What to say to MAIL, RCPT or AUTH; nothing said means yes. */
  mail?: () => string | undefined
  recipient?: (address: string) => string | undefined
  signIn?: (user: string, password: string) => boolean
  /** Says nothing any more after DATA has been taken, or hangs up there. */
  afterData?: () => 'accept' | 'hang up' | 'say nothing' | string
  /** Takes the email, and says so only then. */
  answersAfter?: () => Promise<void>
}

export class TestServer {
  readonly delivered: Delivered[] = []
  manner: Manner
  readonly #server: SMTPServer

  constructor(manner: Manner, options: SMTPServerOptions = {}) {
    this.manner = manner
    const answer = (words: string) => Object.assign(new Error(words.slice(4)), { responseCode: Number(words.slice(0, 3)) })
    this.#server = new SMTPServer({
      authOptional: true, disabledCommands: ['STARTTLS'], closeTimeout: 100, ...options,
      onAuth: (auth, _session, done) => this.manner.signIn?.(auth.username ?? '', auth.password ?? '') === false
        ? done(answer('535 5.7.8 Wrong name or password'))
        : done(null, { user: auth.username }),
      onMailFrom: (_address, _session, done) => {
        const words = this.manner.mail?.()
        done(words ? answer(words) : null)
      },
      onRcptTo: ({ address }, _session, done) => {
        const words = this.manner.recipient?.(address)
        done(words ? answer(words) : null)
      },
      onData: (stream, session, done) => {
        const chunks: Buffer[] = []
        stream.on('data', chunk => chunks.push(chunk))
        stream.on('end', () => {
          const what = this.manner.afterData?.() ?? 'accept'
          const { envelope } = session
          if (what !== 'say nothing' && /^[45]\d\d/.test(what)) return done(answer(what))
          this.delivered.push({
            from: envelope.mailFrom ? envelope.mailFrom.address : '', to: envelope.rcptTo.map(recipient => recipient.address),
            source: Buffer.concat(chunks),
          })
          if (what === 'accept') void (this.manner.answersAfter?.() ?? Promise.resolve()).then(() => done())
          else if (what === 'hang up') this.hangUp()
        })
      },
    })
    this.#server.on('error', () => undefined) // broken lines are part of these tests
  }

  hangUp(): void {
    for (const connection of (this.#server as unknown as { connections: Set<{ _socket: { destroy(): void } }> }).connections) {
      connection._socket.destroy()
    }
  }

  async listen(): Promise<string> {
    await new Promise<void>(resolve => this.#server.listen(0, '127.0.0.1', resolve))
    return `smtp://127.0.0.1:${(this.#server.server.address() as AddressInfo).port}`
  }

  async close(): Promise<void> {
    this.hangUp()
    await new Promise<void>(resolve => this.#server.close(() => resolve()))
  }
}
