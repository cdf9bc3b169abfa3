/** How live mail is handed over, and when refusals are taken for a wave. */
import type { SendingSettings } from '#core/views/settings'
import { learnTakesUtf8, sendingPace, setSendingPace, setWaveRule, waveRule } from '#data/carrier'
import type { WorkspaceContext } from '../context'
import { transact } from '../inner/reactor/transaction'
import { InputProblem } from '../problem'

export const sendingSettingsOf = ({ db }: WorkspaceContext): SendingSettings => ({ ...sendingPace(db), ...waveRule(db) })

/** Counts from the next email on. */
export function saveSendingSettings(context: WorkspaceContext, { connections, messages, aMinute, ...rule }: SendingSettings): void {
  if (rule.refusedOfDomain > rule.lastOfDomain) {
    throw new InputProblem([{ field: 'refusedOfDomain', problem: 'Refusals cannot be more than the emails counted.' }])
  }
  transact(context, () => {
    setSendingPace(context.db, { connections, messages, aMinute })
    setWaveRule(context.db, rule)
  })
  context.wake()
}

/** What the mail server says of itself: whether it takes letters beyond ASCII before the @. */
export const learnLetters = ({ db }: WorkspaceContext, takes: boolean): void => learnTakesUtf8(db, takes)
