/** The subjects of emails that were sent, and how many people opened them. */
import { traitsOf } from '#core/message/subjects'
import { readLine } from '#core/message/content'
import { kindOf } from '#core/sending/kinds'
import type { Condition } from '#core/audience/condition'
import type { PastSubjectLine } from '#core/views/email'
import { readTogether } from '#data/connection'
import { sentSubjects } from '#data/subjects'
import type { WorkspaceContext } from '../context'

const leaf = (fate: 'sent' | 'opened', which: { kind: PastSubjectLine['kind'], ownerId: number, itemId: string }): Condition =>
  ({ kind: 'all', of: [{ kind: 'email', fate, which, within: null, times: 1, url: null }] })

/** The newest first. Where the subject changed on the way, or differs from reader to reader, nobody can say which of them did it. */
export const pastSubjects = ({ db }: WorkspaceContext): PastSubjectLine[] => readTogether(db, () =>
  sentSubjects(db).map(({ kind, ownerId, itemId, subject, sent, opened, lastAt }) => ({
    kind, word: kindOf(kind).word, subject: readLine(subject).trim(), traits: traitsOf(subject), sent, opened, lastAt,
    whereSent: leaf('sent', { kind, ownerId, itemId }), whereOpened: leaf('opened', { kind, ownerId, itemId }),
  })))
