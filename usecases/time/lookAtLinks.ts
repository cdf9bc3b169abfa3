/** Whether the destinations of links still answer. */
import { DAY, HOUR, type Instant } from '#core/time/zone'
import { write } from '#data/connection'
import { linksToLookAt, putOffLook, setLooked, type LinkRow } from '#data/links'
import type { EngineHouse } from '../house'

const AT_A_TIME = 10
/** How soon it is looked again: a day, and sooner while something is wrong. */
const NEXT = { fine: DAY, trouble: 6 * HOUR }
/** Whoever was asked and has not answered when the engine dies is asked again after this. */
const PUT_OFF = HOUR

/** Looks at some that are due, and waits for their answers. */
export async function lookAtLinks(house: EngineHouse, at: Instant): Promise<void> {
  const { db } = house
  const due = write(db, () => {
    const links = linksToLookAt(db, at, AT_A_TIME)
    putOffLook(db, links.map(({ id }) => id), at + PUT_OFF)
    return links
  })
  await Promise.all(due.map(link => lookAtOne(house, link)))
}

async function lookAtOne({ db, looker, clock }: EngineHouse, { id, url }: LinkRow): Promise<void> {
  const trouble = await looker.look(url)
  const at = clock.now()
  // Meanwhile it may lead somewhere else.
  write(db, () => setLooked(db, id, url, { at, trouble, nextAt: at + (trouble === null ? NEXT.fine : NEXT.trouble) }))
}
