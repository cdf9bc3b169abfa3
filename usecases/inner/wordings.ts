/** Emails as they were worded, each made once: slowly, before the transaction that stores it. */
import { createHash } from 'node:crypto'
import { compileMessage } from '#core/message/compile'
import { kindOf } from '#core/sending/kinds'
import { linksOf, type MessageContent } from '#core/message/content'
import type { CompiledMessage, Composer } from '#core/ports'
import type { Instant } from '#core/time/zone'
import type { Database } from '#data/connection'
import { findMessageId, insertMessage, type MessageOf } from '#data/messages'

export interface Wording { of: MessageOf, content: MessageContent }

/** The same words make the same email. */
function digestOf({ of, content }: Wording): string {
  const { because } = kindOf(of.kind)
  const said = because === 'list' ? content : { content, because }
  return createHash('sha256').update(JSON.stringify(said)).digest('hex').slice(0, 32)
}

export type Made = Map<Wording, CompiledMessage>

/** Makes those that are not stored yet. Throws if one cannot be made. */
export async function makeWordings(db: Database, composer: Composer, wordings: readonly Wording[]): Promise<Made> {
  const made: Made = new Map()
  for (const wording of wordings) {
    if (findMessageId(db, wording.of, digestOf(wording)) === undefined) {
      made.set(wording, await composer.compile(compileMessage(wording.content, kindOf(wording.of.kind))))
    }
  }
  return made
}

/** The number of a wording, in the caller's transaction: stored now, if it was not. */
export function keepWording(db: Database, wording: Wording, made: Made, at: Instant): number {
  const digest = digestOf(wording)
  return findMessageId(db, wording.of, digest) ?? insertMessage(db, {
    ...wording.of, digest, content: wording.content, compiled: made.get(wording)!, links: linksOf(wording.content.body), at,
  })
}
