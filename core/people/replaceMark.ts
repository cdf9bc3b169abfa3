/** Putting another tag or list where one stands, or none: in drafts of pages, offers and courses, in conditions, in rules. */
import type { Condition } from '#core/audience/condition'
import { isGroup } from '#core/audience/condition'
import type { BlockNode } from '#core/message/content'
import type { OfferContent } from '#core/offers/offer'
import type { PageContent } from '#core/page/content'
import { thingsOfAction, WHENS, type Action, type Rule, type When as Occasion } from '#core/rules/rule'
import type { Reaction } from '#core/sequence/program'
import { mapSteps, type CourseDraft, type DraftStep } from '#core/sequence/draft'

export interface Replacement {
  kind: 'tag' | 'list'
  from: number
  /** Null takes it out. */
  to: number | null
}

function inIds(ids: number[], { from, to }: Replacement): number[] {
  return [...new Set(ids.flatMap(id => id !== from ? [id] : to === null ? [] : [to]))]
}

/** The same of any part that gives lists and tags. */
const inMarks = <Part extends { listIds?: number[], tagIds?: number[] }>(part: Part, what: Replacement): Part =>
  ({ ...part, ...what.kind === 'list' ? part.listIds && { listIds: inIds(part.listIds, what) } : part.tagIds && { tagIds: inIds(part.tagIds, what) } })

export const inOffer = (offer: OfferContent, what: Replacement): OfferContent => ({ ...offer, gives: inMarks(offer.gives, what), waiting: offer.waiting && inMarks(offer.waiting, what) })

export function inPage(page: PageContent, what: Replacement): PageContent {
  const marks = <Part extends { listIds?: number[], tagIds?: number[] }>(part: Part): Part => inMarks(part, what)
  const { form, forKnown, resultPages } = page
  return {
    ...marks(page),
    form: { ...form, boxes: form.boxes.map(marks), asks: form.asks.map(ask => ask.kind === 'choice' ? { ...ask, options: ask.options.map(marks) } : ask) },
    forKnown: forKnown && marks(forKnown),
    resultPages: resultPages.map(marks),
  }
}

export function inCourse(draft: CourseDraft, what: Replacement): CourseDraft {
  const doors = inDoors(draft, what)
  if (what.kind === 'list') return { ...draft, ...doors, listId: draft.listId === what.from ? what.to : draft.listId, ...draft.wayInListIds && { wayInListIds: inIds(draft.wayInListIds, what) }, steps: mapSteps(draft.steps, step => inStep(step, what)) }
  const block = (node: BlockNode): BlockNode => node.type === 'button' && node.attrs.tagId === what.from ? { ...node, attrs: { ...node.attrs, tagId: what.to } } : node
  return {
    ...draft, ...doors,
    wayInTagIds: inIds(draft.wayInTagIds, what),
    steps: mapSteps(draft.steps, (step) => {
      const now = inStep(step, what)
      return now.kind === 'email' ? { ...now, content: { ...now.content, body: { ...now.content.body, content: now.content.body.content.map(block) } } } : now
    }),
  }
}

/** Who may come in, what takes people out, what is done at the end. */
function inDoors({ entry, waysOut, onFinish }: CourseDraft, what: Replacement): Partial<CourseDraft> {
  const { kind, from, to } = what
  if (to === null) return {}
  return {
    ...entry && { entry: inCondition(entry, { kind, from, to }) },
    ...waysOut && { waysOut: waysOut.map(way => ({ ...way, when: inOccasion(way.when, { kind, from, to }) })) },
    ...onFinish && { onFinish: onFinish.map(action => inAction(action, { kind, from, to })) },
  }
}

const inOccasion = (when: Occasion, { kind, from, to }: Replacement & { to: number }): Occasion => WHENS[when.kind].thing === kind && when.thingId === from ? { ...when, thingId: to } : when

/** Actions, conditions and what a hold waits for. What is taken out is left as it is: the course cannot be published before somebody has looked at it. */
function inStep(step: DraftStep, what: Replacement): DraftStep {
  const { kind, from, to } = what
  if (to === null) return step.kind === 'email' && step.reactions ? { ...step, reactions: step.reactions.flatMap(reaction => without(reaction, what)) } : step
  switch (step.kind) {
    case 'email':
      return step.reactions ? { ...step, reactions: step.reactions.map(one => ({ ...one, then: one.then.map(action => inAction(action, { kind, from, to })) })) } : step
    case 'do':
      return { ...step, then: step.then.map(action => inAction(action, { kind, from, to })) }
    case 'fork':
      return { ...step, ways: step.ways.map(way => ({ ...way, who: inCondition(way.who, { kind, from, to }) })) }
    case 'hold': {
      const { until } = step
      if (until.kind === 'condition') return { ...step, until: { ...until, who: inCondition(until.who, { kind, from, to }) } }
      return { ...step, until: { ...until, when: inOccasion(until.when, { kind, from, to }) } }
    }
    default:
      return step
  }
}

/** A reaction without what it did with it; none where nothing else follows from it. */
function without(reaction: Reaction, { kind, from }: Replacement): Reaction[] {
  const then = reaction.then.filter(action => !thingsOfAction(action).some(thing => thing.kind === kind && thing.id === from))
  return then.length > 0 || reaction.again || reaction.skipToId ? [{ ...reaction, then }] : []
}

function inAction(action: Action, { kind, from, to }: Replacement & { to: number }): Action {
  const one = (id: number) => id === from ? to : id
  if (kind === 'tag') return action.kind === 'give-tag' || action.kind === 'take-tag' ? { ...action, tagId: one(action.tagId) } : action
  return 'listId' in action ? { ...action, listId: one(action.listId) } : action
}

/** Only with another: a leaf cannot stand without what it asks about. */
export function inCondition(condition: Condition, what: Replacement & { to: number }): Condition {
  if (isGroup(condition)) return { ...condition, of: condition.of.map(part => inCondition(part, what)) }
  if (condition.kind === 'tag' && what.kind === 'tag' && condition.tagId === what.from) return { ...condition, tagId: what.to }
  if (condition.kind === 'list' && what.kind === 'list' && condition.listId === what.from) return { ...condition, listId: what.to }
  return condition
}

/** The rules as they are then; one that would only say the same twice, or would do to a mark what woke it, is left out. What is taken out is left as it is: it stands still, and says so. */
export function inRules(rules: Rule[], { kind, from, to }: Replacement & { to: number }): Rule[] {
  const seen = new Set<string>()
  const one = (id: number) => id === from ? to : id
  return rules.flatMap((rule) => {
    const when = WHENS[rule.when.kind].thing === kind && rule.when.thingId !== null ? { ...rule.when, thingId: one(rule.when.thingId) } : rule.when
    const then = rule.then.map(action => inAction(action, { kind, from, to })).filter(action => !isItself(when, action))
    const now = { ...rule, when, then, who: inCondition(rule.who, { kind, from, to }) }
    const { id: _, ...said } = now
    if (then.length === 0 || seen.has(JSON.stringify(said))) return []
    seen.add(JSON.stringify(said))
    return [now]
  })
}

/** Giving the very tag whose getting wakes the rule, and the like. */
function isItself({ kind, thingId }: Rule['when'], action: Action): boolean {
  if (kind === 'got-tag' || kind === 'lost-tag') return 'tagId' in action && action.tagId === thingId
  return (kind === 'joined-list' || kind === 'left-list') && (action.kind === 'join-list' || action.kind === 'leave-list') && action.listId === thingId
}
