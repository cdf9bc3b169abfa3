/** Tracked links: the library with its numbers, and one with what came of it. */
import { sayAction } from '#core/rules/say'
import { DAY, localOf } from '#core/time/zone'
import type { LinkLine, LinkPlaceLine, LinkView } from '#core/views/links'
import type { Database } from '#data/connection'
import { readTogether } from '#data/connection'
import {
  allLinks, clicksOfLink, didNext, emailsWith, findLink, isInLibrary, linkCounts, linkPlaces, usesThatDo, type LinkPlace,
} from '#data/links'
import { workspaceOf } from '#data/workspace'
import { allRules } from '#data/rules'
import type { WorkspaceContext } from '../context'
import { sendNamer } from '../inner/sendNames'
import { ruleNamesOf } from '../inner/names'
import { NotThere } from '../problem'
import { nameOf } from '../inner/names'

const NOBODY = { people: 0, clicks: 0, machines: 0, lastAt: null }
/** So many of the last followers are shown. */
const LAST = 30

export function linkLines({ db }: WorkspaceContext): LinkLine[] {
  return readTogether(db, () => {
    const [counts, emails, uses, names] = [linkCounts(db), emailsWith(db), usesThatDo(db), ruleNamesOf(db)]
    const waking = allRules(db).filter(({ on, when }) => on && when.kind === 'clicked')
    return allLinks(db).map(({ id, name, url, does, asks, trouble }) => ({
      id, name, url, asks, trouble, does: does.map(action => sayAction(action, names)),
      doesThere: (uses.get(id) ?? []).map(action => sayAction(action, names)),
      rules: waking.filter(({ when }) => when.thingId === id).length, emails: emails.get(id) ?? 0, ...NOBODY, ...counts.get(id),
    }))
  })
}

/** `days`: how long after following what they did next counts. */
export function linkView(context: WorkspaceContext, { id, days }: { id: number, days: number }): LinkView {
  const { db } = context
  return readTogether(db, () => {
    const link = findLink(db, id)
    if (!link || !isInLibrary(db, id)) throw new NotThere('This link no longer exists.')
    const { name, url, note, does, asks, checkedAt, trouble, troubleSinceAt } = link
    const clicks = clicksOfLink(db, id)
    const times = new Map<number, { at: number, times: number }>()
    for (const { personId, at } of clicks) times.set(personId, { at, times: (times.get(personId)?.times ?? 0) + 1 })
    const { zone } = workspaceOf(db)
    const hours = Array.from({ length: 24 }, () => 0)
    for (const { at } of clicks) hours[Number(localOf(at, zone).time.slice(0, 2))]! += 1
    const again = [...times.values()].filter(one => one.times > 1).length
    return {
      id, name, url, note, does, asks, checkedAt, trouble, troubleSinceAt, hours, places: placesOf(db, linkPlaces(db, id)),
      people: times.size, clicks: clicks.length, machines: linkCounts(db).get(id)?.machines ?? 0, once: times.size - again, again,
      next: { days, ...didNext(db, id, days * DAY) },
      followers: [...times].sort(([, a], [, b]) => b.at - a.at).slice(0, LAST)
        .map(([personId, one]) => ({ ...nameOf(db, personId), ...one })),
    }
  })
}

function placesOf(db: Database, places: LinkPlace[]): LinkPlaceLine[] {
  const named = sendNamer(db)
  return places.map((place) => {
    const { of, to } = named(place)
    return {
      thing: of, to, email: place.emailTitle || 'an email without a title', place: place.n + 1, label: place.label,
      sent: place.sent, people: place.people, clicks: place.clicks,
    }
  })
}
