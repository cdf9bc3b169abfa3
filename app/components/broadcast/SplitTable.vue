<script setup lang="ts">
import { computed, ref } from 'vue'
import SelectButton from 'primevue/selectbutton'
import { rateOf } from '#core/stats/rate'
import { sayNumber } from '#core/stats/say'
import type { Split } from '#core/views/broadcastResults'
import { api } from '~/composables/useApi'
import { useFresh } from '~/composables/useFresh'
import ProblemNote from '~/components/ProblemNote.vue'
import RateDots from './RateDots.vue'

/** The same rates within parts of its people, on one axis. */
const props = defineProps<{ id: number }>()
const by = ref<Split>('segment')
const BY: { value: Split, name: string }[] = [
  { value: 'segment', name: 'Segments' }, { value: 'tag', name: 'Tags' }, { value: 'source', name: 'Sources' }, { value: 'domain', name: 'Domains' },
]
const { data: rows, problem } = useFresh(() => api('GET /broadcasts/:id/split/:by', { at: { id: props.id, by: by.value } }), () => by.value)
const shown = computed(() => (rows.value ?? []).map(({ name, sent, opened, clicked }) => ({ name, sent, rates: [
  { name: 'clicks', of: rateOf(clicked, sent), filled: true }, { name: 'reader opens', of: rateOf(opened, sent), filled: false },
] })))
const most = computed(() => Math.max(0.1, ...shown.value.flatMap(({ rates }) => rates.map(({ of }) => of.high ?? 0))))
</script>

<template>
  <section class="panel" aria-labelledby="within">
    <div class="panel-head">
      <h2 id="within">Within parts of its people</h2>
      <SelectButton
        v-model="by" :options="BY" option-label="name" option-value="value" :allow-empty="false" size="small" aria-label="Which parts" />
    </div>
    <ProblemNote :of="problem" />
    <ul>
      <li v-for="row in shown" :key="row.name">
        <span class="cut">{{ row.name }}</span><span class="n">{{ sayNumber(row.sent) }}</span><RateDots :rates="row.rates" :most="most" />
      </li>
      <li v-if="rows && rows.length === 0" class="second small">Nobody who got it is in one.</li>
    </ul>
    <p class="row second small">As people are now: their tags and segments may have changed since. Small parts have long ranges.</p>
  </section>
</template>

<style scoped>
ul { list-style: none; margin: 0; padding: 0; }
li {
  display: grid; grid-template-columns: minmax(0, 1fr) 80px 240px; gap: 14px; align-items: center; padding: 3px 14px;
  border-bottom: 1px solid var(--p-porch-line-light);
}
.n { text-align: right; font-variant-numeric: tabular-nums; }
@media (max-width: 760px) { li { grid-template-columns: minmax(0, 1fr) 60px; } }
</style>
