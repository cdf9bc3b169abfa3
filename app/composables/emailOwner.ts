/** What the emails on a screen belong to: so that what each said earlier is found. */
import { inject, provide, type InjectionKey, type Ref } from 'vue'
import { kindOf, type EmailKind, type SendOf } from '#core/sending/kinds'
import { earlierKey } from '#core/message/earlier'

interface Owner { kind: 'page' | 'offer' | 'rule', id: number }
const KEY: InjectionKey<Ref<Owner | null>> = Symbol('what emails belong to')

export const ownsEmails = (owner: Ref<Owner | null>): void => provide(KEY, owner)

/** Nothing where it is not kept yet, and for an email of a rule that stands beside something else. */
export function useEarlierOf(): (kind: EmailKind) => SendOf | null {
  const owner = inject(KEY, null)
  return (kind) => {
    const of = owner?.value
    return of && kindOf(kind).owner === of.kind ? earlierKey(kind, of.id) : null
  }
}
