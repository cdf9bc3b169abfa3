/** Which columns the table of subscribers shows: chosen per browser, and remembered. */
import { computed, ref, watch, type Ref } from 'vue'
import type { Field } from '#core/people/field'
import type { ConditionParts } from '#core/views/audience'
import { useFrame } from '~/stores/frame'

export interface PeopleColumn { id: string, name: string, field?: Field }

const OWN: PeopleColumn[] = [
  {
    id: 'firstName', name: 'First name',
  }, { id: 'status', name: 'Status' }, { id: 'tags', name: 'Tags' }, { id: 'lists', name: 'Lists' }, { id: 'source', name: 'Source' },
  { id: 'country', name: 'Country' }, { id: 'zone', name: 'Time zone' }, { id: 'consent', name: 'Consent' },
  { id: 'read', name: 'Last read' }, { id: 'since', name: 'Since' },
]
const AT_FIRST = ['firstName', 'status', 'tags', 'source', 'since']

export function useColumns(parts: Ref<ConditionParts | null>) {
  const frame = useFrame()
  const keptAs = `porch-columns-${frame.mode}`
  const columns = computed<PeopleColumn[]>(() => [
    ...OWN.slice(0, -1), ...(parts.value?.fields ?? []).map(field => ({ id: `field-${field.id}`, name: field.name, field })),
    ...OWN.slice(-1),
  ])
  const shown = ref<string[]>(read())
  function read(): string[] {
    try {
      const kept = JSON.parse(localStorage.getItem(keptAs) ?? 'null') as unknown
      return Array.isArray(kept) && kept.every(id => typeof id === 'string') ? kept : AT_FIRST
    }
    catch {
      return AT_FIRST
    }
  }
  watch(shown, now => localStorage.setItem(keptAs, JSON.stringify(now)))
  return { columns, shown }
}
