/** Whether the destinations of links still answer. */
import { DAY, HOUR, type Instant } from '#core/time/zone'
import { immediate } from '#data/connection'
import { linksToCheck, postponeLinkCheck, saveLinkCheck, type LinkRow } from '#data/links'
import type { EngineContext } from '../context'

const AT_A_TIME = 10
/** How soon it is looked again: a day, and sooner while something is wrong. */
const NEXT = { fine: DAY, trouble: 6 * HOUR }
/** Whoever was asked and has not answered when the engine dies is asked again after this. */
const PUT_OFF = HOUR

/** Looks at some that are due, and waits for their answers. */
export async function checkLinks(context: EngineContext, at: Instant): Promise<void> {
  const { db } = context
  const due = immediate(db, () => {
    const links = linksToCheck(db, at, AT_A_TIME)
    postponeLinkCheck(db, links.map(({ id }) => id), at + PUT_OFF)
    return links
  })
  await Promise.all(due.map(link => checkOne(context, link)))
}

async function checkOne({ db, linkChecker, clock }: EngineContext, { id, url }: LinkRow): Promise<void> {
  const trouble = await linkChecker.check(url)
  const at = clock.now()
  // Meanwhile it may lead somewhere else.
  immediate(db, () => saveLinkCheck(db, id, url, { at, trouble, nextAt: at + (trouble === null ? NEXT.fine : NEXT.trouble) }))
}
