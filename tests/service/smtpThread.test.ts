/** SMTP in a thread: sending, answers, and a thread that fails. */
import type { AddressInfo } from 'node:net'
import { join } from 'node:path'
import { SMTPServer } from 'smtp-server'
import { afterAll, beforeAll, expect, it } from 'vitest'
import { SmtpThread } from '#adapters/smtpInThread'
import type { Mail } from '#core/ports'
import { bundle } from '../../tools/bundle.mjs'

const outdir = join(import.meta.dirname, '../../node_modules/.cache', `smtp-${process.pid}`)
const arrived: string[] = []
const server = new SMTPServer({
  authOptional: true, disabledCommands: ['STARTTLS'],
  onRcptTo: ({ address }, _, done) => address.startsWith('full')
    ? done(Object.assign(new Error('4.2.2 Mailbox full'), { responseCode: 452 }))
    : done(),
  onData(stream, _, done) {
    const chunks: Buffer[] = []
    stream.on('data', chunk => chunks.push(chunk))
    stream.on('end', () => {
      arrived.push(Buffer.concat(chunks).toString())
      done()
    })
  },
})
let port = 0
beforeAll(async () => {
  await bundle({ root: join(import.meta.dirname, '../..'), outdir, entryPoints: { smtp: 'adapters/smtpThread.ts' } })
  await new Promise<void>(resolve => server.listen(0, '127.0.0.1', resolve))
  port = (server.server.address() as AddressInfo).port
})
afterAll(() => new Promise<void>(resolve => server.close(resolve)))

const to = (address: string) => ({ from: { name: '', address: 'ines@example.com' }, to: { name: '', address } }) as Mail
const options = (more: object = {}) => ({
  url: `smtp://127.0.0.1:${port}`, name: 'porch.example.com', width: () => 3, messages: () => 100, ...more,
})

it('sends emails of any size unchanged, reports refusals and what the server supports', async () => {
  const thread = new SmtpThread(join(outdir, 'smtp.mjs'))
  const takes: boolean[] = []
  const carrier = thread.carrier(options({ onUtf8: (takesUtf8: boolean) => takes.push(takesUtf8) }))
  const long = `Subject: long\r\n\r\n${'.a line of it\r\n'.repeat(5000)}`
  // Short emails share their memory with other data, so it must not be transferred.
  const [short, neighbour] = [Buffer.from('Subject: short\r\n\r\nA\r\n'), Buffer.from('untouched')]
  const answers = await Promise.all([
    carrier.handOver(to('a@example.org'), new TextEncoder().encode(long)), carrier.handOver(to('b@example.org'), short),
    carrier.handOver(to('full@example.org'), Buffer.from('Subject: x\r\n\r\n')),
  ])
  expect(answers).toMatchObject([{ kind: 'accepted' }, { kind: 'accepted' }, {
    kind: 'refused', answer: { stage: 'recipient', code: 452, text: '452 4.2.2 Mailbox full' },
  }])
  expect([arrived.toSorted((a, b) => b.length - a.length)[0], arrived.length, neighbour.toString()]).toEqual([long, 2, 'untouched'])
  expect(takes).toHaveLength(1)
  await carrier.close()
  await thread.close()
})

it('counts as a mail server that cannot be reached if its thread cannot start', async () => {
  const thread = new SmtpThread(join(outdir, 'nothing.mjs'))
  expect(await thread.carrier(options()).handOver(to('a@example.org'), Buffer.from(''))).toMatchObject({
    kind: 'refused', answer: { stage: 'connect', code: null, text: expect.stringContaining('The thread that sends could not be started') },
  })
  await thread.close()
})

it('throws for an email if its thread dies, and sends the next one from a new thread', async () => {
  const thread = new SmtpThread(join(import.meta.dirname, 'dyingThread.mjs'))
  const carrier = thread.carrier(options())
  await expect(carrier.handOver(to('dies@example.org'), Buffer.from(''))).rejects.toThrow()
  expect(await carrier.handOver(to('a@example.org'), Buffer.from(''))).toEqual({ kind: 'accepted' })
  await carrier.close()
  await thread.close()
})
