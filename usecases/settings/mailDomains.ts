/** What the domains of senders publish: asked of the name servers, by the owner and every day, and the keys that sign in their names. */
import {
  dkimRecord, dmarcRecord, isSpf, readDmarc, registeredDomain, type DmarcPolicy, type MailDomain, type Published,
} from '#core/senders/mailDomain'
import { DAY, HOUR, type Instant } from '#core/time/zone'
import { immediate, type Database } from '#data/connection'
import { appendEvent } from '#data/events'
import { domainsToCheck, findMailDomain, noteMailDomain, savePublished, setCheckDue, setDomainKey, setPracticeDns } from '#data/senders'
import type { WorkspaceContext } from '../context'
import { transact } from '../inner/reactor/transaction'

const AT_A_TIME = 5
/** How soon it is looked again, and sooner where nobody answered. */
const NEXT = { fine: DAY, trouble: 2 * HOUR }
/** Whoever was asked and has not answered when the engine dies is asked again after this. */
const PUT_OFF = HOUR

/** Tells this installation's key from those that other services have at the same domain. */
const SELECTOR = 'porch'

/** In practice it is looked at when somebody asks. */
export function watchMailDomain({ db, mode, clock }: Pick<WorkspaceContext, 'db' | 'mode' | 'clock'>, domain: string): void {
  noteMailDomain(db, domain, clock.now())
  if (mode === 'practice') setCheckDue(db, [domain], null)
}

/** Looks at those that are due, and waits for the answers. */
export async function checkDueDomains(context: WorkspaceContext, at: Instant): Promise<void> {
  const { db } = context
  const due = immediate(db, () => {
    const domains = domainsToCheck(db, at, AT_A_TIME)
    setCheckDue(db, domains.map(({ domain }) => domain), at + PUT_OFF)
    return domains
  })
  await Promise.all(due.map(domain => ask(context, domain)))
}

/** As the name servers answer now. */
export async function checkMailDomain(context: WorkspaceContext, name: string): Promise<MailDomain> {
  const domain = name.toLowerCase()
  transact(context, () => watchMailDomain(context, domain))
  await ask(context, findMailDomain(context.db, domain))
  return findMailDomain(context.db, domain)
}

async function ask({ db, resolver, clock, mode }: WorkspaceContext, { domain, key }: MailDomain): Promise<void> {
  const above = registeredDomain(domain)
  const [dkim, dmarc, dmarcAbove, spf] = await Promise.all([
    key ? resolver.texts(dkimRecord({ domain, key }).name) : { ok: true, texts: [] } as const,
    resolver.texts(`_dmarc.${domain}`), above === domain ? { ok: true, texts: [] } as const : resolver.texts(`_dmarc.${above}`),
    resolver.texts(domain),
  ])
  const at = clock.now()
  const trouble = [dkim, dmarc, dmarcAbove, spf].flatMap(answer => answer.ok ? [] : [answer.problem])[0] ?? null
  const published: Published | null = !dkim.ok || !dmarc.ok || !dmarcAbove.ok || !spf.ok ? null : {
    dkim: dkim.texts[0] ?? null, spf: spf.texts.find(isSpf) ?? null,
    dmarc: policyIn(dmarc.texts, domain, false) ?? policyIn(dmarcAbove.texts, above, true),
  }
  const nextAt = at + (trouble === null ? NEXT.fine : NEXT.trouble)
  immediate(db, () => {
    savePublished(db, domain, { published, trouble, at, nextAt })
    if (mode === 'practice') setCheckDue(db, [domain], null)
  })
}

/** Several records are as good as none. RFC 7489 section 6.6.3. */
function policyIn(texts: readonly string[], at: string, asSubdomain: boolean): Published['dmarc'] {
  const policies = texts.map(text => readDmarc(text, asSubdomain)).filter(policy => policy !== null)
  return policies.length === 1 ? { policy: policies[0]!, at } : null
}

/** One a domain, made once: another would leave what is published of no use. */
export async function makeMailKey(context: WorkspaceContext, name: string): Promise<MailDomain> {
  const { db, emailSigner } = context
  const domain = name.toLowerCase()
  if (findMailDomain(db, domain).key === null) {
    const key = await emailSigner.makeKey()
    // A key that does not sign is found out here, not by receivers.
    await emailSigner.sign(
      Buffer.from(`From: test@${domain}\r\n\r\nA test.\r\n`), { domain, selector: SELECTOR, privateKey: key.privateKey }
    )
    transact(context, () => {
      watchMailDomain(context, domain)
      if (findMailDomain(db, domain).key !== null) return
      setDomainKey(db, domain, { selector: SELECTOR, ...key })
      appendEvent(db, 'mail-key-made', context.clock.now(), { detail: domain })
    })
  }
  return checkMailDomain(context, domain)
}

/** What the name servers of practice answer from now on. */
export interface PracticeRecords { dkim: boolean, dmarc: DmarcPolicy | null, spf: boolean }

export async function tellPracticeDns(context: WorkspaceContext, name: string, records: PracticeRecords): Promise<MailDomain> {
  const { db } = context
  const domain = name.toLowerCase()
  transact(context, () => setRecords(db, findMailDomain(db, domain), records))
  return checkMailDomain(context, domain)
}

function setRecords(db: Database, { domain, key }: MailDomain, { dkim, dmarc, spf }: PracticeRecords): void {
  if (key) {
    const record = dkimRecord({ domain, key })
    setPracticeDns(db, record.name, dkim ? record.value : null)
  }
  setPracticeDns(db, dmarcRecord(domain).name, dmarc && `v=DMARC1; p=${dmarc}`)
  setPracticeDns(db, domain, spf ? 'v=spf1 include:_spf.example.com ~all' : null)
}
