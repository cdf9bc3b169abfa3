/**
 * Pages, offers, courses, broadcasts, house rules, links and segments as programs see and change them: each as a file that names what it is
 * about.
 */
import { isDeepStrictEqual } from 'node:util'
import type { Condition } from '#core/audience/condition'
import type { BroadcastDraft } from '#core/broadcast/draft'
import { BROADCAST_FORMAT, BROADCAST_VERSION, withoutMissing } from '#core/exchange/broadcast'
import { COURSE_FORMAT, COURSE_VERSION } from '#core/exchange/course'
import { inlineParts } from '#core/message/complete'
import { withNames, type PortableNames } from '#core/exchange/portable'
import { mapIds } from '#core/mentions'
import type { OfferContent } from '#core/offers/offer'
import type { PageContent } from '#core/page/content'
import { nameOfRule } from '#core/rules/say'
import type { RuleInput } from '#core/rules/rule'
import type { CourseDraft } from '#core/sequence/draft'
import type { ChangeOutlook } from '#core/views/course'
import type { LinkInput } from '#core/views/links'
import { allBroadcasts, findBroadcast, type BroadcastRow } from '#data/broadcasts'
import { findPart } from '#data/emailParts'
import { readTogether } from '#data/connection'
import { allCourses, findCourse } from '#data/courses'
import { allLinks, findLink, isInLibrary } from '#data/links'
import { allOffers, findOffer } from '#data/offers'
import { allPages, findPage } from '#data/pages'
import { allRules, findRule } from '#data/rules'
import { allSegments, findSegment } from '#data/segments'
import { createPage, publishPage, savePage } from '../arrive/pages'
import { insertDraft, revised, saveBroadcast } from '../broadcasts/save'
import type { WorkspaceContext } from '../context'
import { draftOf } from '../courses/exchange'
import { changeOutlook, publishChanges, startCourse } from '../courses/publish'
import { createCourse, saveCourse } from '../courses/save'
import { isSame } from '../inner/changes'
import { ruleNamesOf } from '../inner/names'
import { transact } from '../inner/reactor/transaction'
import { revisionOf } from '../inner/revision'
import { saveLink } from '../know/links'
import { bringNames, describer } from '../know/portableNames'
import { keepRuleForLater, saveRule } from '../know/rules'
import { saveSegment } from '../know/segments'
import { createOffer, publishOffer, saveOffer } from '../offers/save'
import { ChangedElsewhere, InputProblem, NotThere } from '../problem'

export type DefinitionKind = 'page' | 'offer' | 'course' | 'broadcast' | 'rule' | 'link' | 'segment'

/** What is kept of each as its draft, besides its name. */
export interface Drafts {
  page: { slug: string, content: PageContent }
  offer: { slug: string, content: OfferContent }
  course: CourseDraft
  broadcast: BroadcastDraft
  rule: RuleInput
  link: Omit<LinkInput, 'name'>
  segment: { note: string, condition: Condition }
}

export interface DefinitionLine {
  id: number
  name: string
  /** `draft`: nobody gets it yet; `at-work`: what was published is in force; `off`: it was stopped or switched off. */
  state: 'draft' | 'at-work' | 'off'
  /** Whether something was changed since, and is not in force. */
  changed: boolean
}

export interface Definition<Kind extends DefinitionKind = DefinitionKind> { name: string, names: PortableNames, draft: Drafts[Kind] }

/** Another version only reads what it knows. */
export const FORMATS: Record<DefinitionKind, { format: string, version: number }> = {
  page: { format: 'keen-porch page', version: 1 },
  offer: { format: 'keen-porch offer', version: 1 },
  course: { format: COURSE_FORMAT, version: COURSE_VERSION },
  broadcast: { format: BROADCAST_FORMAT, version: BROADCAST_VERSION },
  rule: { format: 'keen-porch rule', version: 1 },
  link: { format: 'keen-porch link', version: 1 },
  segment: { format: 'keen-porch segment', version: 1 },
}

interface Row<Kind extends DefinitionKind> extends DefinitionLine { draft: Drafts[Kind], revision: string }

interface Way<Kind extends DefinitionKind> {
  all(context: WorkspaceContext): Row<Kind>[]
  find(context: WorkspaceContext, id: number): Row<Kind> | undefined
  /** Within the caller's transaction. */
  make(context: WorkspaceContext, name: string, draft: Drafts[Kind]): number
  /** `seen`: the revision that was read; null for whatever it is. */
  change(context: WorkspaceContext, id: number, name: string, draft: Drafts[Kind], seen: string | null): unknown
}

type Kept<Content> = { id: number, name: string, slug: string, draft: Content, published: Content | null }

const kept = <Content>(context: WorkspaceContext, row: Kept<Content>) => ({
  id: row.id, name: row.name, state: row.published === null ? 'draft' as const : 'at-work' as const,
  changed: row.published !== null && !isSame(row), draft: { slug: row.slug, content: row.draft }, revision: revisionOf(context, row),
})

const ofPage = (context: WorkspaceContext, row: Kept<PageContent>): Row<'page'> => kept(context, row)
const ofOffer = (context: WorkspaceContext, row: Kept<OfferContent>): Row<'offer'> => kept(context, row)

function ofCourse(context: WorkspaceContext, row: NonNullable<ReturnType<typeof findCourse>>): Row<'course'> {
  const state = row.versionId === null ? 'draft' : row.stoppedAt === null ? 'at-work' : 'off'
  return {
    id: row.id, name: row.name, state, changed: row.published !== null && !isSame(row), draft: row.draft,
    revision: revisionOf(context, row),
  }
}

function ofBroadcast(context: WorkspaceContext, row: BroadcastRow): Row<'broadcast'> {
  const { id, name, draft, state, scheduled } = row
  return {
    id, name, state: state === 'draft' ? 'draft' : state === 'stopped' ? 'off' : 'at-work',
    changed: scheduled !== null && !isDeepStrictEqual(scheduled, draft), draft, revision: revisionOf(context, revised(row)),
  }
}

function ofRule(context: WorkspaceContext, { id, ...rule }: NonNullable<ReturnType<typeof findRule>>): Row<'rule'> {
  const name = nameOfRule(rule, ruleNamesOf(context.db))
  return {
    id, name, state: rule.on ? 'at-work' : 'off', changed: false, draft: rule, revision: revisionOf(context, { name: '', draft: rule }),
  }
}

function ofLink(context: WorkspaceContext, { id, name, url, note, does, asks }: NonNullable<ReturnType<typeof findLink>>): Row<'link'> {
  const draft = { url, note, does, asks }
  return { id, name, state: 'at-work', changed: false, draft, revision: revisionOf(context, { name, draft }) }
}

function ofSegment(context: WorkspaceContext, { id, name, note, condition }: NonNullable<ReturnType<typeof findSegment>>): Row<'segment'> {
  const draft = { note, condition }
  return { id, name, state: 'at-work', changed: false, draft, revision: revisionOf(context, { name, draft }) }
}

const WAYS: { [Kind in DefinitionKind]: Way<Kind> } = {
  page: {
    all: context => allPages(context.db).map(row => ofPage(context, row)),
    find: (context, id) => found(findPage(context.db, id), row => ofPage(context, row)),
    make(context, name, { slug, content }) {
      const id = createPage(context, name)
      savePage(context, id, { name, slug, draft: content })
      return id
    },
    change: (context, id, name, { slug, content }, seen) => savePage(context, id, { name, slug, draft: content }, seen),
  },
  offer: {
    all: context => allOffers(context.db).map(row => ofOffer(context, row)),
    find: (context, id) => found(findOffer(context.db, id), row => ofOffer(context, row)),
    make(context, name, { slug, content }) {
      const id = createOffer(context, name)
      saveOffer(context, id, { name, slug, draft: content })
      return id
    },
    change: (context, id, name, { slug, content }, seen) => saveOffer(context, id, { name, slug, draft: content }, seen),
  },
  course: {
    all: context => allCourses(context.db).map(row => ofCourse(context, row)),
    find: (context, id) => found(findCourse(context.db, id), row => ofCourse(context, row)),
    make(context, name, draft) {
      const id = createCourse(context, name, 'first')
      saveCourse(context, id, name, draft)
      return id
    },
    change: (context, id, name, draft, seen) => saveCourse(context, id, name, draft, seen),
  },
  broadcast: {
    all: context => allBroadcasts(context.db).map(row => ofBroadcast(context, row)),
    find: (context, id) => found(findBroadcast(context.db, id), row => ofBroadcast(context, row)),
    make: (context, _, draft) => insertDraft(context, draft),
    change: (context, id, _, draft, seen) => saveBroadcast(context, id, draft, seen),
  },
  rule: {
    all: context => allRules(context.db).map(row => ofRule(context, row)),
    find: (context, id) => found(findRule(context.db, id), row => ofRule(context, row)),
    make: (context, _, draft) => keepRuleForLater(context, draft),
    async change(context, id, _, draft, seen) {
      mustBeSeen(WAYS.rule.find(context, id), seen)
      const saved = await saveRule(context, id, draft)
      if (!saved.saved) throw new InputProblem([{ field: 'draft.then', problem: saved.circle }])
    },
  },
  link: {
    all: context => allLinks(context.db).map(row => ofLink(context, row)),
    find: (context, id) => isInLibrary(context.db, id) ? found(findLink(context.db, id), row => ofLink(context, row)) : undefined,
    make: (context, name, draft) => saveLink(context, null, { name, ...draft }),
    change: (context, id, name, draft, seen) => transact(context, () => {
      mustBeSeen(WAYS.link.find(context, id), seen)
      saveLink(context, id, { name, ...draft })
    }),
  },
  segment: {
    all: context => allSegments(context.db).map(row => ofSegment(context, row)),
    find: (context, id) => found(findSegment(context.db, id), row => ofSegment(context, row)),
    make: (context, name, draft) => saveSegment(context, null, { name, ...draft }),
    change: (context, id, name, draft, seen) => transact(context, () => {
      mustBeSeen(WAYS.segment.find(context, id), seen)
      saveSegment(context, id, { name, ...draft })
    }),
  },
}

const found = <From, To>(row: From | undefined, as: (row: From) => To): To | undefined => row && as(row)

function mustBeSeen(row: { revision: string } | undefined, seen: string | null): void {
  if (!row) throw new NotThere('Nothing has this number.')
  if (seen !== null && seen !== row.revision) throw new ChangedElsewhere('This has been changed since you read it. Read it again.')
}

function rowOf<Kind extends DefinitionKind>(context: WorkspaceContext, kind: Kind, id: number): Row<Kind> {
  const row = (WAYS[kind] as Way<Kind>).find(context, id)
  if (!row) throw new NotThere(`There is no ${WORDS[kind]} with this number.`)
  return row
}

const WORDS: Record<DefinitionKind, string> = {
  page: 'page', offer: 'offer', course: 'course', broadcast: 'broadcast', rule: 'house rule', link: 'link', segment: 'segment',
}

const lineOf = ({ id, name, state, changed }: DefinitionLine): DefinitionLine => ({ id, name, state, changed })

export const definitionLines = (context: WorkspaceContext, kind: DefinitionKind): DefinitionLine[] =>
  readTogether(context.db, () => WAYS[kind].all(context).map(lineOf))

/**
 * As it is written now; `revision`: to be said with a change of it, so that nothing is overwritten that was not read. `whole`: with the
 * blocks of email parts in their place, for where the parts are not.
 */
export function definitionOut(context: WorkspaceContext, kind: DefinitionKind, id: number, { whole = false } = {}) {
  const { db } = context
  return readTogether(db, () => {
    const row = rowOf(context, kind, id)
    const plain: unknown = whole ? inlineParts(row.draft, partId => findPart(db, partId)?.body) : row.draft
    const { names, draft } = withNames(plain, describer(db))
    return { ...lineOf(row), revision: row.revision, definition: { ...FORMATS[kind], name: kind === 'rule' ? '' : row.name, names, draft } }
  })
}

/**
 * With the numbers of this workspace. What names something that is not here is refused; a course and a broadcast are brought in without it,
 * as their files are.
 */
function broughtIn<Kind extends DefinitionKind>(
  context: WorkspaceContext, kind: Kind, { names, draft }: Definition<Kind>,
): { draft: Drafts[Kind], made: string[], lost: string[] } {
  if (kind === 'course') {
    return draftOf(context, { names, draft: draft as CourseDraft }) as { draft: Drafts[Kind], made: string[], lost: string[] }
  }
  const { made, lost, isHere, idOf } = bringNames(context, names)
  if (kind === 'broadcast') {
    const whole = withoutMissing(draft as BroadcastDraft, (thing, id) => !isHere(thing, id))
    return { draft: mapIds(whole, idOf) as Drafts[Kind], made, lost }
  }
  if (lost.length > 0) {
    throw new InputProblem([{ field: 'names', problem: `Not here: ${lost.join(', ')}. Create it first, or leave it out.` }])
  }
  const nameless = new Set<string>()
  const mapped = mapIds(draft, (thing, id) => {
    if (!isHere(thing, id)) nameless.add(`${thing} ${id}`)
    return idOf(thing, id)
  })
  if (nameless.size > 0) {
    throw new InputProblem([{ field: 'names', problem: `The draft has numbers that no name belongs to: ${[...nameless].join(', ')}.` }])
  }
  return { draft: mapped, made, lost }
}

/** Makes one, as a draft: nobody gets it yet. A house rule is switched off; a link and a segment can be used at once. */
export function makeDefinition<Kind extends DefinitionKind>(
  context: WorkspaceContext, kind: Kind, definition: Definition<Kind>,
): { id: number, made: string[], lost: string[] } {
  const made = transact(context, () => {
    const { draft, ...what } = broughtIn(context, kind, definition)
    return { id: (WAYS[kind] as Way<Kind>).make(context, definition.name, draft), ...what }
  })
  context.wake()
  return made
}

/**
 * Changes one in one transaction, or in the caller's. A rule's emails are made before it is written, so that only what was made for it is
 * there yet; all else is there, or not there, together with that.
 */
export function changeNow<Kind extends DefinitionKind>(
  context: WorkspaceContext, kind: Kind, id: number, definition: Definition<Kind>, seen: string | null,
): { draft: Drafts[Kind], made: string[], lost: string[] } {
  rowOf(context, kind, id)
  return transact(context, () => {
    const brought = broughtIn(context, kind, definition)
    if (kind !== 'rule') void (WAYS[kind] as Way<Kind>).change(context, id, definition.name, brought.draft, seen)
    return brought
  })
}

/**
 * Changes one. Pages, offers and courses change as drafts, which are published by another call; for a course that runs the answer says what
 * publishing it would change, and for how many. Rules, links and segments count at once.
 */
export async function changeDefinition<Kind extends DefinitionKind>(
  context: WorkspaceContext, kind: Kind, id: number, definition: Definition<Kind>, seen: string | null,
): Promise<{ made: string[], lost: string[], changes?: ChangeOutlook }> {
  const { draft, made, lost } = changeNow(context, kind, id, definition, seen)
  if (kind === 'rule') await (WAYS[kind] as Way<Kind>).change(context, id, definition.name, draft, seen)
  context.wake()
  return { made, lost, ...kind === 'course' && findCourse(context.db, id)!.versionId !== null && { changes: changeOutlook(context, id) } }
}

export const publishDefinition = {
  page: publishPage,
  offer: publishOffer,
  course: (context: WorkspaceContext, id: number, goesOn: boolean, seen: string | null) => publishChanges(context, id, { goesOn, seen }),
}

export const startCourseOut = (context: WorkspaceContext, id: number, include: 'none' | 'now', seen: string | null) =>
  startCourse(context, id, { kind: include }, null, seen)
