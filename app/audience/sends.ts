/** The emails that something can be asked of, to choose from. */
import { kindOf, kindsThat, type WhichSend } from '#core/sending/kinds'
import type { ConditionParts } from '#core/views/audience'

/** Never empty: a list shows an empty one as if nothing were chosen. */
export const keyOf = (which: WhichSend | null): string => which ? `${which.kind}/${which.ownerId}/${which.itemId ?? ''}` : 'any'

export interface SendChoice { key: string, which: WhichSend | null, name: string }

/** Any; those of each course, and each of them; what else each page, offer or rule sends. */
export function sendChoices(parts: ConditionParts): { name: string, items: SendChoice[] }[] {
  const choice = (which: WhichSend | null, name: string): SendChoice => ({ key: keyOf(which), which, name })
  const ofKind = kindsThat(({ to, owner }) => to === 'subscriber' && owner !== null).map((kind) => {
    const { owner, word } = kindOf(kind)
    const items = owner === 'course'
      ? parts.courses.flatMap(({ id, name, steps }) => [
          choice({ kind, ownerId: id, itemId: null }, `any of ${name}`),
          ...steps.map((step, n) => choice({ kind, ownerId: id, itemId: step.id }, `${name}, ${n + 1}: ${step.title}`)),
        ])
      : ({
          page: parts.pages, offer: parts.offers, broadcast: parts.broadcasts,
          rule: parts.rules.filter(({ id }) => parts.emailingRuleIds.includes(id)),
        }[owner!]).map(({ id, name }) => choice({ kind, ownerId: id, itemId: null }, name))
    return { name: `${word[0]!.toUpperCase()}${word.slice(1)}`, items }
  })
  return [{ name: 'All emails', items: [choice(null, 'any email')] }, ...ofKind.filter(({ items }) => items.length > 0)]
}
