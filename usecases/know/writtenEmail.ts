/** What an email names is there: fields of its placeholders, and whatever its versions ask for. */
import { allBlocks, choicesOf } from '#core/message/blocks'
import type { MessageContent } from '#core/message/content'
import { mentionsIn } from '#core/mentions'
import { THING_WORDS } from '#core/things'
import type { Database } from '#data/connection'
import { findFile } from '#data/files'
import { isThere } from '#data/things'
import { checkCondition } from './segments'

/** Null if all is well; else in words. */
export function problemInEmail(db: Database, content: Pick<MessageContent, 'body' | 'subjectFor' | 'attached'>): string | null {
  for (const { who } of choicesOf(content)) {
    for (const one of who) {
      const problem = one && checkCondition(db, one, null)
      if (problem) return problem
    }
  }
  const files = [...allBlocks(content.body).flatMap(block => block.type === 'file' ? block.attrs.fileId ?? [] : []),
    ...(content.attached ?? []).map(({ fileId }) => fileId)]
  if (files.some(id => !findFile(db, id))) return 'The email names a file that no longer exists; choose another.'
  const gone = mentionsIn(content).find(({ thing: { kind, id } }) => (kind === 'field' || kind === 'part') && !isThere(db, kind, id))
  return gone ? `The email names ${THING_WORDS[gone.thing.kind]} that no longer exists; choose another.` : null
}
