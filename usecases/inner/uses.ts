/** Everything that names a thing, over all that the owner makes, as it is in force and as it is being written. */
import { mentionsIn, type Mention } from '#core/mentions'
import { nameOfMessage } from '#core/message/content'
import type { Thing, ThingKind } from '#core/things'
import { placeOf, type NamerKind } from '#core/uses'
import type { Use } from '#core/views/marks'
import type { Database } from '#data/connection'
import { allBroadcasts } from '#data/broadcasts'
import { allCourses } from '#data/courses'
import { allEmailDrafts } from '#data/emailDrafts'
import { allParts } from '#data/emailParts'
import { countInside } from '#data/enrolments'
import { allLinks } from '#data/links'
import { mergedMarks } from '#data/markEnds'
import { allOffers } from '#data/offers'
import { allPages } from '#data/pages'
import { allRules } from '#data/rules'
import { allSegments, insideCounts } from '#data/segments'
import { isThere } from '#data/things'
import { NotNow } from '../problem'
import { sayNumber } from '#core/stats/say'

interface Namer { kind: NamerKind, id: number, name: string, inForce: boolean, mentions: Mention[] }

/** All of them, read once. */
export function readNamers(db: Database): Namer[] {
  const merged = { tag: mergedMarks(db, 'tags'), list: mergedMarks(db, 'lists') }
  // What was in force when a tag or a list was merged into another still says the old number.
  const today = ({ kind, id }: Thing): Thing => kind === 'tag' || kind === 'list' ? { kind, id: merged[kind].get(id) ?? id } : { kind, id }
  const namer = (kind: NamerKind, inForce: boolean, { id, name }: { id: number, name: string }, content: unknown): Namer => (
    { kind, id, name, inForce, mentions: mentionsIn(content).map(mention => ({ ...mention, thing: today(mention.thing) })) })
  const written = <Row extends { id: number, name: string, draft: unknown, published: unknown }>(kind: NamerKind, rows: Row[]) =>
    rows.flatMap(row => [...row.published ? [namer(kind, true, row, row.published)] : [], namer(kind, false, row, row.draft)])
  return [
    ...written('page', allPages(db)),
    ...written('offer', allOffers(db)),
    ...written('course', allCourses(db).map(course => ({
      ...course, published: course.published && { ...course.published, listId: course.listId },
    }))),
    ...allSegments(db).map(segment => namer('segment', true, segment, { condition: segment.condition })),
    ...allRules(db).map(rule => namer('rule', rule.on, { id: rule.id, name: `house rule ${rule.id}` }, {
      when: rule.when, who: rule.who, then: rule.then,
    })),
    ...allParts(db).map(part => namer('part', true, part, { content: part.body })),
    ...allEmailDrafts(db).map(({ id, content }) => 
      namer('emailDraft', false, { id, name: nameOfMessage(content) || 'without a title' }, { content })),
    // What was sent does nothing any more.
    ...allBroadcasts(db).filter(({ state }) => state !== 'sent' && state !== 'stopped').flatMap(({ id, name, draft, scheduled }) => [
      ...scheduled ? [namer('broadcast', true, { id, name }, scheduled)] : [], namer('broadcast', false, { id, name }, draft),
    ]),
    ...allLinks(db).map(link => namer('link', true, link, { does: link.does })),
  ]
}

/** Each place once, in force if any of its wordings is. */
export function usesIn(namers: readonly Namer[], thing: Thing): Use[] {
  const uses = new Map<string, Use>()
  for (const { kind, id, name, inForce, mentions } of namers) {
    for (const mention of mentions) {
      if (mention.thing.kind !== thing.kind || mention.thing.id !== thing.id) continue
      const place = placeOf(kind, mention)
      const key = `${kind} ${id} ${place.how}`
      uses.set(key, { kind, id, name, ...place, inForce: inForce || uses.get(key)?.inForce === true })
    }
  }
  return [...uses.values()]
}

export const usesOf = (db: Database, thing: Thing): Use[] => usesIn(readNamers(db), thing)

/** What would do something else than it says without the thing: it is told first what to take instead. */
export const blockedBy = (uses: readonly Use[]): Use[] => uses.filter(({ kind, needs }) => needs && kind !== 'rule')

/** Throws NotNow where something could not do without the thing, with how many people that is about. */
export function refuseIfNeeded(db: Database, thing: Thing): void {
  const blocks = blockedBy(usesOf(db, thing))
  if (blocks.length === 0) return
  const told = blocks.map((use) => {
    const people = peopleIn(db, use)
    const inside = people ? ` (${sayNumber(people)} inside)` : ''
    return `the ${use.kind} “${use.name}”${use.inForce ? inside : ' (as it is being written)'}`
  })
  const need = told.length === 1 ? 'needs' : 'need'
  throw new NotNow(`It cannot go while ${told.join(' and ')} ${need} it. Replace it first, or remove it there.`)
}

/** How many people are in what names it now; null where nobody is in such a thing. */
export function peopleIn(db: Database, { kind, id }: Pick<Use, 'kind' | 'id'>): number | null {
  if (kind === 'course') return countInside(db, id)
  return kind === 'segment' ? insideCounts(db).get(id) ?? 0 : null
}

/** What names something that is gone, each with what it names. */
export function namersOfGone(db: Database): { namer: Omit<Namer, 'mentions'>, gone: ThingKind[], needs: boolean }[] {
  const there = new Map<string, boolean>()
  const isGone = ({ kind, id }: Thing): boolean => {
    const key = `${kind} ${id}`
    if (!there.has(key)) there.set(key, isThere(db, kind, id))
    return !there.get(key)
  }
  return readNamers(db).flatMap(({ mentions, ...namer }) => {
    const gone = mentions.filter(({ thing }) => isGone(thing))
    if (gone.length === 0) return []
    return [{
      namer, gone: [...new Set(gone.map(({ thing }) => thing.kind))], needs: gone.some(mention => placeOf(namer.kind, mention).needs),
    }]
  })
}
