<script setup lang="ts">
import { computed, ref } from 'vue'
import SelectButton from 'primevue/selectbutton'
import { rateOf } from '#core/stats/rate'
import { sayNumber } from '#core/stats/say'
import type { Split, SplitNumber } from '#core/views/broadcastResults'
import { api } from '~/composables/useApi'
import { useFresh } from '~/composables/useFresh'
import ProblemNote from '~/components/ProblemNote.vue'
import { whenNeeded } from '~/components/whenNeeded'
import RateDots from './RateDots.vue'

const NumberPeople = whenNeeded(() => import('./NumberPeople.vue'))

/** The same rates within parts of its people, on one axis. */
const props = defineProps<{ id: number, name: string, zone: string }>()
const by = ref<Split>('segment')
const BY: { value: Split, name: string }[] = [
  { value: 'segment', name: 'Segments' }, { value: 'tag', name: 'Tags' }, { value: 'source', name: 'Sources' },
  { value: 'domain', name: 'Domains' },
]
const { data: rows, problem } = useFresh(() => api('GET /broadcasts/:id/split/:by', { at: { id: props.id, by: by.value } }), () => by.value)
const asked = ref<{ number: SplitNumber, within: { by: Split, part: string }, people: number, words: string } | null>(null)
const NUMBERS: { key: SplitNumber, head: string, words: string }[] = [
  { key: 'sent', head: 'Sent', words: 'was sent it' }, { key: 'clicked', head: 'Clicked', words: 'clicked' },
  { key: 'opened', head: 'Reader opens', words: 'opened it' },
]
const shown = computed(() => (rows.value ?? []).map(({ part, name, ...people }) => ({ part, name, people, rates: [
  { name: 'clicks', of: rateOf(people.clicked, people.sent), filled: true },
  { name: 'reader opens', of: rateOf(people.opened, people.sent), filled: false },
] })))
function open({ name, part, people }: typeof shown.value[number], { key, words }: typeof NUMBERS[number]) {
  asked.value = { number: key, within: { by: by.value, part }, people: people[key], words: `${name}: ${words}` }
}
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
      <li v-if="shown.length" class="head second small" aria-hidden="true">
        <span /><span v-for="one in NUMBERS" :key="one.key" class="n">{{ one.head }}</span></li>
      <li v-for="row in shown" :key="row.name">
        <span class="cut">{{ row.name }}</span>
        <template v-for="one in NUMBERS" :key="one.key">
          <button
            v-if="row.people[one.key] > 0" type="button" class="link-button n"
            :aria-label="`${row.name}: ${row.people[one.key]} ${one.head}`" @click="open(row, one)">
            {{ sayNumber(row.people[one.key]) }}</button>
          <span v-else class="n second">0</span>
        </template>
        <RateDots :rates="row.rates" :most="most" />
      </li>
      <li v-if="rows && rows.length === 0" class="second small">Nobody who got it is in one.</li>
    </ul>
    <p class="row second small">As people are now: their tags and segments may have changed since. Small parts have long ranges.</p>
    <NumberPeople
      v-if="asked" :id="id" :name="name" :number="asked.number" :within="asked.within" :people="asked.people" :words="asked.words"
      :zone="zone" @close="asked = null" />
  </section>
</template>

<style scoped>
ul { list-style: none; margin: 0; padding: 0; }
li {
  display: grid; grid-template-columns: minmax(0, 1fr) 70px 70px 92px 240px; gap: 14px; align-items: center; padding: 3px 14px;
  border-bottom: 1px solid var(--p-porch-line-light);
}
.n { text-align: right; font-variant-numeric: tabular-nums; }
@media (max-width: 760px) { li { grid-template-columns: minmax(0, 1fr) 44px 44px 44px; } }
</style>
