/** What runs in the thread that speaks SMTP: the connections to each mail server. */
import type { HandOver, Mail } from '#core/ports'
import { createSmtpCarrier } from './smtp'

/** One email, and how its server is to be spoken to now. */
export interface Handing {
  url: string
  name: string | undefined
  width: number
  messages: number
  mail: Pick<Mail, 'from' | 'to'>
  source: Uint8Array
}

/** `takesUtf8`: what the server said of itself last; null before it was reached. */
export interface Handed { answer: HandOver, takesUtf8: boolean | null }

interface Spoken { now: Handing, takesUtf8: boolean | null, carrier: ReturnType<typeof createSmtpCarrier> }
const servers = new Map<string, Spoken>()

function serverOf(now: Handing): Spoken {
  const known = servers.get(now.url)
  if (known) return Object.assign(known, { now })
  const server: Spoken = {
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

/** It has begun. */
export const ready = (): void => undefined

export async function handOver(handing: Handing): Promise<Handed> {
  const server = serverOf(handing)
  const answer = await server.carrier.handOver(handing.mail, handing.source)
  return { answer, takesUtf8: server.takesUtf8 }
}

export async function close(url: string): Promise<void> {
  await servers.get(url)?.carrier.close()
  servers.delete(url)
}
