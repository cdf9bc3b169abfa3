/** How live mail is handed over, and when refusals are taken for a wave. */
import type { WaveRule } from '#core/outbox/wave'
import { learnTakesUtf8, sendingPace, setSendingPace, setWaveRule, waveRule, type SendingPace } from '#data/carrier'
import type { House } from '../house'
import { write } from '../inner/transaction'
import { InputProblem } from '../problem'

export interface SendingSettings extends SendingPace, WaveRule {}

export const sendingSettingsOf = ({ db }: House): SendingSettings => ({ ...sendingPace(db), ...waveRule(db) })

/** Counts from the next email on. */
export function saveSendingSettings(house: House, { connections, messages, aMinute, ...rule }: SendingSettings): void {
  if (rule.refusedOfDomain > rule.lastOfDomain) throw new InputProblem([{ field: 'refusedOfDomain', problem: 'No more can be refused than were sent.' }])
  write(house, () => {
    setSendingPace(house.db, { connections, messages, aMinute })
    setWaveRule(house.db, rule)
  })
  house.wake()
}

/** What the mail server says of itself: whether it takes letters beyond ASCII before the @. */
export const learnLetters = ({ db }: House, takes: boolean): void => learnTakesUtf8(db, takes)
