/** For whom a rule's moment has come already: the standing that its event leaves behind. */
import type { Condition, FieldTest } from '#core/audience/condition'
import { EVERYBODY } from '#core/audience/condition'
import { silentFor } from '#core/audience/segment'
import type { FieldKind } from '#core/people/field'
import type { RuleInput, Trigger } from './rule'

/** What a standing needs to be asked for by address or by kind. */
export interface Fitting { urlOf(linkId: number): string | undefined, kindOf(fieldId: number): FieldKind | undefined }

/** Who has the tag, is on the list, has bought ... Null where nothing that stays tells it: then only the rule's own condition can say. */
export function standingAfter(when: Trigger, fitting: Fitting): Condition | null {
  const { thingId: id } = when
  const purchase = (fate: 'bought' | 'refunded' | 'abandoned'): Condition => ({
    kind: 'purchase', fate, offerId: id, within: null, times: 1,
  })
  switch (when.kind) {
    case 'opted-in': return id === null ? null : { kind: 'opted-in', pageId: id, within: null }
    case 'confirmed': return id === null ? null : { kind: 'opted-in', pageId: id, within: null, did: 'counts' }
    case 'joined-list': return id === null ? null : { kind: 'list', listId: id, is: 'joined' }
    case 'left-list': return id === null ? null : { kind: 'list', listId: id, is: 'left' }
    case 'got-tag': return { kind: 'tag', tagId: id!, since: null }
    case 'clicked': {
      const url = id === null ? undefined : fitting.urlOf(id)
      return id !== null && url === undefined
        ? null
        : { kind: 'email', fate: 'clicked', which: null, within: null, times: 1, url: url ?? null }
    }
    case 'opened':
    case 'sent': return { kind: 'email', fate: when.kind, which: when.which ?? null, within: null, times: 1, url: null }
    case 'field-changed': return { kind: 'field', fieldId: id!, test: testOf(when, fitting.kindOf(id!)) }
    case 'date-arrived': return { kind: 'field', fieldId: id!, test: { is: 'day', days: when.days ?? 0, yearly: when.yearly ?? false } }
    case 'enrolled': return id === null ? null : { kind: 'course', courseId: id, is: 'ever', stepId: null }
    case 'finished-course': return id === null ? null : { kind: 'course', courseId: id, is: 'finished', stepId: null }
    case 'left-course': return id === null ? null : { kind: 'course', courseId: id, is: 'left', stepId: null }
    case 'entered-segment': return { kind: 'segment', segmentId: id! }
    case 'left-segment': return { kind: 'none', of: [{ kind: 'segment', segmentId: id! }] }
    case 'reached-score': return { kind: 'score', atLeast: when.points ?? 1 }
    case 'bought': return purchase('bought')
    case 'refunded': return purchase('refunded')
    case 'checkout-abandoned': return purchase('abandoned')
    case 'became-silent': return silentFor(when.days ?? 1)
    case 'bounced': return { kind: 'status', is: ['bounced'] }
    default: return null
  }
}

function testOf({ to }: Trigger, kind: FieldKind | undefined): FieldTest {
  if (to === null || to === undefined || kind === undefined) return { is: 'known' }
  switch (kind) {
    case 'number': return { is: 'number', sign: '=', number: Number(to) }
    case 'yes-no': return { is: 'yes', yes: Number(to) === 1 }
    case 'date': return { is: 'on', date: String(to) }
    case 'text': return { is: 'equal', text: String(to) }
    default: return { is: 'one-of', values: [String(to)] }
  }
}

/** Everybody for whom it could act now. */
export const whoFits = (rule: Pick<RuleInput, 'when' | 'who'>, fitting: Fitting): Condition => ({
  kind: 'all', of: [standingAfter(rule.when, fitting) ?? EVERYBODY, rule.who],
})
