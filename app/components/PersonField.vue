<script setup lang="ts">
import { computed, nextTick, ref, shallowRef, useTemplateRef } from 'vue'
import AutoComplete from 'primevue/autocomplete'
import ProblemNote from '~/components/ProblemNote.vue'
import { api, ApiProblem } from '~/composables/useApi'
import { useNewest } from '~/composables/useNewest'

/** Picks one of the subscribers by a part of their name or address. */
export interface PickedPerson { id: number, name: string, zone: string | null }
const props = defineProps<{ inputId: string, /** Where no label stands beside it. */ label?: string }>()
const picked = defineModel<PickedPerson | null>({ required: true })

const typed = ref<PickedPerson | string | null>(picked.value)
const found = ref<PickedPerson[]>([])
const list = useTemplateRef<{ hide(): void }>('list')
const problem = shallowRef<ApiProblem | string | null>(null)
const asked = useNewest()
async function search({ query }: { query: string }) {
  const isNewest = asked()
  try {
    const { rows } = await api('GET /subscribers', { query: { search: query } })
    if (!isNewest()) return
    problem.value = null
    found.value = rows.slice(0, 8)
      .map(({ id, firstName, address, zone }) => ({ id, name: firstName ? `${firstName}, ${address}` : address, zone }))
  }
  catch (error) {
    if (!isNewest()) return
    problem.value = error instanceof ApiProblem ? error : String(error)
    found.value = []
  }
  await nextTick()
  // An answer opens no list if they have left the field or picked someone in the meantime; a refusal found nobody, and nobody is missing.
  if (problem.value || document.activeElement?.id !== props.inputId || picked.value !== null) list.value?.hide()
}
const value = computed({
  get: () => typed.value,
  set: (next) => {
    typed.value = next
    picked.value = next !== null && typeof next === 'object' ? next : null
  },
})
</script>

<template>
  <AutoComplete
    ref="list" v-model="value" :input-id="inputId" :aria-label="label" :suggestions="found" option-label="name" force-selection
    complete-on-focus
    placeholder="part of a name or an address" empty-search-message="Nobody found." @complete="search"
  />
  <ProblemNote :of="problem" first line class="small" />
</template>
