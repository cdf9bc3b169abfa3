/** Where something is named, in words, and what it would mean there if it were gone. */
import type { Mention } from '#core/mentions'
import type { Field } from '#core/people/field'

/** What an owner makes that can name other things. */
export const NAMER_KINDS = ['page', 'offer', 'course', 'segment', 'rule', 'link', 'part', 'emailDraft', 'broadcast'] as const
export type NamerKind = typeof NAMER_KINDS[number]

/** Before its name, at the beginning of a sentence. */
export const NAMER_WORDS: Record<NamerKind, string> = {
  page: 'The page', offer: 'The offer', course: 'The course', segment: 'The segment', rule: 'The house rule', link: 'The link',
  part: 'The email part', emailDraft: 'The draft of an email', broadcast: 'The broadcast',
}

export interface Place {
  /** “given by”, to be followed by the name of what names it. */
  how: string
  /** Without it this would do something else than it says, or nothing, and nobody would be told. */
  needs: boolean
}

const place = (how: string, needs = false): Place => ({ how, needs })
const GIVEN: Partial<Record<Mention['thing']['kind'], string>> = { list: 'joined', tag: 'given', field: 'set', course: 'started' }

/** Of anything that holds emails: what stands in them. */
const inEmail = ({ thing: { kind }, path, asked }: Mention): Place | null => {
  if (kind === 'part') return place('shown in')
  return kind === 'field' && !asked && path.includes('content') ? place('shown in') : null
}

/** In blocks that stand for themselves. */
const inBlocks = ({ thing: { kind }, asked }: Mention): Place =>
  asked ? place('asked in', true) : place(kind === 'tag' ? 'given by a link in' : 'led to by')

const PLACES: Record<NamerKind, (mention: Mention) => Place> = {
  page({ thing: { kind }, path }) {
    if (kind === 'field') return path.includes('asks') && !path.includes('options') ? place('asked for on', true) : place('set on', true)
    return kind === 'link' ? place('led to by') : place(kind === 'list' ? 'joined on' : `${GIVEN[kind]} by`)
  },
  offer({ thing: { kind }, path }) {
    if (kind === 'link') return place('led to by')
    if (path.includes('waiting')) return place(`${GIVEN[kind]} by waiting for`)
    return path.at(-1) === 'endsCourseIds' ? place('ended by buying') : place(`${GIVEN[kind]} by buying`, kind === 'field')
  },
  course({ thing: { kind }, path, asked }) {
    if (asked) return place('asked in', true)
    if (path.length === 1) return path[0] === 'listId' ? place('mailed by', true) : place('starts')
    if (path.includes('when') || path[0] === 'dates') return place('timed by', true)
    if (path.includes('body')) return kind === 'tag' ? place('given by a link in') : place('led to by')
    return place('changed in')
  },
  broadcast({ thing: { kind }, path, asked }) {
    if (asked || path.includes('insideCourseIds')) return place('asked in', true)
    if (path.length === 1 && path[0] === 'listId') return place('mailed by', true)
    return place(kind === 'tag' ? 'given by a link in' : kind === 'offer' ? 'told of in' : 'led to by')
  },
  segment: () => place('asked in', true),
  // A rule that lost something stands still, and says so: nothing else happens in its place.
  rule: ({ path, asked }) => place(path[0] === 'when' ? 'wakes' : asked ? 'asked in' : 'changed by'),
  link: () => place('changed by'),
  part: inBlocks, emailDraft: inBlocks,
}

export const placeOf = (namer: NamerKind, mention: Mention): Place => inEmail(mention) ?? PLACES[namer](mention)

/** What becomes of it when the thing is gone, as the rest of a sentence that begins with its name. */
export function sayWithout(kind: NamerKind, { how, needs }: Place): string {
  if (kind === 'rule') return 'stops working until you fix it'
  if (needs) return 'cannot work without it'
  return how === 'starts' ? 'is no longer started by it' : 'works without it'
}

/** Whether what is asked of the one field can be asked of the other: of a choice, one that has no other choices. */
export const isSameKind = (one: Pick<Field, 'kind' | 'choices'>, other: Pick<Field, 'kind' | 'choices'>): boolean =>
  one.kind === other.kind && one.choices.every(choice => other.choices.includes(choice))
