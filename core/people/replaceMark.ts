/** Putting another tag or list where one stands, or none: in drafts of pages, offers and courses, in conditions, in rules. */
import type { Condition } from '#core/audience/condition'
import { isGroup } from '#core/audience/condition'
import type { BlockNode } from '#core/message/content'
import type { OfferContent } from '#core/offers/offer'
import type { PageContent } from '#core/page/content'
import type { Rule } from '#core/rules/rule'
import type { CourseDraft } from '#core/sequence/draft'

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
  if (what.kind === 'list') return draft.listId === what.from ? { ...draft, listId: what.to } : draft
  const block = (node: BlockNode): BlockNode => node.type === 'button' && node.attrs.tagId === what.from ? { ...node, attrs: { ...node.attrs, tagId: what.to } } : node
  return {
    ...draft,
    wayInTagIds: inIds(draft.wayInTagIds, what),
    steps: draft.steps.map(step => ({
      ...step,
      ifNotClicked: step.ifNotClicked?.tagId !== what.from ? step.ifNotClicked : what.to === null ? null : { ...step.ifNotClicked, tagId: what.to },
      content: { ...step.content, body: { ...step.content.body, content: step.content.body.content.map(block) } },
    })),
  }
}

/** Only with another: a leaf cannot stand without what it asks about. */
export function inCondition(condition: Condition, what: Replacement & { to: number }): Condition {
  if (isGroup(condition)) return { ...condition, of: condition.of.map(part => inCondition(part, what)) }
  if (condition.kind === 'tag' && what.kind === 'tag' && condition.tagId === what.from) return { ...condition, tagId: what.to }
  if (condition.kind === 'list' && what.kind === 'list' && condition.listId === what.from) return { ...condition, listId: what.to }
  return condition
}

/** The rules as they are then; one that would only say the same twice, or do nothing any more, is left out. */
export function inRules(rules: Rule[], { from, to }: Replacement): Rule[] {
  const seen = new Set<string>()
  return rules.flatMap((rule) => {
    const one = (id: number) => id === from ? to : id
    const tagId = one(rule.when.tagId)
    const then = rule.then.flatMap(({ kind, tagId }) => {
      const other = one(tagId)
      return other === null ? [] : [{ kind, tagId: other }]
    }).filter(action => action.tagId !== tagId)
    const said = JSON.stringify([rule.when.kind, tagId, then])
    if (tagId === null || then.length === 0 || seen.has(said)) return []
    seen.add(said)
    return [{ ...rule, when: { ...rule.when, tagId }, then }]
  })
}
