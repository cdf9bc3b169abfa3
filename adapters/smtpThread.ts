/** The code of the SMTP thread: it holds the connections to each mail server. */
import type { HandOver, Mail } from '#core/ports'
import { createSmtpCarrier } from './smtp'

/** One email, and the current settings for its mail server. */
export interface SmtpJob {
  url: string
  name: string | undefined
  width: number
  messages: number
  mail: Pick<Mail, 'from' | 'to'>
  source: Uint8Array
}

/** `takesUtf8`: what the server last announced; null before the first connection. */
export interface SmtpResult { answer: HandOver, takesUtf8: boolean | null }

interface MailServer { now: SmtpJob, takesUtf8: boolean | null, carrier: ReturnType<typeof createSmtpCarrier> }
const servers = new Map<string, MailServer>()

function serverOf(now: SmtpJob): MailServer {
  const known = servers.get(now.url)
  if (known) return Object.assign(known, { now })
  const server: MailServer = {
    now, takesUtf8: null, carrier: createSmtpCarrier({
      url: now.url, name: now.name, width: () => server.now.width, messages: () => server.now.messages,
      onUtf8: (takes) => {
        server.takesUtf8 = takes
      },
    }),
  }
  servers.set(now.url, server)
  return server
}

/** Answered once the thread has started. */
export const ready = (): void => undefined

export async function handOver(job: SmtpJob): Promise<SmtpResult> {
  const server = serverOf(job)
  const answer = await server.carrier.handOver(job.mail, job.source)
  return { answer, takesUtf8: server.takesUtf8 }
}

export async function close(url: string): Promise<void> {
  await servers.get(url)?.carrier.close()
  servers.delete(url)
}
