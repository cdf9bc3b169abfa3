/** How many people chose each answer of a question in an email. */
import type { Condition } from '#core/audience/condition'
import { toSql } from '#core/audience/sql'
import { CHOICE_URL } from '#core/message/blocks/choice'
import type { SendOf } from '#core/sending/kinds'
import type { AnswersView } from '#core/views/email'
import { readTogether } from '#data/connection'
import { countWhere } from '#data/people'
import type { WorkspaceContext } from '../context'
import { momentOf } from '../inner/moment'

export interface AnswersAsked { of: SendOf, labels: string[] }

/** By the words of the answers as they are now: an answer that was worded otherwise is another one. */
export function answersView({ db, clock }: WorkspaceContext, { of, labels }: AnswersAsked): AnswersView {
  return readTogether(db, () => {
    const moment = momentOf(db, clock.now())
    const count = (who: Condition) => countWhere(db, { search: '', where: toSql(who, moment) })
    const leaf = (fate: 'sent' | 'clicked', url: string | null): Condition =>
      ({ kind: 'email', fate, which: of, within: null, times: 1, url })
    return {
      sent: count(leaf('sent', null)),
      answers: labels.map((label) => {
        const where: Condition = { kind: 'all', of: [leaf('clicked', `${CHOICE_URL}${label}`)] }
        return { label, people: count(where), where }
      }),
    }
  })
}
