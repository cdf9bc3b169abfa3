<script setup lang="ts">
import { computed } from 'vue'
import { sayDate } from '#core/time/say'
import { WEEKS, type WeeklyKind } from '#core/views/weeks'
import { api } from '~/composables/useApi'
import { useFresh } from '~/composables/useFresh'
import { sayNumber } from '#core/stats/say'
import BarsChart, { type Bar } from '~/components/chart/BarsChart.vue'

/** What all things of a list came to in the last weeks, under the list. */
const props = defineProps<{ title: string, series: { kind: WeeklyKind, name: string }[] }>()
const { data: views } = useFresh(() => Promise.all(props.series.map(({ kind }) => api('GET /weeks/:kind', { at: { kind } }))))
const bars = computed((): Bar[] => (views.value?.[0]?.firstDays ?? []).map((day, week) => {
  const counts = views.value!.map(({ rows }) => rows.reduce((sum, row) => sum + row.counts[week]!, 0))
  return {
    key: day, name: sayDate(day).replace(/^\p{L}+ | \d{4}$/gu, ''), counts,
    says: `Week from ${sayDate(day)}: ${counts.map((count, n) => `${sayNumber(count)} ${props.series[n]!.name}`).join(', ')}`,
  }
}))
</script>

<template>
  <section v-if="bars.some(({ counts }) => counts.some(Boolean))" class="panel panel-body" :aria-label="title">
    <h2>{{ title }}</h2>
    <BarsChart :bars="bars" :series="series.map(({ name }) => name)" :stretch="`In ${WEEKS} weeks`" />
  </section>
</template>

<style scoped>
h2 { margin-bottom: 8px; }
</style>
