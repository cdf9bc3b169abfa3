/** What can be put into an email in the place of words: ours, and the fields of this workspace. */
import { inject, onMounted, provide, ref, type InjectionKey, type Ref } from 'vue'
import {
  FIRST_WORDS, LINE_FIELDS, placeholder, PLACEHOLDER_FIELDS, type PlaceholderAttrs, type PlaceholderField,
} from '#core/message/placeholders'
import type { FieldKind } from '#core/people/field'
import { freshPlaceholder } from '~/editor/placeholder'
import { api } from './useApi'

/** A place that each reader fills, or `text` that is the same for everybody. */
export type Fact = { name: string, hint: string } & ({ attrs: PlaceholderAttrs } | { text: string })

const oursOf = (fields: readonly PlaceholderField[]) => fields.filter(field => field !== 'own').map((field): Fact => {
  const { words, hint } = placeholder(field)
  return { name: words, hint, attrs: freshPlaceholder({ field, fallback: FIRST_WORDS[field] ?? '' }) }
})

/** What this workspace has made itself. */
interface OwnFacts { fields: Ref<{ id: number, name: string, kind: FieldKind }[]>, coupons: Ref<{ code: string, offer: string }[]> }

const KEY: InjectionKey<OwnFacts> = Symbol('own facts')

function loadOwnFacts(): OwnFacts {
  const own: OwnFacts = { fields: ref([]), coupons: ref([]) }
  onMounted(async () => {
    [own.fields.value, own.coupons.value] = await Promise.all([
      api('GET /fields').catch(() => []), api('GET /coupons').catch(() => []),
    ])
  })
  return own
}

/** For a screen with several editors, which are not to load the same each for itself. */
export const provideOwnFacts = () => provide(KEY, loadOwnFacts())

/** `inLine`: for a subject, which can hold no link. */
export function useFacts({ inLine = false } = {}) {
  const ours = oursOf(inLine ? LINE_FIELDS : PLACEHOLDER_FIELDS)
  const { fields, coupons } = inject(KEY, null) ?? loadOwnFacts()
  /** Those whose name has a word that begins with what is typed. */
  function find(typed: string): Fact[] {
    const [first, ...rest] = ours
    const own = fields.value.map(({ id, name, kind }): Fact => ({
      name, hint: placeholder('own').hint,
      attrs: freshPlaceholder({ field: 'own', fieldId: id, label: name, as: kind === 'date' ? 'day' : null }),
    }))
    const codes = coupons.value.map(({ code, offer }): Fact =>
      ({ name: `coupon ${code}`, hint: offer, text: code }))
    const wanted = typed.trim().toLowerCase()
    return [first!, ...own, ...rest, ...codes].filter(({ name }) => name.toLowerCase().split(/[\s’]+/).some(word => word.startsWith(wanted))
      || name.toLowerCase().startsWith(wanted))
  }
  return { find }
}
