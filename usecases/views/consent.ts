/** Where consent must be on record, and whom that holds back. */
import type { ConsentView } from '#core/views/audience'
import { countConsents } from '#data/consents'
import { readTogether } from '#data/connection'
import { consentRule } from '#data/workspace'
import type { WorkspaceContext } from '../context'

export function consentView({ db }: WorkspaceContext): ConsentView {
  return readTogether(db, () => {
    const rule = consentRule(db)
    return { ...rule, ...countConsents(db, rule.countries) }
  })
}
