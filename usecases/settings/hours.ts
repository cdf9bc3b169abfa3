/** When emails may leave. */
import { both, isWeekHours, type WeekHours } from '#core/time/hours'
import { allCourses } from '#data/courses'
import { appendEvent } from '#data/events'
import { sendingHours, setSendingHours } from '#data/workspace'
import type { House } from '../house'
import { replanEverybody } from '../inner/replanning'
import { write } from '../inner/transaction'
import { InputProblem } from '../problem'

export const sendingHoursOf = ({ db }: House): { hours: WeekHours } => ({ hours: sendingHours(db) })

/** Unsent steps are planned anew. Hours in which a running course could never send are refused, with its name. */
export function saveSendingHours(house: House, hours: WeekHours): void {
  const { db } = house
  write(house, () => {
    if (!isWeekHours(hours)) throw new InputProblem([{ field: 'hours', problem: 'Leave one half-hour of the week open at least: otherwise nothing would ever go.' }])
    const shut = allCourses(db).find(({ published }) => published?.hours && !both(published.hours, hours).includes('1'))
    if (shut) throw new InputProblem([{ field: 'hours', problem: `${shut.name} sends only in hours of its own, and none of them would be open. Change its hours first.` }])
    if (hours === sendingHours(db)) return
    setSendingHours(db, hours)
    const at = house.clock.now()
    const causeId = appendEvent(db, 'hours-changed', at)
    replanEverybody(db, 'hours', at, causeId)
  })
  house.wake()
}
